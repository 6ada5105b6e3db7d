package weft.store.imports;

import static weft.store.schema.Tables.IMPORT;
import static weft.store.schema.Tables.IMPORT_PIECE;
import static weft.store.schema.Tables.ROW_COUNTER;

import java.io.IOException;
import java.io.InputStream;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.exception.DataAccessException;
import org.jooq.impl.DSL;
import org.postgresql.util.PSQLException;
import weft.core.table.Faults;
import weft.core.table.Table;
import weft.core.value.Conventions;
import weft.core.value.Value;
import weft.store.Busy;
import weft.store.Turns;
import weft.store.form.Forms;
import weft.store.table.Retried;
import weft.store.table.RowsIn;
import weft.store.table.StoredTable;
import weft.store.table.TableSql;
import weft.store.table.Tables;

/** Files of rows brought in. A file is kept in the database until it is loaded or a day has passed. */
public final class Imports {

    private static final int PROGRESS_EVERY = 2_000;
    private static final int MOST_LISTED = 50;
    private static final Turns TURNS =
            new Turns(2, 30, "Other files are being brought in just now. Try again in a moment.");

    private final DSLContext sql;
    private final Clock clock;
    private final Tables tables;
    private final Forms forms;
    private final RowsIn rows;

    /**
     * In the database that those queries go to.
     *
     * @param rows where what cells link to is looked up
     */
    public Imports(DSLContext sql, Tables tables, Forms forms, RowsIn rows, Clock clock) {
        this.sql = sql;
        this.clock = clock;
        this.tables = tables;
        this.forms = forms;
        this.rows = rows;
    }

    /**
     * A file that is kept.
     *
     * @param format "csv", "ods" or "json"
     * @param columns its columns as they were guessed
     * @param sheets the names of its sheets; none where it has no such thing
     * @param sheet which of them it is about, from 0
     */
    public record Brought(
            String id, String fileName, String format, List<ImportColumn> columns, List<String> sheets, int sheet) {}

    /** How far a load has come. */
    public record Progress(long loaded, long rows) {}

    /** What a load made. */
    public record Loaded(StoredTable table, String form, long rows) {}

    /** What is done about cells that don't fit. */
    public enum OnMisfit {
        /** Nothing is loaded. */
        STOP,
        /** They are loaded as empty. */
        EMPTY,
        /** The rows in which they stand are left out. */
        LEAVE
    }

    /**
     * A file that is kept and not loaded yet.
     *
     * @param rows how many rows it has below the headings
     * @param at since when it is kept
     */
    public record Waiting(String id, String fileName, long rows, OffsetDateTime at) {}

    /** Takes a row as it stands in the file, and why it is left out. */
    public interface LeftTaker {
        /** Takes it; the headings come first, with {@code Why} as their reason. */
        void take(List<String> cells, String why) throws IOException;
    }

    /** Cells did not fit, and nothing was loaded. */
    public static final class MisfitsFound extends RuntimeException {
        private final transient Look look;

        MisfitsFound(Look look) {
            super("misfits");
            this.look = look;
        }

        /** What did not fit. */
        public Look look() {
            return look;
        }
    }

    /** The file is loaded already, or is being loaded by somebody. */
    public static final class LoadedOnce extends RuntimeException {}

    /** Somebody gave the load up, and nothing was loaded. */
    public static final class GivenUp extends RuntimeException {}

    /**
     * Keeps a file and guesses its columns.
     *
     * @throws BadFile when it has no headings or its quoting is broken
     * @throws Busy when too many others bring files in
     */
    public Brought bring(String fileName, InputStream bytes) {
        return TURNS.take(() -> sql.transactionResult(inner -> bring(inner.dsl(), fileName, bytes)));
    }

