package weft.server.http;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.TypeMismatchException;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.HttpStatusCode;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.http.converter.HttpMessageNotReadableException;
import org.springframework.web.bind.MethodArgumentNotValidException;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.context.request.WebRequest;
import org.springframework.web.method.annotation.MethodArgumentTypeMismatchException;
import org.springframework.web.multipart.MaxUploadSizeExceededException;
import org.springframework.web.multipart.MultipartException;
import org.springframework.web.servlet.mvc.method.annotation.ResponseEntityExceptionHandler;
import org.springframework.web.servlet.resource.NoResourceFoundException;
import tools.jackson.databind.DatabindException;
import tools.jackson.databind.exc.InvalidFormatException;
import weft.core.door.Person;
import weft.core.formula.Budget;
import weft.core.table.Faults;
import weft.core.value.Wire;
import weft.store.Busy;
import weft.store.Outage;
import weft.store.TableChanged;
import weft.store.table.Tables;

/**
 * Every error as RFC 9457 problem details, in sentences for people, never with the text of an exception from below. What
 * belongs to a subject stands beside it, before this.
 */
@RestControllerAdvice
class Problems extends ResponseEntityExceptionHandler {

    private static final Logger LOG = LoggerFactory.getLogger(Problems.class);

    private static final int SAID = 5;

    private final Tables tables;

    Problems(Tables tables) {
        this.tables = tables;
    }

    @ExceptionHandler
    ProblemDetail problem(Problem problem) {
        return ProblemDetail.forStatusAndDetail(problem.status(), problem.getMessage());
    }

    @ExceptionHandler
    ProblemDetail faults(Faults faults) {
        var detail = ProblemDetail.forStatusAndDetail(HttpStatus.BAD_REQUEST, faults.getMessage());
        detail.setProperty("errors", faults.faults());
        return detail;
    }

