package weft.store.people;

import static weft.store.schema.Tables.INVITATION;
import static weft.store.schema.Tables.MEMBERSHIP;
import static weft.store.schema.Tables.PERSON;
import static weft.store.schema.Tables.PERSON_GROUP;
import static weft.store.schema.Tables.SESSION;

import java.time.Clock;
import java.time.Instant;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.Record2;
import org.jooq.Result;
import org.jooq.impl.DSL;
import weft.core.door.Person;
import weft.core.table.Faults;

/** Persons and the groups they are in. One administrator who can sign in is always left, once there was one. */
public final class People {

    private static final String NAME = "[a-z0-9][a-z0-9._-]{0,39}";
    private static final int LONGEST_TITLE = 100;
    private static final Field<String[]> GROUPS = DSL.array(DSL.select(MEMBERSHIP.GROUP_NAME)
            .from(MEMBERSHIP)
            .where(MEMBERSHIP.PERSON_ID.eq(PERSON.ID))
            .orderBy(MEMBERSHIP.GROUP_NAME));

    private final DSLContext sql;
    private final Clock clock;
    /** Told by a query each time anew, which takes longer than the query itself. */
    private final Field<?>[] inSessionFields;

    private final String inSessionText;

    /** In the database that those queries go to. */
    public People(DSLContext sql, Clock clock) {
        this.sql = sql;
        this.clock = clock;
        var inSession = sql.select(PERSON.asterisk(), GROUPS, SESSION.LAST_ACCESS_TIME, SESSION.TOKEN)
                .from(SESSION)
                .join(PERSON)
                .on(PERSON.NAME.eq(SESSION.PRINCIPAL_NAME))
                .where(SESSION.SESSION_ID.eq(""))
                .and(SESSION.EXPIRY_TIME.gt(0L))
                .and(PERSON.GONE.isFalse())
                .and(PERSON.STOPPED.isFalse());
        this.inSessionFields = inSession.fields();
        this.inSessionText = inSession.getSQL();
    }

    /**
     * What is kept of a person.
     *
     * @param name what they sign in with
     * @param title what others read
     * @param password encoded; empty until they chose one
     * @param demo whether the password is still the demo's
     * @param stopped whether they may not come in any more
     */
    public record Account(
            long id,
            String name,
            String title,
            Optional<String> email,
            List<String> groups,
            Optional<String> password,
            boolean demo,
            boolean stopped) {

        /** Who they are to others. */
        public Person person() {
            return new Person(name, title, Set.copyOf(groups));
        }
    }

    /** What is said of a person who is made or changed. */
    public record Edited(
            String name, String title, Optional<String> email, Collection<String> groups, boolean stopped) {}

    private Optional<Account> one(DSLContext within, Condition which) {
        return within.select(PERSON.asterisk(), GROUPS)
                .from(PERSON)
                .where(which)
                .and(PERSON.GONE.isFalse())
                .fetchOptional(People::account);
    }

    private static Account account(Record row) {
        return new Account(
                row.get(PERSON.ID),
                row.get(PERSON.NAME),
                row.get(PERSON.TITLE),
                Optional.ofNullable(row.get(PERSON.EMAIL)),
                List.of(row.get(GROUPS)),
                Optional.ofNullable(row.get(PERSON.PASSWORD)),
                row.get(PERSON.DEMO),
                row.get(PERSON.STOPPED));
    }

    /** The person who signs in with that name, in any case; empty when there is none. */
    public Optional<Account> named(String name) {
        return one(sql, PERSON.NAME.eq(name.strip().toLowerCase(Locale.ROOT)));
    }

    /** The person of that identity, or empty. */
    public Optional<Account> find(long id) {
        return one(sql, PERSON.ID.eq(id));
    }

    /**
     * Who is signed in by a session.
     *
     * @param session what the session is kept by
     * @param token what tells its writes from those of other sites; empty while it has none
     * @param seen when the session was last seen to be used, or a little earlier
     */
    public record SignedIn(String session, Optional<String> token, Account person, Instant seen) {}

