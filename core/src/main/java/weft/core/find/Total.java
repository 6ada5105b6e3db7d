package weft.core.find;

import java.math.BigDecimal;
import java.math.MathContext;
import java.math.RoundingMode;
import weft.core.value.Conventions;

/**
 * How many records are in view.
 *
 * @param exact whether they were counted; if not, it is an estimate, rounded to two digits
 */
public record Total(long count, boolean exact) {

    /** Up to so many matches are counted and numbered one by one. */
    public static final int COUNTED = 10_000;

    /** Counted. */
    public static Total exactly(long count) {
        return new Total(count, true);
    }

    /** Estimated; more than are counted, since those were seen. */
    public static Total about(long estimate) {
        long rounded = new BigDecimal(Math.max(estimate, COUNTED))
                .round(new MathContext(2, RoundingMode.HALF_UP))
                .longValueExact();
        return new Total(rounded, false);
    }

    /** "212" or "about 52,000". */
    public String words(Conventions way) {
        return (exact ? "" : "about ") + way.grouped(count);
    }
}