    /** A moment later it goes, unless another program took something away that Weft still counts on. */
    @ExceptionHandler
    ProblemDetail changed(TableChanged changed) {
        var gone = tables.takenAway();
        // What tables and columns there are is the builders' to know.
        var named = Signed.person().filter(Person::builds).isPresent()
                ? gone.stream().limit(SAID).map(Tables.TakenAway::words).collect(Collectors.joining(", "))
                : "something that is needed here";
        return gone.isEmpty()
                ? ProblemDetail.forStatusAndDetail(
                        HttpStatus.SERVICE_UNAVAILABLE,
                        "The table has just been changed. Nothing was written; try again.")
                : ProblemDetail.forStatusAndDetail(
                        HttpStatus.CONFLICT,
                        "Another program removed %s from the database. Nothing was written. A builder can remove it in Tables too, or restore it in the database."
                                .formatted(named));
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> unforeseen(Exception e, HttpServletRequest request, HttpServletResponse response)
            throws Exception {
        LOG.error("failed {} {}", request.getMethod(), request.getRequestURI(), new WithoutValues(e));
        if (response.isCommitted()) {
            // Half an answer must not look whole: the connection is broken off.
            throw e;
        }
        return Outage.of(e)
                .map(outage -> ResponseEntity.status(HttpStatus.SERVICE_UNAVAILABLE)
                        .header(HttpHeaders.RETRY_AFTER, "1")
                        .body(ProblemDetail.forStatusAndDetail(HttpStatus.SERVICE_UNAVAILABLE, outage.sentence())))
                .orElseGet(() -> ResponseEntity.internalServerError().body(problem(Problem.unforeseen())));
    }

    /** A file whose sending broke off. */
    @ExceptionHandler
    ProblemDetail halfAFile(MultipartException e) {
        return ProblemDetail.forStatusAndDetail(
                HttpStatus.BAD_REQUEST, "The file did not arrive whole. Send it once more.");
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> busy(Busy busy) {
        return ResponseEntity.status(HttpStatus.SERVICE_UNAVAILABLE)
                .header(HttpHeaders.RETRY_AFTER, "5")
                .body(ProblemDetail.forStatusAndDetail(HttpStatus.SERVICE_UNAVAILABLE, busy.getMessage()));
    }

    /** What a request may compute is used up, or not to be had just now. */
    @ExceptionHandler
    ResponseEntity<ProblemDetail> over(Budget.Exceeded over) {
        return switch (over.why()) {
            case SPENT ->
                ResponseEntity.unprocessableContent()
                        .body(ProblemDetail.forStatusAndDetail(
                                HttpStatus.UNPROCESSABLE_CONTENT,
                                "The formulas of this form take too long for so much at once. Nothing was written. Send"
                                        + " fewer records, or have the formulas made shorter."));
            case BUSY, LEFT ->
                busy(new Busy("The server is busy with other formulas just now. Nothing was written; try again."));
        };
    }

    @Override
    protected ResponseEntity<Object> handleHttpMessageNotReadable(
            HttpMessageNotReadableException e, HttpHeaders headers, HttpStatusCode status, WebRequest request) {
        if (e.getMostSpecificCause() instanceof BodyLimit.TooLarge) {
            return ResponseEntity.status(HttpStatus.CONTENT_TOO_LARGE)
                    .body(ProblemDetail.forStatusAndDetail(
                            HttpStatus.CONTENT_TOO_LARGE, BodyLimit.problem().getMessage()));
        }
        if (e.getMostSpecificCause() instanceof Faults faults) {
            return ResponseEntity.badRequest().body(faults(faults));
        }
        if (e.getCause() instanceof InvalidFormatException word
                && word.getTargetType() != null
                && word.getTargetType().isEnum()) {
            return ResponseEntity.badRequest().body(faults(notAWord(word)));
        }
        var sentence = e.getCause() instanceof DatabindException unfit
                        && !unfit.getPath().isEmpty()
                ? (e.getMostSpecificCause() instanceof StorableText.Unstorable
                                ? "“%s” has a character in it that cannot be stored."
                                : "“%s” is missing, or not of the kind that is wanted there.")
                        .formatted(place(unfit))
                : "The request is not JSON of the shape that is wanted here.";
        return malformed(sentence);
    }

    /** That something is none of the words that can stand there. */
    @SuppressWarnings("unchecked") // It is one.
    private static Faults notAWord(InvalidFormatException word) {
        var place = place(word);
        return new Faults(
                place,
                "“%s” can't be %s. It can be %s."
                        .formatted(
                                word.getValue(), place.isEmpty() ? "this" : place, Wire.words((Class<? extends Enum<?>>)
                                        word.getTargetType())));
    }

    /** Where in a body something is, such as {@code columns[0].title}. */
    private static String place(DatabindException unfit) {
        var place = new StringBuilder();
        for (var step : unfit.getPath()) {
            if (step.getPropertyName() == null) {
                place.append('[').append(step.getIndex()).append(']');
            } else {
                place.append(place.isEmpty() ? "" : ".").append(step.getPropertyName());
            }
        }
        return place.toString();
    }

    @Override
    protected ResponseEntity<Object> handleMethodArgumentNotValid(
            MethodArgumentNotValidException e, HttpHeaders headers, HttpStatusCode status, WebRequest request) {
        return malformed(e.getAllErrors().stream()
                .map(error -> error.getDefaultMessage())
                .collect(Collectors.joining(" ")));
    }

    @Override
    protected ResponseEntity<Object> handleTypeMismatch(
            TypeMismatchException e, HttpHeaders headers, HttpStatusCode status, WebRequest request) {
        return malformed("“%s” is not what is wanted%s."
                .formatted(
                        e.getValue(),
                        e instanceof MethodArgumentTypeMismatchException argument ? " for " + argument.getName() : ""));
    }

    private static ResponseEntity<Object> malformed(String sentence) {
        return ResponseEntity.badRequest().body(ProblemDetail.forStatusAndDetail(HttpStatus.BAD_REQUEST, sentence));
    }

    @Override
    protected ResponseEntity<Object> handleNoResourceFoundException(
            NoResourceFoundException e, HttpHeaders headers, HttpStatusCode status, WebRequest request) {
        return ResponseEntity.status(HttpStatus.NOT_FOUND)
                .body(ProblemDetail.forStatusAndDetail(HttpStatus.NOT_FOUND, "There is nothing at this address."));
    }

    @Override
    protected ResponseEntity<Object> handleMaxUploadSizeExceededException(
            MaxUploadSizeExceededException e, HttpHeaders headers, HttpStatusCode status, WebRequest request) {
        return ResponseEntity.status(HttpStatus.CONTENT_TOO_LARGE)
                .body(ProblemDetail.forStatusAndDetail(
                        HttpStatus.CONTENT_TOO_LARGE, "The file is too large. The most is 512 MB."));
    }
}
