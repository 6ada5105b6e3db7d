package weft.store.usual;

import static weft.store.schema.Tables.USUAL;
import static weft.store.schema.Tables.USUAL_COUNT;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Select;
import org.jooq.exception.DataAccessException;
import org.jooq.impl.DSL;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import weft.core.form.Form;
import weft.core.rule.Check;
import weft.core.usual.Grouping;
import weft.store.Database;
import weft.store.form.Forms;
import weft.store.table.Retried;
import weft.store.table.StoredTable;
import weft.store.table.Tables;
import weft.store.table.UsualSql;

/**
 * Keeps counted what the rules of published forms hold values against. What is there is counted once, beside the entries that go
 * on; from then on the database adds each write itself, and what it added is summed up here.
 */
public final class UsualCounts {

    private static final Logger LOG = LoggerFactory.getLogger(UsualCounts.class);

    private final DSLContext sql;
    private final Tables tables;
    private final Forms forms;

    /** In that database. */
    public UsualCounts(Database database, Tables tables, Forms forms) {
        this.sql = database.longSql();
        this.tables = tables;
        this.forms = forms;
    }

    /** Counts what is not counted yet, and lets go of what no rule needs any longer. */
    public void keep() {
        var published = forms.published();
        var ruled = published.tables().stream()
                .filter(name -> published.on(name).stream()
                        .flatMap(form -> form.rules().checks().stream())
                        .anyMatch(check -> check.rule() instanceof Check.Usual))
                .flatMap(name -> tables.find(name).stream());
        var known = sql.selectDistinct(USUAL.TABLE_ID).from(USUAL).fetch(USUAL.TABLE_ID).stream()
                .flatMap(id -> tables.find(id).stream());
        Stream.concat(ruled, known)
                .filter(table -> table.adopted().isEmpty())
                .collect(Collectors.toMap(StoredTable::id, table -> table, (one, _) -> one))
                .values()
                .forEach(table -> keep(
                        table, needed(table, published.on(table.definition().name()))));
        clearAway();
    }

    private void keep(StoredTable table, Set<Grouping> needed) {
        try {
            if (needed.isEmpty()) {
                unwatch(table);
            }
            var others = needed.stream()
                    .map(grouping -> UsualSql.of(table, grouping))
                    .reduce(DSL.noCondition(), (all, one) -> all.and(one.not()));
            sql.deleteFrom(USUAL)
                    .where(USUAL.TABLE_ID.eq(table.id()))
                    .and(others)
                    .execute();
            needed.stream()
                    .filter(grouping -> !sql.fetchExists(counted(table, grouping)))
                    .forEach(grouping -> count(table, grouping));
        } catch (DataAccessException e) {
            LOG.warn(
                    "what is usual in table {} could not be counted (SQL state {}); it is tried again",
                    table.id(),
                    e.sqlState());
        }
    }

    private static Set<Grouping> needed(StoredTable table, List<Form> published) {
        var needed = new LinkedHashSet<Grouping>();
        for (var form : published) {
            for (var check : form.rules().checks()) {
                if (check.rule() instanceof Check.Usual usual) {
                    Grouping.of(usual, table.definition()).map(Grouping::ofAll).ifPresent(needed::add);
                }
            }
        }
        return needed;
    }

    private static Select<?> counted(StoredTable table, Grouping grouping) {
        return DSL.selectOne().from(USUAL).where(UsualSql.of(table, grouping)).and(USUAL.COUNTED);
    }

    private void unwatch(StoredTable table) {
        if (watched(table)) {
            Retried.result(
                    sql, inner -> inner.dsl().fetch("select weft.unwatch_usual({0}::regclass)", relation(table)));
        }
    }

    private boolean watched(StoredTable table) {
        return sql.fetchExists(
                DSL.table("pg_trigger"),
                DSL.condition("tgrelid = {0}::regclass and tgname = 'zz_weft_usual_insert'", relation(table)));
    }

    private Field<String> relation(StoredTable table) {
        return DSL.inline(sql.render(table.sqlName()));
    }

    /**
     * Counts what is there. From the moment on at which nobody writes who does not know of it yet, every write is added; of the
     * moment after that all records are counted, in place of what was added up to it.
     */
    private void count(StoredTable table, Grouping grouping) {
        sql.insertInto(USUAL, USUAL.TABLE_ID, USUAL.COLUMN_ID, USUAL.PART_COLUMNS, USUAL.PART_OF)
                .values(
                        table.id(),
                        table.columnId(grouping.column().name()),
                        UsualSql.partColumns(table, grouping),
                        UsualSql.partOf(grouping))
                .onConflictDoNothing()
                .execute();
        Retried.result(sql, inner -> {
            // Who writes for long is not waited for, since everybody else would wait too; it is tried again.
            inner.dsl().execute("set local lock_timeout = '2s'");
            inner.dsl().execute("lock table {0} in share row exclusive mode", DSL.table(table.sqlName()));
            return inner.dsl()
                    .fetch("select weft.watch_usual({0}, {1}::regclass)", DSL.inline(table.id()), relation(table));
        });
        sql.transaction(inner -> {
            var within = inner.dsl();
            within.execute("set transaction isolation level repeatable read");
            var mine = within.select(USUAL.ID)
                    .from(USUAL)
                    .where(UsualSql.of(table, grouping))
                    .and(USUAL.COUNTED.isFalse())
                    .forUpdate()
                    .skipLocked()
                    .fetchOptional(USUAL.ID);
            // A table that was changed meanwhile is looked after again for that.
            if (mine.isEmpty() || !new Tables(within).find(table.id()).equals(Optional.of(table))) {
                return;
            }
            long id = mine.get();
            within.deleteFrom(USUAL_COUNT).where(USUAL_COUNT.USUAL_ID.eq(id)).execute();
            within.execute(
                    "insert into weft.usual_count (usual_id, of_group, value, times, summed)"
                            + " select {0}, p.of_group, p.value, sum(t._times), true from {1} group by p.of_group, p.value",
                    DSL.inline(id), UsualSql.placed(table, grouping));
            within.update(USUAL).set(USUAL.COUNTED, true).where(USUAL.ID.eq(id)).execute();
        });
    }

    private void clearAway() {
        sql.execute("delete from weft.usual_count where usual_id <> all (array(select id from weft.usual))");
    }

    /** Sums up what writes added, so that little of it is left to be read by each question. */
    public void sumUp() {
        sql.execute(
                "with added as (select distinct usual_id, of_group, value from weft.usual_count where not summed),"
                        + " gone as (delete from weft.usual_count c using added where (c.usual_id, c.of_group, c.value)"
                        + " = (added.usual_id, added.of_group, added.value) returning c.*)"
                        + " insert into weft.usual_count (usual_id, of_group, value, times, summed)"
                        + " select usual_id, of_group, value, sum(times), true from gone group by 1, 2, 3 having sum(times) <> 0");
    }
}
