package weft.core.guess;

import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.regex.Pattern;
import weft.core.value.ColumnType;
import weft.core.value.Conventions.DayOrder;
import weft.core.value.Conventions.DecimalSign;
import weft.core.value.NormalText;

/**
 * Sees the cells of one column one after another and then says what they seem to be. It keeps counts only, so a column
 * may have any length. A type is guessed when nine cells in ten fit it; the few that don't are for a person to look at.
 */
public final class ColumnGuesser {

    private static final Pattern PHONE_HEADING = Pattern.compile(
            ".*\\b(phone|telephone|tel|mobile|fax|zip|postcode|postal|iban)\\b.*", Pattern.CASE_INSENSITIVE);

    private static final Map<DayOrder, Shape> DATE_ORDERS = Map.of(
            DayOrder.MONTH_FIRST,
            Shape.DATE_MONTH_FIRST,
            DayOrder.DAY_FIRST,
            Shape.DATE_DAY_FIRST,
            DayOrder.YEAR_FIRST,
            Shape.DATE_YEAR_FIRST);
    private static final Map<DayOrder, Shape> MOMENT_ORDERS = Map.of(
            DayOrder.MONTH_FIRST,
            Shape.MOMENT_MONTH_FIRST,
            DayOrder.DAY_FIRST,
            Shape.MOMENT_DAY_FIRST,
            DayOrder.YEAR_FIRST,
            Shape.MOMENT_YEAR_FIRST);

    private final boolean phoneHeading;
    private final boolean typed;
    private final Map<Shape, Long> seen = new EnumMap<>(Shape.class);
    private long filled;
    private long blank;
    private int longest;
    private int pointScale;
    private int commaScale;

    /**
     * A guesser for the column under this heading.
     *
     * @param typed whether the file spells its numbers in one way only, with a decimal point and no groups
     */
    public ColumnGuesser(String heading, boolean typed) {
        this.typed = typed;
        this.phoneHeading = PHONE_HEADING.matcher(heading.replace('_', ' ')).matches();
    }

    /** Takes in one cell. */
    public void accept(String cell) {
        var text = NormalText.of(cell);
        if (text.isEmpty()) {
            blank++;
            return;
        }
        filled++;
        longest = Math.max(longest, text.length());
        for (var shape : Shape.of(text)) {
            seen.merge(shape, 1L, Long::sum);
        }
        pointScale = Math.max(pointScale, Shape.decimals(text, '.'));
        commaScale = Math.max(commaScale, Shape.decimals(text, ','));
    }

    /** The guess after all cells. */
    public Guess guess() {
        if (filled == 0) {
            return text("every cell is empty");
        }
        if (some(Shape.LEADING_ZERO) && enough(count(Shape.LEADING_ZERO) + numbers())) {
            return text("codes with leading zeros");
        }
        if (phoneHeading
                || enough(count(Shape.PHONE))
                || (some(Shape.PHONE) && enough(count(Shape.PHONE) + count(Shape.WHOLE)))) {
            return text(phoneHeading ? "the heading says so" : "looks like phone numbers");
        }
        return wordsAndNumbers().or(this::datesAndTimes).orElseGet(this::plainText);
    }

    private Optional<Guess> wordsAndNumbers() {
        if (enough(count(Shape.YES_NO))) {
            return Optional.of(found(ColumnType.YESNO, "yes or no in " + all(count(Shape.YES_NO))));
        }
        var signs = signs();
        if (enough(count(Shape.WHOLE)) && !signs.ask() && either() == 0) {
            return Optional.of(found(ColumnType.WHOLE, "whole numbers in " + all(count(Shape.WHOLE))));
        }
        var fits = typed
                ? count(Shape.WHOLE) + count(Shape.MAYBE_THOUSANDS_POINT) + count(Shape.POINT)
                : count(Shape.WHOLE) + either() + Math.max(count(Shape.POINT), count(Shape.COMMA));
        if (!enough(fits)) {
            return Optional.empty();
        }
        boolean point = signs.sign() == DecimalSign.POINT;
        if (signs.ask()) {
            return Optional.of(numbers(
                    ColumnType.DECIMAL,
                    "numbers in " + all(fits)
                            + ", but a point or comma could group thousands as well as begin decimals",
                    signs));
        }
        return Optional.of(
                signs.scale() == 0
                        ? numbers(
                                ColumnType.WHOLE,
                                "whole numbers, grouped with " + (point ? "commas" : "points") + ", in " + all(fits),
                                signs)
                        : numbers(
                                ColumnType.DECIMAL,
                                "numbers with a decimal " + (point ? "point" : "comma") + " in " + all(fits),
                                signs));
    }

