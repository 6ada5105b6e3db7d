package weft.core.formula;

import java.time.ZonedDateTime;
import java.util.function.Supplier;

/**
 * The moment at which formulas are answered: every {@code today()} and {@code now()} of one assessment is the same.
 *
 * @param now what now is, in the zone in which today is found
 */
public record Moment(ZonedDateTime now) {

    private static final ScopedValue<Moment> CURRENT = ScopedValue.newInstance();

    <T> T within(Supplier<T> asked) {
        return ScopedValue.where(CURRENT, this).call(() -> Budget.formula(asked));
    }

    static ZonedDateTime current() {
        return CURRENT.get().now;
    }
}
