package weft.store.table;

import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.name;
import static weft.store.schema.Tables.CONSTRAINT_DEF;

import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.JSONB;
import org.jooq.exception.DataAccessException;
import org.jooq.impl.DSL;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;
import weft.core.table.Column;
import weft.core.table.Constraint;
import weft.core.table.Constraint.NoOverlap;
import weft.core.table.Constraint.Unique;
import weft.core.table.Faults;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.store.event.Change;
import weft.store.event.Telling;

/**
 * What holds between the records of a table, kept by PostgreSQL: unique constraints over several columns, and exclusion
 * constraints over ranges of time, from included and to not.
 */
public final class Constraints {

    private static final JsonMapper JSON = JsonMapper.shared();
    private static final String PREFIX = "held_set_";
    private static final int EXAMPLES = 5;

    private final DSLContext sql;

    /** In the database that those queries go to. */
    public Constraints(DSLContext sql) {
        this.sql = sql;
    }

    /** How many stored records break a constraint, and the rows of some. */
    public record Breaches(long broken, List<Long> rows) {}

    /** The constraints of a table, under the names that its columns have now. One that lost a column holds no more. */
    static List<Constraint> of(DSLContext sql, long table, Table definition) {
        return sql
                .selectFrom(CONSTRAINT_DEF)
                .where(CONSTRAINT_DEF.TABLE_ID.eq(table))
                .orderBy(CONSTRAINT_DEF.ID)
                .fetch()
                .stream()
                .flatMap(row -> {
                    var columns = JSON
                            .readValue(row.get(CONSTRAINT_DEF.COLUMNS).data(), new TypeReference<List<String>>() {})
                            .stream()
                            .map(definition::column)
                            .toList();
                    return columns.stream().allMatch(Optional::isPresent)
                            ? Optional.of(constraint(
                                            row.get(CONSTRAINT_DEF.ID).toString(),
                                            row.get(CONSTRAINT_DEF.KIND),
                                            columns.stream()
                                                    .map(column -> column.get().name())
                                                    .toList(),
                                            row.get(CONSTRAINT_DEF.MESSAGE)))
                                    .stream()
                            : Stream.<Constraint>empty();
                })
                .toList();
    }

    private static Constraint constraint(String id, String kind, List<String> columns, String message) {
        int same = columns.size() - 2;
        return kind.equals("unique")
                ? new Unique(id, columns, message)
                : new NoOverlap(id, columns.subList(0, same), columns.get(same), columns.get(same + 1), message);
    }

    /** The name of the constraint in the database. */
    static String named(long table, String id) {
        return PREFIX + table + "_" + id;
    }

    /** The constraint of that name in the database, or empty for another one. */
    public static Optional<Constraint> of(StoredTable table, String named) {
        return table.definition().constraints().stream()
                .filter(each -> table.adopted()
                        .map(adopted -> each instanceof Unique
                                && each.columns().equals(adopted.constraints().get(named)))
                        .orElseGet(() -> named(table.id(), each.id()).equals(named)))
                .findFirst();
    }

    /** How many stored records break it. Nothing is changed. */
    public Breaches check(StoredTable table, Constraint constraint) {
        var broken = sql.select(TableSql.ROW, DSL.count().over())
                .from(DSL.table(table.sqlName()))
                .where(breaking(table, constraint))
                .orderBy(TableSql.ROW)
                .limit(EXAMPLES)
                .fetch();
        return new Breaches(broken.isEmpty() ? 0 : broken.getFirst().value2(), broken.getValues(TableSql.ROW));
    }

    /**
     * Which records stand in its way: those that are alike, those that begin before one before them ends or end too early.
     *
     * @throws Faults when it names columns that it cannot hold of
     */
    public static Condition breaking(StoredTable table, Constraint constraint) {
        checked(table.definition(), constraint);
        return switch (constraint) {
            case Unique unique ->
                DSL.row(fields(unique.columns()))
                        .in(DSL.select(fields(unique.columns()))
                                .from(DSL.table(table.sqlName()))
                                .where(filled(unique))
                                .groupBy(fields(unique.columns()))
                                .having(DSL.count().gt(1)));
            case NoOverlap overlap -> {
                var from = field(name(overlap.from()));
                var to = field(name(overlap.to()));
                var before = DSL.max(to)
                        .over()
                        .partitionBy(fields(overlap.same()))
                        .orderBy(from, TableSql.ID)
                        .rowsBetweenUnboundedPreceding()
                        .andPreceding(1);
                yield TableSql.ID.in(DSL.select(field(name("looked"), Long.class))
                        .from(DSL.select(
                                        TableSql.ID.as("looked"), from.as("begins"), to.as("ends"), before.as("before"))
                                .from(DSL.table(table.sqlName()))
                                .where(filled(overlap))
                                .asTable("all_of_them"))
                        .where("begins < before or ends <= begins"));
            }
        };
    }

