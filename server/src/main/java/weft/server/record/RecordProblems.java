package weft.server.record;

import jakarta.servlet.http.HttpServletRequest;
import java.util.Optional;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import weft.core.door.Shown;
import weft.server.door.Passed;
import weft.store.record.ChangeSets;
import weft.store.record.ChangedBeside;
import weft.store.record.LinkedTo;
import weft.store.record.Records;
import weft.store.record.Stale;
import weft.store.record.ValuesJson;

/** Why a record was not changed, as problem details: the record as it now stands is with it, or what links to it is said. */
@RestControllerAdvice
@Order(Ordered.HIGHEST_PRECEDENCE)
class RecordProblems {

    private final Records records;

    RecordProblems(Records records) {
        this.records = records;
    }

    @ExceptionHandler
    ProblemDetail changedSince(ChangeSets.ChangedSince since) {
        return ProblemDetail.forStatusAndDetail(
                HttpStatus.CONFLICT,
                since.records() == 1
                        ? "One of these records was changed since. Nothing was taken back."
                        : since.records() + " of these records were changed since. Nothing was taken back.");
    }

    @ExceptionHandler
    ProblemDetail changedBeside(ChangedBeside since) {
        var detail = ProblemDetail.forStatusAndDetail(
                HttpStatus.CONFLICT,
                "Row %d of %s was changed since. Nothing was done.".formatted(since.row(), since.table()));
        detail.setProperty("elsewhere", true);
        return detail;
    }

    @ExceptionHandler
    ProblemDetail notAllLet(ChangeSets.NotAllLet refused) {
        return ProblemDetail.forStatusAndDetail(
                HttpStatus.FORBIDDEN,
                "This door does not let one change all that was changed then. Nothing was taken back.");
    }

    @ExceptionHandler
    ProblemDetail inexact(ValuesJson.Inexact inexact) {
        return ProblemDetail.forStatusAndDetail(HttpStatus.UNPROCESSABLE_CONTENT, inexact.sentence());
    }

    @ExceptionHandler
    ProblemDetail linkedTo(LinkedTo linked) {
        return ProblemDetail.forStatusAndDetail(HttpStatus.CONFLICT, linked.sentence());
    }

    @ExceptionHandler
    ProblemDetail stale(Stale stale, HttpServletRequest request) {
        var detail = ProblemDetail.forStatusAndDetail(
                HttpStatus.PRECONDITION_FAILED,
                stale.now().isPresent()
                        ? "Somebody else changed this record meanwhile."
                        : "Somebody else deleted this record meanwhile.");
        stale.now()
                .flatMap(record -> Passed.way(request)
                        .map(way ->
                                records.find(way.shown().seen(), record.id()).map(way::of))
                        .orElse(Optional.of(Shown.whole(record))))
                .ifPresent(record -> detail.setProperty("record", RecordJson.of(record)));
        return detail;
    }
}
