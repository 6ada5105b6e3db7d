package weft.store.table;

import static org.jooq.impl.DSL.constraint;
import static org.jooq.impl.DSL.currentOffsetDateTime;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.name;
import static org.jooq.impl.DSL.primaryKey;
import static org.jooq.impl.DSL.unique;

import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.Constraint;
import org.jooq.Field;
import org.jooq.Query;
import org.jooq.SQLDialect;
import org.jooq.impl.DSL;
import org.jooq.impl.SQLDataType;
import weft.core.table.Column;
import weft.core.table.Link;
import weft.core.value.Value;

/** The SQL of the real tables. A constraint is named for what it holds and for its column's identity, so that it can be told. */
public final class TableSql {

    /** The identity of a record. */
    public static final Field<Long> ID = field(name("_id"), SQLDataType.BIGINT.generatedByDefaultAsIdentity());
    /** The row number people see. */
    public static final Field<Long> ROW = field(name("_row"), SQLDataType.BIGINT.nullable(false));
    /** Counts the changes of a record, from 1. */
    public static final Field<Integer> VERSION = field(name("_version"), SQLDataType.INTEGER.nullable(false));

    /** When a record was entered. */
    public static final Field<OffsetDateTime> ENTERED_AT = field(
            name("_entered_at"),
            SQLDataType.TIMESTAMPWITHTIMEZONE.nullable(false).defaultValue(currentOffsetDateTime()));

    /** Who entered a record. */
    public static final Field<String> ENTERED_BY =
            field(name("_entered_by"), SQLDataType.VARCHAR(100).nullable(false));

    private static final String UNIQUE = "held_unique_";
    private static final String RANGE = "held_range_";
    private static final String CHOICE = "held_choice_";
    private static final String PICTURE = "held_picture_";
    private static final String LINK = "held_link_";
    private static final List<String> KINDS = List.of(UNIQUE, RANGE, CHOICE, PICTURE, LINK);

    private TableSql() {}

    static List<Query> create(StoredTable table, Tables tables) {
        var columns = table.definition().columns();
        var fields = new ArrayList<Field<?>>(List.of(ID, ROW, VERSION, ENTERED_AT, ENTERED_BY));
        fields.add(field(name("_changed_at"), SQLDataType.TIMESTAMPWITHTIMEZONE));
        fields.add(field(name("_changed_by"), SQLDataType.VARCHAR(100)));
        var constraints = new ArrayList<Constraint>();
        constraints.add(primaryKey(ID));
        constraints.add(unique(ROW));
        for (var column : columns) {
            fields.add(field(name(column.name()), ColumnSql.type(column).nullable(!column.required())));
            constraints.addAll(constraints(table, column, tables));
        }
        var queries = new ArrayList<Query>();
        queries.add(DSL.createTable(table.sqlName()).columns(fields).constraints(constraints));
        columns.forEach(column -> queries.addAll(indexes(table, column)));
        queries.add(watch(table));
        return queries;
    }

    /** What other programs write to the table gets its row, version and history too. */
    private static Query watch(StoredTable table) {
        return watching("weft.watch", table);
    }

    private static Query watching(String function, StoredTable table) {
        var sql = DSL.using(SQLDialect.POSTGRES);
        return sql.resultQuery(
                "select " + function + "({0}, {1}::regclass)",
                DSL.inline(table.id()),
                DSL.inline(sql.render(table.sqlName())));
    }

    /** Drops the table, or lets go of one that was adopted: what was added to it is taken away. */
    static List<Query> drop(StoredTable table) {
        return table.adopted().isPresent()
                ? List.of(DSL.using(SQLDialect.POSTGRES).resultQuery("select weft.let_go({0})", DSL.inline(table.id())))
                : List.of(watching("weft.unwatch", table), DSL.dropTable(table.sqlName()));
    }

    /** By which the records that link to one are found, such as when that one is removed. */
    static List<Query> indexes(StoredTable table, Column column) {
        return column.link().isEmpty()
                ? List.of()
                : List.of(DSL.createIndexIfNotExists(name("links_" + table.id() + "_" + table.columnId(column.name())))
                        .on(DSL.table(table.sqlName()), field(name(column.name()))));
    }

    /**
     * What holds of a column's values, besides whether they may be empty.
     *
     * @param tables those that it can lead to
     */
    static List<Constraint> constraints(StoredTable table, Column column, Tables tables) {
        var constraints = new ArrayList<Constraint>();
        if (column.unique()) {
            constraints.add(constraint(name(named(table, UNIQUE, column))).unique(name(column.name())));
        }
        range(column)
                .ifPresent(condition -> constraints.add(
                        constraint(name(named(table, RANGE, column))).check(condition)));
        ofType(table, column).ifPresent(constraints::add);
        column.link().ifPresent(link -> constraints.add(link(table, column, link, tables)));
        return constraints;
    }

    /** What the type of a column wants of its values. */
    private static Optional<Constraint> ofType(StoredTable table, Column column) {
        return switch (column.type()) {
            case CHOICE ->
                Optional.of(constraint(name(named(table, CHOICE, column)))
                        .check(ColumnSql.of(column)
                                .in(column.choices().stream().map(DSL::inline).toList())));
            case PICTURE ->
                Optional.of(constraint(name(named(table, PICTURE, column)))
                        .foreignKey(name(column.name()))
                        .references(name("weft", "picture"), name("id")));
            case TEXT, LONGTEXT, WHOLE, DECIMAL, YESNO, DATE, TIME, DATETIME, LINK -> Optional.empty();
        };
    }

    private static Constraint link(StoredTable table, Column column, Link link, Tables tables) {
        var to = tables.find(link.to()).orElseThrow().relation();
        var leading = constraint(name(named(table, LINK, column)))
                .foreignKey(name(column.name()))
                .references(to, ID.getUnqualifiedName());
        return link.removed() == Link.Removed.EMPTY ? leading.onDeleteSetNull() : leading;
    }

    /** Whether a constraint made here holds that what is linked to is there. */
    public static boolean holdsLink(String constraint) {
        return constraint.startsWith(LINK);
    }

    /** The names that the constraints of a column have, when it has them. */
    static List<String> constraintNames(StoredTable table, Column column) {
        return KINDS.stream().map(kind -> named(table, kind, column)).toList();
    }

    private static String named(StoredTable table, String what, Column column) {
        return what + table.id() + "_" + table.columnId(column.name());
    }

    /** The column that a constraint made here is about, or empty for another one. */
    public static Optional<Column> columnOf(StoredTable table, String constraint) {
        return table.definition().columns().stream()
                .filter(column -> constraintNames(table, column).contains(constraint))
                .findFirst();
    }

    private static Optional<Condition> range(Column column) {
        var least = column.min().map(min -> atLeast(column, min));
        var most = column.max().map(max -> atMost(column, max));
        return least.isPresent() && most.isPresent()
                ? Optional.of(least.get().and(most.get()))
                : least.isPresent() ? least : most;
    }

    @SuppressWarnings("unchecked") // A bound is of its column's type: the proposal of the table read it so.
    private static Condition atLeast(Column column, Value bound) {
        return ((Field<Object>) ColumnSql.of(column)).ge((Field<Object>) ColumnSql.literal(bound));
    }

    @SuppressWarnings("unchecked") // As above.
    private static Condition atMost(Column column, Value bound) {
        return ((Field<Object>) ColumnSql.of(column)).le((Field<Object>) ColumnSql.literal(bound));
    }
}
