package weft.store.day;

import static weft.store.schema.Tables.DAY_LOOKED;
import static weft.store.schema.Tables.HISTORY;

import java.time.LocalDate;
import java.time.OffsetDateTime;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import weft.store.table.StoredTable;
import weft.store.table.TableSql;

/** What was done to records since somebody last looked, and when that was. */
public final class Days {

    /** More that came in are not counted. */
    public static final int MOST = 10_000;

    private final DSLContext sql;

    /** In the database that those queries go to. */
    public Days(DSLContext sql) {
        this.sql = sql;
    }

    /**
     * When somebody looked last.
     *
     * @param mail whether they want the day by mail each morning
     */
    public record Looked(OffsetDateTime at, boolean mail) {}

    /** When that person looked last; empty when they never did. */
    public Optional<Looked> looked(String person) {
        return sql.select(DAY_LOOKED.LOOKED_AT, DAY_LOOKED.MAIL)
                .from(DAY_LOOKED)
                .where(DAY_LOOKED.PERSON.eq(person))
                .fetchOptional(row -> new Looked(row.value1(), row.value2()));
    }

    /** That person has seen what there was until then. */
    public void seen(String person, OffsetDateTime until) {
        sql.insertInto(DAY_LOOKED)
                .set(DAY_LOOKED.PERSON, person)
                .set(DAY_LOOKED.LOOKED_AT, until)
                .onConflict(DAY_LOOKED.PERSON)
                .doUpdate()
                .set(DAY_LOOKED.LOOKED_AT, DSL.greatest(DAY_LOOKED.LOOKED_AT, DSL.excluded(DAY_LOOKED.LOOKED_AT)))
                .execute();
    }

    /** From now on that person gets it by mail each morning, or not; what they have not seen yet stays so. */
    public void mail(String person, boolean wanted, OffsetDateTime since) {
        sql.insertInto(DAY_LOOKED)
                .set(DAY_LOOKED.PERSON, person)
                .set(DAY_LOOKED.LOOKED_AT, since)
                .set(DAY_LOOKED.MAIL, wanted)
                .onConflict(DAY_LOOKED.PERSON)
                .doUpdate()
                .set(DAY_LOOKED.MAIL, wanted)
                .execute();
    }

    /** Those who want it by mail and have not had it that day; each is told to one server only. */
    public List<String> toMail(LocalDate day) {
        return sql.update(DAY_LOOKED)
                .set(DAY_LOOKED.MAILED, day)
                .where(DAY_LOOKED.MAIL)
                .and(DAY_LOOKED.MAILED.isNull().or(DAY_LOOKED.MAILED.lt(day)))
                .returning(DAY_LOOKED.PERSON)
                .fetch(DAY_LOOKED.PERSON);
    }

    /** How many records that are to be seen of a table came in since; {@link #MOST} for so many or more. */
    public int came(StoredTable table, OffsetDateTime since) {
        return sql.fetchCount(DSL.selectOne()
                .from(DSL.table(table.sqlName()))
                .where(TableSql.ID.in(
                        DSL.select(HISTORY.RECORD_ID).from(HISTORY).where(done(table, since, "saved"))))
                .and(table.inView())
                .limit(MOST));
    }

    /** How many records that are to be seen were changed or settled since, by the name of who did. */
    public Map<String, Integer> changed(StoredTable table, OffsetDateTime since) {
        var seen = table.showsAll()
                ? DSL.noCondition()
                : HISTORY.RECORD_ID.in(DSL.select(TableSql.ID)
                        .from(DSL.table(table.sqlName()))
                        .where(TableSql.ID.eq(HISTORY.RECORD_ID))
                        .and(table.inView()));
        return byWhom(done(table, since, "changed", "settled").and(seen));
    }

    /** How many were removed since, whatever was to be seen of them, by the name of who did. */
    public Map<String, Integer> removed(StoredTable table, OffsetDateTime since) {
        return byWhom(done(table, since, "deleted"));
    }

    private static Condition done(StoredTable table, OffsetDateTime since, String... actions) {
        return HISTORY.TABLE_ID.eq(table.id()).and(HISTORY.AT.gt(since)).and(HISTORY.ACTION.in(actions));
    }

    private Map<String, Integer> byWhom(Condition which) {
        var times = new TreeMap<String, Integer>();
        sql.select(HISTORY.BY, DSL.countDistinct(HISTORY.RECORD_ID))
                .from(HISTORY)
                .where(which)
                .groupBy(HISTORY.BY)
                .forEach(row -> times.put(row.value1(), row.value2()));
        return times;
    }
}
