package weft.core.find;

import java.util.List;
import java.util.Optional;
import weft.core.value.Value;

/**
 * What is asked of one column's value. A value matches or it does not, and {@link Not} turns that round: whatever does not
 * match a criterion matches its opposite, an empty value too.
 */
public sealed interface Criterion {

    /** Exactly this value; letters and accents count. */
    record Is(Value value) implements Criterion {}

    /** In a range of values; one end may be open. An empty value is in no range. */
    record Within(Optional<Bound> from, Optional<Bound> to) implements Criterion {}

    /**
     * Text with these parts in it, in this order, whatever stands between them. Case and accents do not count.
     *
     * @param parts never empty, none of them empty
     * @param begins whether the value begins with the first part
     * @param ends whether the value ends with the last part
     */
    record Like(List<String> parts, boolean begins, boolean ends) implements Criterion {
        public Like {
            parts = List.copyOf(parts);
        }

        /** Text with that in it. */
        public static Like having(String part) {
            return new Like(List.of(part), false, false);
        }
    }

    /** Nothing in it. */
    record Empty() implements Criterion {}

    /** Whatever does not match that criterion. */
    record Not(Criterion criterion) implements Criterion {}

    /** Whatever matches one of these. */
    record Any(List<Criterion> criteria) implements Criterion {
        public Any {
            criteria = List.copyOf(criteria);
        }
    }

    /** Whatever matches all of these. */
    record All(List<Criterion> criteria) implements Criterion {
        public All {
            criteria = List.copyOf(criteria);
        }
    }

    /**
     * The end of a range.
     *
     * @param itself whether the value at the end is in the range
     */
    record Bound(Value value, boolean itself) {

        /** The end at the same value of what lies on its other side. */
        Bound beyond() {
            return new Bound(value, !itself);
        }
    }

    /** The criterion as one says it after the name of its field: "above 8.5", "begins with quill". */
    default String words() {
        return CriterionWords.of(this);
    }

    /** What came of reading a criterion. */
    sealed interface Reading {}

    /** It could be read. */
    record Read(Criterion criterion) implements Reading {}

    /** It could not; the message says in a plain sentence what is wrong and what would be right. */
    record Refused(String message) implements Reading {}
}
