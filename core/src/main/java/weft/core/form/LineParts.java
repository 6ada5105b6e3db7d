package weft.core.form;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;

/** What stands between the commas of a line that describes a field. */
final class LineParts {

    private static final Pattern HELP = Pattern.compile("(?is)help .+");

    private LineParts() {}

    /**
     * The parts in their order. Help goes to the end of the line, commas and all.
     *
     * @param decimalComma whether a comma between digits is the decimal sign, and so parts nothing
     */
    static List<String> of(String line, boolean decimalComma) {
        var parts = new ArrayList<String>();
        int from = 0;
        for (int at = 0; at < line.length(); at++) {
            if (HELP.matcher(line.substring(from).strip()).matches()) {
                break;
            }
            if (line.charAt(at) == ',' && !(decimalComma && betweenDigits(line, at))) {
                parts.add(line.substring(from, at));
                from = at + 1;
            }
        }
        parts.add(line.substring(from));
        return parts;
    }

    private static boolean betweenDigits(String line, int at) {
        return at > 0
                && at + 1 < line.length()
                && Character.isDigit(line.charAt(at - 1))
                && Character.isDigit(line.charAt(at + 1));
    }
}
