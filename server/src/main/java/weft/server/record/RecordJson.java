package weft.server.record;

import java.util.Map;
import weft.core.record.StoredRow;
import weft.store.record.ValuesJson;

/**
 * A record in the API's shape.
 *
 * @param row the row number people see
 * @param version counts its changes, from 1; its entity tag
 * @param values by column
 */
public record RecordJson(long id, long row, int version, Map<String, Object> values) {

    /** The record in the API's shape. */
    public static RecordJson of(StoredRow record) {
        return new RecordJson(record.id(), record.row(), record.version(), ValuesJson.of(record.values()));
    }
}
