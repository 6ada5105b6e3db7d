package weft.store.door;

import static weft.store.schema.Tables.PERSON;
import static weft.store.schema.Tables.TOKEN;

import java.time.Clock;
import java.time.OffsetDateTime;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import weft.store.people.Secret;

/** Tokens by which programs go through one door as one person, until they expire. */
public final class Tokens {

    private static final int MOST = 100;

    private final DSLContext sql;
    private final Clock clock;

    /** In the database that those queries go to. */
    public Tokens(DSLContext sql, Clock clock) {
        this.sql = sql;
        this.clock = clock;
    }

    /**
     * What is kept of a token.
     *
     * @param person the identity of whose it is
     * @param usedAt when it was used last; empty when never
     */
    public record Token(
            long id,
            long person,
            String door,
            String title,
            OffsetDateTime until,
            OffsetDateTime madeAt,
            Optional<OffsetDateTime> usedAt) {}

    /** A new token, and the secret that is told once. */
    public record NewToken(Token token, Secret secret) {}

    private static Token kept(Record row) {
        return new Token(
                row.get(TOKEN.ID),
                row.get(TOKEN.PERSON_ID),
                row.get(TOKEN.DOOR_ID),
                row.get(TOKEN.TITLE),
                row.get(TOKEN.UNTIL),
                row.get(TOKEN.MADE_AT),
                Optional.ofNullable(row.get(TOKEN.USED_AT)));
    }

    /** Makes a token of a person for a door. */
    public NewToken make(long person, String door, String title, OffsetDateTime until) {
        var secret = Secret.random();
        var token = sql.insertInto(TOKEN)
                .set(TOKEN.PERSON_ID, person)
                .set(TOKEN.DOOR_ID, door)
                .set(TOKEN.TITLE, title)
                .set(TOKEN.SECRET_HASH, secret.hash())
                .set(TOKEN.UNTIL, until)
                .returning()
                .fetchSingle(Tokens::kept);
        return new NewToken(token, secret);
    }

    /** The tokens of a person, the latest first. */
    public List<Token> of(long person) {
        return sql.selectFrom(TOKEN)
                .where(TOKEN.PERSON_ID.eq(person))
                .orderBy(TOKEN.ID.desc())
                .limit(MOST)
                .fetch(Tokens::kept);
    }

    private static Condition own(long person, long id) {
        return TOKEN.ID.eq(id).and(TOKEN.PERSON_ID.eq(person));
    }

    /** The token of that identity, if it is that person's. */
    public Optional<Token> find(long person, long id) {
        return sql.selectFrom(TOKEN).where(own(person, id)).fetchOptional(Tokens::kept);
    }

    /** Ends a token, if it is that person's; says whether there was one. */
    public boolean remove(long person, long id) {
        return sql.deleteFrom(TOKEN).where(own(person, id)).execute() == 1;
    }

    /** Ends every token of a person. */
    public void endOf(long person) {
        sql.deleteFrom(TOKEN).where(TOKEN.PERSON_ID.eq(person)).execute();
    }

    /** The token of that secret that has not expired; it is noted, to the minute, that it was used. */
    public Optional<Token> used(Secret secret) {
        var token = sql.select(TOKEN.asterisk())
                .from(TOKEN)
                .join(PERSON)
                .on(PERSON.ID.eq(TOKEN.PERSON_ID))
                .where(TOKEN.SECRET_HASH.eq(secret.hash()))
                .and(TOKEN.UNTIL.gt(OffsetDateTime.now(clock)))
                .and(PERSON.GONE.isFalse())
                .and(PERSON.STOPPED.isFalse())
                .fetchOptional(Tokens::kept);
        token.filter(each -> each.usedAt()
                        .filter(OffsetDateTime.now(clock).minusMinutes(1)::isBefore)
                        .isEmpty())
                .ifPresent(each -> sql.update(TOKEN)
                        .set(TOKEN.USED_AT, OffsetDateTime.now(clock))
                        .where(TOKEN.ID.eq(each.id()))
                        .execute());
        return token;
    }
}
