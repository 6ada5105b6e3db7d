package weft.server.http;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import tools.jackson.databind.json.JsonMapper;

/** A request that can't be done as it stands, with its status and a sentence for people. */
public final class Problem extends RuntimeException {

    private final HttpStatus status;

    /** With that status and that sentence. */
    public Problem(HttpStatus status, String sentence) {
        super(sentence);
        this.status = status;
    }

    /** There is no such thing: 404. */
    public static Problem unknown(String what) {
        return new Problem(HttpStatus.NOT_FOUND, "There is no " + what + ".");
    }

    /** Nobody is signed in, and somebody must be: 401. */
    public static Problem nobody() {
        return new Problem(HttpStatus.UNAUTHORIZED, "Sign in first.");
    }

    /** Whoever is signed in may not do this: 403. */
    public static Problem forbidden(String sentence) {
        return new Problem(HttpStatus.FORBIDDEN, sentence);
    }

    /** Something went wrong that nobody thought of: 500. */
    static Problem unforeseen() {
        return new Problem(HttpStatus.INTERNAL_SERVER_ERROR, "Something went wrong in Weft. Try again.");
    }

    /** The request breaks the API's rules: 400. */
    public static Problem malformed(String sentence) {
        return new Problem(HttpStatus.BAD_REQUEST, sentence);
    }

    /** The request is understood and cannot be followed: 422. */
    public static Problem refused(String sentence) {
        return new Problem(HttpStatus.UNPROCESSABLE_CONTENT, sentence);
    }

    /** Answers with it where no handler is reached. */
    public void answer(HttpServletResponse response) throws IOException {
        response.setStatus(status.value());
        response.setContentType(MediaType.APPLICATION_PROBLEM_JSON_VALUE);
        var body = JsonMapper.shared()
                .createObjectNode()
                .put("status", status.value())
                .put("title", status.getReasonPhrase())
                .put("detail", getMessage());
        response.getOutputStream().write(body.toString().getBytes(StandardCharsets.UTF_8));
    }

    HttpStatus status() {
        return status;
    }
}
