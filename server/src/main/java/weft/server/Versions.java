package weft.server;

import org.springframework.http.HttpStatus;
import weft.server.Problems.Problem;

/** Versions as entity tags, RFC 9110 section 8.8.3. */
public final class Versions {

    private Versions() {}

    /** The entity tag of a version. */
    public static String etag(int version) {
        return "\"" + version + "\"";
    }

    /** The version that an If-Match header names; 428 when there is none, 412 when it names nothing of ours. */
    public static int seen(String ifMatch) {
        if (ifMatch == null) {
            throw new Problem(
                    HttpStatus.PRECONDITION_REQUIRED,
                    "Say in If-Match which version you saw: the ETag that came with it.");
        }
        var tag = ifMatch.strip().replaceAll("^W/|\"", "");
        if (!tag.matches("[0-9]{1,9}")) {
            throw new Problem(HttpStatus.PRECONDITION_FAILED, "If-Match names no version of this.");
        }
        return Integer.parseInt(tag);
    }
}
