package weft.store.record;

import static weft.store.schema.Tables.MESSAGE;
import static weft.store.schema.Tables.ROW_COUNTER;
import static weft.store.schema.Tables.RUNNING_NUMBER;

import java.sql.SQLException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.function.Function;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jooq.exception.DataAccessException;
import org.jooq.impl.DSL;
import weft.core.entry.step.StepRun.Then;
import weft.core.entry.step.Write;
import weft.core.record.StoredRow;
import weft.core.rule.Numbering;
import weft.core.table.Column;
import weft.core.value.Value;
import weft.store.Attempts;
import weft.store.Database;
import weft.store.TableChanged;
import weft.store.record.Following.Followed;
import weft.store.table.KnownTables;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;

/**
 * The one way to write an entry: to the next free row, or over the record that it changes, together with all that goes with
 * it (running numbers, hand-ons, messages), in one transaction or not at all. Under a key that was used for the same entry
 * before, nothing is written and the first answer comes back.
 */
public final class EntryWriter {

    private final DSLContext sql;
    private final Lanes lanes;
    private final KnownTables tables;
    private final SaveKeys keys;

    /** Entries whose hand-ons go to these tables. */
    public EntryWriter(Database database, KnownTables tables) {
        this.sql = database.sql();
        this.lanes = new Lanes(database);
        this.tables = tables;
        this.keys = new SaveKeys(sql);
    }

    /** The keys of saves that were done. */
    public SaveKeys keys() {
        return keys;
    }

    /**
     * An entry to be written.
     *
     * @param form the form that it comes through, or empty
     * @param values by column; a column left out stays empty, or as it is
     * @param record the record that it changes; empty for a new one
     * @param version the version of that record that was seen
     * @param key the key of a save, under which it is done once
     * @param numbers the running numbers that a new one gets
     * @param day the day that they are of
     * @param by who enters it
     */
    public record Entry(
            String form,
            StoredTable table,
            Map<String, Value> values,
            OptionalLong record,
            int version,
            Optional<SaveKey> key,
            List<Numbering> numbers,
            LocalDate day,
            String by) {

        /**
         * The values of a stored record put in place of those it has, through no form.
         *
         * @param version the version of it that was seen
         */
        public static Entry over(
                StoredTable table, long record, int version, Map<String, Value> values, LocalDate day, String by) {
            return new Entry("", table, values, OptionalLong.of(record), version, Optional.empty(), List.of(), day, by);
        }

        /** Whether nothing but its own row is written with it, if nothing follows. */
        private boolean alone() {
            return record.isEmpty() && numbers.isEmpty();
        }

        private Lanes.Origin origin() {
            return new Lanes.Origin(by, Optional.of(form).filter(name -> !name.isEmpty()));
        }

        /** Where what is written beside it in another table comes from. */
        private Lanes.Origin beside() {
            return new Lanes.Origin(by, Optional.empty());
        }
    }

    /** Something that was written beside the entry, and its row; 0 for a message. */
    public record DoneBeside(Write write, long row) {}

    /**
     * An entry that was written, and what was written beside it.
     *
     * @param then what the Desk does then
     * @param again whether that was done before, under the same key, and nothing now
     */
    public record Written(StoredRow record, List<DoneBeside> beside, List<Then> then, boolean again) {

        /** Of one that is written now, alone. */
        static Written alone(StoredRow record) {
            return new Written(record, List.of(), List.of(), false);
        }

        /** Of one that was written before. */
        static Written before(StoredRow record) {
            return new Written(record, List.of(), List.of(), true);
        }
    }

    /** A rehearsal is over, and all of it is undone. */
    private static final class Undone extends RuntimeException {
        private final transient Written kept;

        Undone(Written kept) {
            super("over", null, false, false);
            this.kept = kept;
        }
    }

