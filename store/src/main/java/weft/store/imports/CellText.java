package weft.store.imports;

import java.math.BigDecimal;
import java.time.Duration;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import java.time.temporal.ChronoUnit;

/** Values of typed files as text that is read as just that value. */
final class CellText {

    /** More digits than that are no number that anybody wrote. */
    private static final int MOST_DIGITS = 400;

    /** Half of the thousandth of a second to which a spreadsheet's moments are meant. */
    private static final Duration ROUNDED = Duration.ofNanos(500_000);

    private CellText() {}

    /** A number with all its digits, no exponent, and no zeros that say nothing: a spreadsheet may keep 12 as 12.0. */
    static String number(String spelled) {
        try {
            var number = new BigDecimal(spelled.strip());
            return Math.abs((long) number.scale()) > MOST_DIGITS
                    ? spelled
                    : number.stripTrailingZeros().toPlainString();
        } catch (NumberFormatException e) {
            return spelled;
        }
    }

    /**
     * A moment to the second, where nothing but the rounding of a spreadsheet is left out of it; a day alone at midnight. What
     * has a part of a second of its own is left as it is spelled.
     */
    static String stamp(String spelled) {
        try {
            var at = LocalDateTime.parse(spelled.strip()).plus(ROUNDED).truncatedTo(ChronoUnit.MILLIS);
            return at.getNano() != 0
                    ? spelled
                    : at.toLocalTime().equals(LocalTime.MIDNIGHT)
                            ? at.toLocalDate().toString()
                            : DateTimeFormatter.ISO_LOCAL_DATE_TIME.format(at);
        } catch (DateTimeParseException e) {
            return spelled;
        }
    }

    /** A time of day that a spreadsheet keeps as a duration since midnight; other durations as they are shown. */
    static String time(String duration, String shown) {
        try {
            var since = Duration.parse(duration.strip());
            return since.isNegative() || since.toDays() > 0
                    ? shown
                    : DateTimeFormatter.ISO_LOCAL_TIME.format(LocalTime.MIDNIGHT.plus(since));
        } catch (DateTimeParseException e) {
            return shown;
        }
    }
}
