package weft.server.entry;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.List;
import java.util.Map;
import weft.core.entry.step.StepRun.Then;
import weft.core.record.StoredRow;
import weft.store.record.ValuesJson;

/**
 * A saved entry.
 *
 * @param then what the Desk does next; left out when there is nothing
 */
record SavedJson(
        long id,
        long row,
        int version,
        Map<String, Object> values,
        @JsonInclude(JsonInclude.Include.NON_EMPTY) List<ThenJson> then) {

    static SavedJson of(StoredRow record, List<Then> then) {
        return new SavedJson(
                record.id(), record.row(), record.version(), ValuesJson.of(record.values()), ThenJson.of(then));
    }
}
