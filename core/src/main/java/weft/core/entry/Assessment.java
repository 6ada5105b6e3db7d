package weft.core.entry;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import weft.core.value.Value;

/**
 * What the engine makes of a draft.
 *
 * @param values the typed value of every field that could be read, by column name, in tab order
 * @param readings how fields were understood, in words, where that says more than what was typed
 * @param findings what stops it or asks
 */
public record Assessment(Map<String, Value> values, Map<String, String> readings, Findings findings) {

    public Assessment {
        values = Collections.unmodifiableMap(new LinkedHashMap<>(values));
        readings = Collections.unmodifiableMap(new LinkedHashMap<>(readings));
    }
}
