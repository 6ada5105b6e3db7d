package weft.store.table;

import static weft.store.schema.Tables.COLUMN_DEF;
import static weft.store.schema.Tables.FORM;
import static weft.store.schema.Tables.FREE_ROW;
import static weft.store.schema.Tables.HISTORY;
import static weft.store.schema.Tables.IDEMPOTENCY_KEY;
import static weft.store.schema.Tables.TABLE_DEF;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.exception.DataAccessException;
import org.jooq.impl.DSL;
import org.jooq.impl.SQLDataType;
import weft.core.table.Column;
import weft.core.table.Faults;
import weft.core.table.Fit;
import weft.core.table.Table;
import weft.core.table.TableProposal;
import weft.core.value.Reading;
import weft.core.value.Value;
import weft.store.event.Change;
import weft.store.event.Telling;

/** Changes what tables are made of. The stored values are looked at first; what does not fit is never lost. */
public final class Columns {

    private static final int BATCH = 5_000;
    private static final int EXAMPLES = 5;

    private final DSLContext sql;

    /** In the database that those queries go to. */
    public Columns(DSLContext sql) {
        this.sql = sql;
    }

    /**
     * What the stored values say to a column as it is to be.
     *
     * @param unfit how many records' values would not fit
     * @param examples some of them
     */
    public record Check(long unfit, List<Example> examples) {

        /** In a sentence or more, each example with its row. */
        public String words() {
            var words = new StringBuilder(
                    unfit == 1 ? "1 record does not fit." : "%,d records do not fit.".formatted(unfit));
            examples.forEach(example -> words.append(" Row %,d: %s".formatted(example.row(), example.message())));
            return words.toString();
        }
    }

    /** A record whose value would not fit. */
    public record Example(long row, String value, String message) {}

    /** What uses a table besides its records. */
    public record Dependents(long records, List<String> forms) {}

    /**
     * Adds columns at the end of a table, all or none.
     *
     * @throws Faults when a name is or was another column's, or when one is required and there are records already
     */
    public void add(String table, List<Column> columns) {
        sql.transaction(inner -> add(inner.dsl(), table, columns));
    }

    /** The same within a transaction of the caller's. */
    public static void add(DSLContext within, String table, List<Column> columns) {
        columns.forEach(column -> add(within, table, column));
    }

    private static void add(DSLContext within, String name, Column column) {
        var table = locked(within, name);
        nameFree(table, column.name(), Optional.empty());
        if (table.definition().columns().size() >= TableProposal.MOST_COLUMNS) {
            throw new Faults("columns", "The table has as many columns as a table can have.");
        }
        if (column.required() && within.fetchExists(DSL.selectOne().from(DSL.table(table.sqlName())))) {
            throw new Faults(
                    "required",
                    "There are records already, and they have nothing in " + column.title()
                            + ". Make it not required, or fill it in every record first.");
        }
        long id = Tables.keep(within, table.id(), table.definition().columns().size(), column);
        within.alterTable(table.sqlName())
                .add(DSL.field(DSL.name(column.name()), ColumnSql.type(column).nullable(!column.required())))
                .execute();
        var ids = new HashMap<>(table.columnIds());
        ids.put(column.name(), id);
        hold(within, new StoredTable(table.id(), table.definition(), ids), column);
        tell(within, table);
    }

    /** How many stored values would not fit the column as it is to be; nothing is changed. */
    public Check check(String table, String name, Column to) {
        var stored = found(sql, table);
        return check(sql, stored, column(stored, name), to);
    }

    private static Check check(DSLContext within, StoredTable table, Column from, Column to) {
        var fit = new Fit(to);
        var check = new Object() {
            private long unfit;
            private final List<Example> examples = new ArrayList<>();

            void miss(long row, Value value, String message) {
                unfit++;
                if (examples.size() < EXAMPLES) {
                    examples.add(new Example(row, value.spoken(), message));
                }
            }
        };
        each(within, table, from, (id, row, value) -> {
            if (value.isEmpty()) {
                if (to.required()) {
                    check.miss(row, value, "It has nothing here.");
                }
            } else if (fit.of(value) instanceof Reading.Refused(var _, var message)) {
                check.miss(row, value, message);
            }
        });
        if (to.unique() && !from.unique()) {
            twice(within, table, from)
                    .forEach(example -> check.miss(example.row(), new Value.Text(example.value()), example.message()));
        }
        return new Check(check.unfit, List.copyOf(check.examples));
    }

