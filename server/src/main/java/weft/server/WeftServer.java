package weft.server;

import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.slf4j.LoggerFactory;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.boot.web.server.PortInUseException;
import org.springframework.boot.web.server.servlet.context.ServletWebServerApplicationContext;
import org.springframework.context.ApplicationContextInitializer;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.context.support.GenericApplicationContext;
import weft.server.demo.Demo;
import weft.store.Database;
import weft.store.Outage;
import weft.store.local.CannotStart;
import weft.store.local.LocalPostgres;
import weft.store.people.Invitations;
import weft.store.people.People;

/** Weft as one process: it starts the private PostgreSQL cluster, unless it is given a database, and serves. */
public class WeftServer {

    static {
        // More threads carry requests than compute for long at once: what asks, what saves, and a file.
        var carriers = "jdk.virtualThreadScheduler.parallelism";
        if (System.getProperty(carriers) == null) {
            System.setProperty(
                    carriers,
                    String.valueOf(Math.max(4, 2 * Runtime.getRuntime().availableProcessors())));
        }
    }

    /**
     * What to start.
     *
     * @param port the port to serve on; 0 for any free one
     * @param data the data folder of the private cluster
     * @param demo whether an empty database gets the demo
     * @param settings further settings of the private cluster
     */
    public record Start(int port, Path data, boolean demo, List<String> settings) {

        static Start of(String... args) {
            var options = new HashMap<String, String>();
            for (int i = 0; i < args.length; i++) {
                switch (args[i]) {
                    case "--empty" -> options.put("--empty", "");
                    case "--port", "--data" -> {
                        if (i + 1 == args.length) {
                            throw new CannotStart(args[i] + " needs a value after it.");
                        }
                        options.put(args[i], args[++i]);
                    }
                    default ->
                        throw new CannotStart("“" + args[i] + "” is not known. Use --port N, --data DIR or --empty.");
                }
            }
            var port = options.getOrDefault("--port", "8080");
            if (!port.matches("[0-9]{1,5}") || Integer.parseInt(port) > 65_535) {
                throw new CannotStart("“" + port + "” is no port. Give a number from 1 to 65535 after --port.");
            }
            return new Start(
                    Integer.parseInt(port),
                    Path.of(options.getOrDefault("--data", ".weft")).toAbsolutePath(),
                    !options.containsKey("--empty"),
                    List.of());
        }
    }

    /** A Weft that serves. Closing it stops the server, then the cluster it started. */
    public static final class Running implements AutoCloseable {
        private final ConfigurableApplicationContext server;
        private final Optional<LocalPostgres> postgres;

        private Running(ConfigurableApplicationContext server, Optional<LocalPostgres> postgres) {
            this.server = server;
            this.postgres = postgres;
        }

        /** Where it serves, without a slash at the end. */
        public String url() {
            var context = (ServletWebServerApplicationContext) server;
            return "http://127.0.0.1:"
                    + Objects.requireNonNull(context.getWebServer()).getPort();
        }

        /** The private cluster, when it runs one. */
        public Optional<LocalPostgres> postgres() {
            return postgres;
        }

        /** A part of the server, by its type. */
        public <T> T part(Class<T> type) {
            return server.getBean(type);
        }

        @Override
        public void close() {
            server.close();
            postgres.ifPresent(LocalPostgres::close);
        }
    }

    /**
     * Starts Weft.
     *
     * @throws CannotStart with a sentence for the person at the terminal
     */
    public static Running start(Start start) {
        return start(start, _ -> {});
    }

    /** The same, with parts of its own. */
    static Running start(Start start, ApplicationContextInitializer<GenericApplicationContext> parts) {
        var given = givenDatabase();
        given.ifPresent(Database::reach);
        var postgres = given.isPresent()
                ? Optional.<LocalPostgres>empty()
                : Optional.of(LocalPostgres.start(start.data(), start.settings()));
        try {
            Map<String, Object> settings = Map.of(
                    "server.port", start.port(),
                    "weft.database.url",
                            given.orElseGet(() -> postgres.orElseThrow().url()),
                    "weft.database.user", postgres.map(LocalPostgres::user).orElse(""),
                    "weft.database.password",
                            postgres.map(LocalPostgres::password).orElse(""));
            var server = new SpringApplicationBuilder(Server.class)
                    .main(Server.class)
                    .properties(settings)
                    .initializers(parts)
                    .registerShutdownHook(false)
                    .run();
            var running = new Running(server, postgres);
            if (start.demo()) {
                loadDemo(running);
            }
            return running;
        } catch (RuntimeException e) {
            postgres.ifPresent(LocalPostgres::close);
            throw portTaken(e)
                    ? new CannotStart(
                            "Port " + start.port() + " is taken. Stop what uses it, or choose another with --port N.")
                    : e;
        }
    }

    /** The address of the database that Weft is given, or empty where it runs one of its own. */
    static Optional<String> givenDatabase() {
        return Optional.ofNullable(System.getenv("WEFT_DATABASE_URL")).filter(url -> !url.isBlank());
    }

    /** Two servers that start on one empty database load it once. */
    private static void loadDemo(Running running) {
        try {
            running.part(Database.class).alone(running.part(Demo.class)::loadIfEmpty);
        } catch (RuntimeException e) {
            LoggerFactory.getLogger(Demo.class).error("the demo could not be loaded", e);
            running.close();
            throw new CannotStart("The demo could not be loaded: "
                    + Outage.of(e)
                            .map(Outage::sentence)
                            .orElse("the database refused it. Start with --empty to go without."));
        }
    }

    private static boolean portTaken(@Nullable Throwable e) {
        return e != null && (e instanceof PortInUseException || portTaken(e.getCause()));
    }

    /** Serves until it is told to stop by a signal. */
    public static void main(String... args) {
        try {
            var running = start(Start.of(args));
            Runtime.getRuntime().addShutdownHook(new Thread(running::close, "stop"));
            System.out.println("\nWeft is ready: " + running.url() + "   (Ctrl-C stops it)");
            var people = running.part(People.class);
            if (people.none()) {
                System.out.println(
                        "Nobody can sign in yet. The first administrator comes in here, once, within seven days:\n"
                                + running.url() + "/invitation/"
                                + running.part(Invitations.class).inviteFirst().text());
            }
        } catch (CannotStart e) {
            System.err.println("\n" + e.getMessage());
            System.exit(1);
        }
    }
}
