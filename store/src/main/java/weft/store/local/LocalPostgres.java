package weft.store.local;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.channels.FileChannel;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.security.SecureRandom;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.ThreadLocalRandom;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * A PostgreSQL cluster of Weft's own, in a data folder, on a loopback port. It runs as the user who starts it, or as
 * {@code postgres} when that is root. A cluster left running by a killed Weft is taken over, and one that is ended from
 * outside is started again at once, or as soon as it can be.
 */
public final class LocalPostgres implements AutoCloseable {

    private static final Logger LOG = LoggerFactory.getLogger(LocalPostgres.class);
    /** The cluster's user. */
    public static final String USER = "weft";
    /** Where a running cluster says which process it is, and on which port. */
    private static final String LEFT = "data/postmaster.pid";

    private static final int LOOK_MILLIS = 300;
    private static final int AGAIN_MILLIS = 1_000;

    private final Account account;
    private final Path bin;
    private final Path home;
    private final FileChannel lock;
    private final String password;
    private final int port;
    private final List<String> settings;
    private final Thread watch;
    private volatile boolean closed;

    private LocalPostgres(
            Account account, Path bin, Path home, FileChannel lock, String password, int port, List<String> settings) {
        this.account = account;
        this.bin = bin;
        this.home = home;
        this.lock = lock;
        this.password = password;
        this.port = port;
        this.settings = settings;
        this.watch = Thread.ofPlatform().daemon().name("postgres watch").unstarted(this::watch);
    }

    /**
     * Starts the cluster of a data folder, making it first where there is none.
     *
     * @param folder Weft's data folder
     * @param settings further settings of PostgreSQL, such as {@code fsync=off}
     * @throws CannotStart with a sentence for the person at the terminal
     */
    public static LocalPostgres start(Path folder, List<String> settings) {
        try {
            var account = Account.forCluster();
            Files.createDirectories(folder);
            var lock = lock(folder);
            var home = account.reachable(folder).resolve("postgres");
            account.makeFolder(home);
            var bin = binaries();
            var password = password(folder);
            int port = running(home);
            if (port == 0) {
                if (!Files.exists(home.resolve("data/PG_VERSION"))) {
                    init(home, bin, account, password);
                }
                port = freePort();
                launch(home, bin, account, port, settings);
            }
            var cluster = new LocalPostgres(account, bin, home, lock, password, port, List.copyOf(settings));
            cluster.watch.start();
            return cluster;
        } catch (IOException e) {
            throw new CannotStart("Weft can't use the data folder " + folder + ": " + e.getMessage() + ".");
        }
    }

    /**
     * The JDBC address of the cluster of a data folder that another process runs on it, or empty when none does.
     *
     * @throws CannotStart when there is no cluster in it at all
     */
    public static Optional<String> addressOf(Path folder) {
        try {
            var home = Account.forCluster().reachable(folder).resolve("postgres");
            if (!Files.exists(home.resolve("data/PG_VERSION"))) {
                throw new CannotStart("There is no Weft in the folder " + folder
                        + ". Name the one that it was started with: --data DIR.");
            }
            int port = running(home);
            return port == 0 ? Optional.empty() : Optional.of(address(port));
        } catch (IOException e) {
            throw new CannotStart("Weft can't read the data folder " + folder + ": " + e.getMessage() + ".");
        }
    }

    private static String address(int port) {
        return "jdbc:postgresql://127.0.0.1:" + port + "/postgres";
    }

    /** The password of {@link #USER} in the cluster of a data folder. */
    public static String passwordOf(Path folder) {
        try {
            return password(folder);
        } catch (IOException e) {
            throw new CannotStart("Weft can't read the data folder " + folder + ": " + e.getMessage() + ".");
        }
    }

    /** The JDBC address. */
    public String url() {
        return address(port);
    }

    /** The cluster's user. */
    public String user() {
        return USER;
    }

    /** The password of {@link #user()}. */
    public String password() {
        return password;
    }

    /** The loopback port. */
    public int port() {
        return port;
    }

