package weft.core.find;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import weft.core.find.Criterion.Bound;
import weft.core.table.Column;
import weft.core.value.ColumnType;
import weft.core.value.Kind;
import weft.core.value.Reading;
import weft.core.value.Value;
import weft.core.value.ValueReader;

/** Reads one criterion on values that have an order: signs, words for them, ranges, periods. */
final class OrderedCriteria {

    private static final String WRITE = "Write it like %s, > %1$s or %1$s to %s.";

    private final ValueReader values;
    private final Periods periods;

    private final Consumer<String> operands;

    /**
     * A reader of values and periods.
     *
     * @param operands is given each operand as it stands, from left to right
     */
    OrderedCriteria(ValueReader values, Periods periods, Consumer<String> operands) {
        this.values = values;
        this.periods = periods;
        this.operands = operands;
    }

    /** One criterion on numbers, dates or times. */
    Criterion read(Column column, Tokens tokens) {
        var text = tokens.text();
        for (var sign : List.of(">=", "≥", "<=", "≤", ">", "<", "=")) {
            if (text.startsWith(sign)) {
                return compared(column, sign, text.substring(sign.length()).strip());
            }
        }
        if (tokens.begins("at", "least") || tokens.begins("at", "most")) {
            return compared(
                    column,
                    tokens.begins("at", "least") ? ">=" : "<=",
                    tokens.without(2).text());
        }
        if (tokens.begins("above") || tokens.begins("after")) {
            return compared(column, ">", tokens.without(1).text());
        }
        if (tokens.begins("below") || tokens.begins("before")) {
            return compared(column, "<", tokens.without(1).text());
        }
        boolean from = tokens.begins("from");
        var ends = (from ? tokens.without(1) : tokens.begins("up", "to") ? tokens.without(1) : tokens).around("to");
        if (ends.size() > 2) {
            throw unreadable(column, text);
        }
        if (ends.size() == 1) {
            return compared(column, from ? ">=" : "=", ends.getFirst().text());
        }
        if (ends.getFirst().isEmpty()) {
            return compared(column, "<=", ends.getLast().text());
        }
        if (ends.getLast().isEmpty()) {
            throw new Unreadable("Something is missing after “to”. Write it like "
                    + ends.getFirst().text() + " to …");
        }
        var first = span(column, ends.getFirst().text());
        var last = span(column, ends.getLast().text());
        if (first.after(last)) {
            throw new Unreadable("“" + text + "” goes from the larger to the smaller. Write it like "
                    + ends.getLast().text() + " to " + ends.getFirst().text() + ".");
        }
        return first.through(last);
    }

    private Criterion compared(Column column, String sign, String operand) {
        if (operand.isBlank()) {
            throw new Unreadable(
                    "Something is missing after “" + sign + "”, such as " + sign + " " + example(column) + ".");
        }
        var span = span(column, operand);
        return switch (sign) {
            case ">" -> span.above();
            case ">=", "≥" -> span.atLeast();
            case "<" -> span.below();
            case "<=", "≤" -> span.atMost();
            default -> {
                if (span.after(span)) {
                    throw new Unreadable("“" + operand + "” has decimals; this field holds whole numbers.");
                }
                yield span.itself();
            }
        };
    }

    /** What an operand stands for. */
    Span span(Column column, String operand) {
        operands.accept(operand);
        var text = Starred.of(operand).bare();
        if (text.isBlank()) {
            throw TextCriteria.nothingQuoted();
        }
        if (column.type().isDated()) {
            var period = periods.read(text).or(() -> day(text).map(day -> new Periods.Period(day, day)));
            if (period.isPresent()) {
                return column.type() == ColumnType.DATE ? days(period.get()) : moments(period.get());
            }
        }
        // A whole number's ends may have decimals: above 7.5 is at least 8.
        var kind = Kind.of(column.type() == ColumnType.WHOLE ? ColumnType.DECIMAL : column.type());
        return switch (values.read(kind, text)) {
            case Reading.Read(Value.Decimal(var number), var _)
            when column.type() == ColumnType.WHOLE ->
                new Span(
                        new Bound(whole(number, RoundingMode.CEILING), true),
                        new Bound(whole(number, RoundingMode.FLOOR), true));
            case Reading.Read(var value, var _) -> Span.of(value);
            case Reading.Refused _ -> throw unreadable(column, text);
        };
    }

    private Optional<LocalDate> day(String text) {
        return values.read(Kind.of(ColumnType.DATE), text) instanceof Reading.Read(Value.Day(var date), var _)
                ? Optional.of(date)
                : Optional.empty();
    }

    private static Span days(Periods.Period period) {
        return new Span(new Bound(new Value.Day(period.first()), true), new Bound(new Value.Day(period.last()), true));
    }

    private static Span moments(Periods.Period period) {
        return new Span(
                new Bound(new Value.Moment(period.first().atStartOfDay()), true),
                new Bound(new Value.Moment(period.last().plusDays(1).atStartOfDay()), false));
    }

    private static Value.Whole whole(BigDecimal number, RoundingMode towards) {
        try {
            return new Value.Whole(number.setScale(0, towards).longValueExact());
        } catch (ArithmeticException tooLarge) {
            throw new Unreadable("“" + number.toPlainString() + "” is larger than any number here.");
        }
    }

    private static Unreadable unreadable(Column column, String text) {
        return new Unreadable("“" + text + "” can't be read as " + column.type().inWords() + ". "
                + WRITE.formatted(example(column), later(column))
                + (column.type().isDated() ? " May 2026 and last month are understood too." : ""));
    }

    private static String example(Column column) {
        return switch (column.type()) {
            case DATE, DATETIME -> "2026-05-01";
            case TIME -> "9:30";
            default -> "70";
        };
    }

    private static String later(Column column) {
        return switch (column.type()) {
            case DATE, DATETIME -> "2026-05-31";
            case TIME -> "12:00";
            default -> "80";
        };
    }
}