    private static List<Field<?>> fields(List<String> columns) {
        return columns.isEmpty()
                ? List.of(DSL.inline(1))
                : columns.stream().<Field<?>>map(column -> field(name(column))).toList();
    }

    private static Condition filled(Constraint constraint) {
        return DSL.and(constraint.columns().stream()
                .map(column -> field(name(column)).isNotNull())
                .toList());
    }

    /**
     * Holds it from now on.
     *
     * @throws Faults when it names columns that it cannot hold of, or when stored records break it
     */
    public String add(StoredTable table, Constraint constraint) {
        Columns.own(table);
        checked(table.definition(), constraint);
        var check = check(table, constraint);
        if (check.broken() > 0) {
            throw new Faults(
                    "constraint",
                    "%,d stored records break it, such as row %s. Put them right first."
                            .formatted(
                                    check.broken(),
                                    check.rows().stream().map(String::valueOf).collect(Collectors.joining(", "))));
        }
        try {
            return Retried.result(sql, inner -> {
                long id = keep(inner.dsl(), table.id(), constraint);
                inner.dsl()
                        .execute(
                                "alter table {0} add constraint {1} " + definition(table, constraint),
                                table.sqlName(),
                                name(named(table.id(), Long.toString(id))));
                Telling.tell(inner.dsl(), new Change.OfTable(table.id()));
                return Long.toString(id);
            });
        } catch (DataAccessException e) {
            if (e.sqlState().startsWith("23")) {
                throw new Faults("constraint", "A record that breaks it has just been written. Look again.");
            }
            throw e;
        }
    }

    /** Keeps what holds, which the database knows already or will, and says its identity. */
    public static long keep(DSLContext within, long table, Constraint constraint) {
        return within.insertInto(CONSTRAINT_DEF)
                .set(CONSTRAINT_DEF.TABLE_ID, table)
                .set(CONSTRAINT_DEF.KIND, constraint instanceof Unique ? "unique" : "overlap")
                .set(CONSTRAINT_DEF.COLUMNS, JSONB.valueOf(JSON.writeValueAsString(constraint.columns())))
                .set(CONSTRAINT_DEF.MESSAGE, constraint.message())
                .returning(CONSTRAINT_DEF.ID)
                .fetchSingle(CONSTRAINT_DEF.ID);
    }

    private static String definition(StoredTable table, Constraint constraint) {
        return switch (constraint) {
            case Unique unique -> "unique (" + quoted(unique.columns()) + ")";
            case NoOverlap overlap -> {
                var from = table.definition().column(overlap.from()).orElseThrow();
                var range = (from.type() == ColumnType.DATE ? "daterange(" : "tsrange(")
                        + quoted(List.of(overlap.from(), overlap.to())) + ", '[)')";
                yield "exclude using gist ("
                        + overlap.same().stream()
                                .map(column -> quoted(List.of(column)) + " with =, ")
                                .collect(Collectors.joining())
                        + range + " with &&) where (" + quoted(List.of(overlap.from())) + " < "
                        + quoted(List.of(overlap.to())) + ")";
            }
        };
    }

    private static String quoted(List<String> columns) {
        return columns.stream().map(column -> "\"" + column + "\"").collect(Collectors.joining(", "));
    }

    private static void checked(Table table, Constraint constraint) {
        for (var column : constraint.columns()) {
            if (table.column(column).filter(each -> each.name().equals(column)).isEmpty()) {
                throw new Faults("columns", "There is no column " + column + ".");
            }
        }
        switch (constraint) {
            case Unique unique -> {
                if (unique.columns().size() < 2) {
                    throw new Faults("columns", "Name two columns or more. One alone is made unique with the column.");
                }
            }
            case NoOverlap overlap -> {
                var types = List.of(type(table, overlap.from()), type(table, overlap.to()));
                if (!types.equals(List.of(ColumnType.DATETIME, ColumnType.DATETIME))
                        && !types.equals(List.of(ColumnType.DATE, ColumnType.DATE))) {
                    throw new Faults("from", "From and to must both hold dates, or both a date and time.");
                }
            }
        }
    }

    private static ColumnType type(Table table, String column) {
        return table.column(column).map(Column::type).orElseThrow();
    }

    /** Holds it no longer. */
    public void remove(StoredTable table, String id) {
        Columns.own(table);
        Retried.transaction(sql, inner -> {
            inner.dsl()
                    .alterTable(table.sqlName())
                    .dropConstraintIfExists(DSL.constraint(name(named(table.id(), id))))
                    .execute();
            inner.dsl()
                    .deleteFrom(CONSTRAINT_DEF)
                    .where(CONSTRAINT_DEF.TABLE_ID.eq(table.id()))
                    .and(CONSTRAINT_DEF.ID.eq(Long.valueOf(id)))
                    .execute();
            Telling.tell(inner.dsl(), new Change.OfTable(table.id()));
        });
    }
}
