package weft.store.record;

import static org.jooq.impl.DSL.cast;
import static org.jooq.impl.DSL.val;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntFunction;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jooq.DSLContext;
import org.jooq.QueryPart;
import org.jooq.Record;
import org.jooq.ResultQuery;
import org.jooq.impl.DSL;
import org.jooq.impl.SQLDataType;
import weft.core.table.Column;
import weft.core.table.Table.Placement;
import weft.core.value.Value;
import weft.store.event.Changes;
import weft.store.table.ColumnSql;
import weft.store.table.StoredTable;

/**
 * The save of a new entry as one statement: it takes the row number, writes the record, its history and its key, and
 * tells everybody. One statement is one trip to the database and, on its own, one transaction: all of it is kept or
 * none, and the counter's row is locked no longer than it must be.
 */
final class SaveSql {

    private SaveSql() {}

    static ResultQuery<Record> of(
            DSLContext sql,
            StoredTable table,
            List<Column> columns,
            Map<String, Value> values,
            Optional<SaveKey> key,
            String by) {
        var parts = new ArrayList<QueryPart>();
        parts.add(val(table.id()));
        parts.add(DSL.table(table.sqlName()));
        parts.add(val(by));
        parts.add(cast(val(ValuesJson.write(ValuesJson.of(values))), SQLDataType.JSONB));
        parts.add(val(Changes.payload(table)));
        key.ifPresent(each -> {
            parts.add(val(each.key()));
            parts.add(val(each.bodyHash()));
        });
        int first = parts.size();
        for (var column : columns) {
            parts.add(DSL.name(column.name()));
            parts.add(cast(val(ColumnSql.jdbc(values.get(column.name()))), ColumnSql.type(column)));
        }
        return sql.resultQuery(
                text(table.definition().placement(), columns.size(), first, key.isPresent()),
                parts.toArray(QueryPart[]::new));
    }

    private static String text(Placement placement, int columns, int first, boolean keyed) {
        return "with " + numbered(placement)
                + ", kept as (insert into {1} (_row, _version, _entered_by"
                + each(columns, place -> ", {" + (first + 2 * place) + "}")
                + ") select number, 1, {2}"
                + each(columns, place -> ", {" + (first + 2 * place + 1) + "}")
                + " from numbered returning _id, _row)"
                + ", told as (insert into weft.history (table_id, record_id, row_no, version, action, by, after)"
                + " select {0}, _id, _row, 1, 'saved', {2}, {3} from kept)"
                + (keyed
                        ? ", marked as (insert into weft.idempotency_key (key, table_id, body_hash, record_id, row_no)"
                                + " select {5}, {0}, {6}, _id, _row from kept)"
                        : "")
                + " select _id, _row, pg_notify('weft', {4} || ' saved ' || _id || ' ' || _row) from kept";
    }

    /** The row number: of a freed row where the table fills those, else of the counter. */
    private static String numbered(Placement placement) {
        return switch (placement) {
            case AFTER_LAST ->
                "numbered as (update weft.row_counter set next_row = next_row + 1 where table_id = {0}"
                        + " returning next_row - 1 as number)";
            case FIRST_FREE ->
                "freed as (delete from weft.free_row where table_id = {0} and row_no = (select row_no from weft.free_row"
                        + " where table_id = {0} order by row_no limit 1 for update) returning row_no as number)"
                        + ", counted as (update weft.row_counter set next_row = next_row + 1 where table_id = {0}"
                        + " and not exists (select from freed) returning next_row - 1 as number)"
                        + ", numbered as (select number from freed union all select number from counted)";
        };
    }

    private static String each(int columns, IntFunction<String> part) {
        return IntStream.range(0, columns).mapToObj(part).collect(Collectors.joining());
    }
}
