package weft.store.record;

import static weft.store.schema.Tables.FREE_ROW;
import static weft.store.schema.Tables.HISTORY;
import static weft.store.schema.Tables.IDEMPOTENCY_KEY;
import static weft.store.schema.Tables.ROW_COUNTER;

import java.sql.SQLException;
import java.time.Duration;
import java.time.OffsetDateTime;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.exception.DataAccessException;
import org.jooq.impl.DSL;
import weft.core.entry.StoredRows;
import weft.core.table.Table.Placement;
import weft.core.value.Value;
import weft.store.Database;
import weft.store.TableChanged;
import weft.store.event.Changes;
import weft.store.table.ColumnSql;
import weft.store.table.StoredTable;
import weft.store.table.TableSql;

/** The records of the builder's tables. */
public final class Records {

    private final DSLContext sql;
    private final Saves saves;

    public Records(Database database) {
        this.sql = database.sql();
        this.saves = new Saves(database);
    }

    /**
     * Writes a new entry to the next free row. The row number, the record, its history and its key are kept together or
     * not at all. Under a key that was used for the same entry before, nothing is written and the first answer comes back.
     *
     * @param values a value per column name; a column left out stays empty
     * @param by who enters it
     * @throws NotSaved when the database's own constraints forbid it, or the key was used for something else
     */
    public StoredRecord save(StoredTable table, Map<String, Value> values, Optional<SaveKey> key, String by) {
        try {
            return saves.save(table, values, key, by);
        } catch (SQLException e) {
            // Whatever it was that failed, a save done before under this key is the answer.
            return key.flatMap(each -> savedBefore(table, each))
                    .orElseThrow(() -> Refusal.of(table, e)
                            .<RuntimeException>map(Function.identity())
                            .orElseGet(() -> TableChanged.or(e, new DataAccessException("save", e))));
        }
    }

    /**
     * The first answer to the save of that key, or empty when there was none.
     *
     * @throws NotSaved when the key was used for something else
     */
    public Optional<StoredRecord> savedBefore(StoredTable table, SaveKey key) {
        return sql.select(IDEMPOTENCY_KEY.BODY_HASH, IDEMPOTENCY_KEY.RECORD_ID, IDEMPOTENCY_KEY.ROW_NO, HISTORY.AFTER)
                .from(IDEMPOTENCY_KEY)
                .join(HISTORY)
                .on(HISTORY.TABLE_ID.eq(IDEMPOTENCY_KEY.TABLE_ID))
                .and(HISTORY.RECORD_ID.eq(IDEMPOTENCY_KEY.RECORD_ID))
                .and(HISTORY.VERSION.eq(1))
                .where(IDEMPOTENCY_KEY.TABLE_ID.eq(table.id()))
                .and(IDEMPOTENCY_KEY.KEY.eq(key.key()))
                .fetchOptional(row -> {
                    if (!Arrays.equals(row.value1(), key.bodyHash())) {
                        throw new NotSaved(NotSaved.Reason.KEY_REUSED, Optional.empty());
                    }
                    return new StoredRecord(
                            row.value2(),
                            row.value3(),
                            1,
                            ValuesJson.read(row.value4().data(), table.definition()));
                });
    }

    /** The row number that the next new entry would get now. */
    public long nextRow(StoredTable table) {
        var counter = sql.select(ROW_COUNTER.NEXT_ROW)
                .from(ROW_COUNTER)
                .where(ROW_COUNTER.TABLE_ID.eq(table.id()))
                .fetchSingle(ROW_COUNTER.NEXT_ROW);
        if (table.definition().placement() == Placement.AFTER_LAST) {
            return counter;
        }
        var freed = sql.select(DSL.min(FREE_ROW.ROW_NO))
                .from(FREE_ROW)
                .where(FREE_ROW.TABLE_ID.eq(table.id()))
                .fetchSingle()
                .value1();
        return freed == null ? counter : freed;
    }

    /** The record of that identity, or empty. */
    public Optional<StoredRecord> find(StoredTable table, long id) {
        return sql.select(RecordRows.fields(table))
                .from(DSL.table(table.sqlName()))
                .where(TableSql.ID.eq(id))
                .fetchOptional(row -> RecordRows.of(table, row));
    }

