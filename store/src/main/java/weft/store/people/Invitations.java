package weft.store.people;

import static weft.store.schema.Tables.INVITATION;

import java.time.Clock;
import java.time.Duration;
import java.time.OffsetDateTime;
import java.util.Optional;
import org.jooq.DSLContext;
import weft.core.table.Faults;

/** Invitations to choose a password, each by a secret that is told once. */
public final class Invitations {

    /** How long an invitation can be taken up. */
    public static final Duration INVITED_FOR = Duration.ofDays(7);

    private final DSLContext sql;
    private final Clock clock;

    /** In the database that those queries go to. */
    public Invitations(DSLContext sql, Clock clock) {
        this.sql = sql;
        this.clock = clock;
    }

    /** Invites a person to choose a password; an invitation before this one dies. */
    public Secret invite(long id) {
        return invite(Optional.of(id));
    }

    /** Invites whoever comes first to be the first administrator. */
    public Secret inviteFirst() {
        return invite(Optional.empty());
    }

    private Secret invite(Optional<Long> person) {
        var secret = Secret.random();
        sql.transaction(inner -> {
            inner.dsl()
                    .deleteFrom(INVITATION)
                    .where(person.map(INVITATION.PERSON_ID::eq).orElseGet(INVITATION.PERSON_ID::isNull))
                    .or(INVITATION.UNTIL.lt(OffsetDateTime.now(clock)))
                    .execute();
            inner.dsl()
                    .insertInto(INVITATION)
                    .set(INVITATION.SECRET_HASH, secret.hash())
                    .set(INVITATION.PERSON_ID, person.orElse(null))
                    .set(INVITATION.UNTIL, OffsetDateTime.now(clock).plus(INVITED_FOR))
                    .execute();
        });
        return secret;
    }

    /** Whom that secret invites: a person, or nobody yet for the first administrator. */
    public record Invited(Optional<People.Account> person) {}

    /** Whom that secret invites; empty when it invites nobody, or nobody any more. */
    public Optional<Invited> invited(Secret secret) {
        return invited(sql, secret);
    }

    private Optional<Invited> invited(DSLContext within, Secret secret) {
        return within.select(INVITATION.PERSON_ID)
                .from(INVITATION)
                .where(INVITATION.SECRET_HASH.eq(secret.hash()))
                .and(INVITATION.UNTIL.gt(OffsetDateTime.now(clock)))
                .fetchOptional()
                .flatMap(row -> row.value1() == null
                        ? Optional.of(new Invited(Optional.empty()))
                        : new People(within, clock)
                                .find(row.value1())
                                .filter(person -> !person.stopped())
                                .map(person -> new Invited(Optional.of(person))));
    }

    /**
     * Takes an invitation up, once.
     *
     * @param first who the first administrator is to be; not looked at where a person is invited
     * @param password encoded
     * @return who can sign in now; empty when the invitation is gone
     */
    public Optional<People.Account> accept(Secret secret, Optional<People.Edited> first, String password) {
        return sql.transactionResult(inner -> {
            var within = inner.dsl();
            var invited = invited(within, secret);
            int taken = within.deleteFrom(INVITATION)
                    .where(INVITATION.SECRET_HASH.eq(secret.hash()))
                    .execute();
            if (invited.isEmpty() || taken == 0) {
                return Optional.<People.Account>empty();
            }
            var people = new People(within, clock);
            if (invited.get().person().isPresent()) {
                long id = invited.get().person().get().id();
                people.password(id, password);
                return people.find(id);
            }
            if (!people.none()) {
                return Optional.<People.Account>empty();
            }
            var said = first.orElseThrow(() -> new Faults("name", "Say by which name you will sign in."));
            return Optional.of(people.add(said, Optional.of(password), false));
        });
    }
}