    /**
     * Writes an entry and what goes with it.
     *
     * @throws NotSaved when the database's own constraints forbid it, in this table or in another, or the key was used for
     *     something else
     * @throws Stale when the record is not what was seen
     * @throws TableChanged when the table is another one than the entry is for
     */
    public Written save(Entry entry, Following following) {
        return keys.once(entry.table(), entry.key(), Written::before, () -> {
            try {
                return entry.alone() && following.nothing()
                        ? Written.alone(
                                lanes.save(entry.table(), new Lanes.New(entry.values(), entry.key()), entry.origin()))
                        : together(entry.table(), within -> write(within, entry, following));
            } catch (SQLException e) {
                throw refused(entry.table(), e);
            } catch (DataAccessException e) {
                throw refused(entry.table(), e);
            }
        });
    }

    /** An entry of a batch, and what goes with it. */
    public record WholeEntry(Entry entry, Following following) {

        private boolean alone() {
            return entry.alone() && following.nothing();
        }
    }

    /**
     * Writes new entries of one table, and what goes with each, all together or not at all. Their rows follow each other in
     * their order, without a hole, as far as the table does not fill rows that were set free.
     *
     * @throws NotSaved as a single one; which of them is refused is not known
     * @throws TableChanged when the table is another one than they are for
     */
    public List<Written> saveAll(List<WholeEntry> parts) {
        var table = parts.getFirst().entry().table();
        try {
            return together(table, within -> writeAll(within, table, parts));
        } catch (DataAccessException e) {
            throw refused(table, e);
        }
    }

    /** Changes that were made as one, under the identity by which they are taken back. */
    public record Changed(long id, List<Written> records) {}

    /**
     * Writes changes of records of one table, and what goes with each, all together or not at all, so that they can be taken back
     * as one.
     *
     * @throws NotSaved as a single one; which of them is refused is not known
     * @throws Stale when one of the records is not what was seen
     */
    public Changed changeAll(List<WholeEntry> parts) {
        var first = parts.getFirst().entry();
        try {
            return together(first.table(), within -> {
                var kept = writeAll(within, first.table(), parts);
                long id = ChangeSets.keep(
                        within,
                        first.table(),
                        first.by(),
                        kept.stream().map(Written::record).toList());
                return new Changed(id, kept);
            });
        } catch (DataAccessException e) {
            throw refused(first.table(), e);
        }
    }

    private List<Written> writeAll(DSLContext within, StoredTable table, List<WholeEntry> parts) {
        if (parts.stream().allMatch(WholeEntry::alone)) {
            var many = parts.stream()
                    .map(part ->
                            new Lanes.New(part.entry().values(), part.entry().key()))
                    .toList();
            var origin = parts.getFirst().entry().origin();
            return within.connectionResult(connection -> lanes.save(connection, table, many, origin)).stream()
                    .map(Written::alone)
                    .toList();
        }
        takeTurns(within, parts);
        return parts.stream()
                .map(part -> written(within, part.entry(), part.following()))
                .toList();
    }

    private <T> T together(StoredTable table, Function<DSLContext, T> writing) {
        // Of another table: somebody else changed a row that is handed on to. It is looked at anew.
        return Attempts.of(
                () -> sql.transactionResult(inner -> writing.apply(inner.dsl())),
                e -> Attempts.deadlock(e) || (e instanceof Stale stale && stale.table() != table.id()));
    }

    /** Writes it all, with the database's last word, and undoes it. Nothing is kept, and nobody is told. */
    public Written rehearse(Entry entry, Following following) {
        try {
            return sql.transactionResult(inner -> {
                throw new Undone(write(inner.dsl(), entry, following));
            });
        } catch (Undone over) {
            return over.kept;
        } catch (DataAccessException e) {
            throw refused(entry.table(), e);
        }
    }

    private static RuntimeException refused(StoredTable table, DataAccessException e) {
        return e.getCause() instanceof SQLException cause ? refused(table, cause) : e;
    }