    private static List<Example> twice(DSLContext within, StoredTable table, Column column) {
        var field = ColumnSql.of(column);
        return within.select(DSL.max(TableSql.ROW), field)
                .from(DSL.table(table.sqlName()))
                .where(field.isNotNull())
                .groupBy(field)
                .having(DSL.count().gt(1))
                .limit(1_000)
                .fetch(row -> {
                    var value = ColumnSql.value(row.value2()).spoken();
                    return new Example(row.value1(), value, "Another record has " + value + " too.");
                });
    }

    private interface EachValue {
        void take(long id, long row, Value value);
    }

    /** Every stored value of a column, some thousand at a time. */
    private static void each(DSLContext within, StoredTable table, Column column, EachValue taker) {
        for (long last = -1; ; ) {
            var rows = within.select(TableSql.ID, TableSql.ROW, ColumnSql.of(column))
                    .from(DSL.table(table.sqlName()))
                    .where(TableSql.ID.gt(last))
                    .orderBy(TableSql.ID)
                    .limit(BATCH)
                    .fetch();
            rows.forEach(row -> taker.take(row.value1(), row.value2(), ColumnSql.value(row.value3())));
            if (rows.size() < BATCH) {
                return;
            }
            last = rows.getLast().value1();
        }
    }

    /**
     * Makes a column what it is to be: renamed, of another type, with other rules. Its values are taken along.
     *
     * @throws Faults when stored values would not fit, saying how many and which, or the name is another column's
     */
    public void change(String table, String name, Column to) {
        try {
            sql.transaction(inner -> change(inner.dsl(), locked(inner.dsl(), table), name, to));
        } catch (DataAccessException e) {
            if (e.sqlState().startsWith("23")) {
                throw new Faults("column", "Stored values do not fit: two records would hold the same value.");
            }
            throw e;
        }
    }

    private static void change(DSLContext within, StoredTable table, String name, Column to) {
        var from = column(table, name);
        nameFree(table, to.name(), Optional.of(from));
        if (!from.kind().equals(to.kind())
                || from.required() != to.required()
                || from.unique() != to.unique()
                || !from.min().equals(to.min())
                || !from.max().equals(to.max())) {
            var check = check(within, table, from, to);
            if (check.unfit() > 0) {
                throw new Faults("column", check.words());
            }
            for (var constraint : TableSql.constraintNames(table, from)) {
                within.alterTable(table.sqlName())
                        .dropConstraintIfExists(DSL.constraint(DSL.name(constraint)))
                        .execute();
            }
            retype(within, table, from, to);
        }
        if (!to.name().equals(from.name())) {
            within.alterTable(table.sqlName())
                    .renameColumn(DSL.name(from.name()))
                    .to(DSL.name(to.name()))
                    .execute();
        }
        var former = new LinkedHashSet<>(from.former());
        former.add(from.name());
        former.remove(to.name());
        var kept = to.once(List.copyOf(former)).usually(from.usualLength());
        long id = table.columnId(from.name());
        within.update(COLUMN_DEF)
                .set(Tables.definition(kept))
                .where(COLUMN_DEF.ID.eq(id))
                .execute();
        var ids = new HashMap<>(table.columnIds());
        ids.put(to.name(), id);
        if (!from.kind().equals(to.kind())
                || from.unique() != to.unique()
                || !from.min().equals(to.min())
                || !from.max().equals(to.max())) {
            hold(within, new StoredTable(table.id(), table.definition(), ids), kept);
        }
        tell(within, table);
    }

    private static void hold(DSLContext within, StoredTable table, Column column) {
        TableSql.constraints(table, column)
                .forEach(constraint ->
                        within.alterTable(table.sqlName()).add(constraint).execute());
    }

    /** Takes the values along into the new type, read by the same rules as everywhere. */
    private static void retype(DSLContext within, StoredTable table, Column from, Column to) {
        if (!ColumnSql.type(from).equals(ColumnSql.type(to))) {
            if (table.definition().constraints().stream()
                    .anyMatch(each -> each.columns().contains(from.name()))) {
                throw new Faults(
                        "type", "A check of the table speaks of " + from.title() + ". Take the check away first.");
            }
            var fit = new Fit(to);
            var fresh = DSL.field(DSL.name("_retyped"), ColumnSql.type(to).nullable(true));
            within.alterTable(table.sqlName()).add(fresh).execute();
            var ids = new ArrayList<Long>();
            var values = new ArrayList<String>();
            each(within, table, from, (id, row, value) -> {
                if (fit.of(value) instanceof Reading.Read(var fitting, var _) && !fitting.isEmpty()) {
                    ids.add(id);
                    values.add(fitting.plain());
                }
                if (ids.size() == BATCH) {
                    take(within, table, fresh, ids, values);
                }
            });
            take(within, table, fresh, ids, values);
            within.alterTable(table.sqlName()).dropColumn(DSL.name(from.name())).execute();
            within.alterTable(table.sqlName())
                    .renameColumn(fresh)
                    .to(DSL.name(from.name()))
                    .execute();
        }
        var changed = within.alterTable(table.sqlName()).alterColumn(DSL.name(from.name()));
        (to.required() ? changed.setNotNull() : changed.dropNotNull()).execute();
    }

