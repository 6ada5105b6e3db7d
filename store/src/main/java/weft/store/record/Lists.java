package weft.store.record;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import weft.core.rule.Choices;
import weft.core.value.Conventions;
import weft.core.value.Reading;
import weft.core.value.Value;
import weft.core.value.ValueReader;
import weft.store.table.ColumnSql;
import weft.store.table.StoredTable;

/** Choice lists that are columns of tables. */
public final class Lists {

    private final DSLContext sql;

    /** In the database that those queries go to. */
    public Lists(DSLContext sql) {
        this.sql = sql;
    }

    /**
     * One of a list.
     *
     * @param value what is stored when it is chosen, in its canonical spelling
     * @param shown what is shown beside it, or empty
     */
    public record Choice(String value, String shown) {}

    /**
     * Those of the list that begin with what is typed, or have it in what is shown beside them, in order.
     *
     * @param table the table that the list comes from
     * @param values of the entry, for what the list depends on
     * @param typed nothing for the beginning of the whole list
     */
    public List<Choice> choices(StoredTable table, Choices list, Map<String, Value> values, String typed, int most) {
        var source = table.definition().column(list.source());
        if (source.isEmpty()) {
            return List.of();
        }
        Field<?> value = ColumnSql.of(source.get());
        Field<?> shown = table.definition()
                .column(list.shown())
                .<Field<?>>map(ColumnSql::of)
                .orElse(DSL.inline(""));
        var conditions = new ArrayList<Condition>(List.of(value.isNotNull()));
        for (var tie : list.when()) {
            var given = values.getOrDefault(tie.column(), Value.EMPTY);
            if (!given.isEmpty()) {
                table.definition().column(tie.source()).ifPresent(column -> {
                    if (ValueReader.ofStored(Conventions.DEFAULT).read(column.kind(), given.plain())
                            instanceof Reading.Read(var asked, var _)) {
                        conditions.add(same(ColumnSql.of(column), ColumnSql.bound(column, asked)));
                    }
                });
            }
        }
        if (!typed.isBlank()) {
            var words = typed.strip();
            conditions.add(value.cast(String.class)
                    .startsWithIgnoreCase(words)
                    .or(shown.cast(String.class).containsIgnoreCase(words)));
        }
        return sql.select(value, DSL.min(shown.cast(String.class)))
                .from(DSL.table(table.sqlName()))
                .where(conditions)
                .groupBy(value)
                .orderBy(value)
                .limit(most)
                .fetch(row ->
                        new Choice(ColumnSql.value(row.get(0)).plain(), row.value2() == null ? "" : row.value2()));
    }

    @SuppressWarnings("unchecked") // Both sides are of the column's type.
    private static Condition same(Field<?> column, Field<?> value) {
        return ((Field<Object>) column).eq((Field<Object>) value);
    }
}
