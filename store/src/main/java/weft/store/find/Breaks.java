package weft.store.find;

import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.name;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import weft.core.entry.plan.EntryPlan;
import weft.core.entry.plan.Node;
import weft.core.entry.plan.ReadyCheck;
import weft.core.record.StoredRow;
import weft.core.table.Column;
import weft.core.table.Constraint;
import weft.core.table.Limits;
import weft.core.usual.Counts;
import weft.core.usual.Grouping;
import weft.core.value.ColumnType;
import weft.core.value.Value;
import weft.store.Database;
import weft.store.Turns;
import weft.store.record.RecordRows;
import weft.store.table.ColumnSql;
import weft.store.table.Constraints;
import weft.store.table.StoredTable;
import weft.store.table.TableSql;
import weft.store.table.UsualSql;

/**
 * Which stored records break a rule, found by the database: no record comes to the server but those that are shown. What only
 * the engine can say, formulas and patterns, is not found here.
 */
public final class Breaks {

    private static final Turns LOOKS =
            new Turns(2, 20, "Too many look at stored records just now. Try again in a moment.");

    private final DSLContext sql;

    /** In that database. */
    public Breaks(Database database) {
        this.sql = database.longSql();
    }

    /**
     * What was found.
     *
     * @param broken how many records break the rule
     * @param shown some of them, by row
     */
    public record Breaking(long broken, List<StoredRow> shown) {}

    /**
     * The records that break a check, or empty when only the engine can say.
     *
     * @param after the row after which they are shown; 0 for the first
     * @param limit how many are shown at most
     */
    public Optional<Breaking> of(EntryPlan plan, ReadyCheck check, StoredTable table, long after, int limit) {
        return (depends(plan, check) ? Optional.<Condition>empty() : broken(plan, check, table))
                .map(broken -> look(table, broken, after, limit));
    }

    /** The records that stand in the way of what is to hold between them. */
    public Breaking of(Constraint constraint, StoredTable table, long after, int limit) {
        return look(table, Constraints.breaking(table, constraint), after, limit);
    }

    /** What is usual where these records are, of all that is stored at this moment. */
    public Map<Grouping.Place, Optional<Counts>> counts(StoredTable table, Grouping grouping, List<StoredRow> records) {
        var places = records.stream()
                .flatMap(record -> grouping.place(column -> record.of(column.name())).stream())
                .collect(Collectors.toSet());
        return places.isEmpty() ? Map.of() : LOOKS.take(() -> UsualSql.fresh(sql, table, grouping, places));
    }

    /** In one pass over the table, with the memory and the workers that sorting a large one wants. */
    private Breaking look(StoredTable table, Condition broken, long after, int limit) {
        return LOOKS.take(() -> sql.transactionResult(inner -> {
            UsualSql.forLarge(inner.dsl());
            return found(inner.dsl(), table, broken, after, limit);
        }));
    }

    private static Breaking found(DSLContext sql, StoredTable table, Condition broken, long after, int limit) {
        var row = field(name("broken", "_at"), Long.class);
        var all = name("broken")
                .fields("_at")
                .asMaterialized(DSL.select(TableSql.ROW)
                        .from(DSL.table(table.sqlName()))
                        .where(broken));
        var shown = DSL.select(row)
                .from(all)
                .where(row.gt(after))
                .orderBy(row)
                .limit(limit)
                .asTable("shown", "_at");
        var many = DSL.select(DSL.count()).from(all).asTable("counted", "_many");
        var found = sql.with(all)
                .select(RecordRows.fields(table))
                .select(many.field("_many"))
                .from(many)
                .leftJoin(shown)
                .on(DSL.trueCondition())
                .leftJoin(DSL.table(table.sqlName()))
                .on(TableSql.ROW.eq(shown.field("_at", Long.class)))
                .orderBy(TableSql.ROW)
                .fetch();
        return new Breaking(
                found.getFirst().get("_many", Long.class),
                found.stream()
                        .filter(record -> record.get(TableSql.ROW) != null)
                        .map(record -> RecordRows.of(table, record))
                        .toList());
    }

