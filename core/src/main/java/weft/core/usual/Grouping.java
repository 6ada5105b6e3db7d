package weft.core.usual;

import java.math.BigDecimal;
import java.math.MathContext;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import weft.core.rule.Check.For;
import weft.core.rule.Check.Usual;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.core.value.Value;
import weft.core.value.Wire;

/**
 * Which values are held against each other: those of a column among the records that are the same in each of the parts, and where
 * these are few among those that are the same in all parts but the last, and so on to all records.
 *
 * @param by the parts, the widest first; at most {@link #MOST_PARTS}
 * @param all whether it speaks, and tells figures, where not every record is to be seen
 */
public record Grouping(Column column, List<Part> by, boolean all) {

    /** So many parts at most. */
    public static final int MOST_PARTS = 3;

    /** Numbers are counted to so many digits, so that those of a group stay countable. */
    private static final MathContext DIGITS = new MathContext(4, RoundingMode.HALF_UP);

    /** Of what is no amount that anybody means nothing is counted. */
    private static final BigDecimal MOST = BigDecimal.TEN.pow(40);

    private static final int MOST_DECIMALS = 40;

    /** So much of a word tells it apart. */
    private static final int OF_WORD = 100;

    private static final char BETWEEN = '\u001f';

    public Grouping {
        by = List.copyOf(by);
    }

    /** What of a column's value parts the records: all of it, or the month of a date. */
    public record Part(Column column, For.Of of) {

        /** Whether a column of that type can be parted so. */
        public static boolean fits(ColumnType type, For.Of of) {
            return switch (of) {
                case VALUE ->
                    switch (type) {
                        case TEXT, WHOLE, YESNO, CHOICE, LINK -> true;
                        case LONGTEXT, DECIMAL, DATE, TIME, DATETIME, PICTURE -> false;
                    };
                case MONTH, WEEKDAY -> type.isDated();
                case HOUR -> type == ColumnType.TIME || type == ColumnType.DATETIME;
            };
        }

        private String key(Value value) {
            return switch (of) {
                case VALUE -> word(value);
                case MONTH -> "" + day(value).getMonthValue();
                case WEEKDAY -> "" + day(value).getDayOfWeek().getValue();
                case HOUR -> "" + hour(value).getHour();
            };
        }
    }

    private static boolean isWord(ColumnType type) {
        return switch (type) {
            case YESNO, CHOICE, LINK -> true;
            case TEXT, LONGTEXT, WHOLE, DECIMAL, DATE, TIME, DATETIME, PICTURE -> false;
        };
    }

    /** The grouping of a rule, of the columns as they are; empty when one is not there or something is wrong with it. */
    public static Optional<Grouping> of(Usual rule, Table table) {
        var by = rule.by().stream()
                .flatMap(part -> table.column(part.column()).map(column -> new Part(column, part.of())).stream())
                .toList();
        return table.column(rule.column())
                .filter(_ -> by.size() == rule.by().size())
                .map(column -> new Grouping(column, by, rule.all()))
                .filter(grouping -> grouping.wrong().isEmpty());
    }

    /** The rule that goes by it. */
    public Usual rule() {
        return new Usual(
                column.name(),
                by.stream()
                        .map(part -> new For(part.column().name(), part.of()))
                        .toList(),
                all);
    }

    /** Why nothing can be said by it, in a sentence that says what would be right; empty when something can. */
    public Optional<String> wrong() {
        if (!holds(column)) {
            return Optional.of("%s is no number, date, time, choice or link: what is usual for it can't be counted."
                    .formatted(column.title()));
        }
        if (by.size() > MOST_PARTS) {
            return Optional.of("What is usual goes by %d fields at most.".formatted(MOST_PARTS));
        }
        if (by.contains(new Part(column, For.Of.VALUE))
                || by.size() > by.stream().distinct().count()) {
            return Optional.of("Say each field that parts the records once, and another than %s itself."
                    .formatted(column.title()));
        }
        return by.stream()
                .filter(part -> !Part.fits(part.column().type(), part.of()))
                .map(part -> "Records can't be parted by the %s of %s, which holds %s."
                        .formatted(
                                Wire.word(part.of()),
                                part.column().title(),
                                part.column().type().inWords()))
                .findFirst();
    }

    /** The values of such a column can be held against each other. */
    public static boolean holds(Column column) {
        return column.type().hasRange() || isWord(column.type());
    }

    /** The same, whether it speaks everywhere or not: it is counted once. */
    public Grouping ofAll() {
        return new Grouping(column, by, true);
    }

    /** Whether the values have an order and a distance, as numbers and days have. */
    public boolean ofAmounts() {
        return column.type().hasRange();
    }

    /** How the value of the column is counted, in these groups, the narrowest first. */
    public record Place(String key, List<String> groups) {}

    /** Where a record of those values is counted; empty when one that it needs is. */
    public Optional<Place> place(Function<Column, Value> values) {
        var value = values.apply(column);
        if (value.isEmpty()
                || (value instanceof Value.Decimal(var number) && number.abs().compareTo(MOST) >= 0)
                || by.stream().anyMatch(part -> values.apply(part.column()).isEmpty())) {
            return Optional.empty();
        }
        var groups = new ArrayList<>(List.of("0"));
        var keys = new StringBuilder();
        for (var part : by) {
            keys.append(BETWEEN).append(part.key(values.apply(part.column())));
            groups.addFirst(groups.size() + keys.toString());
        }
        return Optional.of(new Place(key(value), groups));
    }

    /** Numbers to four digits, days since 1 January 1970, minutes since midnight, or the word itself. */
    private static String key(Value value) {
        return switch (value) {
            case Value.Whole _, Value.Decimal _ ->
                shortened(new BigDecimal(value.plain()))
                        .round(DIGITS)
                        .stripTrailingZeros()
                        .toPlainString();
            case Value.Day _, Value.Moment _ -> "" + day(value).toEpochDay();
            case Value.Hour _ -> "" + (hour(value).toSecondOfDay() / 60);
            default -> word(value);
        };
    }

    private static BigDecimal shortened(BigDecimal number) {
        return number.scale() > MOST_DECIMALS ? number.setScale(MOST_DECIMALS, RoundingMode.HALF_UP) : number;
    }

    /** The value of the column whose key is that amount. */
    Value of(BigDecimal key) {
        return switch (column.type()) {
            case WHOLE -> new Value.Whole(key.longValue());
            case DECIMAL -> new Value.Decimal(key);
            case DATE, DATETIME -> new Value.Day(LocalDate.ofEpochDay(key.longValue()));
            case TIME -> new Value.Hour(LocalTime.ofSecondOfDay(key.longValue() * 60));
            case TEXT, LONGTEXT, YESNO, CHOICE, PICTURE, LINK -> throw new IllegalStateException("no amount");
        };
    }

    private static String word(Value value) {
        var word = value instanceof Value.Link link ? "" + link.id() : value.plain();
        return word.codePointCount(0, word.length()) <= OF_WORD
                ? word
                : word.substring(0, word.offsetByCodePoints(0, OF_WORD));
    }

    private static LocalDate day(Value value) {
        return value instanceof Value.Moment(var at) ? at.toLocalDate() : ((Value.Day) value).date();
    }

    private static LocalTime hour(Value value) {
        return value instanceof Value.Moment(var at) ? at.toLocalTime() : ((Value.Hour) value).time();
    }
}
