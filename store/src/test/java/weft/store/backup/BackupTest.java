package weft.store.backup;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static weft.store.Given.text;
import static weft.store.Given.values;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.SQLException;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.zip.ZipFile;
import org.jooq.DSLContext;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.api.io.TempDir;
import weft.core.table.Constraint;
import weft.store.Database;
import weft.store.Given;
import weft.store.TestDatabase;
import weft.store.local.CannotStart;
import weft.store.record.EntryWriter;
import weft.store.record.Following;
import weft.store.record.History;
import weft.store.table.Constraints;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/** What was backed up comes back as it was at one moment, into an empty database, all of it or nothing. */
@ExtendWith(TestDatabase.class)
class BackupTest {

    private static final String EMPTY = "restored";

    private final DSLContext sql = TestDatabase.get().sql();
    private final Where from = TestDatabase.where("postgres");
    private final Where to = TestDatabase.where(EMPTY);

    @TempDir
    private Path folder;

    private StoredTable table;
    private Path file;

    @BeforeEach
    void given() {
        file = folder.resolve("weft.backup");
        table = Given.table("first-free", "site text", "count whole", "ph decimal");
        for (int i = 1; i <= 5; i++) {
            Given.saved(table, values("site", text("Ü" + i + "\n\\.")), Optional.empty(), "Odile");
        }
        new Constraints(sql).add(table, new Constraint.Unique("", List.of("site", "count"), ""));
        sql.execute("delete from " + sql.render(table.sqlName()) + " where _row = 2");
        sql.execute("insert into weft.free_row values (" + table.id() + ", 2)");
        sql.execute("create database " + EMPTY);
    }

    @AfterEach
    void gone() {
        sql.execute("drop database " + EMPTY + " with (force)");
    }

    @Test
    void whatIsRestoredIsWhatWasThereAndIsWorkedOn() throws Exception {
        var saving = new AtomicBoolean(true);
        try (var keyer = Executors.newSingleThreadExecutor()) {
            keyer.submit(() -> {
                while (saving.get()) {
                    Given.saved(table, values("site", text("meanwhile")), Optional.empty(), "Bram");
                }
            });
            Backup.write(from, file);
            saving.set(false);
        }
        assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(file)))
                .isEqualTo("rw-------");
        assertThat(folder).isDirectoryNotContaining("glob:**.part");
        var done = Backup.restore(to, file);
        assertThat(done.rows()).isGreaterThan(5);
        try (var database = Database.open(to.url(), to.user(), to.password(), 2)) {
            var there = new Tables(database.sql()).find(table.id()).orElseThrow();
            assertThat(there.definition())
                    .isEqualTo(new Tables(sql).find(table.id()).orElseThrow().definition());
            var writer = new EntryWriter(database, new Tables(database.sql())::find);
            var record = writer.save(
                            new EntryWriter.Entry(
                                    "",
                                    there,
                                    values("site", text("after")),
                                    OptionalLong.empty(),
                                    0,
                                    Optional.empty(),
                                    List.of(),
                                    LocalDate.of(2026, 8, 1),
                                    "Saffi"),
                            Following.NOTHING)
                    .record();
            long rows = database.sql()
                    .fetchSingle("select count(*) from " + sql.render(table.sqlName()))
                    .get(0, Long.class);
            assertThat(new Tables(database.sql()).rows(there)).isEqualTo(rows);
            assertThat(new History(database.sql()).of(SeenTable.all(there), record.id()))
                    .hasSize(1);
        }
        assertThatThrownBy(() -> Backup.restore(to, file))
                .isInstanceOf(CannotStart.class)
                .hasMessageContaining("There is a Weft in this database already");
    }

    @Test
    void nothingIsWrittenOverAndNothingHalfWritten() throws IOException {
        Files.writeString(file, "mine");
        assertThatThrownBy(() -> Backup.write(from, file))
                .hasMessageContaining("There is a file")
                .hasMessageContaining("already");
        assertThat(file).hasContent("mine");
        Files.delete(file);
        assertThatThrownBy(() -> Backup.write(new Where(from.url(), from.user(), from.password(), folder), file))
                .isInstanceOf(CannotStart.class);
        assertThatThrownBy(() -> Backup.write(to, file)).hasMessage("There is no Weft in this database.");
        assertThatThrownBy(() -> Backup.write(TestDatabase.where("nowhere"), file))
                .hasMessageContaining("The database can't be reached");
        assertThat(folder).isEmptyDirectory();
    }

    @Test
    void whatIsNoBackupOrBrokenIsRefusedAndLeavesNothing() throws Exception {
        assertThatThrownBy(() -> Backup.restore(to, file)).hasMessageContaining("There is no file");
        Files.writeString(file, "mine");
        assertThatThrownBy(() -> Backup.restore(to, file)).hasMessageContaining("is no whole backup of Weft");
        Files.delete(file);
        Backup.write(from, file);
        var whole = Files.readAllBytes(file);
        Files.write(file, java.util.Arrays.copyOf(whole, whole.length / 2));
        assertThatThrownBy(() -> Backup.restore(to, file)).isInstanceOf(CannotStart.class);
        // Bytes of the dump that are others than they were.
        var spoilt = whole.clone();
        for (int at = whole.length / 2; at < whole.length / 2 + 4_000; at++) {
            spoilt[at] ^= 0x55;
        }
        Files.write(file, spoilt);
        assertThatThrownBy(() -> Backup.restore(to, file)).isInstanceOf(CannotStart.class);
        assertThat(tablesLeft()).isEmpty();
        Files.write(file, whole);
        assertThat(Backup.restore(to, file).tables()).isGreaterThan(10);
    }

    private List<String> tablesLeft() throws SQLException {
        try (var connection = to.connect()) {
            return Contents.texts(
                    connection, "select tablename from pg_tables where schemaname in ('weft', 'records')");
        }
    }

    @Test
    void whatANewerWeftWroteIsLeftToThatOneAndARowTooFewIsFound() throws Exception {
        Backup.write(from, file);
        rewritten("\"schema\":", "\"schema\":9");
        assertThatThrownBy(() -> Backup.restore(to, file)).hasMessageContaining("The backup is of a newer Weft");
        Files.delete(file);
        Backup.write(from, file);
        rewritten("\"rows\":", "\"rows\":7");
        assertThatThrownBy(() -> Backup.restore(to, file))
                .hasMessageContaining(
                        "What was restored is not what was written, and was taken away again: the rows of");
        assertThat(tablesLeft()).isEmpty();
    }

    /** The file, with what it says of itself changed. */
    private void rewritten(String what, String into) throws IOException {
        var other = folder.resolve("other");
        try (var zip = new ZipFile(file.toFile());
                var out = new java.util.zip.ZipOutputStream(Files.newOutputStream(other))) {
            for (var entry : java.util.Collections.list(zip.entries())) {
                out.putNextEntry(new java.util.zip.ZipEntry(entry.getName()));
                var bytes = zip.getInputStream(entry).readAllBytes();
                out.write(
                        entry.getName().endsWith(".json")
                                ? new String(bytes, java.nio.charset.StandardCharsets.UTF_8)
                                        .replace(what, into)
                                        .getBytes(java.nio.charset.StandardCharsets.UTF_8)
                                : bytes);
                out.closeEntry();
            }
        }
        Files.move(other, file, java.nio.file.StandardCopyOption.REPLACE_EXISTING);
    }
}
