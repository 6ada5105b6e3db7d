package weft.store.record;

import static weft.store.schema.Tables.FREE_ROW;
import static weft.store.schema.Tables.HISTORY;
import static weft.store.schema.Tables.ROW_COUNTER;

import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.JSONB;
import org.jooq.Record;
import org.jooq.exception.DataAccessException;
import org.jooq.impl.DSL;
import org.jooq.impl.SQLDataType;
import weft.core.record.StoredRow;
import weft.core.table.Table.Placement;
import weft.core.value.Value;
import weft.store.event.Change;
import weft.store.event.Telling;
import weft.store.table.ColumnSql;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;
import weft.store.table.TableSql;

/** What became of records: every change of each, those removed, and how they are put back. */
public final class History {

    private final DSLContext sql;

    /** In the database that those queries go to. */
    public History(DSLContext sql) {
        this.sql = sql;
    }

    /** What was done to a record. */
    public enum Action {
        SAVED,
        CHANGED,
        /** Its second keying was ended. */
        SETTLED,
        DELETED,
        RESTORED
    }

    /**
     * One change of a record.
     *
     * @param version the record's version after it
     * @param before its values before it; empty for a new one
     * @param after its values after it; empty for a deleted one
     */
    public record Entry(
            OffsetDateTime at,
            String by,
            Action action,
            int version,
            Optional<Map<String, Object>> before,
            Optional<Map<String, Object>> after) {

        /** The same of other states. */
        public Entry of(Optional<Map<String, Object>> earlier, Optional<Map<String, Object>> later) {
            return new Entry(at, by, action, version, earlier, later);
        }
    }

    /** A change of a line, in the row that it has or had. */
    public record OfLine(long row, Entry change) {}

    /** The latest changes of the records that belong to one, or did when they were deleted, the latest first. */
    public List<OfLine> ofLines(Belonging belonging, long id, int most) {
        var table = belonging.table();
        var linked = DSL.field(
                "({0} -> {1} ->> 'id')::bigint",
                Long.class, HISTORY.BEFORE, DSL.val(belonging.by().name()));
        var deleted = sql.select(HISTORY.RECORD_ID)
                .from(HISTORY)
                .where(HISTORY.TABLE_ID.eq(table.id()))
                .and(HISTORY.ACTION.eq(DSL.inline(Action.DELETED)))
                .and(linked.eq(id))
                .fetch(HISTORY.RECORD_ID);
        var lines = new ArrayList<>(deleted);
        new Records(sql).linkingTo(table, belonging.by(), id).forEach(line -> lines.add(line.id()));
        return sql.selectFrom(HISTORY)
                .where(HISTORY.TABLE_ID.eq(table.id()))
                .and(HISTORY.RECORD_ID.in(lines))
                .orderBy(HISTORY.ID.desc())
                .limit(most)
                .fetch(row -> new OfLine(row.get(HISTORY.ROW_NO), entry(table, row)));
    }

    /**
     * A record that was deleted and not put back.
     *
     * @param place leads on through the list, which goes from the latest to the earliest
     * @param row the row it had
     */
    public record Removed(long place, long id, long row, OffsetDateTime at, String by, Map<String, Object> values) {}

    /** Every change of a record, the latest first. What was brought in with a file begins with its bringing in. */
    public List<Entry> of(SeenTable table, long id) {
        var entries = whole(table.stored(), id);
        return table.whole() || entries.isEmpty() ? entries : seen(table, id, entries);
    }

    /** Of each state no more than is to be seen: those that were in view, and of them the columns that are. */
    private List<Entry> seen(SeenTable table, long id, List<Entry> entries) {
        var inView = new InView(sql, table);
        var by = entries.getLast().by();
        return entries.stream()
                .map(entry -> new Entry(
                        entry.at(),
                        entry.by(),
                        entry.action(),
                        entry.version(),
                        entry.before()
                                .filter(state -> inView.was(state, id, by))
                                .map(state -> columns(table, state)),
                        entry.after().filter(state -> inView.was(state, id, by)).map(state -> columns(table, state))))
                .filter(entry -> entry.before().isPresent() || entry.after().isPresent())
                .toList();
    }

    private static Map<String, Object> columns(SeenTable table, Map<String, Object> state) {
        var given = new LinkedHashMap<>(state);
        given.keySet()
                .retainAll(table.definition().columns().stream()
                        .map(column -> column.name())
                        .toList());
        return given;
    }

    private static Entry entry(StoredTable table, Record row) {
        return new Entry(
                row.get(HISTORY.AT),
                row.get(HISTORY.BY),
                row.get(HISTORY.ACTION),
                row.get(HISTORY.VERSION),
                values(table, row.get(HISTORY.BEFORE)),
                values(table, row.get(HISTORY.AFTER)));
    }

