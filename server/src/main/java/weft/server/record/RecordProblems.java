package weft.server.record;

import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import weft.store.record.Stale;

/** Why a record was not changed, as problem details: the record as it now stands is with it. */
@RestControllerAdvice
@Order(Ordered.HIGHEST_PRECEDENCE)
class RecordProblems {

    @ExceptionHandler
    ProblemDetail stale(Stale stale) {
        var detail = ProblemDetail.forStatusAndDetail(
                HttpStatus.PRECONDITION_FAILED,
                stale.now().isPresent()
                        ? "Somebody else changed this record meanwhile."
                        : "Somebody else deleted this record meanwhile.");
        stale.now().ifPresent(record -> detail.setProperty("record", RecordJson.of(record)));
        return detail;
    }
}
