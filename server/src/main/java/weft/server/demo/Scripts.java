package weft.server.demo;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import org.springframework.core.io.ClassPathResource;
import weft.store.Database;

/** What the demo makes with SQL: tables of other programs, and what took years. */
final class Scripts {

    private Scripts() {}

    /** Runs the script of that name. */
    static void run(Database database, String name) {
        try {
            Database.run(
                    database.sql(),
                    new ClassPathResource("demo/" + name + ".sql").getContentAsString(StandardCharsets.UTF_8));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
