package weft.store.people;

import static weft.store.schema.Tables.MEMBERSHIP;
import static weft.store.schema.Tables.PERSON_GROUP;

import java.util.List;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import weft.core.door.Person;
import weft.core.table.Faults;

/** The groups that persons are in, and that doors are for. */
public final class Groups {

    private static final int LONGEST_TITLE = 100;

    private final DSLContext sql;

    /** In the database that those queries go to. */
    public Groups(DSLContext sql) {
        this.sql = sql;
    }

    /** A group. */
    public record Group(String name, String title, int people) {}

    /** Every group, by title, with how many are in it. */
    public List<Group> all() {
        var people = DSL.count(MEMBERSHIP.PERSON_ID);
        return sql.select(PERSON_GROUP.NAME, PERSON_GROUP.TITLE, people)
                .from(PERSON_GROUP)
                .leftJoin(MEMBERSHIP)
                .on(MEMBERSHIP.GROUP_NAME.eq(PERSON_GROUP.NAME))
                .groupBy(PERSON_GROUP.NAME, PERSON_GROUP.TITLE)
                .orderBy(DSL.lower(PERSON_GROUP.TITLE))
                .fetch(row -> new Group(row.value1(), row.value2(), row.value3()));
    }

    /**
     * Makes a group.
     *
     * @throws Faults when there is one of that name, or the name is none
     */
    public void add(String name, String title) {
        if (!name.matches("[\\p{L}\\p{N}][\\p{L}\\p{N} ._-]{0,59}")) {
            throw new Faults(
                    "name", "A group's name has 1 to 60 letters, digits, blanks, hyphens, dots or underscores.");
        }
        titled(title);
        boolean taken =
                sql.fetchExists(PERSON_GROUP, DSL.lower(PERSON_GROUP.NAME).eq(DSL.lower(name)));
        if (taken
                || sql.insertInto(PERSON_GROUP)
                                .set(PERSON_GROUP.NAME, name)
                                .set(PERSON_GROUP.TITLE, title.strip())
                                .onConflictDoNothing()
                                .execute()
                        == 0) {
            throw new Faults("name", "There is a group “" + name + "” already.");
        }
    }

    private static void titled(String title) {
        if (title.isBlank() || title.length() > LONGEST_TITLE) {
            throw new Faults("title", "Give the group a title of 1 to 100 characters.");
        }
    }

    /** Gives a group another title; says whether there is one of that name. */
    public boolean retitle(String name, String title) {
        titled(title);
        return sql.update(PERSON_GROUP)
                        .set(PERSON_GROUP.TITLE, title.strip())
                        .where(PERSON_GROUP.NAME.eq(name))
                        .execute()
                == 1;
    }

    /**
     * Takes a group away; its persons stay. Says whether there was one of that name.
     *
     * @throws Faults when it is one that is always there
     */
    public boolean remove(String name) {
        if (Person.ALWAYS.contains(name)) {
            throw new Faults("name", name + " are always there.");
        }
        return sql.deleteFrom(PERSON_GROUP).where(PERSON_GROUP.NAME.eq(name)).execute() == 1;
    }
}
