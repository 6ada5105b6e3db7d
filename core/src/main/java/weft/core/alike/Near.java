package weft.core.alike;

import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import weft.core.table.Column;
import weft.core.value.Value;

/** How near two values of a column are: what stands between them, the nearest first. */
public enum Near {
    /** Nothing but case, accents, blanks and signs. */
    SAME,
    /** The order of the words. */
    ORDER,
    /** One letter that is another one, left out or doubled, or two letters or digits that are swapped. */
    LETTER,
    /** Day and month are turned. */
    DAY_AND_MONTH,
    /** Two digits that stand together are turned. */
    DIGITS,
    /** They are spelled in different ways and sound alike. */
    SOUND;

    /** In fewer letters than these each is another word. */
    private static final int FEWEST = 4;

    /**
     * How near they are; empty when they are not, or one is empty.
     *
     * @param sound whether those are near that sound alike
     */
    public static Optional<Near> of(Value one, Value other, boolean sound) {
        if (one.isEmpty() || other.isEmpty()) {
            return Optional.empty();
        }
        if (one.equals(other)) {
            return Optional.of(SAME);
        }
        return switch (one) {
            case Value.Text(var text) ->
                other instanceof Value.Text(var spelled) ? texts(text, spelled, sound) : Optional.empty();
            case Value.Day(var day) when other instanceof Value.Day(var date) -> days(day, date);
            case Value.Whole _, Value.Decimal _, Value.Hour _ ->
                swapped(one.plain(), other.plain(), true) ? Optional.of(DIGITS) : Optional.empty();
            case Value.Day _, Value.Moment _, Value.YesNo _, Value.Image _, Value.Link _, Value.Empty _ ->
                Optional.empty();
        };
    }

    private static Optional<Near> texts(String one, String other, boolean sound) {
        var words = Words.of(one);
        var others = Words.of(other);
        var joined = words.joined();
        var spelled = others.joined();
        if (joined.isEmpty() || spelled.isEmpty()) {
            return Optional.empty();
        }
        if (joined.equals(spelled)) {
            return Optional.of(SAME);
        }
        if (words.sorted().equals(others.sorted())) {
            return Optional.of(ORDER);
        }
        if (slip(joined, spelled)) {
            return Optional.of(LETTER);
        }
        return sound && words.sounds().equals(others.sounds()) ? Optional.of(SOUND) : Optional.empty();
    }

    /** Whether one letter is between them. Digits are no letters: with another digit it is another number. */
    private static boolean slip(String one, String other) {
        int shorter = Math.min(one.length(), other.length());
        if (shorter < FEWEST || Math.abs(one.length() - other.length()) > 1) {
            return false;
        }
        int at = 0;
        while (at < shorter && one.charAt(at) == other.charAt(at)) {
            at++;
        }
        if (one.length() == other.length()) {
            return swapped(one, other, false)
                    || (letter(one.charAt(at))
                            && letter(other.charAt(at))
                            && one.substring(at + 1).equals(other.substring(at + 1)));
        }
        var longer = one.length() > other.length() ? one : other;
        var rest = one.length() > other.length() ? other : one;
        return letter(longer.charAt(at)) && longer.substring(at + 1).equals(rest.substring(at));
    }

    private static boolean letter(char sign) {
        return !Character.isDigit(sign);
    }

    /** Whether two signs that stand together are turned, and nothing else. */
    private static boolean swapped(String one, String other, boolean digits) {
        if (one.length() != other.length()) {
            return false;
        }
        int at = 0;
        while (at < one.length() && one.charAt(at) == other.charAt(at)) {
            at++;
        }
        return at + 1 < one.length()
                && one.charAt(at) == other.charAt(at + 1)
                && one.charAt(at + 1) == other.charAt(at)
                && (!digits || (Character.isDigit(one.charAt(at)) && Character.isDigit(one.charAt(at + 1))))
                && one.substring(at + 2).equals(other.substring(at + 2));
    }

    private static Optional<Near> days(LocalDate one, LocalDate other) {
        if (turned(one).equals(Optional.of(other))) {
            return Optional.of(DAY_AND_MONTH);
        }
        return swapped(one.toString(), other.toString(), true) ? Optional.of(DIGITS) : Optional.empty();
    }

    /** A date with its day and month turned, where that is one. */
    static Optional<LocalDate> turned(LocalDate day) {
        try {
            return Optional.of(LocalDate.of(day.getYear(), day.getDayOfMonth(), day.getMonthValue()));
        } catch (DateTimeException none) {
            return Optional.empty();
        }
    }

    /** Every value of a number, a date or a time that is near this one; of other kinds this one only. */
    public static List<Value> around(Value value) {
        var near = new ArrayList<Value>();
        near.add(value);
        if (value instanceof Value.Day(var day)) {
            turned(day).map(Value.Day::new).ifPresent(near::add);
        }
        var digits = value.plain();
        for (int at = 0; at + 1 < digits.length(); at++) {
            if (Character.isDigit(digits.charAt(at)) && Character.isDigit(digits.charAt(at + 1))) {
                like(
                                value,
                                digits.substring(0, at)
                                        + digits.charAt(at + 1)
                                        + digits.charAt(at)
                                        + digits.substring(at + 2))
                        .ifPresent(near::add);
            }
        }
        return near.stream()
                .filter(other -> of(value, other, false).isPresent())
                .distinct()
                .toList();
    }

    /** Whether its values are compared as words are. */
    public static boolean isWords(Column column) {
        return switch (column.type()) {
            case TEXT, LONGTEXT, CHOICE -> true;
            case WHOLE, DECIMAL, YESNO, DATE, TIME, DATETIME, PICTURE, LINK -> false;
        };
    }

    /** A value that is no words, spelled so that those are spelled alike which are the same: links where they lead to one record. */
    static String spelled(Value value) {
        return value instanceof Value.Link link ? Long.toString(link.id()) : value.plain();
    }

    /** A value of the same kind that is spelled so; empty when there is none. */
    private static Optional<Value> like(Value value, String plain) {
        try {
            return switch (value) {
                case Value.Whole _ -> Optional.of(new Value.Whole(Long.parseLong(plain)));
                case Value.Decimal _ -> Optional.of(new Value.Decimal(new BigDecimal(plain)));
                case Value.Day _ -> Optional.of(new Value.Day(LocalDate.parse(plain)));
                case Value.Hour _ -> Optional.of(new Value.Hour(LocalTime.parse(plain)));
                case Value.Text _, Value.Moment _, Value.YesNo _, Value.Image _, Value.Link _, Value.Empty _ ->
                    Optional.empty();
            };
        } catch (NumberFormatException | DateTimeException none) {
            return Optional.empty();
        }
    }

    /** It in words, of a field of that label. */
    String words(String label) {
        return switch (this) {
            case SAME -> "same " + label;
            case ORDER -> label + " in another order";
            case LETTER -> label + " one letter apart";
            case DAY_AND_MONTH -> label + " with day and month turned";
            case DIGITS -> label + " with two digits turned";
            case SOUND -> label + " sounds alike";
        };
    }
}
