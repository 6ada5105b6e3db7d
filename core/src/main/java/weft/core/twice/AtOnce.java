package weft.core.twice;

import java.util.Optional;
import weft.core.value.Value;

/** What is said of a field that is keyed again at once, as it is left. */
public enum AtOnce {
    /** It is what was keyed first. */
    SAME,
    /** It is not, and is to be looked at and keyed again. What was keyed first is not shown. */
    DIFFERS,
    /** It was keyed so twice, and is not what was keyed first: both are shown, and one is chosen. */
    CHOOSE,
    /** It can't be read. */
    UNREAD;

    /**
     * What is said of a value.
     *
     * @param before what was keyed again before, where that differed
     */
    public static AtOnce of(Value first, Optional<Value> before, Value keyed, Twice.Texts texts) {
        if (Comparison.same(first, keyed, texts)) {
            return SAME;
        }
        return before.filter(each -> Comparison.same(each, keyed, texts)).isPresent() ? CHOOSE : DIFFERS;
    }
}
