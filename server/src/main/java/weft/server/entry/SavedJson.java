package weft.server.entry;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import weft.core.door.Shown;
import weft.core.entry.step.StepRun.Then;
import weft.core.record.StoredRow;
import weft.core.rule.Command;
import weft.core.value.Value;
import weft.server.record.RecordJson;

/**
 * A saved entry.
 *
 * @param then what the Desk does next; left out when there is nothing
 * @param lines by the id of the form's lines: each as it is stored now; left out where the form has none
 * @param elsewhere what the save did beside; left out when there is nothing, and for whoever has a secret address
 */
record SavedJson(
        long id,
        long row,
        int version,
        Map<String, Value> values,
        @JsonInclude(JsonInclude.Include.NON_EMPTY) List<Then> then,
        @JsonInclude(JsonInclude.Include.NON_EMPTY) Map<String, List<RecordJson>> lines,
        @JsonInclude(JsonInclude.Include.NON_EMPTY) List<ElsewhereJson> elsewhere) {

    static SavedJson of(
            Shown<StoredRow> shown,
            List<Then> then,
            Map<String, List<StoredRow>> lines,
            List<ElsewhereJson> elsewhere) {
        var record = shown.it();
        return new SavedJson(
                record.id(), record.row(), record.version(), record.values(), after(then), lines(lines), elsewhere);
    }

    /** What the Desk does then; that it saves is done. */
    static List<Then> after(List<Then> then) {
        return then.stream()
                .filter(each -> !each.equals(new Then.Press(Command.SAVE)))
                .toList();
    }

    /** Lines in the API's shape, which a form has with all their fields or not at all, by the id of the form's lines. */
    static Map<String, List<RecordJson>> lines(Map<String, List<StoredRow>> lines) {
        var each = new LinkedHashMap<String, List<RecordJson>>();
        lines.forEach((id, rows) ->
                each.put(id, rows.stream().map(Shown::whole).map(RecordJson::of).toList()));
        return each;
    }
}
