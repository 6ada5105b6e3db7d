package weft.store.day;

import static weft.store.schema.Tables.DAY_LOOKED;
import static weft.store.schema.Tables.HISTORY;

import java.time.LocalDate;
import java.time.OffsetDateTime;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.jooq.impl.SQLDataType;
import weft.store.record.History;
import weft.store.table.SeenTable;

/** What was done to records since somebody last looked, and when that was. */
public final class Days {

    private static final Field<OffsetDateTime> CHANGED_AT =
            DSL.field(DSL.name("_changed_at"), SQLDataType.TIMESTAMPWITHTIMEZONE);
    private static final Field<String> CHANGED_BY = DSL.field(DSL.name("_changed_by"), SQLDataType.VARCHAR);

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
    public record LastLook(OffsetDateTime at, boolean mail) {}

    /** When that person looked last; empty when they never did. */
    public Optional<LastLook> looked(String person) {
        return sql.select(DAY_LOOKED.LOOKED_AT, DAY_LOOKED.MAIL)
                .from(DAY_LOOKED)
                .where(DAY_LOOKED.PERSON.eq(person))
                .fetchOptional(row -> new LastLook(row.value1(), row.value2()));
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

    /**
     * The last whole second until which all that was written is there to be read. What is being written at this moment bears the
     * time at which it was begun; it is not waited for longer than an hour.
     */
    public OffsetDateTime until() {
        return sql.fetchSingle("select date_trunc('second', greatest(now() - interval '1 hour',"
                        + " least(now(), (select min(xact_start) from pg_stat_activity"
                        + " where datname = current_database() and backend_type = 'client backend'"
                        + " and pid <> pg_backend_pid()))))")
                .get(0, OffsetDateTime.class);
    }

    /** How many records that are to be seen of a table were changed since, by the name of who changed each last. */
    public Map<String, Integer> changed(SeenTable table, OffsetDateTime since) {
        return sql.select(CHANGED_BY, DSL.count())
                .from(DSL.table(table.sqlName()))
                .where(CHANGED_AT.ge(since))
                .and(table.inView())
                .groupBy(CHANGED_BY)
                .fetchMap(CHANGED_BY, DSL.count());
    }

    /** How many records were removed since and not put back, whatever was to be seen of them, by the name of who removed each. */
    public Map<String, Integer> removed(SeenTable table, OffsetDateTime since) {
        return sql.select(HISTORY.BY, DSL.count())
                .from(HISTORY)
                .where(History.removed(table.stored()))
                .and(HISTORY.AT.ge(since))
                .groupBy(HISTORY.BY)
                .fetchMap(HISTORY.BY, DSL.count());
    }
}