    private List<Entry> whole(StoredTable table, long id) {
        var entries = new ArrayList<>(sql.selectFrom(HISTORY)
                .where(HISTORY.TABLE_ID.eq(table.id()))
                .and(HISTORY.RECORD_ID.eq(id))
                .orderBy(HISTORY.ID.desc())
                .fetch(row -> entry(table, row)));
        if (entries.isEmpty() || entries.getLast().version() > 1) {
            entered(
                            table,
                            id,
                            entries.isEmpty()
                                    ? Optional.empty()
                                    : entries.getLast().before())
                    .ifPresent(entries::add);
        }
        return entries;
    }

    /** When it was entered and by whom, with the first values it is known to have had; of one that was removed as well. */
    private Optional<Entry> entered(StoredTable table, long id, Optional<Map<String, Object>> first) {
        return sql.select(RecordRows.fields(table))
                .select(TableSql.ENTERED_AT, TableSql.ENTERED_BY)
                .from(DSL.table(table.sqlName()))
                .where(TableSql.ID.eq(id))
                .fetchOptional(row -> entered(
                        row.get(TableSql.ENTERED_AT),
                        row.get(TableSql.ENTERED_BY),
                        first.orElseGet(
                                () -> ValuesJson.of(RecordRows.of(table, row).values()))))
                .or(() -> first.flatMap(values -> sql.select(HISTORY.ENTERED_AT, HISTORY.ENTERED_BY)
                        .from(HISTORY)
                        .where(HISTORY.TABLE_ID.eq(table.id()))
                        .and(HISTORY.RECORD_ID.eq(id))
                        .and(HISTORY.ENTERED_AT.isNotNull())
                        .orderBy(HISTORY.ID.desc())
                        .limit(1)
                        .fetchOptional(row -> entered(row.value1(), row.value2(), values))));
    }

    private static Entry entered(OffsetDateTime at, String by, Map<String, Object> values) {
        return new Entry(at, by, Action.SAVED, 1, Optional.empty(), Optional.of(values));
    }

    private static Optional<Map<String, Object>> values(StoredTable table, JSONB json) {
        return Optional.ofNullable(json).map(each -> ValuesJson.read(each.data(), table.definition()));
    }

    /**
     * Records that were deleted and not put back, the latest first.
     *
     * @param since those of before then are left out
     * @param before the place after which the page begins; empty for the latest
     */
    public List<Removed> removed(SeenTable table, Optional<OffsetDateTime> since, OptionalLong before, int limit) {
        if (table.whole()) {
            return whole(table.stored(), since, before, limit);
        }
        var inView = new InView(sql, table);
        var seen = new ArrayList<Removed>();
        var from = before;
        List<Removed> page;
        do {
            page = whole(table.stored(), since, from, limit);
            page.stream()
                    .filter(removed -> inView.was(
                            removed.values(),
                            removed.id(),
                            whole(table.stored(), removed.id()).getLast().by()))
                    .limit(limit - seen.size())
                    .map(removed -> new Removed(
                            removed.place(),
                            removed.id(),
                            removed.row(),
                            removed.at(),
                            removed.by(),
                            columns(table, removed.values())))
                    .forEach(seen::add);
            from = page.isEmpty() ? from : OptionalLong.of(page.getLast().place());
        } while (seen.size() < limit && page.size() == limit);
        return seen;
    }

    /** Of the history, what tells of the records of a table that were deleted and not put back. */
    public static Condition removed(StoredTable table) {
        var later = HISTORY.as("later");
        return HISTORY.TABLE_ID
                .eq(table.id())
                .and(HISTORY.ACTION.eq(DSL.inline(Action.DELETED)))
                .andNotExists(DSL.selectOne()
                        .from(later)
                        .where(later.TABLE_ID.eq(HISTORY.TABLE_ID))
                        .and(later.RECORD_ID.eq(HISTORY.RECORD_ID))
                        .and(later.ID.gt(HISTORY.ID)));
    }

    private List<Removed> whole(StoredTable table, Optional<OffsetDateTime> since, OptionalLong before, int limit) {
        return sql.select(HISTORY.ID, HISTORY.RECORD_ID, HISTORY.ROW_NO, HISTORY.AT, HISTORY.BY, HISTORY.BEFORE)
                .from(HISTORY)
                .where(removed(table))
                .and(since.map(HISTORY.AT::ge).orElseGet(DSL::noCondition))
                .and(before.isPresent() ? HISTORY.ID.lt(before.getAsLong()) : DSL.noCondition())
                .orderBy(HISTORY.ID.desc())
                .limit(limit)
                .fetch(row -> new Removed(
                        row.value1(),
                        row.value2(),
                        row.value3(),
                        row.value4(),
                        row.value5(),
                        ValuesJson.read(row.value6().data(), table.definition())));
    }

