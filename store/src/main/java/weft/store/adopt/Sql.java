package weft.store.adopt;

import java.util.Arrays;
import java.util.stream.Collectors;

/** Names and texts as SQL writes them. */
final class Sql {

    private Sql() {}

    /** A name of these parts, each in quotes. */
    static String quoted(String... parts) {
        return Arrays.stream(parts)
                .map(part -> '"' + part.replace("\"", "\"\"") + '"')
                .collect(Collectors.joining("."));
    }

    /** A text in quotes. */
    static String text(String text) {
        return "'" + text.replace("'", "''") + "'";
    }
}