    /**
     * Changes a record.
     *
     * @param version the version that the change was made on
     * @return the record as it now stands
     * @throws Stale when that version is not the latest
     * @throws NotSaved when the database's own constraints forbid it
     */
    public StoredRecord change(StoredTable table, long id, int version, Map<String, Value> values, String by) {
        try {
            return sql.transactionResult(inner -> change(inner.dsl(), table, id, version, values, by));
        } catch (DataAccessException e) {
            throw Refusal.of(table, e.getCause()).orElseThrow(() -> e);
        }
    }

    /** The same within a transaction of the caller's, who sees to what the database refuses. */
    static StoredRecord change(
            DSLContext within, StoredTable table, long id, int version, Map<String, Value> values, String by) {
        var before = latest(within, table, id, version);
        var set = new LinkedHashMap<Object, Object>();
        table.definition().columns().stream()
                .filter(column -> values.containsKey(column.name()))
                .forEach(column -> set.put(ColumnSql.of(column), ColumnSql.bound(column, values.get(column.name()))));
        set.put(TableSql.VERSION, version + 1);
        set.put(DSL.field(DSL.name("_changed_at")), DSL.currentOffsetDateTime());
        set.put(DSL.field(DSL.name("_changed_by")), by);
        within.update(DSL.table(table.sqlName()))
                .set(set)
                .where(TableSql.ID.eq(id))
                .execute();
        var after = within.select(RecordRows.fields(table))
                .from(DSL.table(table.sqlName()))
                .where(TableSql.ID.eq(id))
                .fetchSingle(row -> RecordRows.of(table, row));
        tell(within, table, "changed", by, before, Optional.of(after));
        return after;
    }

    /**
     * Deletes a record and sets its row free.
     *
     * @param version the version that the one who deletes it saw
     * @throws Stale when that version is not the latest
     */
    public void delete(StoredTable table, long id, int version, String by) {
        sql.transaction(inner -> {
            var before = latest(inner.dsl(), table, id, version);
            inner.dsl()
                    .deleteFrom(DSL.table(table.sqlName()))
                    .where(TableSql.ID.eq(id))
                    .execute();
            inner.dsl()
                    .insertInto(FREE_ROW, FREE_ROW.TABLE_ID, FREE_ROW.ROW_NO)
                    .values(table.id(), before.row())
                    .execute();
            tell(inner.dsl(), table, "deleted", by, before, Optional.empty());
        });
    }

    private static StoredRecord latest(DSLContext within, StoredTable table, long id, int version) {
        var now = within.select(RecordRows.fields(table))
                .from(DSL.table(table.sqlName()))
                .where(TableSql.ID.eq(id))
                .forUpdate()
                .fetchOptional(row -> RecordRows.of(table, row));
        return now.filter(record -> record.version() == version).orElseThrow(() -> new Stale(table.id(), now));
    }

    private static void tell(
            DSLContext within,
            StoredTable table,
            String action,
            String by,
            StoredRecord before,
            Optional<StoredRecord> after) {
        within.insertInto(HISTORY)
                .set(HISTORY.TABLE_ID, table.id())
                .set(HISTORY.RECORD_ID, before.id())
                .set(HISTORY.ROW_NO, before.row())
                .set(HISTORY.VERSION, before.version() + 1)
                .set(HISTORY.ACTION, action)
                .set(HISTORY.BY, by)
                .set(HISTORY.BEFORE, JSONB.valueOf(ValuesJson.write(before.values())))
                .set(
                        HISTORY.AFTER,
                        after.map(record -> JSONB.valueOf(ValuesJson.write(record.values())))
                                .orElse(null))
                .execute();
        Changes.recordChanged(within, table, action, before.id(), before.row());
    }

    /** Forgets keys of saves longer ago than that; a save sent again after it is a new one. */
    public int forgetKeys(Duration age) {
        return sql.deleteFrom(IDEMPOTENCY_KEY)
                .where(IDEMPOTENCY_KEY.AT.lt(OffsetDateTime.now().minus(age)))
                .execute();
    }

    /**
     * What the entry engine may ask of a table's records, and of those of other tables.
     *
     * @param tables the other tables
     */
    public StoredRows rowsOf(StoredTable table, Function<String, Optional<StoredTable>> tables) {
        return new LookUp(sql, table, tables);
    }
}
