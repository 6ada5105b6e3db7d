package weft.server.demo;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import org.springframework.core.io.ClassPathResource;
import weft.store.Database;

/** Tables that the loggers of the river gauges made beside Weft's, to be adopted. */
final class Gauges {

    private Gauges() {}

    /** Makes them, unless there is a schema of that name. */
    static void make(Database database) {
        Database.run(database.sql(), script());
    }

    private static String script() {
        try {
            return new ClassPathResource("demo/gauges.sql").getContentAsString(StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
