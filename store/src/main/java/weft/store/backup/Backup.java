package weft.store.backup;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.channels.FileChannel;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.zip.Deflater;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;
import weft.store.Database;
import weft.store.local.CannotStart;

/** Writes a database into a file while it is worked with, as it is at one moment, and restores it into an empty one. */
public final class Backup {

    private static final JsonMapper JSON = JsonMapper.shared();
    private static final String DUMP = "database.dump";
    private static final String TOLD = "weft.json";

    private Backup() {}

    /**
     * What was written or restored.
     *
     * @param tables how many tables, the builders' and Weft's own
     * @param rows how many rows in all
     */
    public record Done(int tables, long rows) {
        private static Done of(Contents contents) {
            return new Done(contents.tables().size(), contents.rows());
        }
    }

    /**
     * Writes the database into a new file, which only its owner can read. Until all of it is written, it has another name.
     *
     * @throws CannotStart with a sentence for the person at the terminal
     */
    public static Done write(Where where, Path file) {
        var part = file.resolveSibling(file.getFileName() + ".part");
        try (var connection = where.connect()) {
            if (Files.exists(file)) {
                throw new FileAlreadyExistsException(file.toString());
            }
            connection.setAutoCommit(false);
            connection.setTransactionIsolation(Connection.TRANSACTION_REPEATABLE_READ);
            var snapshot =
                    Contents.texts(connection, "select pg_export_snapshot()").getFirst();
            var contents = Contents.of(connection);
            Files.deleteIfExists(part);
            Files.createFile(part, PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
            try (var zip = new ZipOutputStream(Files.newOutputStream(part))) {
                zip.putNextEntry(new ZipEntry(TOLD));
                zip.write(JSON.writeValueAsBytes(contents));
                zip.closeEntry();
                // The dump is packed already.
                zip.setLevel(Deflater.NO_COMPRESSION);
                zip.putNextEntry(new ZipEntry(DUMP));
                var arguments = new ArrayList<>(List.of("--format=custom", "--snapshot=" + snapshot));
                Contents.PASSING.forEach(table -> arguments.add("--exclude-table-data=" + table));
                run(
                        where.program("pg_dump", arguments),
                        "written",
                        process -> process.getInputStream().transferTo(zip));
                zip.closeEntry();
            }
            try (var written = FileChannel.open(part, StandardOpenOption.WRITE)) {
                written.force(true);
            }
            Files.move(part, file, StandardCopyOption.ATOMIC_MOVE);
            return Done.of(contents);
        } catch (FileAlreadyExistsException e) {
            throw new CannotStart("There is a file " + file + " already. Give the backup another name.");
        } catch (IOException e) {
            remove(part);
            throw new CannotStart("The backup could not be written into " + file + ": " + e.getMessage() + ".");
        } catch (SQLException e) {
            throw unreachable(e);
        } catch (CannotStart e) {
            remove(part);
            throw e;
        }
    }

    /**
     * Restores what {@link #write} wrote into a database in which there is nothing yet, all of it or nothing, holds it against
     * what was written, and brings it up to date.
     *
     * @throws CannotStart with a sentence for the person at the terminal
     */
    public static Done restore(Where where, Path file) {
        try (var zip = new ZipFile(file.toFile())) {
            var told = zip.getEntry(TOLD);
            var dump = zip.getEntry(DUMP);
            if (told == null || dump == null) {
                throw new CannotStart(file + " is no backup of Weft.");
            }
            var contents = JSON.readValue(zip.getInputStream(told), Contents.class);
            try (var connection = where.connect()) {
                ready(connection, where, contents);
                run(
                        where.program(
                                "pg_restore",
                                List.of(
                                        "--exit-on-error",
                                        "--single-transaction",
                                        "--no-owner",
                                        "--no-acl",
                                        "--dbname=" + where.name())),
                        "restored",
                        process -> {
                            try (var in = zip.getInputStream(dump);
                                    var out = process.getOutputStream()) {
                                in.transferTo(out);
                            }
                        });
                hold(connection, contents);
            }
            Database.open(where.url(), where.user(), where.password(), 2).close();
            return Done.of(contents);
        } catch (IOException | JacksonException e) {
            throw new CannotStart(
                    Files.isReadable(file)
                            ? file + " is no whole backup of Weft. Nothing was restored."
                            : "There is no file " + file + " that can be read.");
        } catch (SQLException e) {
            throw unreachable(e);
        }
    }

    private static void ready(Connection connection, Where where, Contents contents) throws SQLException {
        int newest = Database.newestSchema(where.source());
        if (contents.schema() > newest) {
            throw new CannotStart(
                    "The backup is of a newer Weft: its schema is number %d, and this Weft knows those up to %d. Restore it with that one."
                            .formatted(contents.schema(), newest));
        }
        if (!Contents.texts(
                        connection,
                        "select 1 from pg_stat_activity where datname = current_database()"
                                + " and application_name = 'weft' and pid <> pg_backend_pid()")
                .isEmpty()) {
            throw new CannotStart("A Weft is using this database. Stop it first.");
        }
        var there = Contents.texts(connection, "select tablename from pg_tables where schemaname = 'records'");
        boolean people = !Contents.texts(connection, "select 1 where to_regclass('weft.person') is not null")
                        .isEmpty()
                && !Contents.texts(connection, "select 1 from weft.person limit 1")
                        .isEmpty();
        if (!there.isEmpty() || people) {
            throw new CannotStart(
                    "There is a Weft in this database already, with %,d tables. A backup is restored into an empty one: name a new folder with --data DIR."
                            .formatted(there.size()));
        }
        empty(connection);
    }

    private static void empty(Connection connection) throws SQLException {
        try (var statement = connection.createStatement()) {
            statement.execute("drop schema if exists weft, records cascade");
        }
    }

    private static void hold(Connection connection, Contents contents) throws SQLException {
        var missing = contents.missingIn(Contents.of(connection));
        if (!missing.isEmpty()) {
            empty(connection);
            throw new CannotStart("What was restored is not what was written, and was taken away again: %s."
                    .formatted(String.join(", ", missing.subList(0, Math.min(5, missing.size())))));
        }
    }

    /** What goes in or comes out while a program runs. */
    private interface Passing {
        void through(Process process) throws IOException;
    }

    private static void run(ProcessBuilder program, String done, Passing passing) throws IOException {
        var said = Files.createTempFile("weft", ".out");
        try {
            var process = program.redirectError(said.toFile()).start();
            try {
                passing.through(process);
            } catch (IOException e) {
                // It has ended, and says why below; unless it was the file that failed.
                process.destroy();
                if (process.waitFor() == 0) {
                    throw e;
                }
            }
            if (process.waitFor() != 0) {
                var why = Files.readString(said).lines().findFirst().orElse("");
                throw new CannotStart("The database could not be " + done + ". " + why);
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new CannotStart("It was broken off.");
        } finally {
            Files.delete(said);
        }
    }

    private static void remove(Path part) {
        try {
            Files.deleteIfExists(part);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static CannotStart unreachable(SQLException e) {
        return new CannotStart("The database can't be reached, or refused: " + e.getMessage());
    }
}
