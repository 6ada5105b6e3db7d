package weft.store.people;

import static weft.store.schema.Tables.AUDIT;

import java.time.Clock;
import java.time.Duration;
import java.time.OffsetDateTime;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;

/** What was done about people, doors and forms, and what left Weft, for administrators to look up. */
public final class Audit {

    private static final int LONGEST = 400;

    private final DSLContext sql;
    private final Clock clock;

    /** In the database that those queries go to. */
    public Audit(DSLContext sql, Clock clock) {
        this.sql = sql;
        this.clock = clock;
    }

    /** What can be looked up. The wire name is the constant in lower case, with hyphens. */
    public enum Deed {
        SIGNED_IN,
        SIGN_IN_FAILED,
        SIGN_IN_HELD_UP,
        SIGNED_OUT,
        SESSION_ENDED,
        INVITED,
        INVITATION_TAKEN,
        PASSWORD_CHANGED,
        PERSON_MADE,
        PERSON_CHANGED,
        PERSON_STOPPED,
        PERSON_REMOVED,
        GROUP_MADE,
        GROUP_CHANGED,
        GROUP_REMOVED,
        DOOR_MADE,
        DOOR_CHANGED,
        DOOR_REMOVED,
        DOOR_ADDRESS,
        TOKEN_MADE,
        TOKEN_REMOVED,
        FORM_PUBLISHED,
        TABLE_DELETED,
        TABLE_ADOPTED,
        TABLE_LET_GO,
        EXPORT_TAKEN;
    }

    /**
     * One thing that was done.
     *
     * @param by the name of who did it, or tried to
     * @param about whom or what it was done to, in words; never values of records
     * @param address from where
     */
    public record Audited(long id, OffsetDateTime at, String by, Deed what, String about, String address) {}

    /** Writes down what was done. */
    public void tell(String by, Deed what, String about, String address) {
        sql.insertInto(AUDIT)
                .set(AUDIT.BY, cut(by, 100))
                .set(AUDIT.WHAT, what)
                .set(AUDIT.ABOUT, cut(about, LONGEST))
                .set(AUDIT.ADDRESS, cut(address, 60))
                .execute();
    }

    private static String cut(String text, int longest) {
        return text.substring(0, Math.min(longest, text.length()));
    }

    /**
     * What was done, the latest first.
     *
     * @param before only what was written down before this; 0 for the latest
     */
    public List<Audited> latest(long before, int limit) {
        return sql.selectFrom(AUDIT)
                .where(before > 0 ? AUDIT.ID.lt(before) : DSL.noCondition())
                .orderBy(AUDIT.ID.desc())
                .limit(limit)
                .fetch(row -> new Audited(
                        row.get(AUDIT.ID),
                        row.get(AUDIT.AT),
                        row.get(AUDIT.BY),
                        row.get(AUDIT.WHAT),
                        row.get(AUDIT.ABOUT),
                        row.get(AUDIT.ADDRESS)));
    }

    /** Forgets what was done longer ago than that. */
    public int forget(Duration age) {
        return sql.deleteFrom(AUDIT)
                .where(AUDIT.AT.lt(OffsetDateTime.now(clock).minus(age)))
                .execute();
    }

    /** How often it was done of late. */
    public int count(Deed what, Duration ago) {
        return sql.fetchCount(
                AUDIT,
                AUDIT.WHAT.eq(what).and(AUDIT.AT.gt(OffsetDateTime.now(clock).minus(ago))));
    }
}
