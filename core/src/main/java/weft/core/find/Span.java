package weft.core.find;

import java.util.Optional;
import weft.core.find.Criterion.Bound;
import weft.core.find.Criterion.Is;
import weft.core.find.Criterion.Within;
import weft.core.value.Order;
import weft.core.value.Value;

/**
 * What one operand of a criterion stands for: a single value, or all from one to another, as a month is all its days.
 *
 * @param from its beginning
 * @param to its end
 */
record Span(Bound from, Bound to) {

    /** A single value. */
    static Span of(Value value) {
        return new Span(new Bound(value, true), new Bound(value, true));
    }

    Criterion itself() {
        return from.equals(to) ? new Is(from.value()) : through(this);
    }

    Criterion above() {
        return new Within(Optional.of(to.beyond()), Optional.empty());
    }

    Criterion atLeast() {
        return new Within(Optional.of(from), Optional.empty());
    }

    Criterion below() {
        return new Within(Optional.empty(), Optional.of(from.beyond()));
    }

    Criterion atMost() {
        return new Within(Optional.empty(), Optional.of(to));
    }

    /** From the beginning of this one to the end of the other. */
    Criterion through(Span other) {
        return new Within(Optional.of(from), Optional.of(other.to));
    }

    /** Whether the other one ends before this one begins. */
    boolean after(Span other) {
        return Order.compare(from.value(), other.to.value()) > 0;
    }
}
