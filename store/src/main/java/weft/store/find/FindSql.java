package weft.store.find;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.jooq.impl.SQLDataType;
import weft.core.find.Criterion;
import weft.core.find.View;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.twice.Standing;
import weft.core.value.ColumnType;
import weft.core.value.Value;
import weft.store.table.AnyTable;
import weft.store.table.ColumnSql;
import weft.store.table.Folded;
import weft.store.table.LinkSql;
import weft.store.table.SeenTable;
import weft.store.table.StandingSql;
import weft.store.table.StoredTable;
import weft.store.table.TableSql;

/**
 * The SQL of what is asked of columns. Values stand in it as literals, so that PostgreSQL plans each question with what it
 * knows of them.
 */
public final class FindSql {

    private FindSql() {}

    /** What every record in view fulfils, of those of the table that are to be seen. */
    static Condition of(SeenTable table, View view) {
        return all(table, table.by(), view).and(table.inView());
    }

    /**
     * The part of a table that is to be seen: these columns, of the records that match all of these and, where it is said,
     * were entered by that name.
     */
    public static SeenTable part(StoredTable table, Table columns, List<View.Condition> conditions, Seer seer) {
        var all = new ArrayList<Condition>();
        conditions.forEach(condition -> all.add(of(table, Optional.of(seer.name()), condition)));
        if (seer.own()) {
            all.add(TableSql.ENTERED_BY.eq(DSL.inline(seer.name())));
        }
        if (seer.keysAgain()) {
            all.add(StandingSql.notBlindTo(table, seer.name()));
        }
        return SeenTable.part(
                table, columns, all.isEmpty() ? Optional.empty() : Optional.of(DSL.and(all)), Optional.of(seer.name()));
    }

    /**
     * Who sees a part of a table.
     *
     * @param own whether they see only what they entered themselves
     * @param keysAgain whether they see nothing that waits to be keyed again and was keyed first by another, or that they keyed
     *     second and somebody else is to settle
     */
    public record Seer(String name, boolean own, boolean keysAgain) {}

    /** The same where no record is to be seen. */
    public static SeenTable none(StoredTable table, Table columns) {
        return SeenTable.part(table, columns, Optional.of(DSL.falseCondition()), Optional.empty());
    }

    private static Condition all(AnyTable table, Optional<String> by, View view) {
        var all = DSL.and(
                view.conditions().stream().map(each -> of(table, by, each)).toArray(Condition[]::new));
        return view.anywhere()
                .map(anywhere -> all.and(
                        anywhere.conditions().isEmpty()
                                ? DSL.falseCondition()
                                : DSL.or(anywhere.conditions().stream()
                                        .map(each -> of(table, by, each))
                                        .toArray(Condition[]::new))))
                .orElse(all);
    }

    private static Condition of(AnyTable table, Optional<String> by, View.Condition asked) {
        return asked.column().equals(Standing.COLUMN)
                ? StandingSql.is(table, by, Standing.matching(asked.criterion()))
                : of(asked.column(), asked.criterion());
    }

    /** What every record of a table fulfils that matches what is asked of these columns. */
    public static Condition matching(Map<Column, Criterion> asked) {
        return DSL.and(asked.entrySet().stream()
                .map(each -> of(each.getKey(), each.getValue()))
                .toArray(Condition[]::new));
    }

    private static Condition of(Column column, Criterion criterion) {
        return switch (criterion) {
            case Criterion.Is(var value)
            when column.link().isPresent() -> LinkSql.calledJust(column, literal(value.plain()));
            case Criterion.Like like
            when column.link().isPresent() ->
                LinkSql.called(column, words -> DSL.condition("{0} like {1}", Folded.of(words), pattern(like)));
            case Criterion.Is(var value) -> is(column, value);
            case Criterion.Within(var from, var to) -> within(column, from, to);
            case Criterion.Like like -> like(column, like);
            case Criterion.Empty() -> ColumnSql.of(column).isNull();
            case Criterion.Not(Criterion.Empty()) -> ColumnSql.of(column).isNotNull();
            case Criterion.Not(var inner) -> DSL.condition("({0}) is not true", of(column, inner));
            case Criterion.Any(var criteria) ->
                DSL.or(criteria.stream().map(each -> of(column, each)).toArray(Condition[]::new));
            case Criterion.All(var criteria) ->
                DSL.and(criteria.stream().map(each -> of(column, each)).toArray(Condition[]::new));
        };
    }