    /**
     * Who is signed in by the session that is kept by that; empty when it is over, or never was. Every request asks it,
     * and so it is spelled once.
     */
    public Optional<SignedIn> bySession(String id) {
        return sql.connectionResult(connection -> {
            try (var statement = connection.prepareStatement(inSessionText)) {
                statement.setString(1, id);
                statement.setLong(2, clock.millis());
                return sql.fetchOptional(statement.executeQuery(), inSessionFields)
                        .map(row -> new SignedIn(
                                id,
                                Optional.ofNullable(row.get(SESSION.TOKEN)),
                                account(row),
                                Instant.ofEpochMilli(row.get(SESSION.LAST_ACCESS_TIME))));
            }
        });
    }

    /**
     * Persons by name.
     *
     * @param after only those after that name
     */
    public List<Account> page(String after, int limit) {
        return sql.select(PERSON.asterisk(), GROUPS)
                .from(PERSON)
                .where(PERSON.NAME.gt(after))
                .and(PERSON.GONE.isFalse())
                .orderBy(PERSON.NAME)
                .limit(limit)
                .fetch(People::account);
    }

    /** Those whose password is still the demo's, in the order in which they came. */
    public List<Account> ofDemo() {
        return sql.select(PERSON.asterisk(), GROUPS)
                .from(PERSON)
                .where(PERSON.DEMO)
                .and(PERSON.GONE.isFalse())
                .and(PERSON.STOPPED.isFalse())
                .orderBy(PERSON.ID)
                .fetch(People::account);
    }

    /** What others read for each of these names; who is no person is called as they are. */
    public UnaryOperator<String> titles(Collection<String> names) {
        Map<String, String> titles = names.isEmpty()
                ? Map.of()
                : sql.select(PERSON.NAME, PERSON.TITLE)
                        .from(PERSON)
                        .where(PERSON.NAME.in(Set.copyOf(names)))
                        .fetchMap(PERSON.NAME, PERSON.TITLE);
        return name -> titles.getOrDefault(name, name);
    }

    /** Whether nobody was ever made. */
    public boolean none() {
        return !sql.fetchExists(PERSON);
    }

    /**
     * Makes a person.
     *
     * @param password encoded; empty for one who is invited to choose it
     * @throws Faults when something that is said of them cannot be
     */
    public Account add(Edited said, Optional<String> password, boolean demo) {
        return sql.transactionResult(inner -> {
            var within = inner.dsl();
            var groups = checked(within, said);
            var id = within.insertInto(PERSON)
                    .set(PERSON.NAME, said.name())
                    .set(PERSON.TITLE, said.title().strip())
                    .set(PERSON.EMAIL, said.email().orElse(null))
                    .set(PERSON.PASSWORD, password.orElse(null))
                    .set(PERSON.DEMO, demo)
                    .set(PERSON.STOPPED, said.stopped())
                    .onConflictDoNothing()
                    .returning(PERSON.ID)
                    .fetchOptional(PERSON.ID)
                    .orElseThrow(() -> new Faults(
                            "name", "“" + said.name() + "” is, or was, somebody's already. Choose another name."));
            join(within, id, groups);
            return one(within, PERSON.ID.eq(id)).orElseThrow();
        });
    }

    /**
     * Changes a person, who keeps the name.
     *
     * @throws Faults when something that is said of them cannot be, or no administrator would be left
     */
    public Optional<Account> change(long id, Edited said) {
        return sql.transactionResult(inner -> {
            var within = inner.dsl();
            if (one(within, PERSON.ID.eq(id)).isEmpty()) {
                return Optional.<Account>empty();
            }
            var groups = checked(within, said);
            within.update(PERSON)
                    .set(PERSON.TITLE, said.title().strip())
                    .set(PERSON.EMAIL, said.email().orElse(null))
                    .set(PERSON.STOPPED, said.stopped())
                    .where(PERSON.ID.eq(id))
                    .execute();
            within.deleteFrom(MEMBERSHIP).where(MEMBERSHIP.PERSON_ID.eq(id)).execute();
            join(within, id, groups);
            oneAdministers(within);
            return one(within, PERSON.ID.eq(id));
        });
    }

