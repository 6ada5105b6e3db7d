package weft.store.record;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import org.jooq.Field;
import org.jooq.Record;
import weft.core.record.StoredRow;
import weft.core.value.Value;
import weft.store.table.AnyTable;
import weft.store.table.ColumnSql;
import weft.store.table.TableSql;

/** Records as rows of their table. */
public final class RecordRows {

    /** The identity, the row and the version. */
    private static final int BEFORE_COLUMNS = 3;

    private RecordRows() {}

    /** What is selected of a record, before anything else. */
    public static List<Field<?>> fields(AnyTable table) {
        var fields = new ArrayList<Field<?>>(List.of(TableSql.ID, TableSql.ROW, TableSql.VERSION));
        table.definition().columns().forEach(column -> fields.add(ColumnSql.read(column)));
        return fields;
    }

    /** The record of a row that begins with those fields. */
    public static StoredRow of(AnyTable table, Record row) {
        var values = new LinkedHashMap<String, Value>();
        int at = BEFORE_COLUMNS;
        for (var column : table.definition().columns()) {
            values.put(column.name(), ColumnSql.value(row.get(at++)));
        }
        return new StoredRow((Long) row.get(0), (Long) row.get(1), (Integer) row.get(2), values);
    }
}
