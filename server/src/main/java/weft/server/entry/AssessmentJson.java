package weft.server.entry;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import weft.core.door.Shown;
import weft.core.entry.Assessment;
import weft.core.entry.Sheet;
import weft.core.entry.draft.FieldState;
import weft.core.record.StoredRow;
import weft.core.value.Value;

/**
 * What is to be said of a draft.
 *
 * @param offers where several records match a fill, those to choose from
 * @param shown by the id of a shown value, what it shows
 * @param lines by the id of the form's lines, what is to be said of each that was sent
 */
public record AssessmentJson(
        Map<String, Value> values,
        Map<String, String> readings,
        Map<String, FieldJson> fields,
        List<FindingJson> findings,
        List<OfferJson> offers,
        Map<String, String> shown,
        @JsonInclude(JsonInclude.Include.NON_EMPTY) Map<String, List<LineSaid>> lines) {

    /**
     * How a field stands.
     *
     * @param origin where its value comes from
     * @param source what the fill would bring, where something else was typed over it; else none
     */
    record FieldJson(
            boolean required,
            boolean shown,
            boolean locked,
            FieldState.Origin origin,
            @Nullable String source) {
        static FieldJson of(FieldState state) {
            return new FieldJson(
                    state.required(),
                    state.shown(),
                    state.locked(),
                    state.origin(),
                    state.source().map(value -> value.spoken()).orElse(null));
        }
    }

    /** The records that a fill found. */
    record OfferJson(String fill, List<MatchJson> choices) {}

    /** A record to choose: its identity, its row, and its values in a few words. */
    record MatchJson(long id, long row, String words) {
        static MatchJson of(StoredRow row) {
            return new MatchJson(
                    row.id(),
                    row.row(),
                    String.join(
                            ", ",
                            row.values().values().stream()
                                    .filter(value -> !value.isEmpty())
                                    .limit(5)
                                    .map(value -> value.spoken())
                                    .toList()));
        }
    }

    /** The assessment in the API's shape. */
    public static AssessmentJson of(Shown<Assessment> shown) {
        var assessment = shown.it();
        var fields = new LinkedHashMap<String, FieldJson>();
        assessment.fields().forEach((column, state) -> fields.put(column, FieldJson.of(state)));
        return new AssessmentJson(
                assessment.values(),
                assessment.readings(),
                fields,
                FindingJson.of(Shown.whole(assessment.findings())),
                assessment.offers().entrySet().stream()
                        .map(each -> new OfferJson(
                                each.getKey(),
                                each.getValue().stream().map(MatchJson::of).toList()))
                        .toList(),
                assessment.shown(),
                Map.of());
    }

    /** The same of an entry and its lines. */
    static AssessmentJson of(Shown<Assessment> entry, Sheet sheet) {
        var said = of(entry);
        var findings = new ArrayList<>(said.findings());
        sheet.lines().forEach((id, lines) -> LineSaid.whole(id, lines).forEach(findings::add));
        return new AssessmentJson(
                said.values(),
                said.readings(),
                said.fields(),
                findings,
                said.offers(),
                said.shown(),
                LineSaid.of(sheet));
    }
}
