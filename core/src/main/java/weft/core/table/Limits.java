package weft.core.table;

import java.util.Optional;
import weft.core.value.Order;
import weft.core.value.Value;

/**
 * Between which values something must lie, both included. Times from 22:00 to 6:00 are those of a night.
 *
 * @param least the least value, or empty for no bound below
 * @param most the greatest value, or empty for no bound above
 */
public record Limits(Optional<Value> least, Optional<Value> most) {

    /** No bounds. */
    public static final Limits NONE = new Limits(Optional.empty(), Optional.empty());

    /** On which side of the limits a value lies. */
    public enum Side {
        BELOW,
        ABOVE;

        /** The side in a word. */
        public String word() {
            return this == BELOW ? "below" : "above";
        }
    }

    /** Whether the least is greater than the greatest: over midnight, if they are times, and nothing at all otherwise. */
    public boolean backwards() {
        return least.isPresent() && most.isPresent() && Order.compare(least.get(), most.get()) > 0;
    }

    /**
     * On which side of the limits the value lies, or empty when it lies within.
     *
     * @throws IllegalArgumentException when the value has no order in common with the bounds
     */
    public Optional<Side> outOf(Value value) {
        if (backwards() && value instanceof Value.Hour) {
            return Order.compare(value, bound(Side.BELOW)) < 0 && Order.compare(value, bound(Side.ABOVE)) > 0
                    ? Optional.of(Side.BELOW)
                    : Optional.empty();
        }
        if (least.filter(min -> Order.compare(value, min) < 0).isPresent()) {
            return Optional.of(Side.BELOW);
        }
        return most.filter(max -> Order.compare(value, max) > 0).isPresent()
                ? Optional.of(Side.ABOVE)
                : Optional.empty();
    }

    /** The bound on that side, which is there when a value is out of the limits on it. */
    public Value bound(Side side) {
        return (side == Side.BELOW ? least : most).orElseThrow();
    }
}
