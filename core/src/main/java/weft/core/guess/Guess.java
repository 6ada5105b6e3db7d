package weft.core.guess;

import java.util.Optional;
import java.util.OptionalInt;
import weft.core.value.ColumnType;
import weft.core.value.Conventions.DayOrder;

/**
 * What a column of a file seems to hold.
 *
 * @param type the type
 * @param reason why, in a few words
 * @param scale the most decimals found, for a decimal column
 * @param longest the most characters in one cell
 * @param dayOrder the order of its dates of digits; empty when it has none, or when the values leave both possible
 * @param askDayOrder whether somebody must say the order
 * @param assumed the order by which its dates are read as long as nobody has said it
 * @param signs how its numbers are written
 */
public record Guess(
        ColumnType type,
        String reason,
        OptionalInt scale,
        int longest,
        Optional<DayOrder> dayOrder,
        boolean askDayOrder,
        DayOrder assumed,
        Signs signs) {}
