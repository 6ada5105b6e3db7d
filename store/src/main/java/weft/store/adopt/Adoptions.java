package weft.store.adopt;

import static weft.store.schema.Tables.COLUMN_DEF;
import static weft.store.schema.Tables.TABLE_DEF;

import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.exception.DataAccessException;
import org.jooq.impl.DSL;
import tools.jackson.databind.json.JsonMapper;
import weft.core.form.Form;
import weft.core.table.Column;
import weft.core.table.Faults;
import weft.core.value.Conventions;
import weft.store.Database;
import weft.store.event.Change;
import weft.store.event.Telling;
import weft.store.form.Forms;
import weft.store.table.Constraints;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/** Tables and views of other schemas: listed, looked at, and adopted. {@code Columns.delete} lets them go. */
public final class Adoptions {

    private static final JsonMapper JSON = JsonMapper.shared();
    /** How many rows are adopted for trial, to say how long all of them take. */
    private static final int TRIED = 20_000;

    private final Database database;
    private final Forms forms;

    /** In that database; what is adopted gets a form there. */
    public Adoptions(Database database, Forms forms) {
        this.database = database;
        this.forms = forms;
    }

    /**
     * A table or view of another schema.
     *
     * @param rows about how many rows it has; negative when that is not known
     * @param adopted the name of Weft's table that it is, or empty
     */
    public record ListedTable(String schema, String name, boolean view, long rows, Optional<String> adopted) {}

    /**
     * A column of it, and what it becomes.
     *
     * @param base its name, or names, there
     * @param type its type there, or types
     */
    public record Becomes(List<String> base, List<String> type, Column column) {}

    /** What is unique, checked or led to there. */
    public record Held(String name, String what) {}

    /**
     * What adopting comes to. Nothing was changed.
     *
     * @param rows how many rows there are
     * @param added the columns, indexes and triggers that would be added, in SQL's words
     * @param statements all that would be done, in order
     * @param lock about how long nobody else could read or write the table; empty for a view
     * @param keys by which columns the records of a view can be told apart; none for a table
     * @param key by which of them they would be
     */
    public record Preview(
            String schema,
            String name,
            boolean view,
            long rows,
            String title,
            List<Becomes> columns,
            List<Held> held,
            List<String> refused,
            List<String> notes,
            List<String> added,
            List<String> statements,
            Optional<Duration> lock,
            List<String> keys,
            Optional<String> key) {}

    /** A table that was adopted, its form, how many rows it has, and how long it was locked for it. */
    public record Adopted(StoredTable table, Form form, long rows, Duration lock) {}

    /** The tables and views of other schemas, by name. */
    public List<ListedTable> list() {
        return new Catalog(database.sql()).list();
    }

    /**
     * What adopting a table or view comes to; empty when there is none of that name.
     *
     * @param key of a view: by which column its records are told apart, if one is named
     */
    public Optional<Preview> preview(String schema, String name, Optional<String> key) {
        return read(within -> new Catalog(within).find(schema, name).map(existing -> {
            var facts = existing.hindrance().isPresent() ? new Facts(0, Map.of()) : Facts.of(within, existing);
            var plan = plan(within, existing, facts, "", key);
            var statements = new AdoptSql(plan);
            boolean fails = !plan.refused().isEmpty();
            return new Preview(
                    schema,
                    name,
                    existing.view(),
                    facts.rows(),
                    plan.table().title(),
                    plan.fits().stream()
                            .map(fit -> new Becomes(
                                    fit.base(),
                                    fit.base().stream()
                                            .map(base -> existing.column(base).type())
                                            .toList(),
                                    fit.column()))
                            .toList(),
                    held(existing),
                    plan.refused(),
                    plan.notes(),
                    fails || existing.view() ? List.of() : statements.added(),
                    fails ? List.of() : statements.all("…"),
                    fails || existing.view() ? Optional.empty() : Optional.of(lock(within, plan, facts.rows())),
                    existing.view() ? Plan.keys(existing) : List.of(),
                    plan.key());
        }));
    }

