package weft.server.record;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import weft.core.door.Shown;
import weft.core.record.StoredRow;
import weft.core.twice.Standing;
import weft.core.value.Value;

/**
 * A record in the API's shape.
 *
 * @param row the row number people see
 * @param version counts its changes, from 1; its entity tag
 * @param values by column
 * @param keyed how far it has come with its keyings, where its form is keyed twice; else left out
 */
public record RecordJson(
        long id,
        long row,
        int version,
        Map<String, Value> values,
        @JsonInclude(JsonInclude.Include.NON_NULL) @Nullable Standing keyed) {

    /** The record in the API's shape. */
    public static RecordJson of(Shown<StoredRow> shown) {
        var record = shown.it();
        return new RecordJson(record.id(), record.row(), record.version(), record.values(), null);
    }

    /** The same, with how it stands. */
    public RecordJson standing(Map<Long, Standing> byRecord) {
        return new RecordJson(id, row, version, values, byRecord.getOrDefault(id, Standing.ONCE));
    }
}
