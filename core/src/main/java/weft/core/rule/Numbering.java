package weft.core.rule;

import java.time.LocalDate;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Running numbers for a column, given at the save: none twice and none left out.
 *
 * @param column a text column of the form's table
 * @param pattern how a number is written: {@code {year}} and {@code {month}} stand for the day of the save, and one run of
 *     zeros in braces, as {@code {0000}}, for the number with at least so many digits. With a year or month in it, the
 *     numbers begin again at 1 in each
 */
public record Numbering(String column, String pattern) {

    private static final Pattern DIGITS = Pattern.compile("\\{(0{1,12})}");

    /** Whether the pattern has a place for the number, and only one. */
    public boolean sound() {
        return pattern.length() <= 60 && DIGITS.matcher(pattern).results().count() == 1;
    }

    /** The pattern with the year and month of that day: numbers run on for as long as it stays the same. */
    public String period(LocalDate day) {
        return pattern.replace("{year}", "%04d".formatted(day.getYear()))
                .replace("{month}", "%02d".formatted(day.getMonthValue()));
    }

    /** The regular expression, in PostgreSQL's syntax, that finds the number in one of that period. */
    public static String matching(String period) {
        var digits = DIGITS.matcher(period);
        if (!digits.find()) {
            throw new IllegalArgumentException(period);
        }
        return "^" + literally(period.substring(0, digits.start())) + "([0-9]{1,15})"
                + literally(period.substring(digits.end())) + "$";
    }

    private static String literally(String text) {
        return text.replaceAll("([^\\p{L}\\p{N}])", "\\\\$1");
    }

    /** The number in its pattern of that period. */
    public static String written(String period, long number) {
        return DIGITS.matcher(period)
                .replaceAll(
                        found -> Matcher.quoteReplacement(("%0" + found.group(1).length() + "d").formatted(number)));
    }
}