    private static List<Held> held(Existing existing) {
        var keys = existing.keys().stream()
                .map(key -> new Held(
                        key.name(), (key.primary() ? "primary key: " : "unique: ") + String.join(", ", key.columns())));
        var checks = existing.checks().stream().map(check -> new Held(check.name(), check.definition()));
        var leading = existing.leading().stream()
                .map(each -> new Held(
                        each.name(),
                        "%s → %s.%s".formatted(String.join(", ", each.columns()), each.schema(), each.table())));
        return Stream.of(keys, checks, leading).flatMap(each -> each).toList();
    }

    private interface Query<T> {
        T in(DSLContext within);
    }

    /** With every name written out in full, whatever path is set. */
    private <T> T read(Query<T> reading) {
        return database.longSql().transactionResult(inner -> {
            inner.dsl().execute("set local search_path = pg_catalog");
            return reading.in(inner.dsl());
        });
    }

    private static Plan plan(DSLContext within, Existing existing, Facts facts, String title, Optional<String> key) {
        var tables = new Tables(within);
        var targets = new HashMap<String, Plan.Target>();
        within
                .select(TABLE_DEF.ID)
                .from(TABLE_DEF)
                .where(TABLE_DEF.ADOPTED.isNotNull().andNot(TABLE_DEF.IS_VIEW))
                .fetch(TABLE_DEF.ID)
                .stream()
                .flatMap(id -> tables.find(id).stream())
                .forEach(table -> table.adopted()
                        .ifPresent(at -> targets.put(
                                at.schema() + "." + at.name(),
                                new Plan.Target(at.schema(), at.name(), table.definition()))));
        var taken = within.select(TABLE_DEF.NAME).from(TABLE_DEF).fetchSet(TABLE_DEF.NAME);
        return Plan.of(existing, facts, targets, taken, title, key);
    }

    /** Measured: the rows of a copy, with the same indexes, are adopted, and the whole table is reckoned from them. */
    private static Duration lock(DSLContext within, Plan plan, long rows) {
        var trial = "pg_temp.weft_trial";
        var from = Sql.quoted(plan.existing().schema(), plan.existing().name());
        within.execute("create temporary table weft_trial (like " + from
                + " including indexes including storage) on commit drop");
        within.execute("insert into " + trial + " select * from " + from + " limit " + TRIED);
        long tried = within.fetchSingle("select count(*) from " + trial).get(0, Long.class);
        if (tried == 0) {
            return Duration.ofMillis(100);
        }
        long began = System.nanoTime();
        Facts.of(within, plan.existing(), trial);
        var links = plan.links().stream().map(leads -> Sql.quoted(leads.held())).toList();
        within.execute("alter table " + trial + " add column _id bigint, add column _row bigint"
                + links.stream().map(link -> ", add column " + link + " bigint").collect(Collectors.joining()));
        within.execute("update " + trial + " t set _id = f.n, _row = f.n"
                + links.stream().map(link -> ", " + link + " = f.n").collect(Collectors.joining()) + " from"
                + " (select ctid as at, row_number() over () as n from " + trial + ") f where t.ctid = f.at");
        within.execute("alter table " + trial + " alter column _id set not null, alter column _row set not null,"
                + " add unique (_id), add unique (_row)");
        links.forEach(link -> within.execute("create index on " + trial + " (" + link + ")"));
        within.execute("analyze " + trial);
        var took = Duration.ofNanos(System.nanoTime() - began);
        within.execute("drop table " + trial);
        return took.multipliedBy(rows).dividedBy(tried).plusMillis(100);
    }

