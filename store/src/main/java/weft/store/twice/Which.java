package weft.store.twice;

import java.util.Map;
import org.jooq.JSONB;
import tools.jackson.core.type.TypeReference;
import weft.store.json.Json;

/** Which keying of a field holds. */
public enum Which {
    /** Both, which are alike. */
    SAME,
    FIRST,
    SECOND,
    /** Neither: what was typed when it was settled. */
    OTHER;

    private static final TypeReference<Map<String, Which>> BY_COLUMN = new TypeReference<>() {};

    static JSONB json(Map<String, Which> byColumn) {
        return JSONB.valueOf(Json.MAPPER.writeValueAsString(byColumn));
    }

    static Map<String, Which> read(JSONB json) {
        return Json.MAPPER.readValue(json.data(), BY_COLUMN);
    }
}
