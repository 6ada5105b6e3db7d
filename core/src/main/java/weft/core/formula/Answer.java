package weft.core.formula;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import weft.core.table.Column;
import weft.core.value.ColumnType;
import weft.core.value.Reading;
import weft.core.value.Refusal;
import weft.core.value.Typed;
import weft.core.value.Value;
import weft.core.value.ValueReader;

/** What a formula came to. */
public sealed interface Answer {

    /** A value: text, number, yes or no, date, time, date and time, or a link. */
    record Of(Object value) implements Answer {}

    /** Nothing: what it asks for is empty. */
    record Nothing() implements Answer {}

    /** It failed; one sentence says why. */
    record Fault(String sentence) implements Answer {}

    /** The one nothing. */
    @SuppressWarnings("ClassInitializationDeadlock") // It is made nowhere else, so nobody begins with its class.
    Answer NOTHING = new Nothing();

    /** Whether it says yes. Nothing and a fault are no yes. */
    default boolean yes() {
        return this instanceof Of(Boolean yes) && yes;
    }

    /** Whether it says no, plainly. */
    default boolean no() {
        return this instanceof Of(Boolean yes) && !yes;
    }

    /** The answer as one reads it out. */
    default String words() {
        return switch (this) {
            case Of(var value) -> value(value).spoken();
            case Nothing _ -> "";
            case Fault(var sentence) -> sentence;
        };
    }

    /**
     * The answer as a value of that column; refused where it does not fit there. A number is rounded to what the column
     * holds, half to even (IEEE 754 roundTiesToEven).
     */
    default Reading in(Column column, ValueReader reader) {
        return switch (this) {
            case Nothing _ -> Reading.EMPTY;
            case Fault(var sentence) -> new Reading.Refused(new Refusal.NoAnswer(sentence));
            case Of(BigDecimal number)
            when column.kind().type().isNumber() ->
                reader.read(column.kind(), new Typed.Given(new Value.Decimal(rounded(number, column))));
            case Of(LocalDateTime at)
            when column.kind().type() == ColumnType.DATE -> new Reading.Read(new Value.Day(at.toLocalDate()), "");
            case Of(var value) -> reader.read(column.kind(), new Typed.Given(value(value)));
        };
    }

    private static BigDecimal rounded(BigDecimal number, Column column) {
        int scale =
                column.kind().type() == ColumnType.WHOLE ? 0 : column.scale().orElse(ValueReader.MOST_DECIMALS);
        return number.scale() > scale ? number.setScale(scale, RoundingMode.HALF_EVEN) : number;
    }

    private static Value value(Object value) {
        return switch (value) {
            case String text -> text.isBlank() ? Value.EMPTY : new Value.Text(text.strip());
            case BigDecimal number -> new Value.Decimal(number);
            case Boolean yes -> new Value.YesNo(yes);
            case LocalDate date -> new Value.Day(date);
            case LocalTime time -> new Value.Hour(time);
            case LocalDateTime at -> new Value.Moment(at);
            case Value.Link link -> link;
            default -> throw new IllegalArgumentException(value.getClass().getName());
        };
    }
}
