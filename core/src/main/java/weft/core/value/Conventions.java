package weft.core.value;

import java.util.Locale;

/**
 * How the people of a form write dates and numbers.
 *
 * @param dayOrder which comes first in a date of digits
 * @param decimalSign what stands before the decimals
 */
public record Conventions(DayOrder dayOrder, DecimalSign decimalSign) {

    /** Month first, decimal point. */
    public static final Conventions DEFAULT = new Conventions(DayOrder.MONTH_FIRST, DecimalSign.POINT);

    /** A count as people read it: 1,234, or 1.234 where the comma stands before decimals. */
    public String grouped(long count) {
        var english = String.format(Locale.ENGLISH, "%,d", count);
        return decimalSign == DecimalSign.COMMA ? english.replace(',', '.') : english;
    }

    /** The order of day, month and year in a date of digits such as 8/1. */
    public enum DayOrder {
        MONTH_FIRST,
        DAY_FIRST,
        /** Year, month, day; without a year, month and day. */
        YEAR_FIRST
    }

    /** The sign before the decimals of a number. */
    public enum DecimalSign {
        POINT('.'),
        COMMA(',');

        private final char sign;

        DecimalSign(char sign) {
            this.sign = sign;
        }

        /** The character itself. */
        public char sign() {
            return sign;
        }
    }
}