    /** Whether formulas say which of its fields are shown, or may be empty. */
    private static boolean depends(EntryPlan plan, ReadyCheck check) {
        var columns = check.columns();
        return plan.nodes().stream()
                .filter(node -> columns.isEmpty() || columns.contains(node.column()))
                .anyMatch(node -> node.shown().isPresent()
                        || (check instanceof ReadyCheck.Complete
                                && node.required().isPresent()));
    }

    private static Optional<Condition> broken(EntryPlan plan, ReadyCheck check, StoredTable table) {
        return switch (check) {
            case ReadyCheck.AnyOf(var _, var columns) ->
                Optional.of(DSL.and(columns.stream().map(Breaks::empty).toList()));
            case ReadyCheck.Needs(var _, var needed, var filled) ->
                Optional.of(empty(needed).and(empty(filled).not()));
            case ReadyCheck.Complete(var _, var columns) -> Optional.of(incomplete(plan, columns));
            case ReadyCheck.Range(var _, var column, var limits) -> Optional.of(outOf(column, limits));
            case ReadyCheck.Length(var _, var column, int from, int to) ->
                column.type().isText()
                        ? Optional.of(length(column)
                                .lt(from)
                                .or(to > 0 ? length(column).gt(to) : DSL.falseCondition()))
                        : Optional.empty();
            case ReadyCheck.OneOf(var _, var column, var list) -> noneOf(column, list);
            case ReadyCheck.Usual(var _, var grouping) -> Optional.of(UsualSql.unusual(table, grouping));
            case ReadyCheck.Matches _, ReadyCheck.Holds _, ReadyCheck.Alike _ -> Optional.empty();
        };
    }

    private static Condition empty(Column column) {
        return ColumnSql.of(column).isNull();
    }

    /** Where none is named, all that can be typed in; what is required anyway is not asked about. */
    private static Condition incomplete(EntryPlan plan, List<Column> named) {
        return DSL.or(plan.nodes().stream()
                .filter(node -> named.isEmpty()
                        ? node.field().open() && node.calculated().isEmpty() && !node.numbered()
                        : named.contains(node.column()))
                .filter(node -> !node.field().required() && !node.column().required())
                .map(Node::column)
                .distinct()
                .map(Breaks::empty)
                .toList());
    }

    private static Condition outOf(Column column, Limits limits) {
        var value = ColumnSql.of(column).coerce(Object.class);
        var below = limits.least().map(least -> value.lt(bound(column, least)));
        var above = limits.most().map(most -> value.gt(bound(column, most)));
        return limits.backwards()
                ? below.orElseThrow().and(above.orElseThrow())
                : below.orElseGet(DSL::falseCondition).or(above.orElseGet(DSL::falseCondition));
    }

    private static Field<Object> bound(Column column, Value value) {
        return ColumnSql.bound(column, value).coerce(Object.class);
    }

    /** How many UTF-16 units a text has, as it is counted where it is typed; a sign beyond the first plane has two. */
    private static Field<Integer> length(Column column) {
        var text = field(name(column.name()), String.class);
        return DSL.when(DSL.octetLength(text).eq(DSL.charLength(text)), DSL.charLength(text))
                .otherwise(DSL.charLength(DSL.regexpReplaceAll(text, "[\\U00010000-\\U0010FFFF]", "xx")));
    }

    /** Links are known by the words that they show, which the engine looks up. */
    private static Optional<Condition> noneOf(Column column, List<Value> list) {
        if (column.type() == ColumnType.LINK) {
            return Optional.empty();
        }
        var filled = list.stream()
                .filter(value -> !value.isEmpty())
                .map(value -> bound(column, value))
                .toList();
        var is = ColumnSql.of(column).coerce(Object.class);
        return Optional.of(filled.isEmpty() ? is.isNotNull() : is.notIn(filled));
    }
}
