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
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.exception.DataAccessException;
import org.jooq.impl.DSL;
import org.jooq.impl.SQLDataType;
import org.postgresql.util.PSQLException;
import weft.core.record.StoredRow;
import weft.core.record.StoredRows;
import weft.core.table.Column;
import weft.core.table.Link;
import weft.core.table.Table;
import weft.core.table.Table.Placement;
import weft.core.value.Value;
import weft.store.event.Change;
import weft.store.event.Telling;
import weft.store.record.History.Action;
import weft.store.table.ColumnSql;
import weft.store.table.KnownTables;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;
import weft.store.table.TableSql;
import weft.store.table.Tables;

/** The records of the builder's tables: read, and deleted. {@link EntryWriter} writes them. */
public final class Records {

    private static final StoredTable NO_TABLE =
            new StoredTable(0, new Table("", "", List.of(), Placement.AFTER_LAST), Map.of());

    private final DSLContext sql;

    /** In the database that those queries go to. */
    public Records(DSLContext sql) {
        this.sql = sql;
    }

    /** The row number that the next new entry would get now. */
    public long nextRow(StoredTable table) {
        return nextRows(table, 1).getFirst();
    }

    /** The row numbers that so many new entries would get now, in their order. */
    public List<Long> nextRows(StoredTable table, int many) {
        var rows = new ArrayList<Long>();
        if (table.definition().placement() == Placement.FIRST_FREE) {
            rows.addAll(sql.select(FREE_ROW.ROW_NO)
                    .from(FREE_ROW)
                    .where(FREE_ROW.TABLE_ID.eq(table.id()))
                    .orderBy(FREE_ROW.ROW_NO)
                    .limit(many)
                    .fetch(FREE_ROW.ROW_NO));
        }
        long counter = sql.select(ROW_COUNTER.NEXT_ROW)
                .from(ROW_COUNTER)
                .where(ROW_COUNTER.TABLE_ID.eq(table.id()))
                .fetchSingle(ROW_COUNTER.NEXT_ROW);
        while (rows.size() < many) {
            rows.add(counter++);
        }
        return rows;
    }

    /** The record of that identity, or empty. */
    public Optional<StoredRow> find(SeenTable table, long id) {
        return sql.select(RecordRows.fields(table))
                .from(DSL.table(table.sqlName()))
                .where(TableSql.ID.eq(id))
                .and(table.inView())
                .fetchOptional(row -> RecordRows.of(table, row));
    }

    /** The records that were entered last, the latest first. */
    public List<StoredRow> latest(SeenTable table, int many) {
        return sql.select(RecordRows.fields(table))
                .from(DSL.table(table.sqlName()))
                .where(table.inView())
                .orderBy(TableSql.ID.desc())
                .limit(many)
                .fetch(row -> RecordRows.of(table, row));
    }

    /** The records that link to one by that column, by row. */
    public List<StoredRow> linkingTo(StoredTable table, Column by, long id) {
        return sql.select(RecordRows.fields(table))
                .from(DSL.table(table.sqlName()))
                .where(DSL.field(DSL.name(by.name()), SQLDataType.BIGINT).eq(id))
                .orderBy(TableSql.ROW)
                .fetch(row -> RecordRows.of(table, row));
    }

    /** When a record was entered, and the name of who entered it; empty when there is none of that identity. */
    public Optional<Entered> entered(StoredTable table, long id) {
        return sql.select(TableSql.ENTERED_AT, TableSql.ENTERED_BY)
                .from(DSL.table(table.sqlName()))
                .where(TableSql.ID.eq(id))
                .fetchOptional(row -> new Entered(row.value1(), row.value2()));
    }

    /** When a record was entered, and the name of who entered it. */
    public record Entered(OffsetDateTime at, String by) {}

    /**
     * Changes a record within a transaction of the caller's, who sees to what the database refuses.
     *
     * @param version the version that the change was made on
     * @return the record as it now stands
     * @throws Stale when that version is not the latest
     */
    static StoredRow change(
            DSLContext within, StoredTable table, long id, int version, Map<String, Value> values, String by) {
        var before = latest(within, table, id, version);
        var set = new LinkedHashMap<Object, Object>();
        table.definition().columns().stream()
                .filter(column -> values.containsKey(column.name()))
                .forEach(column -> set.put(
                        ColumnSql.of(column),
                        ColumnSql.bound(column, values.getOrDefault(column.name(), Value.EMPTY))));
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
        tell(
                within,
                table,
                Action.CHANGED,
                by,
                before,
                Map.of(HISTORY.AFTER, JSONB.valueOf(ValuesJson.write(after.values()))));
        return after;
    }

    /**
     * Deletes a record with what belongs to it, and sets its row free. Links to it are emptied, where that is how they are made.
     *
     * @param belonging what is one thing with it
     * @param version the version that the one who deletes it saw
     * @throws Stale when that version is not the latest
     * @throws LinkedTo when others link to it and are not to be emptied
     */
    public void delete(StoredTable table, long id, int version, String by, List<Belonging> belonging) {
        sql.transaction(inner -> delete(inner.dsl(), table, id, version, by, belonging));
    }