    /** Cells that are thousands in groups or have three decimals: "1,234". Only other cells can settle which. */
    private long either() {
        return count(Shape.MAYBE_THOUSANDS_POINT) + count(Shape.MAYBE_THOUSANDS_COMMA);
    }

    private long numbers() {
        return count(Shape.WHOLE) + count(Shape.POINT) + count(Shape.COMMA) + either();
    }

    private Signs signs() {
        if (typed) {
            return new Signs(DecimalSign.POINT, false, pointScale, commaScale);
        }
        long points = count(Shape.POINT);
        long commas = count(Shape.COMMA);
        return new Signs(
                commas > points ? DecimalSign.COMMA : DecimalSign.POINT,
                points == commas && points + either() > 0,
                pointScale,
                commaScale);
    }

    private Optional<Guess> datesAndTimes() {
        if (enough(count(Shape.TIME))) {
            return Optional.of(found(ColumnType.TIME, "times in " + all(count(Shape.TIME))));
        }
        return dated(ColumnType.DATE, "dates", Shape.DATE, DATE_ORDERS)
                .or(() -> dated(ColumnType.DATETIME, "dates with times", Shape.MOMENT, MOMENT_ORDERS));
    }

    private Optional<Guess> dated(ColumnType type, String what, Shape clear, Map<DayOrder, Shape> orders) {
        long most = orders.values().stream().mapToLong(this::count).max().orElse(0);
        long fits = count(clear) + most;
        if (!enough(fits)) {
            return Optional.empty();
        }
        var likely = most == 0
                ? List.<DayOrder>of()
                : orders.entrySet().stream()
                        .filter(order -> count(order.getValue()) == most)
                        .map(Map.Entry::getKey)
                        .sorted()
                        .toList();
        boolean ask = likely.size() > 1;
        Optional<DayOrder> order = likely.size() == 1 ? Optional.of(likely.getFirst()) : Optional.empty();
        var how = ask
                ? likely.contains(DayOrder.YEAR_FIRST)
                        ? ", but it can't be told whether the year comes first or last"
                        : ", but day and month could be either way round"
                : order.map(known -> switch (known) {
                            case DAY_FIRST -> ", day first";
                            case MONTH_FIRST -> ", month first";
                            case YEAR_FIRST -> ", year first";
                        })
                        .orElse("");
        return Optional.of(new Guess(
                type,
                what + " in " + all(fits) + how,
                OptionalInt.empty(),
                longest,
                order,
                ask,
                likely.isEmpty() ? DayOrder.MONTH_FIRST : likely.getFirst(),
                Signs.PLAIN));
    }

    private Guess plainText() {
        if (some(Shape.LINE_BREAK)) {
            return found(ColumnType.LONGTEXT, "cells with line breaks");
        }
        if (longest > 120) {
            return found(ColumnType.LONGTEXT, "up to %,d characters".formatted(longest));
        }
        boolean mixed = seen.keySet().stream().anyMatch(shape -> shape != Shape.LINE_BREAK);
        return text(mixed ? "mixed: not all cells are of one kind" : "words");
    }

    private Guess text(String reason) {
        return found(some(Shape.LINE_BREAK) ? ColumnType.LONGTEXT : ColumnType.TEXT, reason);
    }

    private Guess found(ColumnType type, String reason) {
        return new Guess(
                type, reason, OptionalInt.empty(), longest, Optional.empty(), false, DayOrder.MONTH_FIRST, signs());
    }

    private Guess numbers(ColumnType type, String reason, Signs signs) {
        var scale = type == ColumnType.DECIMAL ? OptionalInt.of(signs.scale()) : OptionalInt.empty();
        return new Guess(type, reason, scale, longest, Optional.empty(), false, DayOrder.MONTH_FIRST, signs);
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