    private Brought bring(DSLContext within, String fileName, InputStream bytes) throws IOException {
        var id = UUID.randomUUID().toString();
        within.insertInto(IMPORT)
                .set(IMPORT.ID, id)
                .set(IMPORT.FILE_NAME, fileName.length() > 255 ? fileName.substring(0, 255) : fileName)
                .set(IMPORT.CHARSET, "UTF-8")
                .set(IMPORT.SEPARATOR, ",")
                .set(IMPORT.LINES, 0L)
                .set(IMPORT.COLUMNS, JSONB.valueOf("[]"))
                .set(IMPORT.LOADED, 0L)
                .execute();
        var kept = Pieces.keep(within, id, bytes);
        if (kept.how() instanceof OdsFile) {
            var sheets = OdsFile.sheets(() -> Pieces.read(within, id));
            int filled =
                    (int) sheets.stream().takeWhile(sheet -> sheet.rows() == 0).count();
            if (filled == sheets.size()) {
                throw new BadFile(
                        "Every sheet of the file is empty. It needs a row of headings and a row for each record.");
            }
            return Guessed.of(
                    within,
                    id,
                    fileName,
                    new OdsFile(filled),
                    sheets.stream().map(OdsFile.OdsSheet::name).toList());
        }
        return Guessed.of(within, id, fileName, kept.how(), List.of());
    }

    /**
     * The same file with another of its sheets, whose columns are guessed.
     *
     * @param sheet which one, from 0
     * @throws BadFile when it has no such sheet, or that has no headings
     */
    public Brought turn(Brought file, int sheet) {
        if (sheet < 0 || sheet >= file.sheets().size()) {
            throw new BadFile("The file has no such sheet.");
        }
        return TURNS.take(() -> sql.transactionResult(
                inner -> Guessed.of(inner.dsl(), file.id(), file.fileName(), new OdsFile(sheet), file.sheets())));
    }

    /** The file of that identity, or empty when there is none or it is loaded already. */
    public Optional<Brought> find(String id) {
        return sql.select(IMPORT.ID, IMPORT.FILE_NAME, IMPORT.FORMAT, IMPORT.COLUMNS, IMPORT.SHEETS, IMPORT.SHEET)
                .from(IMPORT)
                .where(IMPORT.ID.eq(id))
                .and(IMPORT.TABLE_NAME.isNull())
                .fetchOptional(row -> new Brought(
                        row.value1(),
                        row.value2(),
                        row.value3(),
                        ImportJson.read(row.value4().data()),
                        ImportJson.names(row.value5().data()),
                        row.value6()));
    }

    /** The files that are kept and not loaded yet, the latest first. */
    public List<Waiting> waiting() {
        return sql.select(IMPORT.ID, IMPORT.FILE_NAME, IMPORT.LINES, IMPORT.AT)
                .from(IMPORT)
                .where(IMPORT.TABLE_NAME.isNull())
                .orderBy(IMPORT.AT.desc(), IMPORT.ID)
                .limit(MOST_LISTED)
                .fetch(row -> new Waiting(row.value1(), row.value2(), row.value3(), row.value4()));
    }

    /**
     * Gives each row that is left out with these columns in mind to the taker, as it stands in the file.
     *
     * @throws Busy when too many others bring files in
     */
    public void left(Brought file, List<ImportColumn> columns, LeftTaker taker) {
        TURNS.take(() -> new LeftRows(file, columns).give(kept(file), taker));
    }

    private KeptRows kept(Brought file) {
        return new KeptRows(sql, file, rows.of(sql));
    }

    /** Looks through the whole file with these columns in mind. */
    public Look look(Brought file, List<ImportColumn> columns) {
        return TURNS.take(() -> lookThrough(file, columns));
    }

    private Look lookThrough(Brought file, List<ImportColumn> columns) {
        var kept = kept(file);
        var reader = kept.reader(columns);
        var misfits = new Look.Misfits();
        var preview = new ArrayList<List<Value>>();
        long seen = kept.each(reader, row -> {
            var values = reader.read(row, misfits);
            if (preview.size() < Look.PREVIEWED) {
                preview.add(values);
            }
        });
        return new Look(seen, columns, misfits.listed(), misfits.counts(), preview);
    }

