package weft.store.people;

import static weft.store.schema.Tables.SESSION;

import java.time.Clock;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;

/** Who is signed in, on whichever server. */
public final class Sessions {

    private final DSLContext sql;
    private final Clock clock;

    /** In the database that those queries go to. */
    public Sessions(DSLContext sql, Clock clock) {
        this.sql = sql;
        this.clock = clock;
    }

    /** A session, of the person of that name. */
    public record OpenSession(String id, String name, OffsetDateTime since, OffsetDateTime seen) {}

    /** Those who are signed in, the one seen last first; at most so many. */
    public List<OpenSession> latest(int most) {
        return sql.select(SESSION.PRIMARY_ID, SESSION.PRINCIPAL_NAME, SESSION.CREATION_TIME, SESSION.LAST_ACCESS_TIME)
                .from(SESSION)
                .where(SESSION.PRINCIPAL_NAME.isNotNull())
                .and(SESSION.EXPIRY_TIME.gt(clock.millis()))
                .orderBy(SESSION.LAST_ACCESS_TIME.desc())
                .limit(most)
                .fetch(row -> new OpenSession(row.value1(), row.value2(), at(row.value3()), at(row.value4())));
    }

    private static OffsetDateTime at(long millis) {
        return Instant.ofEpochMilli(millis).atZone(ZoneId.systemDefault()).toOffsetDateTime();
    }

    /** Ends a session; says of whom it was a session, or nothing when there was none. */
    public Optional<String> end(String id) {
        return sql.deleteFrom(SESSION)
                .where(SESSION.PRIMARY_ID.eq(id))
                .returning(SESSION.PRINCIPAL_NAME)
                .fetchOptional(SESSION.PRINCIPAL_NAME);
    }

    /** The token of the session that is kept by that; this one where it has none yet. */
    public String token(String session, String token) {
        return sql.update(SESSION)
                .set(SESSION.TOKEN, DSL.coalesce(SESSION.TOKEN, token))
                .where(SESSION.SESSION_ID.eq(session))
                .returning(SESSION.TOKEN)
                .fetchOptional(SESSION.TOKEN)
                .orElse(token);
    }

    /** Ends every session of a person but the one that is kept by that; an empty one spares none. */
    public void endOf(String name, String but) {
        sql.deleteFrom(SESSION)
                .where(SESSION.PRINCIPAL_NAME.eq(name))
                .and(SESSION.SESSION_ID.ne(but))
                .execute();
    }
}
