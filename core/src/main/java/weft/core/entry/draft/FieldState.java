package weft.core.entry.draft;

import java.util.Optional;
import weft.core.value.Value;

/**
 * How a field stands at this moment of an entry.
 *
 * @param shown whether it is there
 * @param locked whether a rule locks it now
 * @param required whether it must be filled
 * @param origin where its value comes from
 * @param source what the fill would bring, where something else was typed over it
 */
public record FieldState(boolean shown, boolean locked, boolean required, Origin origin, Optional<Value> source) {

    /** The same, to be filled or not. */
    public FieldState requiring(boolean wanted) {
        return new FieldState(shown, locked, wanted, origin, source);
    }

    /** Where a value comes from. */
    public enum Origin {
        TYPED,
        STORED,
        BEGUN,
        FILLED,
        CALCULATED;
    }
}