    /**
     * Makes the table, loads every row into it and makes its form, all or nothing.
     *
     * @param conventions how the people of the form write dates and numbers
     * @throws MisfitsFound when cells don't fit and {@code onMisfit} is to stop
     * @throws Faults when the table can't be made, or two rows share a value that must be unique
     * @throws GivenUp when somebody gave it up meanwhile
     * @throws LoadedOnce when it is loaded already, or just now
     * @throws Busy when too many others bring files in
     */
    public Loaded load(
            Brought file,
            Table table,
            List<ImportColumn> columns,
            OnMisfit onMisfit,
            Conventions conventions,
            String by) {
        return TURNS.take(() -> loadOnce(file, table, columns, onMisfit, conventions, by));
    }

    private Loaded loadOnce(
            Brought file,
            Table table,
            List<ImportColumn> columns,
            OnMisfit onMisfit,
            Conventions conventions,
            String by) {
        return Retried.result(sql, inner -> {
            var within = inner.dsl();
            begin(within, file.id());
            var stored = tables.make(within, table);
            var misfits = new Look.Misfits();
            long rows = within.connectionResult(connection -> {
                var names =
                        columns.stream().map(column -> column.column().name()).toList();
                var kept = kept(file);
                var reader = kept.reader(columns);
                long[] loaded = {0};
                try (var copy = CopyRows.ofRecords(connection, stored, names)) {
                    kept.each(reader, row -> {
                        var own = new ArrayList<Misfit>();
                        var values = reader.read(row, own::add);
                        own.forEach(misfits::take);
                        if (own.isEmpty() || onMisfit != OnMisfit.LEAVE) {
                            copy.write(List.of("1", by), values);
                        }
                        if (++loaded[0] % PROGRESS_EVERY == 0) {
                            tellProgress(file.id(), loaded[0]);
                        }
                    });
                    return copy.end();
                } catch (SQLException e) {
                    // What is needed and does not fit is nothing, which PostgreSQL refuses before the end.
                    throw switch (e.getSQLState()) {
                        case "23505" -> doubled(stored, e);
                        case "23502" ->
                            new MisfitsFound(
                                    new Look(loaded[0], columns, misfits.listed(), misfits.counts(), List.of()));
                        default -> e;
                    };
                }
            });
            if (onMisfit == OnMisfit.STOP && !misfits.counts().isEmpty()) {
                throw new MisfitsFound(new Look(rows, columns, misfits.listed(), misfits.counts(), List.of()));
            }
            within.update(ROW_COUNTER)
                    .set(ROW_COUNTER.NEXT_ROW, rows + 1)
                    .where(ROW_COUNTER.TABLE_ID.eq(stored.id()))
                    .execute();
            done(within, file.id(), rows, table.name());
            return new Loaded(
                    stored, forms.make(within, stored, conventions).form().id(), rows);
        });
    }

    /**
     * What bringing a file's rows into a table that exists comes to. Nothing is written.
     *
     * @throws Busy when too many others bring files in
     */
    public Into.Came rehearse(Brought file, Into into) {
        return TURNS.take(() -> sql.transactionResult(inner -> came(file, into, new Appending(inner.dsl(), into))));
    }

    private Into.Came came(Brought file, Into into, Appending appending) {
        var kept = kept(file);
        var reader = kept.reader(into.columns());
        var misfits = new Look.Misfits();
        return appending.look(
                taker -> kept.each(reader, row -> taker.take(row.line(), reader.read(row, misfits))),
                misfits,
                forms.publishedOn(into.table().definition().name()));
    }

    /**
     * Brings a file's rows into a table that exists, all or nothing.
     *
     * @param answered so many rows that are asked about are brought in all the same
     * @throws Into.InTheWay when cells don't fit, more rows are asked about, or something else is in the way
     * @throws LoadedOnce when it is loaded already, or just now
     * @throws Busy when too many others bring files in
     */
    public Into.Appended append(Brought file, Into into, int answered, String by) {
        return TURNS.take(() -> sql.transactionResult(inner -> {
            var within = inner.dsl();
            begin(within, file.id());
            var appending = new Appending(within, into);
            var came = came(file, into, appending);
            if (!came.clear() || came.asked().many() > answered) {
                throw new Into.InTheWay(came);
            }
            var done = refusing(into, () -> appending.write(came, by));
            done(within, file.id(), came.rows(), into.table().definition().name());
            return done;
        }));
    }

