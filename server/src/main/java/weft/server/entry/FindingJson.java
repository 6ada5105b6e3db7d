package weft.server.entry;

import java.util.List;
import weft.core.entry.draft.Finding;
import weft.core.entry.draft.Findings;

/** A finding in the API's shape. */
public record FindingJson(String field, String code, String severity, String message, String rule) {

    /** The findings in the API's shape. */
    public static List<FindingJson> of(Findings findings) {
        return findings.all().stream().map(FindingJson::of).toList();
    }

    private static FindingJson of(Finding finding) {
        return new FindingJson(
                finding.field(), finding.code().wire(), finding.severity().wire(), finding.message(), finding.rule());
    }
}
