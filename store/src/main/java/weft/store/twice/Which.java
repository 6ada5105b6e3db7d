package weft.store.twice;

import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jooq.JSONB;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** Which keying of a field holds. */
public enum Which {
    /** Both, which are alike. */
    SAME,
    FIRST,
    SECOND,
    /** Neither: what was typed when it was settled. */
    OTHER;

    private static final TypeReference<Map<String, String>> WORDS = new TypeReference<>() {};

    /** The name used in JSON. */
    public String wire() {
        return name().toLowerCase(Locale.ROOT);
    }

    /** The one of that name, or empty. */
    public static Optional<Which> named(String wire) {
        return Arrays.stream(values()).filter(each -> each.wire().equals(wire)).findFirst();
    }

    static JSONB json(Map<String, Which> byColumn) {
        var words = new LinkedHashMap<String, String>();
        byColumn.forEach((column, which) -> words.put(column, which.wire()));
        return JSONB.valueOf(JsonMapper.shared().writeValueAsString(words));
    }

    static Map<String, Which> read(JSONB json) {
        var read = new LinkedHashMap<String, Which>();
        JsonMapper.shared()
                .readValue(json.data(), WORDS)
                .forEach((column, word) -> named(word).ifPresent(which -> read.put(column, which)));
        return read;
    }
}