    private interface Writing<T> {
        T write();
    }

    /** What the database refuses of rows that were looked at: somebody was quicker, or a rule that only the database knows. */
    private static <T> T refusing(Into into, Writing<T> writing) {
        try {
            return writing.write();
        } catch (DataAccessException e) {
            if (e.sqlState().startsWith("23") || e.sqlState().equals("P0001")) {
                var constraint = e.getCause() instanceof PSQLException cause && cause.getServerErrorMessage() != null
                        ? cause.getServerErrorMessage().getConstraint()
                        : null;
                throw new Faults(
                        "rows",
                        "%s refused a row%s. Nothing was brought in."
                                .formatted(
                                        into.table().definition().title(),
                                        constraint == null ? "" : ", which breaks " + constraint));
            }
            throw e;
        }
    }

    /** The file is loaded, and is not kept any longer. */
    private static void done(DSLContext within, String id, long rows, String table) {
        within.deleteFrom(IMPORT_PIECE).where(IMPORT_PIECE.IMPORT_ID.eq(id)).execute();
        within.update(IMPORT)
                .set(IMPORT.LOADED, rows)
                .set(IMPORT.TABLE_NAME, table)
                .where(IMPORT.ID.eq(id))
                .execute();
    }

    /** Not by a lock on its row, which tells of the progress all the while. */
    private void begin(DSLContext within, String id) {
        if (!alone(within, id) || find(id).isEmpty()) {
            throw new LoadedOnce();
        }
        sql.update(IMPORT)
                .set(IMPORT.LOADED, 0L)
                .set(IMPORT.STOPPED, false)
                .where(IMPORT.ID.eq(id))
                .execute();
    }

    /** Whether nobody else is at a file, until the transaction ends. */
    private static boolean alone(DSLContext within, String id) {
        return within.select(
                        DSL.field("pg_try_advisory_xact_lock(hashtextextended({0}, 0))", Boolean.class, DSL.val(id)))
                .fetchSingle()
                .value1();
    }

    /** On a connection of its own, so that others see it while the load's transaction is open. */
    private void tellProgress(String id, long loaded) {
        boolean stopped = sql.update(IMPORT)
                .set(IMPORT.LOADED, loaded)
                .where(IMPORT.ID.eq(id))
                .returning(IMPORT.STOPPED)
                .fetchSingle(IMPORT.STOPPED);
        if (stopped) {
            throw new GivenUp();
        }
    }

    private static Faults doubled(StoredTable table, SQLException e) {
        var constraint = ((PSQLException) e).getServerErrorMessage().getConstraint();
        var column = TableSql.columnOf(table, constraint);
        return new Faults(
                "columns",
                "Two rows have the same value in "
                        + column.map(each -> each.title()).orElse("a column")
                        + ", which is to be unique. Make it not unique, or mend the file.");
    }

    /** How far the load of that file has come, or empty when there is no such file. */
    public Optional<Progress> progress(String id) {
        return sql.select(IMPORT.LOADED, IMPORT.LINES)
                .from(IMPORT)
                .where(IMPORT.ID.eq(id))
                .fetchOptional(row -> new Progress(row.value1(), row.value2()));
    }

    /** Stops the load of a file that is under way, which then stays; one that nobody is loading is forgotten. */
    public void giveUp(String id) {
        sql.transaction(inner -> {
            var within = inner.dsl();
            if (alone(within, id)) {
                within.deleteFrom(IMPORT)
                        .where(IMPORT.ID.eq(id))
                        .and(IMPORT.TABLE_NAME.isNull())
                        .execute();
            } else {
                within.update(IMPORT)
                        .set(IMPORT.STOPPED, true)
                        .where(IMPORT.ID.eq(id))
                        .execute();
            }
        });
    }

    /** Forgets files brought in longer ago than that. */
    public int forget(Duration age) {
        return sql.deleteFrom(IMPORT)
                .where(IMPORT.AT.lt(OffsetDateTime.now(clock).minus(age)))
                .execute();
    }
}
