package weft.core.rule;

import java.time.LocalDate;
import java.util.Optional;
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
public record Numbering(String column, String pattern) implements Declaration {

    private static final int LONGEST = 60;
    private static final Pattern DIGITS = Pattern.compile("\\{(0{1,12})}");

    /** What is wrong with the pattern, in a sentence; empty when numbers can be written by it. */
    public Optional<String> fault() {
        if (pattern.length() > LONGEST) {
            return Optional.of(
                    "The pattern of its running number has more than " + LONGEST + " characters. Shorten it.");
        }
        long places = DIGITS.matcher(pattern).results().count();
        if (places != 1) {
            return Optional.of(
                    places == 0
                            ? "The pattern of its running number has no place for the number. Put zeros in braces there, such"
                                    + " as {0000}."
                            : "The pattern of its running number has several places for the number. Keep one.");
        }
        var rest = DIGITS.matcher(pattern.replace("{year}", "").replace("{month}", ""))
                .replaceAll("");
        return rest.matches(".*[{}].*")
                ? Optional.of(
                        "The pattern “" + pattern + "” has something else than {year}, {month} and zeros in braces.")
                : Optional.empty();
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
