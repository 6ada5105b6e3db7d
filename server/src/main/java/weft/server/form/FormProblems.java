package weft.server.form;

import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import weft.store.form.Forms.StaleForm;
import weft.store.form.Lines.UnclearLine;

/** Why a form was not changed, as problem details. */
@RestControllerAdvice
@Order(Ordered.HIGHEST_PRECEDENCE)
class FormProblems {

    @ExceptionHandler
    ProblemDetail stale(StaleForm stale) {
        return ProblemDetail.forStatusAndDetail(
                HttpStatus.PRECONDITION_FAILED, "Somebody else changed this form meanwhile. Load it again.");
    }

    @ExceptionHandler
    ProblemDetail unclear(UnclearLine unclear) {
        return ProblemDetail.forStatusAndDetail(HttpStatus.UNPROCESSABLE_CONTENT, unclear.getMessage());
    }
}
