package weft.store.record;

import static weft.store.schema.Tables.MESSAGE;
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
import org.jooq.DSLContext;
import org.jooq.exception.DataAccessException;
import org.jooq.impl.DSL;
import weft.core.entry.StoredRows;
import weft.core.entry.Write;
import weft.core.rule.Numbering;
import weft.core.table.Column;
import weft.core.value.Value;
import weft.store.Database;
import weft.store.TableChanged;
import weft.store.table.StoredTable;

/** Writes entries together with all that goes with them: running numbers, hand-ons and messages, in one transaction or not at all. */
public final class Entries {

    private static final int TRIES = 4;
    private static final String DEADLOCK = "40P01";

    private final DSLContext sql;
    private final Saves saves;
    private final Function<String, Optional<StoredTable>> tables;

    /** Entries whose hand-ons go to these tables. */
    public Entries(Database database, Function<String, Optional<StoredTable>> tables) {
        this.sql = database.sql();
        this.saves = new Saves(database);
        this.tables = tables;
    }

    /**
     * An entry to be written.
     *
     * @param form the form that it comes through
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
            String by) {}

    /** What goes with an entry, once it is written; what it asks of stored rows is asked in the entry's own transaction. */
    public interface Following {
        List<Write> of(StoredRecord written, StoredRows rows);
    }

    /** Something that was written beside the entry, and its row; 0 for a message. */
    public record Done(Write write, long row) {}

    /** An entry that was written, and what was written beside it. */
    public record Kept(StoredRecord record, List<Done> beside) {}

    /** A rehearsal is over, and all of it is undone. */
    private static final class Over extends RuntimeException {
        private final transient Kept kept;

        Over(Kept kept) {
            super("over", null, false, false);
            this.kept = kept;
        }
    }

    /**
     * Writes an entry and what goes with it.
     *
     * @throws NotSaved when the database's own constraints forbid it, in this table or in another
     * @throws Stale when the record is not what was seen
     */
    public Kept save(Entry entry, Following following) {
        for (int attempt = 1; ; attempt++) {
            try {
                return sql.transactionResult(inner -> write(inner.dsl(), entry, following));
            } catch (Stale stale) {
                // Somebody else changed a row that is handed on to. It is looked at anew.
                if (stale.table() == entry.table().id() || attempt == TRIES) {
                    throw stale;
                }
            } catch (DataAccessException e) {
                if (!DEADLOCK.equals(e.sqlState()) || attempt == TRIES) {
                    throw refused(entry.table(), e);
                }
            }
        }
    }

    /** Writes it all, with the database's last word, and undoes it. Nothing is kept, and nobody is told. */
    public Kept rehearse(Entry entry, Following following) {
        try {
            return sql.transactionResult(inner -> {
                throw new Over(write(inner.dsl(), entry, following));
            });
        } catch (Over over) {
            return over.kept;
        } catch (DataAccessException e) {
            throw refused(entry.table(), e);
        }
    }

    private static RuntimeException refused(StoredTable table, DataAccessException e) {
        return Refusal.of(table, e.getCause())
                .<RuntimeException>map(Function.identity())
                .orElseGet(() -> e.getCause() instanceof SQLException cause ? TableChanged.or(cause, e) : e);
    }

    private Kept write(DSLContext within, Entry entry, Following following) {
        var record = entry.record().isPresent()
                ? Records.change(
                        within, entry.table(), entry.record().getAsLong(), entry.version(), entry.values(), entry.by())
                : add(within, entry.table(), numbered(within, entry), entry.key(), entry.by());
        var done = new ArrayList<Done>();
        for (var write : following.of(record, new LookUp(within, entry.table(), tables))) {
            done.add(new Done(write, write(within, entry, record, write)));
        }
        return new Kept(record, List.copyOf(done));
    }

    private StoredRecord add(
            DSLContext within, StoredTable table, Map<String, Value> values, Optional<SaveKey> key, String by) {
        return within.connectionResult(connection -> saves.save(connection, table, values, key, by));
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

    private long write(DSLContext within, Entry entry, StoredRecord record, Write write) {
        switch (write) {
            case Write.Add(var name, var values) -> {
                var table = tables.apply(name).orElseThrow();
                return elsewhere(
                        table,
                        () -> add(within, table, values, Optional.empty(), entry.by())
                                .row());
            }
            case Write.Change(var name, long id, int version, long row, var values) -> {
                var table = tables.apply(name).orElseThrow();
                elsewhere(
                        table,
                        () -> Records.change(within, table, id, version, values, entry.by())
                                .row());
                return row;
            }
            case Write.Message(var to, var subject, var text) -> {
                within.insertInto(MESSAGE)
                        .set(MESSAGE.FORM_ID, entry.form())
                        .set(MESSAGE.RECORD_ID, record.id())
                        .set(MESSAGE.RECIPIENT, to)
                        .set(MESSAGE.SUBJECT, subject)
                        .set(MESSAGE.TEXT, text)
                        .set(MESSAGE.BY, entry.by())
                        .execute();
                return 0;
            }
        }
    }

    private interface Writing {
        long write();
    }

    /** What another table refuses is told as that table's. */
    private static long elsewhere(StoredTable table, Writing writing) {
        try {
            return writing.write();
        } catch (DataAccessException e) {
            throw Refusal.of(table, e.getCause())
                    .<RuntimeException>map(
                            refusal -> refusal.in(table.definition().title()))
                    .orElse(e);
        }
    }

    /** The next number of a period. The first one follows those that the column holds already. */
    private static long next(DSLContext within, StoredTable table, Column column, String period) {
        long columnId = table.columnIds().get(column.name());
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
