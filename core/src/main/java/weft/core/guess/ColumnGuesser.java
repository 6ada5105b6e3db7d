package weft.core.guess;

import java.util.EnumMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.regex.Pattern;
import weft.core.value.ColumnType;
import weft.core.value.Conventions.DayOrder;
import weft.core.value.Conventions.DecimalSign;

/**
 * Sees the cells of one column one after another and then says what they seem to be. It keeps counts only, so a column
 * may have any length. A type is guessed when nine cells in ten fit it; the few that don't are for a person to look at.
 */
public final class ColumnGuesser {

    private static final Pattern PHONE_HEADING = Pattern.compile(
            ".*\\b(phone|telephone|tel|mobile|fax|zip|postcode|postal|iban)\\b.*", Pattern.CASE_INSENSITIVE);

    private final boolean phoneHeading;
    private final Map<Shape, Long> seen = new EnumMap<>(Shape.class);
    private long filled;
    private long blank;
    private int longest;
    private int scale;

    /** A guesser for the column under this heading. */
    public ColumnGuesser(String heading) {
        this.phoneHeading = PHONE_HEADING.matcher(heading.replace('_', ' ')).matches();
    }

    /** Takes in one cell. */
    public void accept(String cell) {
        var text = cell.strip();
        if (text.isEmpty()) {
            blank++;
            return;
        }
        filled++;
        longest = Math.max(longest, text.length());
        for (var shape : Shape.of(text)) {
            seen.merge(shape, 1L, Long::sum);
        }
        scale = Math.max(scale, Shape.decimals(text));
    }

    /** The guess after all cells. */
    public Guess guess() {
        if (filled == 0) {
            return text("every cell is empty");
        }
        if (some(Shape.LEADING_ZERO) && enough(count(Shape.LEADING_ZERO) + count(Shape.WHOLE))) {
            return text("codes with leading zeros");
        }
        if (phoneHeading
                || enough(count(Shape.PHONE))
                || some(Shape.PHONE) && enough(count(Shape.PHONE) + count(Shape.WHOLE))) {
            return text(phoneHeading ? "the heading says so" : "looks like phone numbers");
        }
        return wordsAndNumbers().or(this::datesAndTimes).orElseGet(this::plainText);
    }

    private Optional<Guess> wordsAndNumbers() {
        if (enough(count(Shape.YES_NO))) {
            return Optional.of(found(ColumnType.YESNO, "yes or no in " + all(count(Shape.YES_NO))));
        }
        if (enough(count(Shape.WHOLE))) {
            return Optional.of(found(ColumnType.WHOLE, "whole numbers in " + all(count(Shape.WHOLE))));
        }
        long sure = count(Shape.POINT) + count(Shape.COMMA);
        long pointed = count(Shape.WHOLE) + count(Shape.POINT) + count(Shape.MAYBE_THOUSANDS_POINT);
        long commaed = count(Shape.WHOLE) + count(Shape.COMMA) + count(Shape.MAYBE_THOUSANDS_COMMA);
        // "1,234" may be a thousand or one and a bit; only other cells can settle which.
        if (sure == 0 || !enough(Math.max(pointed, commaed))) {
            return Optional.empty();
        }
        var sign = pointed >= commaed ? DecimalSign.POINT : DecimalSign.COMMA;
        var fits = Math.max(pointed, commaed);
        return Optional.of(new Guess(
                ColumnType.DECIMAL,
                "numbers with a decimal " + (sign == DecimalSign.POINT ? "point" : "comma") + " in " + all(fits),
                OptionalInt.of(Math.min(scale, 15)),
                longest,
                Optional.empty(),
                false,
                sign));
    }

    private Optional<Guess> datesAndTimes() {
        if (enough(count(Shape.TIME))) {
            return Optional.of(found(ColumnType.TIME, "times in " + all(count(Shape.TIME))));
        }
        var date = dated(ColumnType.DATE, Shape.DATE, Shape.DATE_MONTH_FIRST, Shape.DATE_DAY_FIRST, Shape.DATE_EITHER);
        return date.or(() -> dated(
                ColumnType.DATETIME,
                Shape.MOMENT,
                Shape.MOMENT_MONTH_FIRST,
                Shape.MOMENT_DAY_FIRST,
                Shape.MOMENT_EITHER));
    }

    private Optional<Guess> dated(ColumnType type, Shape clear, Shape monthFirst, Shape dayFirst, Shape either) {
        long months = count(monthFirst);
        long days = count(dayFirst);
        long fits = count(clear) + count(either) + Math.max(months, days);
        if (!enough(fits)) {
            return Optional.empty();
        }
        var what = type == ColumnType.DATE ? "dates" : "dates with times";
        boolean digits = months + days + count(either) > 0;
        boolean ask = digits && months == days;
        Optional<DayOrder> order = digits && !ask
                ? Optional.of(months > days ? DayOrder.MONTH_FIRST : DayOrder.DAY_FIRST)
                : Optional.empty();
        var how = ask
                ? ", but day and month could be either way round"
                : order.map(known -> known == DayOrder.DAY_FIRST ? ", day first" : ", month first")
                        .orElse("");
        return Optional.of(new Guess(
                type, what + " in " + all(fits) + how, OptionalInt.empty(), longest, order, ask, DecimalSign.POINT));
    }

    private Guess plainText() {
        if (some(Shape.LINE_BREAK)) {
            return found(ColumnType.LONGTEXT, "cells with line breaks");
        }
        if (longest > 120) {
            return found(ColumnType.LONGTEXT, "up to %,d characters".formatted(longest));
        }
        if (enough(count(Shape.MAYBE_THOUSANDS_POINT)) || enough(count(Shape.MAYBE_THOUSANDS_COMMA))) {
            return text("could be thousands or decimals");
        }
        boolean mixed = seen.keySet().stream().anyMatch(shape -> shape != Shape.LINE_BREAK);
        return text(mixed ? "mixed: not all cells are of one kind" : "words");
    }

    private Guess text(String reason) {
        return found(some(Shape.LINE_BREAK) ? ColumnType.LONGTEXT : ColumnType.TEXT, reason);
    }

    private Guess found(ColumnType type, String reason) {
        return new Guess(type, reason, OptionalInt.empty(), longest, Optional.empty(), false, DecimalSign.POINT);
    }

    private long count(Shape shape) {
        return seen.getOrDefault(shape, 0L);
    }

    private boolean some(Shape shape) {
        return count(shape) > 0;
    }

    private boolean enough(long fits) {
        return fits * 10 >= filled * 9;
    }

    private String all(long fits) {
        var cells = fits == filled && blank == 0 ? "every cell" : fits == filled ? "every filled cell" : null;
        return cells != null ? cells : String.format(Locale.ENGLISH, "%,d of %,d cells", fits, filled);
    }
}
