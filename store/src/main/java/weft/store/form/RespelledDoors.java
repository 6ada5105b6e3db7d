package weft.store.form;

import static weft.store.schema.Tables.DOOR;
import static weft.store.schema.Tables.KEPT_FIND;

import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.jooq.DSLContext;
import org.jooq.JSON;
import org.jooq.JSONB;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** What doors and kept finds of a form ask, written anew when its people write dates or numbers another way. */
final class RespelledDoors {

    private static final JsonMapper MAPPER = JsonMapper.shared();

    private final UnaryOperator<List<String>> respelled;

    RespelledDoors(UnaryOperator<List<String>> respelled) {
        this.respelled = respelled;
    }

    /** Those of that form. */
    void of(DSLContext within, String form) {
        within.select(DOOR.ID, DOOR.DOCUMENT)
                .from(DOOR)
                .where(DOOR.FORM_ID.eq(form))
                .forUpdate()
                .forEach(door -> respell(door.value2().data(), "view")
                        .ifPresent(document -> within.update(DOOR)
                                .set(DOOR.DOCUMENT, JSON.valueOf(document))
                                .set(DOOR.REVISION, DOOR.REVISION.plus(1))
                                .where(DOOR.ID.eq(door.value1()))
                                .execute()));
        within.select(KEPT_FIND.DOOR_ID, KEPT_FIND.NAME, KEPT_FIND.ASKED)
                .from(KEPT_FIND)
                .where(KEPT_FIND.FORM_ID.eq(form))
                .forUpdate()
                .forEach(find -> respell(find.value3().data(), "")
                        .ifPresent(asked -> within.update(KEPT_FIND)
                                .set(KEPT_FIND.ASKED, JSONB.valueOf(asked))
                                .where(KEPT_FIND.DOOR_ID.eq(find.value1()))
                                .and(KEPT_FIND.NAME.eq(find.value2()))
                                .execute()));
    }

    /** The document with its {@code where}, within that member of it, written anew; empty where nothing changes. */
    private Optional<String> respell(String document, String member) {
        var all = MAPPER.readTree(document);
        if (!((member.isEmpty() ? all : all.path(member)) instanceof ObjectNode asking)
                || !(asking.path("where") instanceof ArrayNode where)) {
            return Optional.empty();
        }
        var before = where.valueStream().map(each -> each.asString()).toList();
        var after = respelled.apply(before);
        asking.putPOJO("where", after);
        return before.equals(after) ? Optional.empty() : Optional.of(MAPPER.writeValueAsString(all));
    }
}
