package weft.core.value;

import java.time.DateTimeException;
import java.time.LocalTime;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Pattern;

/** Reads times of day as people type them: 9, 930, 9.30, 9:30:15, 9pm, 9 p.m., noon. */
final class Times {

    private static final Pattern PARTS =
            Pattern.compile("([0-9]{1,2})(?:[:.h]([0-9]{2}))?(?:[:.]([0-9]{2}))?\\s*([ap](?:\\.?\\s?m\\.?)?)?");
    private static final Pattern RUN = Pattern.compile("([0-9]{1,2})([0-9]{2})\\s*([ap](?:\\.?\\s?m\\.?)?)?");

    private Times() {}

    /** The time, or empty when it is none; {@code now} is the time of day, if that may be asked for. */
    static Optional<LocalTime> read(String text, Optional<LocalTime> now) {
        if (text.length() > ValueReader.LONGEST_VALUE) {
            return Optional.empty();
        }
        var typed = text.toLowerCase(Locale.ROOT).strip();
        if (typed.equals("now")) {
            return now.map(time -> time.withSecond(0).withNano(0));
        }
        if (typed.equals("noon") || typed.equals("midnight")) {
            return Optional.of(typed.equals("noon") ? LocalTime.NOON : LocalTime.MIDNIGHT);
        }
        try {
            var parts = PARTS.matcher(typed);
            if (parts.matches()) {
                return Optional.of(LocalTime.of(
                        hour(parts.group(1), parts.group(4)), number(parts.group(2)), number(parts.group(3))));
            }
            var run = RUN.matcher(typed);
            return run.matches()
                    ? Optional.of(LocalTime.of(hour(run.group(1), run.group(3)), number(run.group(2))))
                    : Optional.empty();
        } catch (DateTimeException noSuchTime) {
            return Optional.empty();
        }
    }

    private static int hour(String digits, String half) {
        int hour = Integer.parseInt(digits);
        if (half == null) {
            return hour;
        }
        if (hour < 1 || hour > 12) {
            throw new DateTimeException("no such hour in a half day");
        }
        return hour % 12 + (half.startsWith("p") ? 12 : 0);
    }

    private static int number(String digits) {
        return digits == null ? 0 : Integer.parseInt(digits);
    }
}
