package weft.server.demo;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import org.springframework.core.io.ClassPathResource;
import weft.store.Database;

/** What the demo makes with SQL: tables of other programs, and what took years. */
final class Scripts {

    /** Chance, from 0 to 1, that is a hash of what it is about: the same every time. */
    private static final String CHANCE = """
            create function pg_temp.chance(what text) returns double precision language sql immutable as
              'select (hashtextextended(what, 42) & 1048575) / 1048576.0';
            %s
            drop function pg_temp.chance;
            """;

    private Scripts() {}

    /** Runs the script of that name, which may call {@code pg_temp.chance}. */
    static void run(Database database, String name) {
        try {
            Database.run(
                    database.sql(),
                    CHANCE.replace(
                            "%s",
                            new ClassPathResource("demo/" + name + ".sql").getContentAsString(StandardCharsets.UTF_8)));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
