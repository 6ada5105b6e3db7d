package weft.server.entry;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import weft.core.door.Shown;
import weft.core.entry.Assessment;
import weft.core.entry.Sheet;
import weft.core.entry.Sheet.Assessed;
import weft.core.value.Value;
import weft.server.entry.AssessmentJson.FieldJson;
import weft.server.entry.AssessmentJson.OfferJson;

/**
 * What is to be said of a line of an entry.
 *
 * @param line its number from 1
 */
public record LineSaid(
        int line,
        Map<String, Value> values,
        Map<String, String> readings,
        Map<String, FieldJson> fields,
        List<FindingJson> findings,
        List<OfferJson> offers) {

    private static LineSaid of(int line, Assessment assessment) {
        var said = AssessmentJson.of(Shown.whole(assessment));
        return new LineSaid(
                line,
                said.values(),
                said.readings(),
                said.fields(),
                said.findings().stream().map(finding -> finding.of(line)).toList(),
                said.offers());
    }

    /** Of each line of which something is said, by the id of the form's lines. */
    static Map<String, List<LineSaid>> of(Sheet sheet) {
        var lines = new LinkedHashMap<String, List<LineSaid>>();
        sheet.lines()
                .forEach((id, said) -> lines.put(
                        id,
                        said.each().entrySet().stream()
                                .map(each -> of(each.getKey(), each.getValue()))
                                .toList()));
        return lines;
    }

    /** What is in the way of lines, and of how many there are. */
    static Stream<FindingJson> findings(Map<String, Assessed> lines) {
        return lines.entrySet().stream()
                .flatMap(each -> Stream.concat(
                        whole(each.getKey(), each.getValue()),
                        each.getValue().each().entrySet().stream()
                                .flatMap(line ->
                                        FindingJson.of(
                                                Shown.whole(line.getValue().findings()), line.getKey())
                                                .stream())
                                .map(finding -> finding.in(each.getKey()))));
    }

    /** What is in the way of all of them together. */
    static Stream<FindingJson> whole(String id, Assessed said) {
        return FindingJson.of(Shown.whole(said.whole())).stream().map(finding -> finding.in(id));
    }
}
