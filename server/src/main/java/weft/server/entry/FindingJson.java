package weft.server.entry;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.List;
import org.jspecify.annotations.Nullable;
import weft.core.door.Shown;
import weft.core.entry.draft.Cause;
import weft.core.entry.draft.Finding;
import weft.core.entry.draft.Findings;

/**
 * A finding in the API's shape.
 *
 * @param message what was found in a sentence
 * @param cause the same as its kind and what goes into the sentence
 * @param line of a batch or of lines in a form, the line that it is of, from 1; else left out
 * @param lines the id of the form's lines, where it is of those; else left out
 */
public record FindingJson(
        String field,
        Finding.Code code,
        Finding.Severity severity,
        String message,
        Cause cause,
        String rule,
        @JsonInclude(JsonInclude.Include.NON_NULL) @Nullable Integer line,
        @JsonInclude(JsonInclude.Include.NON_NULL) @Nullable String lines) {

    /** The same of that line. */
    FindingJson of(int ofLine) {
        return new FindingJson(field, code, severity, message, cause, rule, ofLine, lines);
    }

    /** The same of the form's lines of that id. */
    FindingJson in(String id) {
        return new FindingJson(field, code, severity, message, cause, rule, line, id);
    }

    /** The findings in the API's shape. */
    public static List<FindingJson> of(Shown<Findings> findings) {
        return of(findings, null);
    }

    /** Those of a line. */
    static List<FindingJson> of(Shown<Findings> findings, @Nullable Integer line) {
        return findings.it().all().stream().map(finding -> of(finding, line)).toList();
    }

    /** One that is told to who sees everything. */
    public static FindingJson whole(Finding finding) {
        return of(finding, null);
    }

    private static FindingJson of(Finding finding, @Nullable Integer line) {
        return new FindingJson(
                finding.field(),
                finding.code(),
                finding.severity(),
                finding.message(),
                finding.cause(),
                finding.rule(),
                line,
                null);
    }
}