    /** The same within a transaction of the caller's. */
    static void delete(
            DSLContext within, StoredTable table, long id, int version, String by, List<Belonging> belonging) {
        try {
            latest(within, table, id, version);
            for (var each : belonging) {
                for (var line : new Records(within).linkingTo(each.table(), each.by(), id)) {
                    delete(within, each.table(), line.id(), line.version(), by);
                }
            }
            delete(within, table, id, version, by);
        } catch (DataAccessException e) {
            // Somebody linked to it in this moment.
            if (!"23503".equals(e.sqlState())) {
                throw e;
            }
            throw table.adopted().isPresent()
                            && e.getCause() instanceof PSQLException cause
                            && cause.getServerErrorMessage() != null
                    ? LinkedTo.elsewhere(cause.getServerErrorMessage().getTable())
                    : LinkedTo.justNow();
        }
    }

    /** The same of a record to which nothing belongs. */
    public void delete(StoredTable table, long id, int version, String by) {
        delete(table, id, version, by, List.of());
    }

    /** The same of such a one within a transaction of the caller's. */
    static void delete(DSLContext within, StoredTable table, long id, int version, String by) {
        var before = latest(within, table, id, version);
        new Tables(within).linkingTo(table).forEach(linking -> letGo(within, linking, id, by));
        var entered = within.deleteFrom(DSL.table(table.sqlName()))
                .where(TableSql.ID.eq(id))
                .returningResult(TableSql.ENTERED_AT.as(HISTORY.ENTERED_AT), TableSql.ENTERED_BY.as(HISTORY.ENTERED_BY))
                .fetchSingle();
        within.insertInto(FREE_ROW, FREE_ROW.TABLE_ID, FREE_ROW.ROW_NO)
                .values(table.id(), before.row())
                .execute();
        tell(within, table, Action.DELETED, by, before, entered.intoMap());
    }

    /** The records that link to one that is to be removed: in its way, or emptied as if by hand. */
    private static void letGo(DSLContext within, Tables.Linking linking, long id, String by) {
        var in = linking.in();
        var links = DSL.table(in.sqlName());
        var here =
                DSL.field(DSL.name(linking.column().name()), SQLDataType.BIGINT).eq(id);
        if (linking.link().removed() == Link.Removed.REFUSE) {
            int many = within.fetchCount(links, here);
            if (many > 0) {
                throw new LinkedTo(in.definition().title(), linking.column().title(), many);
            }
            return;
        }
        within.select(TableSql.ID, TableSql.VERSION)
                .from(links)
                .where(here)
                .orderBy(TableSql.ID)
                .forUpdate()
                .fetch()
                .forEach(row -> change(
                        within,
                        in,
                        row.value1(),
                        row.value2(),
                        Map.of(linking.column().name(), Value.EMPTY),
                        by));
    }

    /**
     * A record that stays as it is while something beside it is written; nobody changes it meanwhile.
     *
     * @throws Stale when it is there no more
     */
    static StoredRow unchanged(DSLContext within, StoredTable table, long id) {
        return within.select(RecordRows.fields(table))
                .from(DSL.table(table.sqlName()))
                .where(TableSql.ID.eq(id))
                .forShare()
                .fetchOptional(row -> RecordRows.of(table, row))
                .orElseThrow(() -> new Stale(table.id(), Optional.empty()));
    }

    private static StoredRow latest(DSLContext within, StoredTable table, long id, int version) {
        var now = within.select(RecordRows.fields(table))
                .from(DSL.table(table.sqlName()))
                .where(TableSql.ID.eq(id))
                .forUpdate()
                .fetchOptional(row -> RecordRows.of(table, row));
        return now.filter(record -> record.version() == version).orElseThrow(() -> new Stale(table.id(), now));
    }

    private static void tell(
            DSLContext within, StoredTable table, Action action, String by, StoredRow before, Map<?, ?> besides) {
        within.insertInto(HISTORY)
                .set(HISTORY.TABLE_ID, table.id())
                .set(HISTORY.RECORD_ID, before.id())
                .set(HISTORY.ROW_NO, before.row())
                .set(HISTORY.VERSION, before.version() + 1)
                .set(HISTORY.ACTION, action)
                .set(HISTORY.BY, by)
                .set(HISTORY.BEFORE, JSONB.valueOf(ValuesJson.write(before.values())))
                .set(besides)
                .execute();
        Telling.tell(within, new Change.OfRecord(table.id(), kind(action), before.id(), before.row()));
    }

    private static Change.Kind kind(Action action) {
        return switch (action) {
            case SAVED, RESTORED -> Change.Kind.SAVED;
            case CHANGED, SETTLED -> Change.Kind.CHANGED;
            case DELETED -> Change.Kind.DELETED;
        };
    }

    /** The records of any table, as that transaction sees them; of no form's own. */
    public static StoredRows anyTable(DSLContext within) {
        var tables = new Tables(within);
        return new LookUp(within, NO_TABLE, SeenTable.all(NO_TABLE), tables::find);
    }

    /** The same for one who may be told of every record. */
    public StoredRows rowsOf(StoredTable table, KnownTables tables) {
        return rowsOf(table, SeenTable.all(table), tables);
    }

    /**
     * What the entry engine may ask of a table's records, and of those of other tables.
     *
     * @param seen what of the table whoever enters may be told of
     * @param tables the other tables
     */
    public StoredRows rowsOf(StoredTable table, SeenTable seen, KnownTables tables) {
        return new LookUp(sql, table, seen, tables);
    }
}