    private static RuntimeException refused(StoredTable table, SQLException e) {
        return Refusal.of(table, e)
                .<RuntimeException>map(Function.identity())
                .orElseGet(() -> TableChanged.or(e, new DataAccessException("save", e)));
    }

    /** The same within a transaction of the caller's, who sees to what the database refuses. */
    Written write(DSLContext within, Entry entry, Following following) {
        takeTurns(within, List.of(new WholeEntry(entry, following)));
        return written(within, entry, following);
    }

    private Written written(DSLContext within, Entry entry, Following following) {
        var record = entry.record().isPresent() && entry.values().isEmpty()
                ? Records.unchanged(within, entry.table(), entry.record().getAsLong())
                : entry.record().isPresent()
                        ? Records.change(
                                within,
                                entry.table(),
                                entry.record().getAsLong(),
                                entry.version(),
                                entry.values(),
                                entry.by())
                        : add(
                                within,
                                entry.table(),
                                new Lanes.New(numbered(within, entry), entry.key()),
                                entry.origin());
        var done = new ArrayList<DoneBeside>();
        var followed = following
                .after()
                .map(after ->
                        after.of(record, new LookUp(within, entry.table(), SeenTable.all(entry.table()), tables)));
        var wrote = new ArrayList<Beside.Wrote>();
        for (var write : followed.map(Followed::writes).orElse(List.of())) {
            var made = write(within, entry, record, write);
            done.add(new DoneBeside(write, made.row()));
            if (write.into().filter(following.belonging()::contains).isEmpty()) {
                wrote.addAll(made.wrote());
            }
        }
        Beside.keep(within, entry.table(), record.id(), wrote);
        following.keeping().ifPresent(each -> each.keep(within, record));
        return new Written(
                record, List.copyOf(done), followed.map(Followed::then).orElse(List.of()), false);
    }

    /** Takes the row counters of all tables that may get a row, always in one order, so that no two entries wait in a circle. */
    private void takeTurns(DSLContext within, List<WholeEntry> parts) {
        var others = parts.stream()
                .flatMap(part -> part.following().tables().stream())
                .distinct()
                .flatMap(name -> tables.table(name).stream())
                .map(StoredTable::id);
        var own = parts.stream()
                .map(WholeEntry::entry)
                .filter(entry -> entry.record().isEmpty())
                .map(entry -> entry.table().id());
        var ids = Stream.concat(own, others).distinct().sorted().toList();
        if (ids.size() > 1 || parts.size() > 1) {
            within.select(ROW_COUNTER.TABLE_ID)
                    .from(ROW_COUNTER)
                    .where(ROW_COUNTER.TABLE_ID.in(ids))
                    .orderBy(ROW_COUNTER.TABLE_ID)
                    .forUpdate()
                    .fetch();
        }
    }

    private StoredRow add(DSLContext within, StoredTable table, Lanes.New fresh, Lanes.Origin origin) {
        return within.connectionResult(connection -> lanes.save(connection, table, fresh, origin));
    }

    private Map<String, Value> numbered(DSLContext within, Entry entry) {
        var values = new LinkedHashMap<>(entry.values());
        for (var numbering : entry.numbers()) {
            var column = entry.table().definition().column(numbering.column()).orElseThrow();
            var period = numbering.period(entry.day());
            long number = next(within, entry.table(), column, period);
            values.put(column.name(), new Value.Text(Numbering.written(period, number)));
        }
        return values;
    }

    /** What one write came to: its row, the first of several, 0 for a message; and what is undone with the entry. */
    private record Made(long row, List<Beside.Wrote> wrote) {

        static Made of(StoredTable table, List<StoredRow> records) {
            return new Made(
                    records.getFirst().row(),
                    records.stream()
                            .map(each -> Beside.Wrote.record(table, each))
                            .toList());
        }
    }

