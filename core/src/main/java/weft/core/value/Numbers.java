package weft.core.value;

import java.math.BigDecimal;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import weft.core.value.Conventions.DecimalSign;

/** Reads numbers as people write them. */
final class Numbers {

    private static final Pattern PLAIN = Pattern.compile("[-+]?(?:[0-9]+(?:\\.[0-9]*)?|\\.[0-9]+)");
    private static final Pattern BLANK_GROUPS = Pattern.compile("[-+]?[0-9]{1,3}(?:[ '’][0-9]{3})+(?:\\.[0-9]+)?");
    private static final Pattern SIGN_GROUPS =
            Pattern.compile("[-+]?[0-9]{1,3}(?:,[0-9]{3})+(?:\\.[0-9]+|(?<=,[0-9]{3},[0-9]{3}))");

    private static final Pattern GROUPED = Pattern.compile("[-+]?[0-9]{1,3}(?:,[0-9]{3})+(?:\\.[0-9]+)?");
    private static final Pattern EITHER_WAY = Pattern.compile("[-+]?[1-9][0-9]{0,2}[,.][0-9]{3}");
    private static final Pattern POWER = Pattern.compile("[-+]?[0-9]+(?:[.,][0-9]+)?[eE][-+]?[0-9]{1,2}");
    private static final Map<Character, String> FRACTIONS = Map.of('½', "0.5", '¼', "0.25", '¾', "0.75");

    private final DecimalSign decimalSign;
    private final boolean grouped;

    /**
     * A reader of numbers with that sign before their decimals.
     *
     * @param grouped whether the other sign is known to group thousands
     */
    Numbers(DecimalSign decimalSign, boolean grouped) {
        this.decimalSign = decimalSign;
        this.grouped = grouped;
    }

    /**
     * The number, or empty when it is none. Thousands may be grouped with blanks or apostrophes, and with the sign that is
     * not the decimal sign only where that can mean nothing else: "1,234" is refused, "1,234,567" and "1,234.5" are not.
     */
    Optional<BigDecimal> read(String text) {
        if (text.length() > ValueReader.LONGEST_VALUE) {
            return Optional.empty();
        }
        var pointed = pointed(ascii(text));
        if (PLAIN.matcher(pointed).matches()) {
            return Optional.of(new BigDecimal(pointed));
        }
        return BLANK_GROUPS.matcher(pointed).matches()
                        || (grouped ? GROUPED : SIGN_GROUPS).matcher(pointed).matches()
                ? Optional.of(new BigDecimal(pointed.replaceAll("[ '’,]", "")))
                : Optional.empty();
    }

    /** Whether it could be thousands in groups as well as decimals, as "12,000" could, and nothing is known of that. */
    boolean couldBeThousands(String text) {
        if (text.length() > ValueReader.LONGEST_VALUE) {
            return false;
        }
        var typed = ascii(text);
        return EITHER_WAY.matcher(typed).matches() && !(grouped && typed.indexOf(decimalSign.sign()) < 0);
    }

    /** That it could be either; for what {@link #couldBeThousands}. */
    Refusal eitherWay(String text) {
        var typed = ascii(text);
        return new Refusal.EitherWay(
                text, typed.replaceAll("[,.]", ""), typed.replaceAll("[,.]", String.valueOf(decimalSign.sign())));
    }

    /** How this reader would have what was meant by something that it does not read; empty when that is not plain. */
    Optional<String> meant(String text) {
        if (text.length() > ValueReader.LONGEST_VALUE) {
            return Optional.empty();
        }
        var typed = ascii(text);
        var number = POWER.matcher(typed).matches()
                ? Optional.of(new BigDecimal(typed.replace(',', '.')).toPlainString())
                : typed.length() == 1
                        ? Optional.ofNullable(FRACTIONS.get(typed.charAt(0)))
                        : Optional.of(typed.replace(',', '.'))
                                .filter(other -> PLAIN.matcher(other).matches());
        return number.map(plain -> plain.replace('.', decimalSign.sign()))
                .filter(advised -> !couldBeThousands(advised));
    }

    /** Whether a number is typed so plainly that reading it back would say nothing new. */
    static boolean plain(String typed) {
        return typed.matches("-?[0-9]*[.,]?[0-9]*");
    }

    private String pointed(String text) {
        return decimalSign == DecimalSign.POINT
                ? text
                : text.replace(',', '\0').replace('.', ',').replace('\0', '.');
    }

    private static String ascii(String text) {
        var digits = new StringBuilder(text.length());
        for (int at = 0; at < text.length(); at++) {
            char c = text.charAt(at);
            int digit = Character.digit(c, 10);
            digits.append(digit >= 0 ? (char) ('0' + digit) : c == '−' ? '-' : c);
        }
        return digits.toString();
    }
}
