package weft.store.find;

import static weft.store.schema.Tables.KEPT_FIND;

import java.util.List;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.impl.DSL;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** Finds that were given a name, kept with the door that they were made at. */
public final class KeptFinds {

    private static final JsonMapper JSON = JsonMapper.shared();
    private static final int MOST = 200;

    private final DSLContext sql;

    /** In the database that those queries go to. */
    public KeptFinds(DSLContext sql) {
        this.sql = sql;
    }

    /**
     * A find under a name.
     *
     * @param where what is asked, each as {@code column:criterion}
     * @param any what is asked of any field, or the empty string
     * @param sort the order, as {@link weft.core.find.Sort#wire()} spells it
     */
    public record NamedFind(String name, List<String> where, String any, String sort) {}

    private record FindAsked(List<String> where, String any, String sort) {}

    /** Every find kept with a door, by name. */
    public List<NamedFind> of(String door) {
        return sql.select(KEPT_FIND.NAME, KEPT_FIND.ASKED)
                .from(KEPT_FIND)
                .where(KEPT_FIND.DOOR_ID.eq(door))
                .orderBy(DSL.lower(KEPT_FIND.NAME))
                .limit(MOST)
                .fetch(row -> {
                    var asked = JSON.readValue(row.value2().data(), new TypeReference<FindAsked>() {});
                    return new NamedFind(row.value1(), asked.where(), asked.any(), asked.sort());
                });
    }

    /** Keeps a find; one of the same name gives way to it. */
    public void keep(String form, String door, NamedFind find, String by) {
        var asked = JSONB.valueOf(JSON.writeValueAsString(new FindAsked(find.where(), find.any(), find.sort())));
        sql.insertInto(KEPT_FIND)
                .set(KEPT_FIND.FORM_ID, form)
                .set(KEPT_FIND.DOOR_ID, door)
                .set(KEPT_FIND.NAME, find.name())
                .set(KEPT_FIND.ASKED, asked)
                .set(KEPT_FIND.BY, by)
                .onConflict(KEPT_FIND.DOOR_ID, KEPT_FIND.NAME)
                .doUpdate()
                .set(KEPT_FIND.ASKED, asked)
                .set(KEPT_FIND.BY, by)
                .execute();
    }

    /** Forgets a find. */
    public void forget(String door, String name) {
        sql.deleteFrom(KEPT_FIND)
                .where(KEPT_FIND.DOOR_ID.eq(door))
                .and(KEPT_FIND.NAME.eq(name))
                .execute();
    }
}
