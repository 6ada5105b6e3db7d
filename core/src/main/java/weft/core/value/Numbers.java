package weft.core.value;

import java.math.BigDecimal;
import java.util.Optional;
import java.util.regex.Pattern;
import weft.core.value.Conventions.DecimalSign;

/** Reads numbers as people write them. */
final class Numbers {

    private static final Pattern PLAIN = Pattern.compile("[-+]?(?:[0-9]+(?:\\.[0-9]*)?|\\.[0-9]+)");
    private static final Pattern BLANK_GROUPS =
            Pattern.compile("[-+]?[0-9]{1,3}(?:[ '’\u00A0\u202F][0-9]{3})+(?:\\.[0-9]+)?");
    private static final Pattern SIGN_GROUPS =
            Pattern.compile("[-+]?[0-9]{1,3}(?:,[0-9]{3})+(?:\\.[0-9]+|(?<=,[0-9]{3},[0-9]{3}))");

    private Numbers() {}

    /**
     * The number, or empty when it is none. Thousands may be grouped with blanks or apostrophes, and with the sign that is
     * not the decimal sign only where that can mean nothing else: "1,234" is refused, "1,234,567" and "1,234.5" are not.
     */
    static Optional<BigDecimal> read(String text, DecimalSign decimalSign) {
        if (text.length() > 60) {
            return Optional.empty();
        }
        var asciiDigits = new StringBuilder(text.length());
        for (char c : text.toCharArray()) {
            int digit = Character.digit(c, 10);
            asciiDigits.append(digit >= 0 ? (char) ('0' + digit) : c == '−' ? '-' : c);
        }
        var pointed = decimalSign == DecimalSign.POINT ? asciiDigits.toString() : swapped(asciiDigits.toString());
        if (PLAIN.matcher(pointed).matches()) {
            return Optional.of(new BigDecimal(pointed));
        }
        return BLANK_GROUPS.matcher(pointed).matches()
                        || SIGN_GROUPS.matcher(pointed).matches()
                ? Optional.of(new BigDecimal(pointed.replaceAll("[ '’\u00A0\u202F,]", "")))
                : Optional.empty();
    }

    /** Whether a number is typed so plainly that reading it back would say nothing new. */
    static boolean plain(String typed) {
        return typed.matches("-?[0-9]*[.,]?[0-9]*");
    }

    private static String swapped(String text) {
        return text.replace(',', '\0').replace('.', ',').replace('\0', '.');
    }
}
