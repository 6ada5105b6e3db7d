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
    private static final ScopedValue<Long> DEADLINE = ScopedValue.newInstance();

    <T> T within(Supplier<T> asked) {
        return ScopedValue.where(CURRENT, this)
                .where(DEADLINE, System.nanoTime() + Feel.TIME.toNanos())
                .call(asked::get);
    }

    static ZonedDateTime current() {
        return CURRENT.get().now;
    }

    static boolean over() {
        return DEADLINE.isBound() && System.nanoTime() - DEADLINE.get() > 0;
    }
}
