package weft.server;

import ch.qos.logback.classic.Level;
import ch.qos.logback.classic.LoggerContext;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import weft.store.backup.Backup;
import weft.store.backup.Where;
import weft.store.local.CannotStart;
import weft.store.local.LocalPostgres;

/** Backing up and restoring from the command line: of the database that is named in the environment, or of a data folder. */
public final class Backups {

    private Backups() {}

    /** What is done with a database and a file. */
    private interface Doing {
        Backup.Done with(Where where, Path file);
    }

    /** Takes {@code backup} or {@code restore}, the file, and the options of a start. */
    public static void main(String... args) {
        // What is said is said here; logs would tell of addresses.
        if (LoggerFactory.getILoggerFactory() instanceof LoggerContext logs) {
            logs.getLogger(Logger.ROOT_LOGGER_NAME).setLevel(Level.OFF);
        }
        try {
            var file = Path.of(args[1]);
            var data = WeftServer.Start.of(Arrays.copyOfRange(args, 2, args.length))
                    .data();
            if (args[0].equals("backup")) {
                var done = backedUp(data, file);
                System.out.printf("Backed up into %s: %,d tables, %,d rows.%n", file, done.tables(), done.rows());
            } else {
                var done = restored(data, file);
                System.out.printf(
                        "Restored from %s, and the same as what was written: %,d tables, %,d rows.%n",
                        file, done.tables(), done.rows());
            }
        } catch (CannotStart e) {
            System.err.println("\n" + e.getMessage());
            System.exit(1);
        }
    }

    private static Backup.Done backedUp(Path data, Path file) {
        var given = given();
        if (given.isPresent()) {
            return Backup.write(given.get(), file);
        }
        var running = LocalPostgres.addressOf(data);
        return running.isPresent()
                ? Backup.write(
                        new Where(
                                running.get(),
                                LocalPostgres.USER,
                                LocalPostgres.passwordOf(data),
                                LocalPostgres.binaries()),
                        file)
                : started(data, file, Backup::write);
    }

    private static Backup.Done restored(Path data, Path file) {
        var given = given();
        return given.isPresent() ? Backup.restore(given.get(), file) : started(data, file, Backup::restore);
    }

    private static Optional<Where> given() {
        return WeftServer.givenDatabase().map(url -> new Where(url, "", "", LocalPostgres.binaries()));
    }

    private static Backup.Done started(Path data, Path file, Doing doing) {
        try (var cluster = LocalPostgres.start(data, List.of())) {
            return doing.with(
                    new Where(cluster.url(), cluster.user(), cluster.password(), LocalPostgres.binaries()), file);
        }
    }
}
