package weft.store.table;

import static weft.store.schema.Tables.COLUMN_DEF;
import static weft.store.schema.Tables.FORM;
import static weft.store.schema.Tables.FREE_ROW;
import static weft.store.schema.Tables.HISTORY;
import static weft.store.schema.Tables.IDEMPOTENCY_KEY;
import static weft.store.schema.Tables.TABLE_DEF;

import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.jooq.DSLContext;
import org.jooq.exception.DataAccessException;
import org.jooq.impl.DSL;
import weft.core.table.Column;
import weft.core.table.Faults;
import weft.core.table.Table;
import weft.core.table.TableProposal;
import weft.core.value.Conventions;
import weft.store.event.Change;
import weft.store.event.Telling;

/** Changes what tables are made of. The stored values are looked at first; what does not fit is never lost. */
public final class Columns {

    private final DSLContext sql;
    private final RowsIn rows;

    /**
     * In the database that those queries go to.
     *
     * @param rows where what becomes a link is looked up
     */
    public Columns(DSLContext sql, RowsIn rows) {
        this.sql = sql;
        this.rows = rows;
    }

    /**
     * What uses a table besides its records.
     *
     * @param forms the titles of its forms
     * @param links the links of other tables that lead to it: column and table, as people read them
     */
    public record Dependents(long records, List<String> forms, List<String> links) {}

    /**
     * Adds columns at the end of a table, all or none.
     *
     * @throws Faults when a name is or was another column's, or when one is required and there are records already
     */
    public void add(String table, List<Column> columns) {
        Retried.transaction(sql, inner -> add(inner.dsl(), table, columns));
    }

    /** The same within a transaction of the caller's, one that is {@link Retried}. */
    public static void add(DSLContext within, String table, List<Column> columns) {
        columns.forEach(column -> add(within, table, column));
    }

