package weft.core.find;

import java.util.ArrayList;
import java.util.List;

/**
 * Text of a criterion taken apart at its stars.
 *
 * @param parts what stands between the stars, without quotes; the first and the last are empty where a star is
 * @param exact whether all of it stands in one pair of quotes
 */
record Starred(List<String> parts, boolean exact) {

    /** The text of {@link Tokens}, whose quotes are well formed. */
    static Starred of(String text) {
        var parts = new ArrayList<String>();
        var part = new StringBuilder();
        boolean quoted = false;
        int opened = 0;
        boolean outside = false;
        for (int at = 0; at < text.length(); at++) {
            char c = text.charAt(at);
            if (c == '"' && quoted) {
                boolean twice = at + 1 < text.length() && text.charAt(at + 1) == '"';
                if (twice) {
                    part.append(c);
                    at++;
                } else {
                    quoted = false;
                }
            } else if (c == '"' && opens(text, at)) {
                quoted = true;
                opened++;
            } else if (c == '*' && !quoted) {
                parts.add(part.toString());
                part.setLength(0);
            } else {
                outside |= !quoted;
                part.append(c);
            }
        }
        parts.add(part.toString());
        return new Starred(List.copyOf(parts), opened == 1 && !outside && parts.size() == 1);
    }

    private static boolean opens(String text, int at) {
        return at == 0 || text.charAt(at - 1) == ' ' || text.charAt(at - 1) == '*';
    }

    boolean hasStars() {
        return parts.size() > 1;
    }

    /** What it says without its quotes, its stars as stars. */
    String bare() {
        return String.join("*", parts);
    }
}