    /** The values that a record had in that version, or empty when it never had it. */
    public Optional<Map<String, Value>> values(SeenTable table, long id, int version) {
        return of(table, id).stream()
                .filter(entry -> entry.version() == version)
                .findFirst()
                .flatMap(Entry::after)
                .map(values -> ValuesJson.values(values, table.definition()));
    }

    /**
     * Puts a deleted record back, with what was deleted with it because it belongs to it: into its old row if that is still
     * free, else into the next free row.
     *
     * @param belonging what is one thing with it
     * @return the record, or empty when it is not among the removed
     * @throws NotSaved when the database's own constraints forbid it
     */
    public Optional<StoredRow> restore(SeenTable table, long id, String by, List<Belonging> belonging) {
        try {
            return !table.whole() && of(table, id).isEmpty()
                    ? Optional.empty()
                    : sql.transactionResult(inner -> {
                        var back = restore(inner.dsl(), table.stored(), id, by, belonging);
                        Beside.letGo(inner.dsl(), table.stored(), id);
                        return back;
                    });
        } catch (DataAccessException e) {
            throw Refusal.told(table.stored(), e);
        }
    }

    /** The same of a record to which nothing belongs. */
    public Optional<StoredRow> restore(SeenTable table, long id, String by) {
        return restore(table, id, by, List.of());
    }

    /** The same within a transaction of the caller's. */
    static Optional<StoredRow> restore(
            DSLContext within, StoredTable table, long id, String by, List<Belonging> belonging) {
        var lines = belonging.stream()
                .map(each -> deletedWith(within, each, table, id))
                .toList();
        var back = restore(within, table, id, by);
        if (back.isPresent()) {
            for (int at = 0; at < lines.size(); at++) {
                for (var line : lines.get(at)) {
                    restore(within, belonging.get(at).table(), line, by);
                }
            }
        }
        return back;
    }

    /** The records that were deleted in the same moment as that one, and linked to it. */
    private static List<Long> deletedWith(DSLContext within, Belonging belonging, StoredTable table, long id) {
        var together = HISTORY.as("together");
        var last = DSL.select(together.AT)
                .from(together)
                .where(together.TABLE_ID.eq(table.id()))
                .and(together.RECORD_ID.eq(id))
                .and(together.ACTION.eq(Action.DELETED))
                .orderBy(together.ID.desc())
                .limit(1);
        return within
                .select(HISTORY.RECORD_ID, HISTORY.BEFORE)
                .from(HISTORY)
                .where(HISTORY.TABLE_ID.eq(belonging.table().id()))
                .and(HISTORY.ACTION.eq(Action.DELETED))
                .and(HISTORY.AT.eq(last))
                .orderBy(HISTORY.ID)
                .fetch()
                .stream()
                .filter(row -> values(belonging.table(), row.value2())
                        .map(before ->
                                ValuesJson.linked(before.get(belonging.by().name())))
                        .filter(link -> link.isPresent() && link.getAsLong() == id)
                        .isPresent())
                .map(row -> row.value1())
                .toList();
    }

    /** Whether the last that was done to a record was that, on that version of it: the same request may well come twice. */
    public boolean last(SeenTable table, long id, Action action, int version) {
        var entries = of(table, id);
        return !entries.isEmpty()
                && entries.getFirst().action() == action
                && entries.getFirst().version() == version;
    }

    /** Whether a record is among those to be seen, or was before the last that was done to it. */
    public boolean lastSeen(SeenTable table, long id) {
        var entries = whole(table.stored(), id);
        if (entries.isEmpty()) {
            return false;
        }
        var inView = new InView(sql, table);
        var by = entries.getLast().by();
        return Stream.of(entries.getFirst().after(), entries.getFirst().before())
                .flatMap(Optional::stream)
                .anyMatch(state -> inView.was(state, id, by));
    }

    /** The same, done by that name. */
    public boolean lastBy(SeenTable table, long id, Action action, int version, String by) {
        return last(table, id, action, version) && of(table, id).getFirst().by().equals(by);
    }

    /** Keeps that a record was settled as it stands: both keyings of its paper say the same, or the first one holds. */
    public static void settled(DSLContext within, StoredTable table, StoredRow record, String by) {
        var values = JSONB.valueOf(ValuesJson.write(record.values()));
        within.insertInto(HISTORY)
                .set(HISTORY.TABLE_ID, table.id())
                .set(HISTORY.RECORD_ID, record.id())
                .set(HISTORY.ROW_NO, record.row())
                .set(HISTORY.VERSION, record.version())
                .set(HISTORY.ACTION, Action.SETTLED)
                .set(HISTORY.BY, by)
                .set(HISTORY.BEFORE, values)
                .set(HISTORY.AFTER, values)
                .execute();
        Telling.tell(within, new Change.OfRecord(table.id(), Change.Kind.CHANGED, record.id(), record.row()));
    }

