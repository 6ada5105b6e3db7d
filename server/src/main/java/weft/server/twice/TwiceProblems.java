package weft.server.twice;

import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import weft.store.twice.NotYours;

/** Why a paper was not keyed or settled, as problem details. */
@RestControllerAdvice
@Order(Ordered.HIGHEST_PRECEDENCE)
class TwiceProblems {

    @ExceptionHandler
    ProblemDetail notYours(NotYours not) {
        return ProblemDetail.forStatusAndDetail(HttpStatus.CONFLICT, not.sentence());
    }
}