    private static Condition is(Column column, Value value) {
        var same = typed(column).eq(literal(column, ColumnSql.filled(value)));
        return isWords(column) ? same.and(key(column).eq(Folded.of(Folded.left(literal(value.plain()))))) : same;
    }

    private static Condition within(Column column, Optional<Criterion.Bound> from, Optional<Criterion.Bound> to) {
        var field = typed(column);
        var above = from.map(bound -> {
            var end = literal(column, ColumnSql.filled(bound.value()));
            return bound.itself() ? field.ge(end) : field.gt(end);
        });
        var below = to.map(bound -> {
            var end = literal(column, ColumnSql.filled(bound.value()));
            return bound.itself() ? field.le(end) : field.lt(end);
        });
        return DSL.and(above.orElseGet(DSL::noCondition), below.orElseGet(DSL::noCondition));
    }

    private static Condition like(Column column, Criterion.Like like) {
        boolean byKey = like.begins()
                && !like.ends()
                && like.parts().size() == 1
                && like.parts().getFirst().length() < Folded.KEY_LENGTH / 2;
        return DSL.condition("{0} like {1}", byKey ? key(column) : whole(column), pattern(like));
    }

    private static Field<String> pattern(Criterion.Like like) {
        var escaped = like.parts().stream()
                .map(part -> part.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_"))
                .toList();
        return Folded.of(literal((like.begins() ? "" : "%") + String.join("%", escaped) + (like.ends() ? "" : "%")));
    }

    /**
     * What a column's text is sorted by, a link by the words of its record, and other values are themselves. Indexes are made on
     * this very expression, but of links, whose words stand elsewhere. What is only shown may be numbers that are no column of
     * Weft's: those come in their own order.
     */
    static Field<Object> key(Column column) {
        if (column.link().isPresent()) {
            return untyped(Folded.key(LinkSql.called(column)));
        }
        if (!isWords(column)) {
            return typed(column);
        }
        return untyped(column.shownOnly().isPresent() ? Folded.shownKey(column) : Folded.key(column));
    }

    /** Whether it is sorted as words are. */
    private static boolean isWords(Column column) {
        return isText(column) || column.type() == ColumnType.CHOICE;
    }

    /** A column's whole text without case and accents. Indexes of its parts are made on this very expression. */
    static Field<String> whole(Column column) {
        return Folded.of(ColumnSql.of(column));
    }

    static boolean isText(Column column) {
        return switch (column.type()) {
            case TEXT, LONGTEXT -> true;
            case WHOLE, DECIMAL, YESNO, DATE, TIME, DATETIME, CHOICE, PICTURE, LINK -> false;
        };
    }

    /** A key as a literal, compared with {@link #key}. */
    static Field<Object> keyLiteral(Column column, Object key) {
        return isWords(column) || column.link().isPresent() ? untyped(literal((String) key)) : literal(column, key);
    }

    private static Field<Object> typed(Column column) {
        return untyped(ColumnSql.of(column));
    }

    private static Field<Object> literal(Column column, Object value) {
        return untyped(DSL.inline(value, ColumnSql.type(column)));
    }

    private static Field<String> literal(String text) {
        return DSL.inline(text, SQLDataType.CLOB);
    }

    @SuppressWarnings("unchecked") // Both sides of a comparison are of the column's type.
    private static Field<Object> untyped(Field<?> field) {
        return (Field<Object>) field;
    }

    /** The keys by which records are sorted, in order. */
    static List<Field<Object>> keys(List<Column> columns) {
        return columns.stream().map(FindSql::key).toList();
    }
}
