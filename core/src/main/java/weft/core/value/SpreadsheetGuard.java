package weft.core.value;

import java.util.regex.Pattern;

/**
 * An apostrophe before text in a file that a spreadsheet would else run as a formula. Putting it there and taking it away
 * again gives the very text, whatever that is.
 */
public final class SpreadsheetGuard {

    private static final Pattern RUN = Pattern.compile("'*[=+\\-@\\t\\r].*", Pattern.DOTALL);

    private SpreadsheetGuard() {}

    /** The text as a file holds it. */
    public static String guarded(String text) {
        return RUN.matcher(text).matches() ? "'" + text : text;
    }

    /** The text that a file's cell holds. */
    public static String bare(String cell) {
        return cell.startsWith("'") && RUN.matcher(cell).matches() ? cell.substring(1) : cell;
    }
}
