package weft.core.value;

import java.math.BigDecimal;

/** The order of values of one ranged type. */
public final class Order {

    private Order() {}

    /**
     * Below zero, zero or above as the first value comes before, with or after the second.
     *
     * @throws IllegalArgumentException when the two have no common order
     */
    public static int compare(Value first, Value second) {
        return switch (first) {
            case Value.Day(var date) when second instanceof Value.Day(var other) -> date.compareTo(other);
            case Value.Hour(var time) when second instanceof Value.Hour(var other) -> time.compareTo(other);
            case Value.Moment(var at) when second instanceof Value.Moment(var other) -> at.compareTo(other);
            default -> number(first).compareTo(number(second));
        };
    }

    private static BigDecimal number(Value value) {
        return switch (value) {
            case Value.Whole(var number) -> BigDecimal.valueOf(number);
            case Value.Decimal(var number) -> number;
            default ->
                throw new IllegalArgumentException(
                        "no order for " + value.getClass().getSimpleName());
        };
    }
}
