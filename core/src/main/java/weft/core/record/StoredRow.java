package weft.core.record;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import weft.core.value.Value;

/**
 * A record as it is stored.
 *
 * @param id its identity, never given again
 * @param row the row number people see; below 0 of a {@linkplain #line line} that has none yet
 * @param version counts its changes, from 1
 * @param values its values by column, in the table's order
 */
public record StoredRow(long id, long row, int version, Map<String, Value> values) {

    public StoredRow {
        values = Collections.unmodifiableMap(new LinkedHashMap<>(values));
    }

    /** One of which whoever asks may know no more than that it is there. */
    public static final StoredRow UNSEEN = new StoredRow(0, 0, 0, Map.of());

    /** A line of a batch that is not stored yet, counted from 1. */
    public static StoredRow line(int line, Map<String, Value> values) {
        return new StoredRow(0, -line, 0, values);
    }

    /** How one speaks of it at the beginning of a sentence: "Row 88", "Line 3". */
    public String called() {
        return row > 0 ? "Row " + row : row < 0 ? "Line " + -row : "Another record";
    }

    /** Its value in a column of that name; empty when it has none. */
    public Value of(String column) {
        return values.getOrDefault(column, Value.EMPTY);
    }
}
