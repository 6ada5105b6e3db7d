package weft.core.sentence;

/** How texts and names stand in a sentence where they could be taken for something else; {@link Scan} reads them back. */
final class Quotes {

    private Quotes() {}

    /** Whether there are signs in it that end a line or are not seen. */
    static boolean hasControls(String text) {
        return text.chars().anyMatch(Character::isISOControl);
    }

    /** A name that is that very column, table or item. */
    static String exactly(String name) {
        return "`" + escaped(name, '`') + "`";
    }

    /** A text for people, or a value. */
    static String quote(String text) {
        return "\"" + escaped(text, '"') + "\"";
    }

    private static String escaped(String text, char close) {
        return text.replace("\\", "\\\\")
                .replace("\n", "\\n")
                .replace("\r", "\\r")
                .replace("\t", "\\t")
                .replace(String.valueOf(close), "\\" + close);
    }
}
