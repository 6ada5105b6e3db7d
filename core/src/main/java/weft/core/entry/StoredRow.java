package weft.core.entry;

import java.util.Map;
import weft.core.value.Value;

/**
 * A stored record of some table, as rules know it.
 *
 * @param id its identity
 * @param row its row number
 * @param version how often it was written
 * @param values a value for every column
 */
public record StoredRow(long id, long row, int version, Map<String, Value> values) {}
