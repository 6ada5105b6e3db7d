package weft.store.record;

import static weft.store.schema.Tables.CHANGED_RECORD;
import static weft.store.schema.Tables.CHANGE_SET;
import static weft.store.schema.Tables.HISTORY;

import java.time.Duration;
import java.time.OffsetDateTime;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;
import org.jooq.DSLContext;
import org.jooq.exception.DataAccessException;
import org.jooq.impl.DSL;
import weft.core.record.StoredRow;
import weft.core.value.Value;
import weft.store.table.StoredTable;
import weft.store.table.TableSql;

/** Changes of many records that were made as one, and are taken back as one for as long as nobody has changed them since. */
public final class ChangeSets {

    private final DSLContext sql;

    /** In the database that those queries go to. */
    public ChangeSets(DSLContext sql) {
        this.sql = sql;
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

    /** Keeps, within the change's own transaction, which records it made what of; says its identity. */
    static long keep(DSLContext within, StoredTable table, String by, List<StoredRow> changed) {
        long id = within.insertInto(CHANGE_SET)
                .set(CHANGE_SET.TABLE_ID, table.id())
                .set(CHANGE_SET.BY, by)
                .returning(CHANGE_SET.ID)
                .fetchSingle(CHANGE_SET.ID);
        within.execute(
                "insert into weft.changed_record (change_set_id, record_id, version)"
                        + " select {0}, c.id, c.version from unnest({1}, {2}) as c(id, version)",
                DSL.val(id),
                DSL.val(changed.stream().map(StoredRow::id).toArray(Long[]::new)),
                DSL.val(changed.stream().map(StoredRow::version).toArray(Integer[]::new)));
        return id;
    }

    /**
     * Takes a change back that this person made: each record is again what it was before. Asked for again, it is done.
     *
     * @return how many records were put back, or empty when there is no such change of theirs
     * @throws ChangedSince when some of them were changed since
     * @throws NotSaved when the database's own constraints forbid what was before
     */
    public OptionalInt takeBack(StoredTable table, long id, String by) {
        try {
            return sql.transactionResult(inner -> takeBack(inner.dsl(), table, id, by));
        } catch (DataAccessException e) {
            throw Refusal.of(table, e.getCause()).orElseThrow(() -> e);
        }
    }

    private static OptionalInt takeBack(DSLContext within, StoredTable table, long id, String by) {
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
        for (var record : records) {
            try {
                Records.change(
                        within,
                        table,
                        record.value1(),
                        record.value2(),
                        before(within, table, record.value1(), record.value2()),
                        by);
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

    /** What that version changed, as it was before. */
    private static Map<String, Value> before(DSLContext within, StoredTable table, long record, int version) {
        var change = within.select(HISTORY.BEFORE, HISTORY.AFTER)
                .from(HISTORY)
                .where(HISTORY.TABLE_ID.eq(table.id()))
                .and(HISTORY.RECORD_ID.eq(record))
                .and(HISTORY.VERSION.eq(version))
                .fetchSingle();
        var definition = table.definition();
        var before = ValuesJson.values(ValuesJson.read(change.value1().data(), definition), definition);
        var after = ValuesJson.values(ValuesJson.read(change.value2().data(), definition), definition);
        before.entrySet().removeIf(each -> each.getValue().equals(after.get(each.getKey())));
        return before;
    }

    /** Forgets changes of longer ago than that; they can be taken back no more. */
    public int forget(Duration age) {
        return sql.deleteFrom(CHANGE_SET)
                .where(CHANGE_SET.AT.lt(OffsetDateTime.now().minus(age)))
                .execute();
    }
}
