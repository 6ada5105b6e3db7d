package weft.store.twice;

import java.util.Optional;
import weft.core.twice.AtOnce;
import weft.core.value.Value;

/**
 * What a second keyer is told of a field that was keyed again.
 *
 * @param both the values to choose from, where both may be shown
 */
public record Compared(AtOnce said, Optional<Both> both) {

    /** What was keyed first, and second. */
    public record Both(Value first, Value second) {}

    static Compared of(AtOnce said, Value first, Value second) {
        return new Compared(said, said == AtOnce.CHOOSE ? Optional.of(new Both(first, second)) : Optional.empty());
    }
}
