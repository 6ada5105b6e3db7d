package weft.store.record;

import static weft.store.schema.Tables.CHANGED_RECORD;
import static weft.store.schema.Tables.CHANGE_SET;
import static weft.store.schema.Tables.HISTORY;

import java.time.Clock;
import java.time.Duration;
import java.time.OffsetDateTime;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.OptionalInt;
import java.util.Set;
import java.util.function.Predicate;
import org.jooq.DSLContext;
import org.jooq.SQLDialect;
import org.jooq.exception.DataAccessException;
import org.jooq.impl.DSL;
import weft.core.record.StoredRow;
import weft.core.value.Value;
import weft.store.event.Change;
import weft.store.event.Telling;
import weft.store.table.StoredTable;
import weft.store.table.TableSql;
import weft.store.table.Tables;

/** Changes of many records that were made as one, and are taken back as one for as long as nobody has changed them since. */
public final class ChangeSets {

    /** The version of a record that a change did not change but add. */
    private static final int ADDED = 1;

    private final DSLContext sql;
    private final Clock clock;

    /** In the database that those queries go to. */
    public ChangeSets(DSLContext sql, Clock clock) {
        this.sql = sql;
        this.clock = clock;
    }

    /** Some of the records were changed since. Nothing was taken back. */
    public static final class ChangedSince extends RuntimeException {
        private final int records;

        ChangedSince(int records) {
            super("changed since");
            this.records = records;
        }

        /** How many. */
        public int records() {
            return records;
        }
    }

    /** It changed columns that whoever takes it back may not change any more. Nothing was taken back. */
    public static final class NotAllLet extends RuntimeException {
        NotAllLet() {
            super("not all let");
        }
    }

    /** Keeps, within the change's own transaction, which records it made what of; says its identity. */
    static long keep(DSLContext within, StoredTable table, String by, List<StoredRow> changed) {
        long id = made(within, table, by);
        within.execute(
                "insert into weft.changed_record (change_set_id, record_id, version)"
                        + " select {0}, c.id, c.version from unnest({1}, {2}) as c(id, version)",
                DSL.val(id),
                DSL.val(changed.stream().map(StoredRow::id).toArray(Long[]::new)),
                DSL.val(changed.stream().map(StoredRow::version).toArray(Integer[]::new)));
        return id;
    }

    /** The same of those that a query gives, each with its version. */
    public static long keep(DSLContext within, StoredTable table, String by, String query) {
        long id = made(within, table, by);
        within.execute(
                "insert into weft.changed_record (change_set_id, record_id, version) select {0}, c.* from (" + query
                        + ") c",
                DSL.val(id));
        return id;
    }

    private static long made(DSLContext within, StoredTable table, String by) {
        return within.insertInto(CHANGE_SET)
                .set(CHANGE_SET.TABLE_ID, table.id())
                .set(CHANGE_SET.BY, by)
                .returning(CHANGE_SET.ID)
                .fetchSingle(CHANGE_SET.ID);
    }

    /**
     * Takes a change back that this person made: each record is again what it was before, and what it added is removed. Asked for
     * again, it is done.
     *
     * @param let which columns they may change now
     * @return how many records were put back, or empty when there is no such change of theirs
     * @throws NotAllLet when it changed others
     * @throws ChangedSince when some of them were changed since
     * @throws LinkedTo when others link to what it added
     * @throws NotSaved when the database's own constraints forbid what was before
     */
    public OptionalInt takeBack(StoredTable table, long id, String by, Predicate<Set<String>> let) {
        try {
            return sql.transactionResult(inner -> takeBack(inner.dsl(), table, id, by, let));
        } catch (DataAccessException e) {
            throw Refusal.told(table, e);
        }
    }

