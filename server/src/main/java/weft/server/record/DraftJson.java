package weft.server.record;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import tools.jackson.databind.JsonNode;
import weft.core.entry.Draft;
import weft.core.form.Field;
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

    /** The same without what is typed at the Bench into fields whose threads lead to no column: it takes no part. */
    DraftJson threaded(Prepared prepared) {
        if (values == null) {
            return this;
        }
        var taken = new LinkedHashMap<>(values);
        prepared.form()
                .fields()
                .map(Field::column)
                .filter(column -> prepared.plan().takes(column).isEmpty())
                .forEach(taken::remove);
        return new DraftJson(taken, record, version, answers, chosen, last);
    }

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
