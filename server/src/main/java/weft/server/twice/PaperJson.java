package weft.server.twice;

import java.util.Map;
import weft.core.value.Value;

/**
 * A paper that is keyed twice.
 *
 * @param record the record that its first keying made
 * @param values the values by which it is recognised, by column, as they are typed
 * @param words what it is recognised by, in words
 */
record PaperJson(long record, Map<String, Value> values, String words) {}