    private static OptionalInt takeBack(
            DSLContext within, StoredTable table, long id, String by, Predicate<Set<String>> let) {
        var made = within.selectFrom(CHANGE_SET)
                .where(CHANGE_SET.ID.eq(id))
                .and(CHANGE_SET.TABLE_ID.eq(table.id()))
                .and(CHANGE_SET.BY.eq(by))
                .forUpdate()
                .fetchOptional();
        if (made.isEmpty()) {
            return OptionalInt.empty();
        }
        var records = within.select(CHANGED_RECORD.RECORD_ID, CHANGED_RECORD.VERSION)
                .from(CHANGED_RECORD)
                .where(CHANGED_RECORD.CHANGE_SET_ID.eq(id))
                .orderBy(CHANGED_RECORD.RECORD_ID)
                .fetch();
        if (made.get().get(CHANGE_SET.TAKEN_BACK)) {
            return OptionalInt.of(records.size());
        }
        int same = within.fetchCount(DSL.selectOne()
                .from(CHANGED_RECORD)
                .join(DSL.table(table.sqlName()))
                .on(TableSql.ID.eq(CHANGED_RECORD.RECORD_ID))
                .and(TableSql.VERSION.eq(CHANGED_RECORD.VERSION))
                .where(CHANGED_RECORD.CHANGE_SET_ID.eq(id)));
        if (same < records.size()) {
            throw new ChangedSince(records.size() - same);
        }
        remove(within, table, id, by);
        for (var record : records) {
            if (record.value2() == ADDED) {
                continue;
            }
            var before = before(within, table, record.value1(), record.value2());
            if (!let.test(before.keySet())) {
                throw new NotAllLet();
            }
            try {
                Records.change(within, table, record.value1(), record.value2(), before, by);
            } catch (Stale changed) {
                throw new ChangedSince(1);
            }
        }
        within.update(CHANGE_SET)
                .set(CHANGE_SET.TAKEN_BACK, true)
                .where(CHANGE_SET.ID.eq(id))
                .execute();
        return OptionalInt.of(records.size());
    }

    /** Removes what the change added, all at once. */
    private static void remove(DSLContext within, StoredTable table, long id, String by) {
        var name = DSL.using(SQLDialect.POSTGRES).render(table.sqlName());
        var added = " join weft.changed_record c on c.change_set_id = " + id + " and c.version = " + ADDED;
        for (var linking : new Tables(within).linkingTo(table)) {
            int many = within.fetchSingle(
                            "select count(*) from {0} l" + added + " and c.record_id = l.{1}"
                                    + (linking.in().id() == table.id()
                                            ? " where l._id not in (select record_id from weft.changed_record where change_set_id = "
                                                    + id + ")"
                                            : ""),
                            DSL.table(linking.in().sqlName()),
                            DSL.name(linking.column().name()))
                    .get(0, Integer.class);
            if (many > 0) {
                throw new LinkedTo(
                        linking.in().definition().title(), linking.column().title(), many);
            }
        }
        int kept = within.execute(
                "insert into weft.history (table_id, record_id, row_no, version, action, by, before, entered_at, entered_by)"
                        + " select " + table.id() + ", t._id, t._row, t._version + 1, 'deleted', {0}, weft.values_json("
                        + table.id()
                        + ", to_jsonb(t)), t._entered_at, t._entered_by from " + name + " t" + added
                        + " and c.record_id = t._id",
                DSL.val(by));
        if (kept == 0) {
            return;
        }
        within.execute("insert into weft.free_row (table_id, row_no) select " + table.id() + ", t._row from " + name
                + " t" + added + " and c.record_id = t._id");
        within.execute("delete from " + name + " t using weft.changed_record c where c.change_set_id = " + id
                + " and c.version = " + ADDED + " and c.record_id = t._id");
        Telling.tell(within, new Change.OfRecords(table.id()));
    }

    /** What that version changed, as it was before. */
    private static Map<String, Value> before(DSLContext within, StoredTable table, long record, int version) {
        var change = within.select(HISTORY.BEFORE, HISTORY.AFTER)
                .from(HISTORY)
                .where(HISTORY.TABLE_ID.eq(table.id()))
                .and(HISTORY.RECORD_ID.eq(record))
                .and(HISTORY.VERSION.eq(version))
                .fetchSingle();
        var definition = table.definition();
        var before = new LinkedHashMap<>(ValuesJson.read(change.value1().data(), definition));
        var after = ValuesJson.read(change.value2().data(), definition);
        before.entrySet().removeIf(each -> Objects.equals(each.getValue(), after.get(each.getKey())));
        return ValuesJson.values(before, definition);
    }

    /** Forgets changes of longer ago than that; they can be taken back no more. */
    public int forget(Duration age) {
        return sql.deleteFrom(CHANGE_SET)
                .where(CHANGE_SET.AT.lt(OffsetDateTime.now(clock).minus(age)))
                .execute();
    }
}
