package weft.server;

import jakarta.servlet.http.HttpServletRequest;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.StreamSupport;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.HttpStatusCode;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.http.converter.HttpMessageNotReadableException;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.context.request.WebRequest;
import org.springframework.web.multipart.MaxUploadSizeExceededException;
import org.springframework.web.servlet.mvc.method.annotation.ResponseEntityExceptionHandler;
import org.springframework.web.servlet.resource.NoResourceFoundException;
import weft.core.entry.Finding;
import weft.core.entry.StepRun.Question;
import weft.core.table.Faults;
import weft.store.TableChanged;
import weft.store.form.Forms;
import weft.store.imports.BadFile;
import weft.store.imports.Imports;
import weft.store.record.Stale;

/** Every error as RFC 9457 problem details, in sentences for people, never with the text of an exception from below. */
@RestControllerAdvice
public class Problems extends ResponseEntityExceptionHandler {

    private static final Logger LOG = LoggerFactory.getLogger(Problems.class);

    /** A request that can't be done as it stands, with its status and a sentence. */
    public static final class Problem extends RuntimeException {
        private final HttpStatus status;

        public Problem(HttpStatus status, String sentence) {
            super(sentence);
            this.status = status;
        }

        /** There is no such thing. */
        public static Problem unknown(String what) {
            return new Problem(HttpStatus.NOT_FOUND, "There is no " + what + ".");
        }

        /** The request breaks the API's rules. */
        public static Problem malformed(String sentence) {
            return new Problem(HttpStatus.BAD_REQUEST, sentence);
        }
    }

    /** An entry that is stopped, with its findings. */
    public static final class Stopped extends RuntimeException {
        private final transient Iterable<Finding> findings;

        private final transient Optional<Question> question;

        public Stopped(Iterable<Finding> findings) {
            super("stopped");
            this.findings = findings;
            this.question = Optional.empty();
        }

        /** An entry that waits for the answer to a question of its steps. */
        public Stopped(Question question) {
            super("stopped");
            this.findings = List.of(
                    new Finding("", Finding.Code.QUESTION, Finding.Severity.ASK, question.text(), question.id()));
            this.question = Optional.of(question);
        }

        /** What is in the way. */
        public Iterable<Finding> findings() {
            return findings;
        }
    }

    /** A finding in the API's shape. */
    public record FindingJson(String field, String code, String severity, String message, String rule) {

        /** The findings in the API's shape. */
        public static List<FindingJson> of(Iterable<Finding> findings) {
            return StreamSupport.stream(findings.spliterator(), false)
                    .map(each -> new FindingJson(
                            each.field(), each.code().wire(), each.severity().wire(), each.message(), each.rule()))
                    .toList();
        }
    }

    @ExceptionHandler
    ProblemDetail problem(Problem problem) {
        return ProblemDetail.forStatusAndDetail(problem.status, problem.getMessage());
    }

    @ExceptionHandler
    ProblemDetail stopped(Stopped stopped) {
        var detail = ProblemDetail.forStatusAndDetail(HttpStatus.UNPROCESSABLE_CONTENT, "The entry was not saved.");
        detail.setProperty("findings", FindingJson.of(stopped.findings));
        stopped.question.ifPresent(
                question -> detail.setProperty("usual", question.usual().name().toLowerCase(Locale.ROOT)));
        return detail;
    }

    @ExceptionHandler
    ProblemDetail faults(Faults faults) {
        var detail = ProblemDetail.forStatusAndDetail(HttpStatus.BAD_REQUEST, faults.getMessage());
        detail.setProperty("errors", faults.faults());
        return detail;
    }

    @ExceptionHandler
    ProblemDetail stale(Stale stale) {
        var detail = ProblemDetail.forStatusAndDetail(
                HttpStatus.PRECONDITION_FAILED,
                stale.now().isPresent()
                        ? "Somebody else changed this record meanwhile."
                        : "Somebody else deleted this record meanwhile.");
        stale.now().ifPresent(record -> detail.setProperty("record", record));
        return detail;
    }

    @ExceptionHandler
    ProblemDetail staleForm(Forms.StaleForm stale) {
        return ProblemDetail.forStatusAndDetail(
                HttpStatus.PRECONDITION_FAILED, "Somebody else changed this form meanwhile. Load it again.");
    }

    @ExceptionHandler
    ProblemDetail badFile(BadFile bad) {
        return ProblemDetail.forStatusAndDetail(HttpStatus.BAD_REQUEST, bad.getMessage());
    }

    @ExceptionHandler
    ProblemDetail givenUp(Imports.GivenUp given) {
        return ProblemDetail.forStatusAndDetail(HttpStatus.CONFLICT, "The load was given up. Nothing was kept.");
    }

    @ExceptionHandler
    ProblemDetail changed(TableChanged changed) {
        return ProblemDetail.forStatusAndDetail(
                HttpStatus.SERVICE_UNAVAILABLE, "The table has just been changed. Nothing was written; try again.");
    }

    @ExceptionHandler
    ProblemDetail unforeseen(Exception e, HttpServletRequest request) {
        LOG.error("failed {} {}", request.getMethod(), request.getRequestURI(), new WithoutValues(e));
        return ProblemDetail.forStatusAndDetail(
                HttpStatus.INTERNAL_SERVER_ERROR, "Something went wrong in Weft. Nothing was written; try again.");
    }

    @Override
    protected ResponseEntity<Object> handleHttpMessageNotReadable(
            HttpMessageNotReadableException e, HttpHeaders headers, HttpStatusCode status, WebRequest request) {
        return ResponseEntity.badRequest()
                .body(ProblemDetail.forStatusAndDetail(
                        HttpStatus.BAD_REQUEST, "The request is not JSON of the shape that is wanted here."));
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

    /** A failure with its place in the code, but without its message, which may hold values of records. */
    private static final class WithoutValues extends Exception {
        WithoutValues(Throwable e) {
            super(e.getClass().getName(), e.getCause() == null ? null : new WithoutValues(e.getCause()));
            setStackTrace(e.getStackTrace());
        }
    }
}
