package weft.server.http;

import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import org.jspecify.annotations.Nullable;

/**
 * Who is at the keyboard, as they say themselves: the header {@code Weft-Person}, percent-encoded UTF-8. A handler that
 * wants to know takes one of these.
 *
 * @param name what they call themselves, or somebody
 */
public record Person(String name) {

    /** The name of the header. */
    static final String HEADER = "Weft-Person";

    private static final String SOMEBODY = "somebody";
    private static final int LONGEST = 60;

    /** The one of that header; somebody when there is none that can be read. */
    static Person of(@Nullable String header) {
        if (header == null) {
            return new Person(SOMEBODY);
        }
        try {
            var name = URLDecoder.decode(header.replace("+", "%2B"), StandardCharsets.UTF_8)
                    .replaceAll("\\p{C}", "")
                    .strip();
            return new Person(name.isEmpty() ? SOMEBODY : name.substring(0, Math.min(LONGEST, name.length())));
        } catch (IllegalArgumentException unreadable) {
            return new Person(SOMEBODY);
        }
    }
}
