package weft.core.guess;

import java.util.EnumSet;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * What one cell of a file looks like. Stricter than the reading of what is typed: in a file, "9" is no time and "t" no
 * date.
 */
enum Shape {
    YES_NO,
    LEADING_ZERO,
    PHONE,
    WHOLE,
    POINT,
    COMMA,
    MAYBE_THOUSANDS_POINT,
    MAYBE_THOUSANDS_COMMA,
    TIME,
    DATE,
    DATE_MONTH_FIRST,
    DATE_DAY_FIRST,
    DATE_EITHER,
    MOMENT,
    MOMENT_MONTH_FIRST,
    MOMENT_DAY_FIRST,
    MOMENT_EITHER,
    LINE_BREAK;

    private static final Pattern YES_NO_WORD = Pattern.compile("y|n|yes|no|true|false", Pattern.CASE_INSENSITIVE);
    private static final Pattern ZERO_FIRST = Pattern.compile("0[0-9]+");
    private static final Pattern PHONE_LIKE =
            Pattern.compile("\\+[0-9][0-9 ()./-]{6,}|\\(?[0-9]{2,5}\\)?(?:[ /-][0-9]{2,}){1,4}");
    private static final Pattern WHOLE_NUMBER = Pattern.compile("[-+−]?[0-9]{1,18}");
    private static final Pattern POINT_NUMBER =
            Pattern.compile("[-+−]?(?:[0-9]*|[0-9]{1,3}(?:,[0-9]{3})+)\\.[0-9]+|[-+]?[0-9]{1,3}(?:,[0-9]{3}){2,}");
    private static final Pattern COMMA_NUMBER =
            Pattern.compile("[-+−]?(?:[0-9]*|[0-9]{1,3}(?:\\.[0-9]{3})+),[0-9]+|[-+]?[0-9]{1,3}(?:\\.[0-9]{3}){2,}");
    private static final Pattern THOUSAND = Pattern.compile("[-+−]?[1-9][0-9]{0,2}([,.])[0-9]{3}");
    private static final String CLOCK = "(?:[01]?[0-9]|2[0-3]):[0-5][0-9](?::[0-5][0-9])?(?:\\s?[aApP]\\.?[mM]\\.?)?";
    private static final Pattern CLOCK_TIME = Pattern.compile(CLOCK);
    private static final Pattern WITH_CLOCK = Pattern.compile("(.+?)(?:T|,?\\s+)" + CLOCK);
    private static final Pattern ISO_DATE =
            Pattern.compile("[0-9]{4}[-/.](?:0?[1-9]|1[0-2])[-/.](?:0?[1-9]|[12][0-9]|3[01])");
    private static final String MONTH = "(?i:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)[a-z]{0,6}\\.?";
    private static final Pattern NAMED_DATE = Pattern.compile("[0-9]{1,2}(?:st|nd|rd|th)?[ -]" + MONTH
            + ",?[ -](?:[0-9]{4}|[0-9]{2})|" + MONTH + " [0-9]{1,2},? [0-9]{4}");
    private static final Pattern DIGIT_DATE =
            Pattern.compile("([0-9]{1,2})([/.-])([0-9]{1,2})\\2(?:[0-9]{4}|[0-9]{2})");

    /** Every shape that the cell has. What a cell is made of rules most shapes out before any pattern is tried. */
    static Set<Shape> of(String text) {
        var shapes = EnumSet.noneOf(Shape.class);
        if (text.indexOf('\n') >= 0 || text.indexOf('\r') >= 0) {
            shapes.add(LINE_BREAK);
            return shapes;
        }
        if (text.length() > 40) {
            return shapes;
        }
        var made = Made.of(text);
        if (made.digits() == 0) {
            if (YES_NO_WORD.matcher(text).matches()) {
                shapes.add(YES_NO);
            }
            return shapes;
        }
        if (made.letters() == 0) {
            number(text, shapes);
        }
        boolean colon = text.indexOf(':') >= 0;
        if (colon && CLOCK_TIME.matcher(text).matches()) {
            shapes.add(TIME);
        }
        if (made.others() < 2 && made.letters() == 0) {
            return shapes;
        }
        date(text, DATE, DATE_MONTH_FIRST, DATE_DAY_FIRST, DATE_EITHER, shapes);
        if (colon) {
            var withClock = WITH_CLOCK.matcher(text);
            if (withClock.matches()) {
                date(withClock.group(1), MOMENT, MOMENT_MONTH_FIRST, MOMENT_DAY_FIRST, MOMENT_EITHER, shapes);
            }
        }
        return shapes;
    }

    /** How many digits, letters and other characters a cell is made of. */
    private record Made(int digits, int letters, int others) {
        static Made of(String text) {
            int digits = 0;
            int letters = 0;
            for (int at = 0; at < text.length(); at++) {
                char c = text.charAt(at);
                if (c >= '0' && c <= '9') {
                    digits++;
                } else if (Character.isLetter(c)) {
                    letters++;
                }
            }
            return new Made(digits, letters, text.length() - digits - letters);
        }
    }

    /** How many decimals a number of either sign has; 0 for anything else. */
    static int decimals(String text) {
        boolean sign = text.indexOf('.') >= 0 || text.indexOf(',') >= 0;
        if (!sign
                || !POINT_NUMBER.matcher(text).matches()
                        && !COMMA_NUMBER.matcher(text).matches()) {
            return 0;
        }
        int last = Math.max(text.lastIndexOf('.'), text.lastIndexOf(','));
        // A sign that stands twice groups thousands.
        return text.indexOf(text.charAt(last)) == last ? text.length() - 1 - last : 0;
    }

    private static void number(String text, Set<Shape> shapes) {
        if (ZERO_FIRST.matcher(text).matches()) {
            shapes.add(LEADING_ZERO);
        } else if (WHOLE_NUMBER.matcher(text).matches()
                && !PHONE_LIKE.matcher(text).matches()) {
            shapes.add(WHOLE);
        } else if (PHONE_LIKE.matcher(text).matches()
                && !ISO_DATE.matcher(text).matches()
                && !DIGIT_DATE.matcher(text).matches()) {
            shapes.add(PHONE);
        }
        if (text.indexOf('.') < 0 && text.indexOf(',') < 0) {
            return;
        }
        var thousand = THOUSAND.matcher(text);
        if (thousand.matches()) {
            shapes.add(thousand.group(1).equals(",") ? MAYBE_THOUSANDS_COMMA : MAYBE_THOUSANDS_POINT);
        } else if (POINT_NUMBER.matcher(text).matches()) {
            shapes.add(POINT);
        } else if (COMMA_NUMBER.matcher(text).matches()) {
            shapes.add(COMMA);
        }
    }

    private static void date(
            String text, Shape clear, Shape monthFirst, Shape dayFirst, Shape either, Set<Shape> shapes) {
        if (ISO_DATE.matcher(text).matches() || NAMED_DATE.matcher(text).matches()) {
            shapes.add(clear);
            return;
        }
        var digits = DIGIT_DATE.matcher(text);
        if (!digits.matches()) {
            return;
        }
        int first = Integer.parseInt(digits.group(1));
        int second = Integer.parseInt(digits.group(3));
        if (first < 1 || second < 1 || first > 31 || second > 31 || first > 12 && second > 12) {
            return;
        }
        shapes.add(first == second ? clear : first > 12 ? dayFirst : second > 12 ? monthFirst : either);
    }
}
