package weft.core.guess;

import java.util.EnumSet;
import java.util.Set;
import java.util.regex.Pattern;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Conventions.DayOrder;
import weft.core.value.Conventions.DecimalSign;
import weft.core.value.Kind;
import weft.core.value.Reading;
import weft.core.value.ValueReader;

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
    DATE_YEAR_FIRST,
    MOMENT,
    MOMENT_MONTH_FIRST,
    MOMENT_DAY_FIRST,
    MOMENT_YEAR_FIRST,
    LINE_BREAK;

    private static final Pattern YES_NO_WORD = Pattern.compile("y|n|yes|no|true|false", Pattern.CASE_INSENSITIVE);
    private static final Pattern ZERO_FIRST = Pattern.compile("0[0-9]+(?:[.,][0-9]+)?");
    private static final Pattern GROUPED_NUMBER =
            Pattern.compile("[-+−]?[1-9][0-9]{0,2}(?:[ '’][0-9]{3})+(?:([.,])[0-9]+)?");
    private static final Pattern SHORT_YEAR_FIRST = Pattern.compile("[0-9]{2}-[0-9]{2}-[0-9]{2}");
    private static final Pattern PHONE_LIKE =
            Pattern.compile("\\+[0-9][0-9 ()./-]{6,}|\\(?[0-9]{2,5}\\)?(?:[ /-][0-9]{2,}){1,4}");
    private static final Pattern WHOLE_NUMBER = Pattern.compile("[-+−]?[0-9]{1,18}");
    private static final Pattern POINT_NUMBER =
            Pattern.compile("[-+−]?(?:[0-9]*|[0-9]{1,3}(?:,[0-9]{3})+)\\.[0-9]+|[-+]?[0-9]{1,3}(?:,[0-9]{3}){2,}");
    private static final Pattern COMMA_NUMBER =
            Pattern.compile("[-+−]?(?:[0-9]*|[0-9]{1,3}(?:\\.[0-9]{3})+),[0-9]+|[-+]?[0-9]{1,3}(?:\\.[0-9]{3}){2,}");
    private static final Pattern THOUSAND = Pattern.compile("[-+−]?[1-9][0-9]{0,2}([,.])[0-9]{3}");
    private static final String CLOCK =
            "(?:[01]?[0-9]|2[0-3]):[0-5][0-9](?::[0-5][0-9])?(?:\\s?[aApP]\\.?\\s?[mM]\\.?)?";
    private static final Pattern CLOCK_TIME = Pattern.compile(CLOCK);
    private static final Pattern WITH_CLOCK = Pattern.compile("(.+?)(?:T|,?\\s+)" + CLOCK);
    private static final Pattern ISO_DATE =
            Pattern.compile("[0-9]{4}[-/.](?:0?[1-9]|1[0-2])[-/.](?:0?[1-9]|[12][0-9]|3[01])");
    private static final String MONTH = "(?i:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)[a-z]{0,6}\\.?";
    private static final Pattern NAMED_DATE = Pattern.compile("[0-9]{1,2}(?:st|nd|rd|th)?[ -]" + MONTH
            + ",?[ -](?:[0-9]{4}|[0-9]{2})|" + MONTH + " [0-9]{1,2},? [0-9]{4}");
    private static final Pattern DIGIT_DATE =
            Pattern.compile("([0-9]{1,2})([/.-])([0-9]{1,2})\\2(?:[0-9]{4}|[0-9]{2})");

    private static final ValueReader PLAIN = ValueReader.ofStored(Conventions.DEFAULT);
    private static final ValueReader COMMAED =
            ValueReader.ofStored(new Conventions(DayOrder.MONTH_FIRST, DecimalSign.COMMA));
    private static final ValueReader DAYS =
            ValueReader.ofStored(new Conventions(DayOrder.DAY_FIRST, DecimalSign.POINT));
    private static final ValueReader YEARS =
            ValueReader.ofStored(new Conventions(DayOrder.YEAR_FIRST, DecimalSign.POINT));

    /** Every shape that the cell has, each one held against the reading that it will have when it is loaded. What a cell is made of rules most shapes out before any pattern is tried. */
    static Set<Shape> of(String text) {
        var shapes = EnumSet.noneOf(Shape.class);
        if (text.indexOf('\n') >= 0 || text.indexOf('\r') >= 0) {
            shapes.add(LINE_BREAK);
            return shapes;
        }
        if (text.length() > 40) {
            return shapes;
        }
        var made = Characters.of(text);
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
        if (colon && CLOCK_TIME.matcher(text).matches() && reads(PLAIN, ColumnType.TIME, text)) {
            shapes.add(TIME);
        }
        if (made.others() < 2 && made.letters() == 0) {
            return shapes;
        }
        if (dated(text)) {
            date(ColumnType.DATE, text, text, DATE, DATE_MONTH_FIRST, DATE_DAY_FIRST, DATE_YEAR_FIRST, shapes);
        }
        var withClock = colon ? WITH_CLOCK.matcher(text) : null;
        if (withClock != null && withClock.matches() && dated(withClock.group(1))) {
            date(
                    ColumnType.DATETIME,
                    text,
                    withClock.group(1),
                    MOMENT,
                    MOMENT_MONTH_FIRST,
                    MOMENT_DAY_FIRST,
                    MOMENT_YEAR_FIRST,
                    shapes);
        }
        return shapes;
    }

    /** How many digits, letters and other characters a cell is made of. */
    private record Characters(int digits, int letters, int others) {
        static Characters of(String text) {
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
            return new Characters(digits, letters, text.length() - digits - letters);
        }
    }

    /** How many decimals a number has if that sign stands before them; 0 for anything else. */
    static int decimals(String text, char sign) {
        int at = text.indexOf(sign);
        if (at < 0
                || at != text.lastIndexOf(sign)
                || at < Math.max(text.lastIndexOf('.'), text.lastIndexOf(','))
                || ZERO_FIRST.matcher(text).matches()
                || (!POINT_NUMBER.matcher(text).matches()
                        && !COMMA_NUMBER.matcher(text).matches()
                        && !GROUPED_NUMBER.matcher(text).matches()
                        && !THOUSAND.matcher(text).matches())) {
            return 0;
        }
        return text.length() - 1 - at;
    }

    private static void number(String text, Set<Shape> shapes) {
        if (ZERO_FIRST.matcher(text).matches()) {
            shapes.add(LEADING_ZERO);
            return;
        }
        var grouped = GROUPED_NUMBER.matcher(text);
        if (WHOLE_NUMBER.matcher(text).matches() || (grouped.matches() && grouped.group(1) == null)) {
            shapes.add(WHOLE);
        } else if (grouped.matches()) {
            add(grouped.group(1).equals(".") ? POINT : COMMA, text, shapes);
        } else if (PHONE_LIKE.matcher(text).matches()
                && !ISO_DATE.matcher(text).matches()
                && !DIGIT_DATE.matcher(text).matches()) {
            shapes.add(PHONE);
        } else if (text.indexOf('.') >= 0 || text.indexOf(',') >= 0) {
            decimal(text, shapes);
        }
    }

    private static void decimal(String text, Set<Shape> shapes) {
        var thousand = THOUSAND.matcher(text);
        if (thousand.matches()) {
            shapes.add(thousand.group(1).equals(",") ? MAYBE_THOUSANDS_COMMA : MAYBE_THOUSANDS_POINT);
        } else if (POINT_NUMBER.matcher(text).matches()) {
            add(POINT, text, shapes);
        } else if (COMMA_NUMBER.matcher(text).matches()) {
            add(COMMA, text, shapes);
        }
    }

    /** Only a number of many digits is more than what is kept of one. */
    private static void add(Shape sign, String text, Set<Shape> shapes) {
        if (text.length() <= 16 || reads(sign == POINT ? PLAIN : COMMAED, ColumnType.DECIMAL, text)) {
            shapes.add(sign);
        }
    }

    private static boolean reads(ValueReader reader, ColumnType type, String text) {
        return reader.read(Kind.of(type), text) instanceof Reading.Read;
    }

    private static boolean dated(String text) {
        return ISO_DATE.matcher(text).matches()
                || NAMED_DATE.matcher(text).matches()
                || DIGIT_DATE.matcher(text).matches();
    }

    /** What looks like a date is one in each order that it can be read in; it is clear when they all say the same. */
    private static void date(
            ColumnType type,
            String text,
            String day,
            Shape clear,
            Shape monthFirst,
            Shape dayFirst,
            Shape yearFirst,
            Set<Shape> shapes) {
        var months = PLAIN.read(Kind.of(type), text);
        var days = DAYS.read(Kind.of(type), text);
        var years = SHORT_YEAR_FIRST.matcher(day).matches() ? YEARS.read(Kind.of(type), text) : days;
        if (months.equals(days) && days.equals(years)) {
            if (days instanceof Reading.Read) {
                shapes.add(clear);
            }
            return;
        }
        if (months instanceof Reading.Read) {
            shapes.add(monthFirst);
        }
        if (days instanceof Reading.Read) {
            shapes.add(dayFirst);
        }
        if (years != days && years instanceof Reading.Read) {
            shapes.add(yearFirst);
        }
    }
}
