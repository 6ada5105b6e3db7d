package weft.store.record;

import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import weft.core.table.Table.Placement;
import weft.store.table.ColumnSql;
import weft.store.table.StoredTable;

/**
 * The save of new entries as one statement, for any number of them: it takes the row numbers, writes the records, their
 * history and their keys, and tells everybody. One statement is one trip to the database and one transaction: all of it is
 * kept or none, and the counter's row is locked no longer than it must be.
 *
 * <p>Its parameters are how many entries there are, then arrays with an element for each: the key or null, the hash of
 * the body in hex or null, who enters it, the form that it comes through or null, the values as JSON, then the value of each column in its canonical spelling.
 * It answers with the place of each entry in the arrays from 0, the record's identity and its row number.
 */
final class SaveSql {

    private SaveSql() {}

    static String of(DSLContext sql, StoredTable table) {
        var columns = table.definition().columns();
        // Defaults and triggers of its own may make something else of what is written.
        boolean adopted = table.adopted().isPresent();
        var names = columns.stream()
                .map(column -> ", " + sql.render(DSL.name(column.name())))
                .collect(Collectors.joining());
        var values = IntStream.range(0, columns.size())
                .mapToObj(i -> ", cast(c" + i + " as "
                        + ColumnSql.type(columns.get(i)).getCastTypeName(sql.configuration()) + ")")
                .collect(Collectors.joining());
        var arrays = IntStream.range(0, columns.size()).mapToObj(i -> ", c" + i).collect(Collectors.joining());
        return "with many as (select cast(? as int) as count)"
                + ", entry as (select ordinality - 1 as place, e.* from unnest("
                + "cast(? as text[])" + ", cast(? as text[])".repeat(4 + columns.size())
                + ") with ordinality as e(key, hash, by, form, after" + arrays + ", ordinality))"
                + ", " + numbered(table)
                + ", kept as (insert into " + sql.render(table.sqlName()) + " as written (_row, _version, _entered_by"
                + names
                + ")"
                + " select row_no, 1, by" + values + " from entry join numbered using (place) order by place"
                + " returning _id, _row" + (adopted ? ", to_jsonb(written) as made" : "") + ")"
                + ", placed as (select place, kept.* from kept join numbered on row_no = _row)"
                + ", told as (insert into weft.history (table_id, record_id, row_no, version, action, by, form_id, after)"
                + " select " + table.id() + ", _id, _row, 1, 'saved', by, form, "
                + (adopted ? "weft.values_json(" + table.id() + ", made)" : "cast(after as jsonb)")
                + " from placed join entry using (place) order by place)"
                + ", marked as (insert into weft.idempotency_key (key, table_id, body_hash, record_id, row_no)"
                + " select key, " + table.id() + ", decode(hash, 'hex'), _id, _row"
                + " from placed join entry using (place) where key is not null)"
                + " select place, _id, _row, pg_notify('weft', '" + table.id() + " saved ' || _id || ' ' || _row)"
                + " from placed order by place";
    }

    /** The row number of each place: of freed rows where the table fills those, else of the counter. */
    private static String numbered(StoredTable table) {
        var ofTable = " where table_id = " + table.id();
        return table.definition().placement() == Placement.AFTER_LAST
                ? "counted as (update weft.row_counter set next_row = next_row + (select count from many)" + ofTable
                        + " returning next_row - (select count from many) as first)"
                        + ", numbered as (select place, first + place as row_no from entry, counted)"
                // Taken in a step of its own: a subselect of the delete could be run anew for each row of a join.
                // The counter's row first, as whoever writes to several tables takes it, so that none wait in a circle.
                : "turn as materialized (select table_id from weft.row_counter" + ofTable + " for update)"
                        + ", free as materialized (select row_no from weft.free_row" + ofTable
                        + " and (select count(*) from turn) = 1"
                        + " order by row_no limit (select count from many) for update)"
                        + ", freed as (delete from weft.free_row f using free" + " where f.table_id = " + table.id()
                        + " and f.row_no = free.row_no returning f.row_no)"
                        + ", fresh as (select (select count from many) - (select count(*) from freed) as count)"
                        + ", counted as (update weft.row_counter set next_row = next_row + (select count from fresh)"
                        + ofTable
                        + " returning next_row - (select count from many) as first)"
                        + ", numbered as (select row_number() over (order by row_no) - 1 as place, row_no from freed"
                        + " union all select place, first + place from entry, counted"
                        + " where place >= (select count from many) - (select count from fresh))";
    }
}
