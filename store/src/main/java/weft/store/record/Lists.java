package weft.store.record;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import weft.core.record.StoredRow;
import weft.core.rule.Choices;
import weft.core.table.Link;
import weft.core.value.Conventions;
import weft.core.value.Reading;
import weft.core.value.Value;
import weft.core.value.ValueReader;
import weft.store.table.ColumnSql;
import weft.store.table.Folded;
import weft.store.table.StoredTable;
import weft.store.table.TableSql;

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
     * @param record the identity of the record, where that is what is chosen
     */
    public record Choice(String value, String shown, OptionalLong record) {}

    /**
     * Those of the list that have what is typed in them, or in what is shown beside them, in order; those that begin so first.
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
        conditions.add(when(table, list, values));
        if (!typed.isBlank()) {
            var words = typed.strip();
            conditions.add(value.cast(String.class)
                    .containsIgnoreCase(words)
                    .or(shown.cast(String.class).containsIgnoreCase(words)));
        }
        var begins = value.cast(String.class).startsWithIgnoreCase(typed.strip());
        return sql.select(value, DSL.min(shown.cast(String.class)))
                .from(DSL.table(table.sqlName()))
                .where(conditions)
                .groupBy(value)
                .orderBy(DSL.field(begins).desc(), value.asc())
                .limit(most)
                .fetch(row -> new Choice(
                        ColumnSql.value(row.get(0)).plain(),
                        row.value2() == null ? "" : row.value2(),
                        OptionalLong.empty()));
    }

    /** What the list depends on. */
    private static Condition when(StoredTable table, Choices list, Map<String, Value> values) {
        var conditions = new ArrayList<Condition>();
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
        return DSL.and(conditions);
    }

    /**
     * The records that a link can lead to whose words have in them what is typed, in order. A choice is what its record is
     * called first, with its row where others are called so too.
     *
     * @param to the table that it leads to
     * @param list what narrows them, if anything does
     * @param values of the entry, for what that depends on
     * @param typed nothing for those of the latest rows
     */
    public List<Choice> linkable(
            Link link, StoredTable to, Optional<Choices> list, Map<String, Value> values, String typed, int most) {
        var first = link.shown().stream().findFirst();
        var words = typed.strip();
        var conditions = new ArrayList<Condition>();
        var escaped = words.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_");
        var pattern = Folded.of(DSL.inline("%" + escaped + "%"));
        for (var column : link.shown()) {
            // Other values are looked for once they are typed whole, so that the indexes of texts serve.
            if (column.type().isText()) {
                conditions.add(DSL.condition("{0} like {1}", Folded.of(ColumnSql.of(column)), pattern));
            } else if (ValueReader.ofStored(Conventions.DEFAULT).read(column.kind(), words)
                            instanceof Reading.Read(var value, var _)
                    && !value.isEmpty()) {
                conditions.add(same(ColumnSql.of(column), ColumnSql.bound(column, value)));
            }
        }
        var order = first.isEmpty() || words.isEmpty()
                ? List.of(TableSql.ROW.desc())
                : List.of(
                        DSL.field(
                                        "{0} like {1}",
                                        Boolean.class,
                                        Folded.of(ColumnSql.of(first.get()).cast(String.class)),
                                        Folded.of(DSL.inline(escaped + "%")))
                                .desc(),
                        ColumnSql.of(first.get()).asc(),
                        TableSql.ROW.asc());
        return sql
                .select(RecordRows.fields(to))
                .from(DSL.table(to.sqlName()))
                .where(words.isEmpty() ? DSL.noCondition() : DSL.or(conditions))
                .and(list.map(each -> when(to, each, values)).orElseGet(DSL::noCondition))
                .orderBy(order)
                .limit(most)
                .fetch(row -> RecordRows.of(to, row))
                .stream()
                .map(row -> choice(link, to, row))
                .toList();
    }

    private Choice choice(Link link, StoredTable to, StoredRow row) {
        var all = link.words(row.row(), row.values());
        var first = link.shown().stream()
                .findFirst()
                .filter(column -> !row.of(column.name()).isEmpty());
        if (first.isEmpty()) {
            return new Choice(
                    all.startsWith("row ") ? all : all + " (row " + row.row() + ")", "", OptionalLong.of(row.id()));
        }
        var called = row.of(first.get().name()).spoken();
        var rest = all.length() > called.length() ? all.substring(called.length() + 2) : "";
        boolean others = !first.get().unique()
                && sql.fetchExists(DSL.selectOne()
                        .from(DSL.table(to.sqlName()))
                        .where(same(
                                ColumnSql.of(first.get()),
                                ColumnSql.bound(first.get(), row.of(first.get().name()))))
                        .and(TableSql.ID.ne(row.id())));
        return new Choice(others ? called + " (row " + row.row() + ")" : called, rest, OptionalLong.of(row.id()));
    }

    @SuppressWarnings("unchecked") // Both sides are of the column's type.
    private static Condition same(Field<?> column, Field<?> value) {
        return ((Field<Object>) column).eq((Field<Object>) value);
    }
}
