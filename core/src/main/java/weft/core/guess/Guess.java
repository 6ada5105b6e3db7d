package weft.core.guess;

import java.util.Optional;
import java.util.OptionalInt;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Conventions.DayOrder;
import weft.core.value.Conventions.DecimalSign;

/**
 * What a column of a file seems to hold.
 *
 * @param type the type
 * @param reason why, in a few words
 * @param scale the most decimals found, for a decimal column
 * @param longest the most characters in one cell
 * @param dayOrder the order of its dates of digits; empty when it has none, or when the values leave both possible
 * @param askDayOrder whether somebody must say the order
 * @param decimalSign the sign before its decimals
 */
public record Guess(
        ColumnType type,
        String reason,
        OptionalInt scale,
        int longest,
        Optional<DayOrder> dayOrder,
        boolean askDayOrder,
        DecimalSign decimalSign) {

    /** The conventions under which its cells are read. */
    public Conventions conventions() {
        return new Conventions(dayOrder.orElse(DayOrder.MONTH_FIRST), decimalSign);
    }
}
