package weft.core.sentence;

import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;

/** Patterns as people say them: by an example, such as AB-12, or by a name. */
public final class Shapes {

    /** An e-mail address, by its name. */
    public static final String E_MAIL = "an e-mail address";
    /** A phone number, by its name. */
    public static final String PHONE = "a phone number";

    private static final Map<String, String> NAMED = Map.of(
            "letters only",
            "\\pL+",
            "digits only",
            "[0-9]+",
            E_MAIL,
            "[^@\\s]+@[^@\\s]+\\.[^@\\s]+",
            PHONE,
            "\\+?[0-9][0-9 ()/-]{4,20}");

    private static final Pattern RUN = Pattern.compile("[A-Z]+|[a-z]+|[0-9]+|[^A-Za-z0-9]");
    private static final Pattern PART = Pattern.compile("\\[(A-Z|a-z|0-9)](?:\\{(\\d{1,2})})?|\\\\?([^A-Za-z0-9\\\\])");

    private Shapes() {}

    /** The pattern of everything written like that, in the syntax of RE2. */
    public static String pattern(String like) {
        var named = NAMED.get(like.toLowerCase(Locale.ROOT));
        if (named != null) {
            return named;
        }
        var pattern = new StringBuilder();
        var runs = RUN.matcher(like);
        while (runs.find()) {
            var run = runs.group();
            char c = run.charAt(0);
            if ((c >= 'A' && c <= 'Z') || (c >= 'a' && c <= 'z') || (c >= '0' && c <= '9')) {
                pattern.append(c <= '9' ? "[0-9]" : c <= 'Z' ? "[A-Z]" : "[a-z]");
                if (run.length() > 1) {
                    pattern.append('{').append(run.length()).append('}');
                }
            } else {
                pattern.append(".*+?()[]{}|^$\\".indexOf(c) >= 0 ? "\\" + c : run);
            }
        }
        return pattern.toString();
    }

    /** What is written by that pattern, so that the same pattern is made of it; empty when no example tells it. */
    public static Optional<String> like(String pattern) {
        for (var each : NAMED.entrySet()) {
            if (each.getValue().equals(pattern)) {
                return Optional.of(each.getKey());
            }
        }
        var example = new StringBuilder();
        var parts = PART.matcher(pattern);
        int end = 0;
        int letter = 0;
        int digit = 1;
        while (parts.find() && parts.start() == end) {
            end = parts.end();
            if (parts.group(1) == null) {
                example.append(parts.group(3));
                continue;
            }
            int times = parts.group(2) == null ? 1 : Integer.parseInt(parts.group(2));
            for (int i = 0; i < times; i++) {
                example.append(
                        switch (parts.group(1)) {
                            case "0-9" -> (char) ('0' + digit++ % 10);
                            case "A-Z" -> (char) ('A' + letter++ % 26);
                            default -> (char) ('a' + letter++ % 26);
                        });
            }
        }
        var like = example.toString();
        return end == pattern.length() && !like.isBlank() && pattern(like).equals(pattern)
                ? Optional.of(like)
                : Optional.empty();
    }
}