    private static void take(
            DSLContext within, StoredTable table, Field<?> fresh, List<Long> ids, List<String> values) {
        within.execute(
                "update {0} set {1} = cast(taken.value as "
                        + fresh.getDataType().getCastTypeName(within.configuration())
                        + ") from unnest({2}, {3}) as taken(id, value) where _id = taken.id",
                DSL.table(table.sqlName()),
                fresh.getUnqualifiedName(),
                DSL.val(ids.toArray(Long[]::new), SQLDataType.BIGINT.array()),
                DSL.val(values.toArray(String[]::new), SQLDataType.CLOB.array()));
        ids.clear();
        values.clear();
    }

    /** Removes a column with all its values. Forms that have a field for it are left with a fray. */
    public void remove(String name, String column) {
        sql.transaction(inner -> {
            var table = locked(inner.dsl(), name);
            var gone = column(table, column);
            if (table.definition().columns().size() == 1) {
                throw new Faults("column", "A table needs at least one column.");
            }
            inner.dsl()
                    .alterTable(table.sqlName())
                    .dropColumn(DSL.name(gone.name()))
                    .execute();
            inner.dsl()
                    .deleteFrom(COLUMN_DEF)
                    .where(COLUMN_DEF.ID.eq(table.columnId(gone.name())))
                    .execute();
            tell(inner.dsl(), table);
        });
    }

    /** Gives a table another title, or another place for new entries. */
    public void change(String name, UnaryOperator<Table> change) {
        sql.transaction(inner -> {
            var table = locked(inner.dsl(), name);
            var to = change.apply(table.definition());
            inner.dsl()
                    .update(TABLE_DEF)
                    .set(TABLE_DEF.TITLE, to.title())
                    .set(TABLE_DEF.PLACEMENT, to.placement().wire())
                    .where(TABLE_DEF.ID.eq(table.id()))
                    .execute();
            tell(inner.dsl(), table);
        });
    }

    /** What would go with a table. */
    public Dependents dependents(String name) {
        var table = found(sql, name);
        return new Dependents(
                new Tables(sql).rows(table),
                sql.select(FORM.TITLE)
                        .from(FORM)
                        .where(FORM.TABLE_ID.eq(table.id()))
                        .orderBy(FORM.TITLE)
                        .fetch(FORM.TITLE));
    }

    /** Deletes a table with its records, their history and its forms. */
    public void delete(String name) {
        sql.transaction(inner -> {
            var within = inner.dsl();
            var table = locked(within, name);
            within.dropTable(table.sqlName()).execute();
            within.deleteFrom(HISTORY).where(HISTORY.TABLE_ID.eq(table.id())).execute();
            within.deleteFrom(IDEMPOTENCY_KEY)
                    .where(IDEMPOTENCY_KEY.TABLE_ID.eq(table.id()))
                    .execute();
            within.deleteFrom(FREE_ROW).where(FREE_ROW.TABLE_ID.eq(table.id())).execute();
            within.deleteFrom(TABLE_DEF).where(TABLE_DEF.ID.eq(table.id())).execute();
            tell(within, table);
        });
    }

    private static void tell(DSLContext within, StoredTable table) {
        Telling.tell(within, new Change.OfTable(table.id()));
    }

    /** The table, whose definition nobody else changes meanwhile. */
    private static StoredTable locked(DSLContext within, String name) {
        within.select(TABLE_DEF.ID)
                .from(TABLE_DEF)
                .where(TABLE_DEF.NAME.eq(name))
                .forUpdate()
                .fetch();
        return found(within, name);
    }

    private static StoredTable found(DSLContext within, String name) {
        return new Tables(within).find(name).orElseThrow(() -> new Faults("table", "There is no table " + name + "."));
    }

    private static Column column(StoredTable table, String name) {
        return table.definition()
                .column(name)
                .orElseThrow(() -> new Faults("column", "There is no column " + name + "."));
    }

    private static void nameFree(StoredTable table, String name, Optional<Column> but) {
        var other = table.definition()
                .column(name)
                .filter(column -> but.filter(column::equals).isEmpty());
        if (other.isPresent()) {
            throw new Faults(
                    "name",
                    other.get().name().equals(name)
                            ? "There is a column named " + name + " already. Choose another name."
                            : "%s was once called %s, and is still found by it. Choose another name."
                                    .formatted(other.get().title(), name));
        }
    }
}
