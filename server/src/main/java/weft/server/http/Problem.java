package weft.server.http;

import org.springframework.http.HttpStatus;

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

    /** The request breaks the API's rules: 400. */
    public static Problem malformed(String sentence) {
        return new Problem(HttpStatus.BAD_REQUEST, sentence);
    }

    /** The request is understood and cannot be followed: 422. */
    public static Problem refused(String sentence) {
        return new Problem(HttpStatus.UNPROCESSABLE_CONTENT, sentence);
    }

    HttpStatus status() {
        return status;
    }
}
