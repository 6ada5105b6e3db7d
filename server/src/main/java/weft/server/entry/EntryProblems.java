package weft.server.entry;

import jakarta.servlet.http.HttpServletRequest;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import weft.core.door.Shown;
import weft.core.value.Wire;
import weft.server.door.Passed;
import weft.server.record.RecordJson;
import weft.store.entry.LinesStale;
import weft.store.entry.NotLet;
import weft.store.entry.SavingMany;
import weft.store.entry.Stopped;
import weft.store.record.NotSaved;

/** Why an entry was not saved, as problem details: its findings are with it. */
@RestControllerAdvice
@Order(Ordered.HIGHEST_PRECEDENCE)
class EntryProblems {

    /** So many lines are named; more are counted. */
    private static final int NAMED = 6;

    @ExceptionHandler
    ProblemDetail stopped(Stopped stopped, HttpServletRequest request) {
        var findings = Passed.way(request)
                .map(way -> way.narrowing().of(stopped.findings()))
                .orElseGet(() -> Shown.whole(stopped.findings()));
        var detail = ProblemDetail.forStatusAndDetail(HttpStatus.UNPROCESSABLE_CONTENT, "The entry was not saved.");
        detail.setProperty(
                "findings",
                Stream.concat(FindingJson.of(findings).stream(), LineSaid.findings(stopped.lines()))
                        .toList());
        stopped.question().ifPresent(question -> detail.setProperty("usual", Wire.word(question.usual())));
        return detail;
    }

    @ExceptionHandler
    ProblemDetail notLet(NotLet refused) {
        return ProblemDetail.forStatusAndDetail(
                HttpStatus.FORBIDDEN, "By this door one may not " + Wire.word(refused.needed()) + " records.");
    }

    @ExceptionHandler
    ProblemDetail stale(LinesStale stale) {
        var detail = ProblemDetail.forStatusAndDetail(
                HttpStatus.PRECONDITION_FAILED, "Somebody else changed lines of this record meanwhile.");
        var lines = new LinkedHashMap<String, List<StaleLine>>();
        stale.lines()
                .forEach((id, changed) -> lines.put(
                        id,
                        changed.entrySet().stream()
                                .map(each -> new StaleLine(
                                        each.getKey(),
                                        each.getValue()
                                                .map(Shown::whole)
                                                .map(RecordJson::of)
                                                .orElse(null)))
                                .toList()));
        detail.setProperty("lines", lines);
        return detail;
    }

    /** A line that is not what was seen: the record as it now stands, or none when it is gone. */
    record StaleLine(int line, @Nullable RecordJson record) {}

    @ExceptionHandler
    ProblemDetail stopped(SavingMany.LinesStopped stopped, HttpServletRequest request) {
        var all = new ArrayList<FindingJson>();
        stopped.findings().forEach((line, findings) -> {
            var seen =
                    Passed.way(request).map(way -> way.narrowing().of(findings)).orElseGet(() -> Shown.whole(findings));
            all.addAll(FindingJson.of(seen, line));
        });
        var lines = List.copyOf(stopped.findings().keySet());
        var detail = ProblemDetail.forStatusAndDetail(
                HttpStatus.UNPROCESSABLE_CONTENT, "No line was saved: " + inTheWay(lines) + " in the way.");
        detail.setProperty("findings", all);
        return detail;
    }

    private static String inTheWay(List<Integer> lines) {
        return lines.size() == 1
                ? "line " + lines.getFirst() + " is"
                : lines.size() > NAMED
                        ? lines.size() + " lines are"
                        : "lines "
                                + lines.subList(0, lines.size() - 1).stream()
                                        .map(String::valueOf)
                                        .collect(Collectors.joining(", "))
                                + " and " + lines.getLast() + " are";
    }

    /** Any other refusal of the database was made findings of before. */
    @ExceptionHandler
    ProblemDetail keyReused(NotSaved refused) {
        if (refused.reason() != NotSaved.Reason.KEY_REUSED) {
            throw refused;
        }
        return ProblemDetail.forStatusAndDetail(
                HttpStatus.UNPROCESSABLE_CONTENT,
                "This Idempotency-Key was used for another entry. Send a new entry under a new key.");
    }
}
