package weft.core.value;

import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * Spells what was typed under some conventions as it is typed under others, so that it goes on to mean the same.
 *
 * @param now what a date without a year counts from; empty for what is read by {@link ValueReader#ofStored}
 */
public record Respelling(Conventions from, Conventions to, Optional<LocalDateTime> now) {

    /** The same text where it means the same, or nothing, already. */
    public String of(Kind kind, String typed) {
        var meant = meant(from, kind, typed, now);
        return meant.isEmpty() || meant.equals(meant(to, kind, typed, now))
                ? typed
                : spellings(kind, meant.get(), typed)
                        .filter(spelled -> meant.equals(meant(to, kind, spelled, now)))
                        .findFirst()
                        .orElse(typed);
    }

    /** What that says under those conventions; empty where it cannot be read, or says nothing. */
    public static Optional<Value> meant(Conventions conventions, Kind kind, String typed, Optional<LocalDateTime> now) {
        var reader = now.map(at -> new ValueReader(conventions, at)).orElseGet(() -> ValueReader.ofStored(conventions));
        return reader.read(kind, typed) instanceof Reading.Read(var value, var _) && !value.isEmpty()
                ? Optional.of(value)
                : Optional.empty();
    }

    private Stream<String> spellings(Kind kind, Value meant, String typed) {
        return switch (meant) {
            case Value.Decimal(var number) ->
                Stream.of(number.toPlainString().replace('.', to.decimalSign().sign()));
            case Value.Day(var date) -> Stream.of(spelled(date, withYear(kind, meant, typed)), date.toString());
            case Value.Moment(var at) ->
                Stream.of(
                        spelled(at.toLocalDate(), withYear(kind, meant, typed)) + " " + at.toLocalTime(),
                        at.toLocalDate() + " " + at.toLocalTime());
            default -> Stream.of(meant.plain());
        };
    }

    /** Whether it names its year: a year later it would mean the same. */
    private boolean withYear(Kind kind, Value meant, String typed) {
        return meant(from, kind, typed, now.map(at -> at.plusYears(1)))
                .filter(meant::equals)
                .isPresent();
    }

    private String spelled(LocalDate date, boolean withYear) {
        var year = withYear ? "/" + date.getYear() : "";
        return switch (to.dayOrder()) {
            case MONTH_FIRST -> date.getMonthValue() + "/" + date.getDayOfMonth() + year;
            case DAY_FIRST -> date.getDayOfMonth() + "/" + date.getMonthValue() + year;
            case YEAR_FIRST -> withYear ? date.toString() : date.getMonthValue() + "/" + date.getDayOfMonth();
        };
    }
}
