package weft.store.record;

import java.util.Map;

/**
 * A record as it is stored.
 *
 * @param id its identity, never given again
 * @param row the row number people see
 * @param version counts its changes, from 1
 * @param values its values, as {@link ValuesJson} has them
 */
public record StoredRecord(long id, long row, int version, Map<String, Object> values) {}
