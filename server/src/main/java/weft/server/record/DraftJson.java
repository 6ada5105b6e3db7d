package weft.server.record;

import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import tools.jackson.databind.JsonNode;
import weft.core.entry.Draft;
import weft.server.Who;
import weft.server.form.PreparedForms.Prepared;

/**
 * An entry as it is typed.
 *
 * @param values what is typed, by column
 * @param record the stored record that it changes; none for a new entry
 * @param version the published version of the form it was begun on; the latest when none is said
 * @param answers by the code of a finding, or the id of a check or question: what was answered
 * @param chosen by the id of a fill: the record chosen where several match
 * @param last the record that was saved last in this sitting
 */
record DraftJson(
        Map<String, JsonNode> values,
        Long record,
        Integer version,
        Map<String, String> answers,
        Map<String, Long> chosen,
        Long last) {

    Saving.Sent sent(Prepared prepared, Saving saving, String person) {
        return new Saving.Sent(
                prepared,
                values,
                record == null ? OptionalLong.empty() : OptionalLong.of(record),
                0,
                new Draft.Around(
                        Who.of(person),
                        saving.last(prepared, last),
                        chosen == null ? Map.of() : chosen,
                        answers == null ? Map.of() : answers),
                Optional.empty());
    }
}
