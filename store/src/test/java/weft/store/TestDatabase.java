package weft.store;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.URI;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.Comparator;
import java.util.List;
import java.util.Properties;
import javax.sql.DataSource;
import org.junit.jupiter.api.extension.BeforeAllCallback;
import org.junit.jupiter.api.extension.ExtensionContext;
import weft.store.backup.Where;
import weft.store.local.LocalPostgres;

/** One PostgreSQL cluster for all tests of a run, on a free port, stopped and removed at the end. */
public final class TestDatabase implements BeforeAllCallback {

    private static Database database;
    private static LocalPostgres postgres;
    private static Started started;

    public static Database get() {
        return database;
    }

    /** The same cluster through connections of their own, which PostgreSQL opens with these options. */
    public static Database another(String options, int connections) {
        var encoded = URLEncoder.encode(options, StandardCharsets.UTF_8).replace("+", "%20");
        return Database.open(postgres.url() + "?options=" + encoded, postgres.user(), postgres.password(), connections);
    }

    /** A database of the cluster, for backups. */
    public static Where where(String name) {
        return new Where(
                postgres.url().replaceFirst("/postgres$", "/" + name),
                postgres.user(),
                postgres.password(),
                LocalPostgres.binaries());
    }

    /** A connection of another program, which may give its name. */
    public static Connection program(String name) throws SQLException {
        var properties = new Properties();
        properties.setProperty("user", postgres.user());
        properties.setProperty("password", postgres.password());
        properties.setProperty("ApplicationName", name);
        return DriverManager.getConnection(postgres.url(), properties);
    }

    /** Where it listens. */
    static int port() {
        return URI.create(postgres.url().substring("jdbc:".length())).getPort();
    }

    /** The same cluster through that door. */
    public static Database by(Door door) {
        return Database.open("jdbc:postgresql://" + door.host() + "/postgres", postgres.user(), postgres.password(), 4);
    }

    /** Connections to it by other hosts. */
    static DataSource by(Primary hosts) {
        var properties = new Properties();
        properties.setProperty("user", postgres.user());
        properties.setProperty("password", postgres.password());
        return hosts.source(properties);
    }

    @Override
    public void beforeAll(ExtensionContext context) {
        start();
    }

    /** Once for all classes of a process, until that ends: classes run in several processes beside each other. */
    private static synchronized void start() {
        if (started == null) {
            started = new Started();
            Runtime.getRuntime().addShutdownHook(new Thread(started::close));
        }
    }

    private static final class Started implements AutoCloseable {
        private final Path folder;

        Started() {
            try {
                folder = Files.createTempDirectory("weft-test");
                folder.toFile().setExecutable(true, false);
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
            // What the tests write need not survive a power cut.
            postgres = LocalPostgres.start(folder, List.of("fsync=off", "synchronous_commit=off"));
            database = Database.open(postgres.url(), postgres.user(), postgres.password(), 20);
        }

        @Override
        public void close() {
            database.close();
            postgres.close();
            try (var files = Files.walk(folder)) {
                files.sorted(Comparator.reverseOrder())
                        .forEach(file -> file.toFile().delete());
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }
    }
}
