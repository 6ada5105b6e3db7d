package weft.store.record;

import static weft.store.schema.Tables.HISTORY;
import static weft.store.schema.Tables.MESSAGE;
import static weft.store.schema.Tables.WRITTEN_BESIDE;

import java.time.OffsetDateTime;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.exception.DataAccessException;
import org.jooq.impl.DSL;
import weft.core.record.StoredRow;
import weft.core.value.Value;
import weft.store.record.History.Action;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/**
 * What was written beside an entry: kept in the entry's own transaction, undone when the entry is taken back, and done again
 * when it is put back. Each thing is undone only where what it wrote stands there still.
 */
final class Beside {

    private Beside() {}

    /**
     * Something that was written beside an entry.
     *
     * @param table the table of the record; empty for a message
     * @param id the identity of the record or message
     * @param version the version of the record that was made, or with which it was removed; 0 for a message
     */
    record Wrote(Optional<Long> table, long id, int version) {

        static Wrote record(StoredTable table, StoredRow record) {
            return new Wrote(Optional.of(table.id()), record.id(), record.version());
        }

        static Wrote removed(StoredTable table, long id, int version) {
            return new Wrote(Optional.of(table.id()), id, version + 1);
        }

        static Wrote message(long id) {
            return new Wrote(Optional.empty(), id, 0);
        }
    }

    /** Keeps what was written beside that entry, in the order in which it was. */
    static void keep(DSLContext within, StoredTable table, long record, List<Wrote> all) {
        keep(within, table, record, Optional.empty(), all);
    }

    /** The same of what was written as that and other records were made one. */
    static void keep(DSLContext within, StoredTable table, long record, Optional<Long> madeOne, List<Wrote> all) {
        if (all.isEmpty()) {
            return;
        }
        var rows = within.insertInto(
                WRITTEN_BESIDE,
                WRITTEN_BESIDE.TABLE_ID,
                WRITTEN_BESIDE.RECORD_ID,
                WRITTEN_BESIDE.OTHER_TABLE_ID,
                WRITTEN_BESIDE.OTHER_ID,
                WRITTEN_BESIDE.OTHER_VERSION,
                WRITTEN_BESIDE.MADE_ONE_ID);
        for (var wrote : all) {
            rows = rows.values(
                    table.id(), record, wrote.table().orElse(null), wrote.id(), wrote.version(), madeOne.orElse(null));
        }
        rows.execute();
    }

    /** A change of a record as it was made one, which is undone with that: with what was written beside it. */
    static StoredRow under(DSLContext within, StoredTable table, long madeOne, Supplier<StoredRow> change) {
        long last = within.fetchSingle(
                        DSL.select(DSL.coalesce(DSL.max(WRITTEN_BESIDE.ID), 0L)).from(WRITTEN_BESIDE))
                .value1();
        var record = change.get();
        within.update(WRITTEN_BESIDE)
                .set(WRITTEN_BESIDE.MADE_ONE_ID, madeOne)
                .where(with(table, record.id()))
                .and(WRITTEN_BESIDE.ID.gt(last))
                .execute();
        keep(within, table, record.id(), Optional.of(madeOne), List.of(Wrote.record(table, record)));
        return record;
    }

    /**
     * Undoes what was written beside that entry, the last first.
     *
     * @return how many messages had gone out, and stay so
     * @throws ChangedBeside when somebody changed since what was written
     */
    static int undo(DSLContext within, StoredTable table, long record, String by) {
        return undo(within, with(table, record), by);
    }

    /**
     * Undoes all that was written as records were made one.
     *
     * @return whether there was anything to undo
     * @throws ChangedBeside when somebody changed since what was written
     */
    static boolean undo(DSLContext within, long madeOne, String by) {
        var which = WRITTEN_BESIDE.MADE_ONE_ID.eq(madeOne);
        boolean any = within.fetchExists(WRITTEN_BESIDE, which.and(DSL.not(WRITTEN_BESIDE.UNDONE)));
        undo(within, which, by);
        return any;
    }

    private static Condition with(StoredTable table, long record) {
        return WRITTEN_BESIDE
                .TABLE_ID
                .eq(table.id())
                .and(WRITTEN_BESIDE.RECORD_ID.eq(record))
                .and(WRITTEN_BESIDE.MADE_ONE_ID.isNull());
    }

    private static int undo(DSLContext within, Condition which, String by) {
        int gone = 0;
        for (var wrote : kept(within, which, false).reversed()) {
            if (wrote.table().isEmpty()) {
                gone += held(within, wrote) ? 0 : 1;
            } else {
                turned(within, wrote, false, by);
            }
        }
        mark(within, which, true);
        return gone;
    }

    /**
     * Does again what was undone with that entry.
     *
     * @throws ChangedBeside when somebody changed since what it was written over
     */
    static void redo(DSLContext within, StoredTable table, long record, String by) {
        for (var wrote : kept(within, with(table, record), true)) {
            if (wrote.table().isEmpty()) {
                release(within, wrote);
            } else {
                turned(within, wrote, true, by);
            }
        }
        mark(within, with(table, record), false);
    }

    /** What was undone with that entry is done no more: it was put back alone. */
    static void letGo(DSLContext within, StoredTable table, long record) {
        within.deleteFrom(WRITTEN_BESIDE)
                .where(with(table, record))
                .and(WRITTEN_BESIDE.UNDONE)
                .execute();
    }

    /** Forgets what was written before then; it is taken back with no entry any more. */
    static void forget(DSLContext sql, OffsetDateTime before) {
        sql.deleteFrom(WRITTEN_BESIDE).where(WRITTEN_BESIDE.AT.lt(before)).execute();
    }

