package weft.store.record;

import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.name;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import weft.core.record.StoredRow;
import weft.core.record.StoredRows;
import weft.core.table.Column;
import weft.core.table.Constraint.NoOverlap;
import weft.core.value.Value;
import weft.store.table.ColumnSql;
import weft.store.table.KnownTables;
import weft.store.table.StoredTable;
import weft.store.table.TableSql;

/** What the entry engine may ask of stored records. */
final class LookUp implements StoredRows {

    private final DSLContext sql;
    private final StoredTable table;
    private final KnownTables tables;

    LookUp(DSLContext sql, StoredTable table, KnownTables tables) {
        this.sql = sql;
        this.table = table;
        this.tables = tables;
    }

    @Override
    public Optional<StoredRow> with(Map<String, Value> values, OptionalLong except) {
        return rows(table, same(table, values).and(but(except)), 1).stream().findFirst();
    }

    private static Condition but(OptionalLong except) {
        return except.isPresent() ? TableSql.ID.ne(except.getAsLong()) : DSL.noCondition();
    }

    @Override
    public Optional<StoredRow> overlapping(NoOverlap constraint, Map<String, Value> values, OptionalLong except) {
        var alike = new LinkedHashMap<String, Value>();
        constraint.same().forEach(column -> alike.put(column, values.get(column)));
        Field<Object> from = field(name(constraint.from()), Object.class);
        Field<Object> to = field(name(constraint.to()), Object.class);
        var overlaps = from.lt(ColumnSql.filled(values.getOrDefault(constraint.to(), Value.EMPTY)))
                .and(to.gt(ColumnSql.filled(values.getOrDefault(constraint.from(), Value.EMPTY))));
        return rows(table, same(table, alike).and(overlaps).and(but(except)), 1).stream()
                .findFirst();
    }

    @Override
    public List<StoredRow> matching(String other, Map<String, Value> values, int most) {
        var of = tables.table(other);
        // Sorted here: the database would walk along the rows for it and look at many that do not match.
        return of.isEmpty()
                ? List.of()
                : rows(of.get(), same(of.get(), values), most).stream()
                        .sorted(Comparator.comparingLong(StoredRow::row))
                        .toList();
    }

    private List<StoredRow> rows(StoredTable of, Condition condition, int most) {
        return sql.select(RecordRows.fields(of))
                .from(DSL.table(of.sqlName()))
                .where(condition)
                .limit(most)
                .fetch(row -> RecordRows.of(of, row));
    }

    private static Condition same(StoredTable of, Map<String, Value> values) {
        var conditions = new ArrayList<Condition>();
        values.forEach((name, value) ->
                conditions.add(same(of.definition().column(name).orElseThrow(), value)));
        return DSL.and(conditions);
    }

    @SuppressWarnings("unchecked") // Both sides are of the column's type.
    private static Condition same(Column column, Value value) {
        return ((Field<Object>) ColumnSql.of(column)).eq((Field<Object>) ColumnSql.bound(column, value));
    }
}