    private static void add(DSLContext within, String name, Column column) {
        var table = own(locked(within, name));
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

    /**
     * How many stored values would not fit the column as it is to be; nothing is changed.
     *
     * @param written how dates and numbers are written in stored text, where it is said
     */
    public Retyping.Unfit check(String table, String name, Column to, Optional<Conventions> written) {
        var stored = found(sql, table);
        return new Retyping(sql, stored, column(stored, name), to, fitting(sql, column(stored, name), to, written))
                .check();
    }

    /**
     * Makes a column what it is to be: renamed, of another type, with other rules. Its values are taken along.
     *
     * @param written how dates and numbers are written in stored text, where it is said
     * @throws Faults when stored values would not fit, saying how many and which, or the name is another column's
     */
    public void change(String table, String name, Column to, Optional<Conventions> written) {
        try {
            Retried.transaction(sql, inner -> change(inner.dsl(), locked(inner.dsl(), table), name, to, written));
        } catch (DataAccessException e) {
            if (e.sqlState().startsWith("23")) {
                throw new Faults("column", "Stored values do not fit: two records would hold the same value.");
            }
            throw e;
        }
    }

    private Fitting fitting(DSLContext within, Column from, Column to, Optional<Conventions> written) {
        return Fitting.of(from, to, written, rows.of(within));
    }

    private void change(DSLContext within, StoredTable table, String name, Column to, Optional<Conventions> written) {
        var from = column(table, name);
        nameFree(table, to.name(), Optional.of(from));
        if (table.adopted().isPresent() && !to.isButForItsTitle(from)) {
            own(table);
        }
        if (!from.kind().equals(to.kind())
                || from.required() != to.required()
                || from.unique() != to.unique()
                || !from.min().equals(to.min())
                || !from.max().equals(to.max())
                || !from.link().equals(to.link())) {
            UsualSql.forget(within, table.columnId(from.name()));
            var retyping = new Retyping(within, table, from, to, fitting(within, from, to, written));
            retyping.refuseUnfit();
            // Those who save meanwhile are not kept waiting by a refusal; what they saved is looked at with the rest.
            within.execute("lock table {0} in access exclusive mode", DSL.table(table.sqlName()));
            retyping.refuseUnfit();
            for (var constraint : TableSql.constraintNames(table, from)) {
                within.alterTable(table.sqlName())
                        .dropConstraintIfExists(DSL.constraint(DSL.name(constraint)))
                        .execute();
            }
            retyping.carry();
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
        var kept = to.once(List.copyOf(former))
                .usually(from.usualLength())
                .upTo(from.longest())
                .onlyShown(from.shownOnly());
        long id = table.columnId(from.name());
        within.update(COLUMN_DEF)
                .set(Tables.definition(kept))
                .where(COLUMN_DEF.ID.eq(id))
                .execute();
        Tables.keepLink(within, id, kept);
        var ids = new HashMap<>(table.columnIds());
        ids.put(to.name(), id);
        if (!from.kind().equals(to.kind())
                || from.unique() != to.unique()
                || !from.min().equals(to.min())
                || !from.max().equals(to.max())
                || !from.link().equals(to.link())) {
            hold(within, new StoredTable(table.id(), table.definition(), ids), kept);
        }
        tell(within, table);
    }

    private static void hold(DSLContext within, StoredTable table, Column column) {
        TableSql.constraints(table, column, new Tables(within))
                .forEach(constraint ->
                        within.alterTable(table.sqlName()).add(constraint).execute());
        TableSql.indexes(table, column).forEach(within::execute);
    }

    /** Removes a column with all its values. Forms that have a field for it are left with a fray. */
    public void remove(String name, String column) {
        Retried.transaction(sql, inner -> {
            var table = own(locked(inner.dsl(), name));
            var gone = column(table, column);
            if (table.definition().columns().size() == 1) {
                throw new Faults("column", "A table needs at least one column.");
            }
            inner.dsl()
                    .alterTable(table.sqlName())
                    .dropColumnIfExists(DSL.name(gone.name()))
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
        Retried.transaction(sql, inner -> {
            var table = locked(inner.dsl(), name);
            var to = change.apply(table.definition());
            inner.dsl()
                    .update(TABLE_DEF)
                    .set(TABLE_DEF.TITLE, to.title())
                    .set(TABLE_DEF.PLACEMENT, to.placement())
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
                        .fetch(FORM.TITLE),
                linksTo(sql, table));
    }

    /** Deletes a table with its records, their history and its forms. */
    public void delete(String name) {
        Retried.transaction(sql, inner -> {
            var within = inner.dsl();
            var table = locked(within, name);
            refuseLinked(within, table);
            var gone = new Tables.TakenAway(
                    name, Optional.empty(), table.definition().title());
            if (new Tables(within).takenAway().contains(gone)) {
                within.execute("drop function if exists weft.before_saved_" + table.id() + "()");
            } else {
                TableSql.drop(table).forEach(within::execute);
            }
            within.deleteFrom(HISTORY).where(HISTORY.TABLE_ID.eq(table.id())).execute();
            within.deleteFrom(IDEMPOTENCY_KEY)
                    .where(IDEMPOTENCY_KEY.TABLE_ID.eq(table.id()))
                    .execute();
            within.deleteFrom(FREE_ROW).where(FREE_ROW.TABLE_ID.eq(table.id())).execute();
            within.deleteFrom(TABLE_DEF).where(TABLE_DEF.ID.eq(table.id())).execute();
            tell(within, table);
        });
    }

    private static void refuseLinked(DSLContext within, StoredTable table) {
        var links = linksTo(within, table);
        if (!links.isEmpty()) {
            throw new Faults(
                    "table",
                    "%s leads to it: %s. Make that text, or remove it first."
                            .formatted(links.size() == 1 ? "A link" : "Links", String.join(", ", links)));
        }
    }

    private static List<String> linksTo(DSLContext within, StoredTable table) {
        return new Tables(within)
                .linkingTo(table).stream()
                        .filter(linking -> linking.in().id() != table.id())
                        .map(linking -> linking.column().title() + " of "
                                + linking.in().definition().title())
                        .toList();
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

    /** A table that was adopted is changed where it was made. */
    static StoredTable own(StoredTable table) {
        if (table.adopted().isPresent()) {
            throw new Faults(
                    "table",
                    "%s was not made by Weft: its columns and what holds of them are changed where they were made. Titles can be changed here."
                            .formatted(table.definition().title()));
        }
        return table;
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