    private static List<Wrote> kept(DSLContext within, Condition which, boolean undone) {
        return within.selectFrom(WRITTEN_BESIDE)
                .where(which)
                .and(WRITTEN_BESIDE.UNDONE.eq(undone))
                .orderBy(WRITTEN_BESIDE.ID)
                .fetch(row -> new Wrote(
                        Optional.ofNullable(row.get(WRITTEN_BESIDE.OTHER_TABLE_ID)),
                        row.get(WRITTEN_BESIDE.OTHER_ID),
                        row.get(WRITTEN_BESIDE.OTHER_VERSION)));
    }

    private static void mark(DSLContext within, Condition which, boolean undone) {
        within.update(WRITTEN_BESIDE)
                .set(WRITTEN_BESIDE.UNDONE, undone)
                .where(which)
                .execute();
    }

    /** Keeps a message from going out, where it is not too late. */
    private static boolean held(DSLContext within, Wrote wrote) {
        return within.update(MESSAGE)
                        .set(MESSAGE.TAKEN_BACK, true)
                        .setNull(MESSAGE.NEXT_TRY_AT)
                        .where(MESSAGE.ID.eq(wrote.id()))
                        .and(MESSAGE.SENT_AT.isNull())
                        .execute()
                == 1;
    }

    private static void release(DSLContext within, Wrote wrote) {
        within.update(MESSAGE)
                .set(MESSAGE.TAKEN_BACK, false)
                .set(MESSAGE.NEXT_TRY_AT, DSL.currentOffsetDateTime())
                .where(MESSAGE.ID.eq(wrote.id()))
                .and(MESSAGE.TAKEN_BACK)
                .execute();
    }

    /** Undoes a change of a record, or does it again. What another table refuses is told as that table's. */
    private static void turned(DSLContext within, Wrote wrote, boolean again, String by) {
        var table = new Tables(within).find(wrote.table().orElseThrow()).orElseThrow();
        try {
            turn(within, table, wrote, again, by);
        } catch (Stale | LinkedTo | ValuesJson.Inexact e) {
            throw new ChangedBeside(table.definition().title(), row(within, table, wrote.id()));
        } catch (DataAccessException e) {
            throw Refusal.elsewhere(table, e);
        }
    }

    private static void turn(DSLContext within, StoredTable table, Wrote wrote, boolean again, String by) {
        long id = wrote.id();
        var change = within.select(HISTORY.ACTION, HISTORY.BEFORE, HISTORY.AFTER)
                .from(HISTORY)
                .where(HISTORY.TABLE_ID.eq(table.id()))
                .and(HISTORY.RECORD_ID.eq(id))
                .and(HISTORY.VERSION.eq(wrote.version()))
                .fetchOptional()
                .orElseThrow(() -> new Stale(table.id(), Optional.empty()));
        var before = values(table, change.value2());
        var after = values(table, change.value3());
        boolean puts = again == (change.value1() != Action.DELETED);
        if (change.value1() == Action.CHANGED || change.value1() == Action.SETTLED) {
            set(within, table, id, again ? before : after, again ? after : before, by);
        } else if (puts) {
            var _ = History.restore(within, table, id, by).orElseThrow(() -> new Stale(table.id(), Optional.empty()));
        } else {
            remove(within, table, id, again ? before : after, by);
        }
    }

    private static Map<String, Value> values(StoredTable table, JSONB state) {
        return state == null
                ? Map.of()
                : ValuesJson.values(ValuesJson.read(state.data(), table.definition()), table.definition());
    }

    /** Sets what differs between two states, where the record has the first of them there. */
    private static void set(
            DSLContext within, StoredTable table, long id, Map<String, Value> from, Map<String, Value> to, String by) {
        var set = new LinkedHashMap<String, Value>();
        Stream.concat(from.keySet().stream(), to.keySet().stream()).distinct().forEach(column -> {
            var value = to.getOrDefault(column, Value.EMPTY);
            if (!value.equals(from.getOrDefault(column, Value.EMPTY))) {
                set.put(column, value);
            }
        });
        var now = now(within, table, id);
        if (!set.keySet().stream().allMatch(column -> same(now, from, column))) {
            throw new Stale(table.id(), Optional.of(now));
        }
        Records.change(within, table, id, now.version(), set, by);
    }

    /** Removes a record that is as it was. */
    private static void remove(DSLContext within, StoredTable table, long id, Map<String, Value> as, String by) {
        var now = now(within, table, id);
        if (!as.keySet().stream().allMatch(column -> same(now, as, column))) {
            throw new Stale(table.id(), Optional.of(now));
        }
        Records.delete(within, table, id, now.version(), by);
    }

    private static boolean same(StoredRow now, Map<String, Value> state, String column) {
        return Objects.equals(now.of(column), state.getOrDefault(column, Value.EMPTY));
    }

    private static StoredRow now(DSLContext within, StoredTable table, long id) {
        return new Records(within)
                .find(SeenTable.all(table), id)
                .orElseThrow(() -> new Stale(table.id(), Optional.empty()));
    }

    private static long row(DSLContext within, StoredTable table, long id) {
        return within.select(HISTORY.ROW_NO)
                .from(HISTORY)
                .where(HISTORY.TABLE_ID.eq(table.id()))
                .and(HISTORY.RECORD_ID.eq(id))
                .orderBy(HISTORY.ID.desc())
                .limit(1)
                .fetchOptional(HISTORY.ROW_NO)
                .orElse(0L);
    }
}
