package weft.store.door;

import static weft.store.schema.Tables.DOOR;
import static weft.store.schema.Tables.FORM;
import static weft.store.schema.Tables.KEPT_FIND;
import static weft.store.schema.Tables.TOKEN;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.JSON;
import org.jooq.Record;
import tools.jackson.databind.json.JsonMapper;
import weft.core.door.Door;
import weft.core.table.Faults;
import weft.store.event.Change;
import weft.store.event.Telling;
import weft.store.json.Json;
import weft.store.people.Secret;

/** Doors as they are kept. The one that a form is born with is kept nowhere: it is there while the form is. */
public final class Doors {

    private static final JsonMapper MAPPER = Json.MAPPER;
    private static final int MOST = 100;

    private final DSLContext sql;

    /** In the database that those queries go to. */
    public Doors(DSLContext sql) {
        this.sql = sql;
    }

    /**
     * A door as it is kept.
     *
     * @param revision counts its changes, from 1
     * @param linked whether it has a secret address
     */
    public record StoredDoor(Door door, int revision, boolean linked) {}

    /** Two people changed a door at once. */
    public static final class Changed extends RuntimeException {}

    private static StoredDoor kept(Record row) {
        var document = MAPPER.readValue(row.get(DOOR.DOCUMENT).data(), DoorJson.class);
        return new StoredDoor(
                document.door(row.get(DOOR.FORM_ID)), row.get(DOOR.REVISION), row.get(DOOR.LINK_HASH) != null);
    }

    private Optional<StoredDoor> one(Condition which) {
        return sql.selectFrom(DOOR).where(which).fetchOptional(Doors::kept);
    }

    /** The door of that id, or empty. */
    public Optional<StoredDoor> find(String id) {
        return one(DOOR.ID.eq(id))
                .or(() -> sql.fetchExists(FORM, FORM.ID.eq(id))
                        ? Optional.of(new StoredDoor(Door.everything(id), 1, false))
                        : Optional.empty());
    }

    /** The door that has that secret address, or empty. */
    public Optional<Door> byLink(Secret secret) {
        return one(DOOR.LINK_HASH.eq(secret.hash()))
                .map(StoredDoor::door)
                .filter(door -> door.who().link());
    }

    /** The doors of a form, the one that it is born with first. */
    public List<StoredDoor> of(String form) {
        var all = new ArrayList<StoredDoor>();
        all.add(new StoredDoor(Door.everything(form), 1, false));
        all.addAll(sql.selectFrom(DOOR)
                .where(DOOR.FORM_ID.eq(form))
                .orderBy(DOOR.MADE_AT, DOOR.ID)
                .limit(MOST)
                .fetch(Doors::kept));
        return all;
    }

    /** Every door of every form that is published and in use. */
    public List<Door> all() {
        var forms = sql.select(FORM.ID)
                .from(FORM)
                .where(FORM.PUBLISHED_VERSION.isNotNull())
                .and(FORM.ARCHIVED.isFalse())
                .orderBy(FORM.TITLE)
                .fetch(FORM.ID);
        var kept = sql.selectFrom(DOOR).orderBy(DOOR.MADE_AT, DOOR.ID).fetch(Doors::kept);
        var all = new ArrayList<Door>();
        for (var form : forms) {
            kept.stream()
                    .map(StoredDoor::door)
                    .filter(door -> door.form().equals(form))
                    .forEach(all::add);
            all.add(Door.everything(form));
        }
        return all;
    }

    /**
     * Makes a door.
     *
     * @throws Faults when its id is another's, or the form has too many
     */
    public StoredDoor make(Door door) {
        if (of(door.form()).size() > MOST) {
            throw new Faults("id", "A form has " + MOST + " doors at most.");
        }
        int made = sql.transactionResult(inner -> {
            // Forms take their ids under this lock too, so that none is called as a door.
            inner.dsl().execute("select pg_advisory_xact_lock(hashtext('weft.form ids'))");
            int inserted = inner.dsl().fetchExists(FORM, FORM.ID.eq(door.id()))
                    ? 0
                    : inner.dsl()
                            .insertInto(DOOR)
                            .set(DOOR.ID, door.id())
                            .set(DOOR.FORM_ID, door.form())
                            .set(DOOR.REVISION, 1)
                            .set(DOOR.DOCUMENT, document(door))
                            .onConflictDoNothing()
                            .execute();
            tell(inner.dsl(), door.form());
            return inserted;
        });
        if (made == 0) {
            throw new Faults("id", "There is a door “" + door.id() + "” already. Choose another id.");
        }
        return new StoredDoor(door, 1, false);
    }

    /** What a form is by its doors may be another now, on every server. */
    private static void tell(DSLContext within, String form) {
        within.select(FORM.TABLE_ID)
                .from(FORM)
                .where(FORM.ID.eq(form))
                .forEach(row -> Telling.tell(within, new Change.OfPublished(row.value1(), form)));
    }

    private static JSON document(Door door) {
        return JSON.valueOf(MAPPER.writeValueAsString(DoorJson.of(door)));
    }

    /**
     * Changes a door, which keeps its id and its form.
     *
     * @param revision the one that was seen
     * @throws Changed when it is another by now
     */
    public StoredDoor change(Door door, int revision) {
        int changed = sql.transactionResult(inner -> {
            tell(inner.dsl(), door.form());
            return inner.dsl()
                    .update(DOOR)
                    .set(DOOR.DOCUMENT, document(door))
                    .set(DOOR.REVISION, revision + 1)
                    .where(DOOR.ID.eq(door.id()))
                    .and(DOOR.REVISION.eq(revision))
                    .execute();
        });
        if (changed == 0) {
            throw new Changed();
        }
        if (!door.who().link()) {
            sql.update(DOOR)
                    .setNull(DOOR.LINK_HASH)
                    .where(DOOR.ID.eq(door.id()))
                    .execute();
        }
        return find(door.id()).orElseThrow();
    }

    /** Takes a door away, with its finds and its tokens. */
    public void remove(String id) {
        sql.transaction(inner -> {
            inner.dsl()
                    .deleteFrom(DOOR)
                    .where(DOOR.ID.eq(id))
                    .returning(DOOR.FORM_ID)
                    .forEach(door -> tell(inner.dsl(), door.get(DOOR.FORM_ID)));
            inner.dsl().deleteFrom(KEPT_FIND).where(KEPT_FIND.DOOR_ID.eq(id)).execute();
            inner.dsl().deleteFrom(TOKEN).where(TOKEN.DOOR_ID.eq(id)).execute();
        });
    }

    /** Gives a door a new secret address; the one before dies. */
    public Secret link(String id) {
        var secret = Secret.random();
        sql.update(DOOR)
                .set(DOOR.LINK_HASH, secret.hash())
                .where(DOOR.ID.eq(id))
                .execute();
        return secret;
    }
}