    /** Takes a person away. Records go on saying who entered them. */
    public boolean remove(long id) {
        return sql.transactionResult(inner -> {
            oneAfterTheOther(inner.dsl());
            int gone = inner.dsl()
                    .update(PERSON)
                    .set(PERSON.GONE, true)
                    .setNull(PERSON.PASSWORD)
                    .setNull(PERSON.EMAIL)
                    .where(PERSON.ID.eq(id))
                    .and(PERSON.GONE.isFalse())
                    .execute();
            inner.dsl()
                    .deleteFrom(MEMBERSHIP)
                    .where(MEMBERSHIP.PERSON_ID.eq(id))
                    .execute();
            inner.dsl()
                    .deleteFrom(INVITATION)
                    .where(INVITATION.PERSON_ID.eq(id))
                    .execute();
            oneAdministers(inner.dsl());
            return gone == 1;
        });
    }

    /** Gives a person another password, encoded. */
    public void password(long id, String password) {
        sql.update(PERSON)
                .set(PERSON.PASSWORD, password)
                .set(PERSON.DEMO, false)
                .where(PERSON.ID.eq(id))
                .execute();
    }

    private static void join(DSLContext within, long id, Set<String> groups) {
        groups.forEach(group -> within.insertInto(MEMBERSHIP)
                .set(MEMBERSHIP.PERSON_ID, id)
                .set(MEMBERSHIP.GROUP_NAME, group)
                .execute());
    }

    /** The groups by the names they have, once all that is said is found right. */
    private static Set<String> checked(DSLContext within, Edited said) {
        if (!said.name().matches(NAME)) {
            throw new Faults(
                    "name",
                    "A name to sign in with has 1 to 40 small letters, digits, dots, hyphens or underscores, such as saffi.keane.");
        }
        if (said.title().isBlank() || said.title().length() > LONGEST_TITLE) {
            throw new Faults("title", "Say what others read: a name of 1 to 100 characters.");
        }
        said.email()
                .filter(email -> !email.matches("[^\\s@]+@[^\\s@]+") || email.length() > 320)
                .ifPresent(_ -> {
                    throw new Faults("email", "An e-mail address is written like name@example.org.");
                });
        var known = oneAfterTheOther(within);
        var groups = new LinkedHashSet<String>();
        for (var asked : said.groups()) {
            groups.add(known.stream()
                    .filter(each -> asked.equalsIgnoreCase(each.value1()) || asked.equalsIgnoreCase(each.value2()))
                    .map(each -> each.value1())
                    .findFirst()
                    .orElseThrow(() -> new Faults("groups", "There is no group “" + asked + "”.")));
        }
        return groups;
    }

    /** Who changes who is in which group waits here for the other who does, so that one administrator is left. Every group. */
    private static Result<Record2<String, String>> oneAfterTheOther(DSLContext within) {
        return within.select(PERSON_GROUP.NAME, PERSON_GROUP.TITLE)
                .from(PERSON_GROUP)
                .orderBy(PERSON_GROUP.NAME)
                .forUpdate()
                .fetch();
    }

    private static void oneAdministers(DSLContext within) {
        boolean left = within.fetchExists(DSL.selectOne()
                .from(PERSON)
                .join(MEMBERSHIP)
                .on(MEMBERSHIP.PERSON_ID.eq(PERSON.ID))
                .where(MEMBERSHIP.GROUP_NAME.eq(Person.ADMINISTRATORS))
                .and(PERSON.GONE.isFalse())
                .and(PERSON.STOPPED.isFalse())
                .and(PERSON.PASSWORD.isNotNull()));
        if (!left) {
            throw new Faults(
                    "groups", "This is the last administrator. Make somebody else one first, who has signed in.");
        }
    }
}