    /**
     * Adopts a table or a view, and makes its form, all or nothing.
     *
     * @param title how people are to name it; blank for what it is called
     * @param key of a view: by which column its records are told apart, if one is named
     * @param by who adopts it
     * @return it; empty when there is none of that name
     * @throws Faults when it can't be adopted, or is adopted already
     */
    public Optional<Adopted> adopt(String schema, String name, String title, Optional<String> key, String by) {
        try {
            return read(within -> adopt(within, schema, name, title, key, by));
        } catch (DataAccessException e) {
            if ("55P03".equals(e.sqlState())) {
                throw new Faults(
                        "table", "Somebody is working on %s.%s. Try again when they are done.".formatted(schema, name));
            }
            throw e;
        }
    }

    private Optional<Adopted> adopt(
            DSLContext within, String schema, String name, String title, Optional<String> key, String by) {
        within.fetch("select pg_advisory_xact_lock(hashtextextended({0}, 0))", DSL.val("adopt " + schema + "." + name));
        var found = new Catalog(within).find(schema, name);
        if (found.isEmpty()) {
            return Optional.empty();
        }
        if (new Catalog(within)
                .list().stream()
                        .anyMatch(each -> each.schema().equals(schema)
                                && each.name().equals(name)
                                && each.adopted().isPresent())) {
            throw new Faults("table", "%s.%s is adopted already.".formatted(schema, name));
        }
        var relation = Sql.quoted(schema, name);
        long began = System.nanoTime();
        if (!found.get().view() && found.get().hindrance().isEmpty()) {
            // Whoever waits behind this lock waits no longer than that.
            within.execute("set local lock_timeout = '5s'");
            within.execute("set local work_mem = '256MB'");
            within.execute("set local maintenance_work_mem = '256MB'");
            within.execute("lock table " + relation + " in access exclusive mode");
        }
        var existing = new Catalog(within).find(schema, name).orElseThrow();
        var facts = existing.hindrance().isPresent() ? new Facts(0, Map.of()) : Facts.of(within, existing);
        var plan = plan(within, existing, facts, title, key);
        if (!plan.refused().isEmpty()) {
            throw new Faults("table", String.join(" ", plan.refused()));
        }
        distinct(within, relation, plan);
        var table = Tables.adopt(
                within, plan.table(), existing.told(), existing.view(), existing.view() ? 0 : facts.rows());
        plan.fits().forEach(fit -> keep(within, table, fit));
        plan.alike().values().forEach(alike -> Constraints.keep(within, table.id(), alike));
        var statements = new AdoptSql(plan);
        if (!existing.view()) {
            statements.fill(by).forEach(each -> Database.run(within, each));
            statements.hold(table.id(), facts.rows(), table.columnIds()).forEach(each -> Database.run(within, each));
        }
        statements.stand(table.id()).forEach(each -> Database.run(within, each));
        Telling.tell(within, new Change.OfTable(table.id()));
        var adopted = new Tables(within).find(table.id()).orElseThrow();
        return Optional.of(new Adopted(
                adopted,
                forms.make(within, adopted, Conventions.DEFAULT).form(),
                facts.rows(),
                Duration.ofNanos(System.nanoTime() - began)));
    }

    private static void keep(DSLContext within, StoredTable table, Fit fit) {
        within.update(COLUMN_DEF)
                .set(COLUMN_DEF.BASE, JSONB.valueOf(JSON.writeValueAsString(fit.base())))
                .set(COLUMN_DEF.SEEN, fit.indexed().orElse(null))
                .where(COLUMN_DEF.ID.eq(table.columnId(fit.column().name())))
                .execute();
    }

    /** The records of a view are told apart by a column that has a value in each, and none twice. */
    private static void distinct(DSLContext within, String relation, Plan plan) {
        plan.key().map(Sql::quoted).ifPresent(key -> {
            boolean apart = within.fetchSingle("select count(*) = count(distinct " + key + ") from " + relation)
                    .get(0, Boolean.class);
            if (!apart) {
                throw new Faults(
                        "key",
                        "%s has a number twice, or none, so that records can't be told apart by it. Choose another column."
                                .formatted(plan.key().orElseThrow()));
            }
        });
    }
}
