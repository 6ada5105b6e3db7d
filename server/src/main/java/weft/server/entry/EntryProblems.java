package weft.server.entry;

import jakarta.servlet.http.HttpServletRequest;
import java.util.Locale;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import weft.server.door.Passed;
import weft.store.entry.Stopped;
import weft.store.record.NotSaved;

/** Why an entry was not saved, as problem details: its findings are with it. */
@RestControllerAdvice
@Order(Ordered.HIGHEST_PRECEDENCE)
class EntryProblems {

    @ExceptionHandler
    ProblemDetail stopped(Stopped stopped, HttpServletRequest request) {
        var findings = Passed.way(request)
                .map(way -> way.narrowing().of(stopped.findings()))
                .orElse(stopped.findings());
        var detail = ProblemDetail.forStatusAndDetail(HttpStatus.UNPROCESSABLE_CONTENT, "The entry was not saved.");
        detail.setProperty("findings", FindingJson.of(findings));
        stopped.question()
                .ifPresent(question ->
                        detail.setProperty("usual", question.usual().name().toLowerCase(Locale.ROOT)));
        return detail;
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