    /** Keeps of the change that was just made of a record that it settled it. */
    public static void settledBy(DSLContext within, StoredTable table, StoredRow record) {
        within.update(HISTORY)
                .set(HISTORY.ACTION, Action.SETTLED)
                .where(HISTORY.TABLE_ID.eq(table.id()))
                .and(HISTORY.RECORD_ID.eq(record.id()))
                .and(HISTORY.VERSION.eq(record.version()))
                .and(HISTORY.ACTION.eq(Action.CHANGED))
                .execute();
    }

    static Optional<StoredRow> restore(DSLContext within, StoredTable table, long id, String by) {
        // Whoever puts it back at the same time waits here, and then finds it put back.
        within.fetch("select pg_advisory_xact_lock({0})", DSL.val(table.id() * 31 + id));
        var entries = new History(within).whole(table, id);
        if (entries.isEmpty() || entries.getFirst().action() != Action.DELETED) {
            return Optional.empty();
        }
        var deleted = entries.getFirst();
        var first = entries.getLast();
        var values = ValuesJson.values(deleted.before().orElseThrow(), table.definition());
        long row = rowFor(within, table, id);
        int version = deleted.version() + 1;
        var set = new LinkedHashMap<Field<?>, Object>();
        set.put(TableSql.ID, id);
        set.put(TableSql.ROW, row);
        set.put(TableSql.VERSION, version);
        set.put(TableSql.ENTERED_AT, first.at());
        set.put(TableSql.ENTERED_BY, first.by());
        entries.stream()
                .filter(entry -> entry.action() == Action.CHANGED)
                .findFirst()
                .ifPresent(last -> {
                    set.put(DSL.field(DSL.name("_changed_at"), SQLDataType.TIMESTAMPWITHTIMEZONE), last.at());
                    set.put(DSL.field(DSL.name("_changed_by"), SQLDataType.VARCHAR), last.by());
                });
        table.definition().columns().stream()
                .filter(column -> values.containsKey(column.name()))
                .forEach(column -> set.put(
                        ColumnSql.of(column),
                        ColumnSql.bound(column, values.getOrDefault(column.name(), Value.EMPTY))));
        within.insertInto(DSL.table(table.sqlName())).set(set).execute();
        var after = within.select(RecordRows.fields(table))
                .from(DSL.table(table.sqlName()))
                .where(TableSql.ID.eq(id))
                .fetchSingle(found -> RecordRows.of(table, found));
        within.insertInto(HISTORY)
                .set(HISTORY.TABLE_ID, table.id())
                .set(HISTORY.RECORD_ID, id)
                .set(HISTORY.ROW_NO, row)
                .set(HISTORY.VERSION, version)
                .set(HISTORY.ACTION, Action.RESTORED)
                .set(HISTORY.BY, by)
                .set(HISTORY.AFTER, JSONB.valueOf(ValuesJson.write(after.values())))
                .execute();
        Telling.tell(within, new Change.OfRecord(table.id(), Change.Kind.SAVED, id, row));
        return Optional.of(after);
    }

    private static long rowFor(DSLContext within, StoredTable table, long id) {
        var old = within.select(HISTORY.ROW_NO)
                .from(HISTORY)
                .where(HISTORY.TABLE_ID.eq(table.id()))
                .and(HISTORY.RECORD_ID.eq(id))
                .orderBy(HISTORY.ID.desc())
                .limit(1)
                .fetchSingle(HISTORY.ROW_NO);
        var lowest = DSL.select(DSL.min(FREE_ROW.ROW_NO)).from(FREE_ROW).where(FREE_ROW.TABLE_ID.eq(table.id()));
        return taken(within, table, DSL.val(old))
                .or(() -> table.definition().placement() == Placement.FIRST_FREE
                        ? taken(within, table, DSL.field(lowest))
                        : Optional.empty())
                .orElseGet(() -> within.update(ROW_COUNTER)
                        .set(ROW_COUNTER.NEXT_ROW, ROW_COUNTER.NEXT_ROW.plus(1))
                        .where(ROW_COUNTER.TABLE_ID.eq(table.id()))
                        .returningResult(ROW_COUNTER.NEXT_ROW.minus(1))
                        .fetchSingle()
                        .value1());
    }

    private static Optional<Long> taken(DSLContext within, StoredTable table, Field<Long> row) {
        return within.deleteFrom(FREE_ROW)
                .where(FREE_ROW.TABLE_ID.eq(table.id()))
                .and(FREE_ROW.ROW_NO.eq(row))
                .returningResult(FREE_ROW.ROW_NO)
                .fetchOptional(FREE_ROW.ROW_NO);
    }
}
