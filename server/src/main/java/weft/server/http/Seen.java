package weft.server.http;

import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;

/**
 * The version that a request says it saw, in If-Match, as entity tags of RFC 9110 section 8.8.3. A handler that wants one
 * takes one of these; where it may be left out, it asks whether it is {@linkplain #said said}.
 */
public final class Seen {

    private final Optional<String> ifMatch;

    private Seen(Optional<String> ifMatch) {
        this.ifMatch = ifMatch;
    }

    static Seen of(@Nullable String ifMatch) {
        return new Seen(Optional.ofNullable(ifMatch));
    }

    /** The entity tag of a version. */
    public static String etag(int version) {
        return "\"" + version + "\"";
    }

    /** Whether the request says one. */
    public boolean said() {
        return ifMatch.isPresent();
    }

    /** The version; 428 when none is said, 412 when it names nothing of ours. */
    public int version() {
        var tag = ifMatch.orElseThrow(() -> new Problem(
                        HttpStatus.PRECONDITION_REQUIRED,
                        "Say in If-Match which version you saw: the ETag that came with it."))
                .strip()
                .replaceAll("^W/|\"", "");
        if (!tag.matches("[0-9]{1,9}")) {
            throw new Problem(HttpStatus.PRECONDITION_FAILED, "If-Match names no version of this.");
        }
        return Integer.parseInt(tag);
    }
}
