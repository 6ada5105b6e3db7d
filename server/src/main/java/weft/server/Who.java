package weft.server;

import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;

/** Who is at the keyboard, as they say themselves: the header {@code Weft-Person}, percent-encoded UTF-8. */
public final class Who {

    /** The name of the header. */
    public static final String HEADER = "Weft-Person";

    private static final String SOMEBODY = "somebody";
    private static final int LONGEST = 60;

    private Who() {}

    /** The name in that header; somebody when there is none that can be read. */
    public static String of(String header) {
        if (header == null) {
            return SOMEBODY;
        }
        try {
            var name = URLDecoder.decode(header.replace("+", "%2B"), StandardCharsets.UTF_8)
                    .replaceAll("\\p{C}", "")
                    .strip();
            return name.isEmpty() ? SOMEBODY : name.substring(0, Math.min(LONGEST, name.length()));
        } catch (IllegalArgumentException unreadable) {
            return SOMEBODY;
        }
    }
}