    private Made write(DSLContext within, Entry entry, StoredRow record, Write write) {
        switch (write) {
            case Write.Add(var name, var values) -> {
                var table = tables.table(name).orElseThrow();
                return elsewhere(
                        table,
                        () -> Made.of(
                                table,
                                List.of(add(within, table, new Lanes.New(values, Optional.empty()), entry.beside()))));
            }
            case Write.AddAll(var name, var rows) -> {
                var table = tables.table(name).orElseThrow();
                var many = rows.stream()
                        .map(values -> new Lanes.New(values, Optional.empty()))
                        .toList();
                return elsewhere(
                        table,
                        () -> Made.of(
                                table,
                                within.connectionResult(
                                        connection -> lanes.save(connection, table, many, entry.beside()))));
            }
            case Write.Remove(var name, long id, int version, long row) -> {
                var table = tables.table(name).orElseThrow();
                return elsewhere(table, () -> {
                    Records.delete(within, table, id, version, entry.by());
                    return new Made(row, List.of(Beside.Wrote.removed(table, id, version)));
                });
            }
            case Write.Change(var name, long id, int version, long _, var values) -> {
                var table = tables.table(name).orElseThrow();
                return elsewhere(
                        table,
                        () -> Made.of(table, List.of(Records.change(within, table, id, version, values, entry.by()))));
            }
            case Write.Message(var to, var subject, var text) -> {
                long id = within.insertInto(MESSAGE)
                        .set(MESSAGE.FORM_ID, entry.form())
                        .set(MESSAGE.RECORD_ID, record.id())
                        .set(MESSAGE.RECIPIENT, to)
                        .set(MESSAGE.SUBJECT, subject)
                        .set(MESSAGE.TEXT, text)
                        .set(MESSAGE.BY, entry.by())
                        .returning(MESSAGE.ID)
                        .fetchSingle(MESSAGE.ID);
                return new Made(0, List.of(Beside.Wrote.message(id)));
            }
        }
    }

    private interface Writing {
        Made write();
    }

    /** What another table refuses is told as that table's. */
    private static Made elsewhere(StoredTable table, Writing writing) {
        try {
            return writing.write();
        } catch (DataAccessException e) {
            throw Refusal.elsewhere(table, e);
        }
    }

    /** The next number of a period. The first one follows those that the column holds already. */
    private static long next(DSLContext within, StoredTable table, Column column, String period) {
        long columnId = table.columnId(column.name());
        var ofPeriod = RUNNING_NUMBER
                .TABLE_ID
                .eq(table.id())
                .and(RUNNING_NUMBER.COLUMN_ID.eq(columnId))
                .and(RUNNING_NUMBER.PERIOD.eq(period));
        if (!within.fetchExists(RUNNING_NUMBER, ofPeriod)) {
            var held = DSL.field(
                    "substring({0} from {1})",
                    String.class, DSL.field(DSL.name(column.name())), DSL.val(Numbering.matching(period)));
            var last = within.select(DSL.max(held.cast(Long.class)))
                    .from(DSL.table(table.sqlName()))
                    .fetchSingle()
                    .value1();
            within.insertInto(RUNNING_NUMBER)
                    .set(RUNNING_NUMBER.TABLE_ID, table.id())
                    .set(RUNNING_NUMBER.COLUMN_ID, columnId)
                    .set(RUNNING_NUMBER.PERIOD, period)
                    .set(RUNNING_NUMBER.NEXT_NUMBER, last == null ? 1 : last + 1)
                    .onConflictDoNothing()
                    .execute();
        }
        return within.update(RUNNING_NUMBER)
                        .set(RUNNING_NUMBER.NEXT_NUMBER, RUNNING_NUMBER.NEXT_NUMBER.plus(1))
                        .where(ofPeriod)
                        .returning(RUNNING_NUMBER.NEXT_NUMBER)
                        .fetchSingle(RUNNING_NUMBER.NEXT_NUMBER)
                - 1;
    }
}