    /** Stops the cluster, ending what its connections are doing, and gives the data folder free. */
    @Override
    public void close() {
        closed = true;
        watch.interrupt();
        try (lock) {
            watch.join();
            account.run(List.of(bin.resolve("pg_ctl").toString(), "stop", "-D", data(home), "-m", "fast", "-w", "-s"));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** Starts it again whenever its process has ended; where it can't, as with a full disk, it is tried again. */
    private void watch() {
        try {
            while (!closed) {
                Thread.sleep(LOOK_MILLIS);
                try {
                    if (!lives(home) && !closed) {
                        Files.deleteIfExists(home.resolve(LEFT));
                        LOG.warn("PostgreSQL has ended and is started again");
                        launch(home, bin, account, port, settings);
                        LOG.warn("PostgreSQL runs again");
                    }
                } catch (CannotStart | IOException e) {
                    LOG.error("PostgreSQL can't be started: {}", e.getMessage());
                    Thread.sleep(AGAIN_MILLIS);
                }
            }
        } catch (InterruptedException stopped) {
            // It is being closed.
        }
    }

    /** The lock goes when the process does, however it ends, so a killed Weft never blocks the next one. */
    private static FileChannel lock(Path folder) throws IOException {
        var channel = FileChannel.open(folder.resolve("lock"), StandardOpenOption.CREATE, StandardOpenOption.WRITE);
        try {
            if (channel.tryLock() != null) {
                return channel;
            }
        } catch (OverlappingFileLockException heldByThisProcess) {
            // The same answer as for another process.
        }
        channel.close();
        throw new CannotStart("Another Weft already runs on the data folder " + folder
                + ". Stop it first, or give this one a folder of its own with --data DIR.");
    }

    /** The folder of PostgreSQL's programs, of the newest version there is. */
    public static Path binaries() {
        try {
            return programs();
        } catch (IOException e) {
            throw new CannotStart("PostgreSQL's programs can't be found: " + e.getMessage() + ".");
        }
    }

    private static Path programs() throws IOException {
        var debian = Path.of("/usr/lib/postgresql");
        if (Files.isDirectory(debian)) {
            try (var versions = Files.list(debian)) {
                var newest = versions.filter(version -> Files.isExecutable(version.resolve("bin/initdb")))
                        .max((a, b) -> Integer.compare(number(a), number(b)));
                if (newest.isPresent()) {
                    return newest.get().resolve("bin");
                }
            }
        }
        for (var folder : System.getenv("PATH").split(":")) {
            if (Files.isExecutable(Path.of(folder, "initdb")) && Files.isExecutable(Path.of(folder, "pg_ctl"))) {
                return Path.of(folder);
            }
        }
        throw new CannotStart("PostgreSQL is not installed. On Debian: apt-get install postgresql.");
    }

    private static int number(Path version) {
        var digits = version.getFileName().toString().replaceAll("[^0-9].*", "");
        return digits.isEmpty() ? 0 : Integer.parseInt(digits);
    }

    private static String password(Path folder) throws IOException {
        var file = folder.resolve("password");
        if (!Files.exists(file)) {
            var bytes = new byte[24];
            new SecureRandom().nextBytes(bytes);
            Files.createFile(file, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
            Files.writeString(file, HexFormat.of().formatHex(bytes));
        }
        return Files.readString(file).strip();
    }

    /**
     * The port of the cluster that runs on this home, or 0. What a killed one left behind may name a process that is quite
     * another by now: only one that was started on this very folder is it, and what is left of any other is cleared away.
     */
    private static int running(Path home) throws IOException {
        var left = home.resolve(LEFT);
        if (!lives(home)) {
            Files.deleteIfExists(left);
            return 0;
        }
        var lines = Files.readAllLines(left);
        return lines.size() > 3 ? Integer.parseInt(lines.get(3).strip()) : 0;
    }

    /** Whether the process that it says it is runs on this very folder; one that has ended has no command line any more. */
    private static boolean lives(Path home) throws IOException {
        try {
            var pid = Files.readAllLines(home.resolve(LEFT)).stream()
                    .findFirst()
                    .orElse("")
                    .strip();
            return pid.matches("[0-9]+")
                    && Files.readString(Path.of("/proc", pid, "cmdline")).contains(data(home));
        } catch (NoSuchFileException gone) {
            return false;
        }
    }

    private static void init(Path home, Path bin, Account account, String password) throws IOException {
        var secret = home.resolve("new-password");
        Files.writeString(secret, password);
        account.own(secret);
        try {
            account.run(List.of(
                            bin.resolve("initdb").toString(),
                            "-D",
                            data(home),
                            "-U",
                            USER,
                            "-A",
                            "scram-sha-256",
                            "--pwfile=" + secret,
                            "-E",
                            "UTF8",
                            "--locale=C.UTF-8",
                            "--no-instructions"))
                    .orFail("PostgreSQL could not make its data folder " + home);
        } finally {
            Files.delete(secret);
        }
    }

    private static void launch(Path home, Path bin, Account account, int port, List<String> settings) {
        var options = new ArrayList<>(List.of(
                "port=" + port,
                "listen_addresses=127.0.0.1",
                "unix_socket_directories=''",
                "max_connections=100",
                "shared_buffers=256MB",
                "max_wal_size=2GB",
                // The log tells of the cluster and holds no values of records: neither statements nor what was wrong in
                // them.
                "log_min_messages=log",
                "log_min_error_statement=panic",
                "log_error_verbosity=terse"));
        options.addAll(settings);
        account.run(List.of(
                        bin.resolve("pg_ctl").toString(),
                        "start",
                        "-D",
                        data(home),
                        "-l",
                        home.resolve("log").toString(),
                        "-w",
                        "-t",
                        "300",
                        "-s",
                        "-o",
                        "-c " + String.join(" -c ", options)))
                .orFail("PostgreSQL did not start; its log is " + home.resolve("log"));
    }

    /**
     * A port of loopback that nothing listens on now. It is of those from which no outgoing connection takes its own
     * (Linux takes them from 32768 on), so it can be found free again by a server that is started a second time.
     *
     * @throws CannotStart when a thousand of them are taken
     */
    public static int freePort() {
        for (int tries = 0; tries < 1_000; tries++) {
            int port = ThreadLocalRandom.current().nextInt(20_000, 32_000);
            try (var socket = new ServerSocket(port, 1, InetAddress.getLoopbackAddress())) {
                return socket.getLocalPort();
            } catch (IOException taken) {
                // The next one may be free.
            }
        }
        throw new CannotStart("Weft found no free port between 20000 and 32000 for its PostgreSQL.");
    }

    private static String data(Path home) {
        return home.resolve("data").toString();
    }
}
