package weft.core.value;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import java.util.UUID;

/** A typed value as it is stored. {@link Empty} stands for a cell with nothing in it. */
public sealed interface Value {

    /** Nothing. */
    record Empty() implements Value {}

    /** Text, trimmed, never blank; also the value of a choice column. */
    record Text(String text) implements Value {}

    /** A whole number. */
    record Whole(long number) implements Value {}

    /** An exact decimal, in the scale of its column when the column has one. */
    record Decimal(BigDecimal number) implements Value {}

    /** Yes ({@code true}) or no. */
    record YesNo(boolean yes) implements Value {}

    /** A day. */
    record Day(LocalDate date) implements Value {}

    /** A time of day. */
    record Hour(LocalTime time) implements Value {}

    /** A day and a time, without a zone. */
    record Moment(LocalDateTime at) implements Value {}

    /** A picture, by its identity. */
    record Image(UUID id) implements Value {}

    /**
     * A record of another table. Links to one record are equal, whatever it was called when they were read.
     *
     * @param id the record's identity
     * @param row its row number; 0 where it was not looked up
     * @param shown what it is called, in its own words
     */
    record Link(long id, long row, String shown) implements Value {

        @Override
        public boolean equals(Object other) {
            return other instanceof Link link && link.id == id;
        }

        @Override
        public int hashCode() {
            return Long.hashCode(id);
        }
    }

    /** The one empty value. */
    @SuppressWarnings("ClassInitializationDeadlock") // It is made nowhere else, so nobody begins with its class.
    Value EMPTY = new Empty();

    /** Whether there is nothing in it. */
    default boolean isEmpty() {
        return this instanceof Empty;
    }

    /**
     * The value in its canonical spelling: ISO 8601 for dates and times, plain decimals, {@code true} or {@code false}, the
     * words of a link; the empty string for nothing.
     */
    default String plain() {
        return switch (this) {
            case Empty() -> "";
            case Text(var text) -> text;
            case Whole(var number) -> Long.toString(number);
            case Decimal(var number) -> number.toPlainString();
            case YesNo(var yes) -> Boolean.toString(yes);
            case Day(var date) -> date.toString();
            case Hour(var time) -> time.format(DateTimeFormatter.ISO_LOCAL_TIME);
            case Moment(var at) -> at.format(DateTimeFormatter.ISO_LOCAL_DATE_TIME);
            case Image(var id) -> id.toString();
            case Link link -> link.shown();
        };
    }

    /** The value as one says it to a person: "Sat 1 Aug 2026", "09:30", "yes". */
    default String spoken() {
        return switch (this) {
            case YesNo(var yes) -> yes ? "yes" : "no";
            case Day(var date) -> Spoken.DAY.format(date);
            case Hour(var time) -> Spoken.hour(time);
            case Moment(var at) -> Spoken.DAY.format(at) + ", " + Spoken.hour(at.toLocalTime());
            case Decimal(var number) -> number.stripTrailingZeros().toPlainString();
            case Image _ -> "a picture";
            case Empty _, Text _, Whole _, Link _ -> plain();
        };
    }

    /** The formats of {@link #spoken()}. */
    final class Spoken {
        private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("EEE d MMM uuuu", Locale.ENGLISH);
        private static final DateTimeFormatter MINUTES = DateTimeFormatter.ofPattern("HH:mm", Locale.ENGLISH);
        private static final DateTimeFormatter SECONDS = DateTimeFormatter.ofPattern("HH:mm:ss", Locale.ENGLISH);

        private Spoken() {}

        private static String hour(LocalTime time) {
            return (time.getSecond() == 0 ? MINUTES : SECONDS).format(time);
        }
    }
}
