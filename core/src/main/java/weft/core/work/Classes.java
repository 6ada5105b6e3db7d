package weft.core.work;

import java.util.Map;
import java.util.OptionalDouble;
import java.util.TreeMap;

/**
 * Seconds counted in classes, each a tenth longer than the one before, from a tenth of a second to half an hour: what is told of
 * them is within a twentieth of what was measured, however many there are.
 */
public final class Classes {

    private static final double SHORTEST = 0.1;
    private static final double WIDER = 1.1;
    /** The last one, which has all that is longer. */
    public static final int LAST = 103;

    private Classes() {}

    /** The class of so many seconds, from 0. */
    public static int of(double seconds) {
        return seconds <= SHORTEST
                ? 0
                : Math.min(LAST, (int) Math.ceil(Math.log(seconds / SHORTEST) / Math.log(WIDER) - 1e-9));
    }

    /** What is told of a class, in seconds: its middle. */
    public static double seconds(int ofClass) {
        return SHORTEST * Math.pow(WIDER, ofClass - 0.5);
    }

    /**
     * The seconds that a share of all does not reach past; empty where there are none.
     *
     * @param times how many there are, by class
     * @param share 0.5 for the median, 0.9 for where the slowest tenth begins
     */
    public static OptionalDouble quantile(Map<Integer, Long> times, double share) {
        long all = times.values().stream().mapToLong(Long::longValue).sum();
        long rank = Math.max(1, (long) Math.ceil(share * all));
        long passed = 0;
        for (var each : new TreeMap<>(times).entrySet()) {
            passed += each.getValue();
            if (passed >= rank) {
                return OptionalDouble.of(seconds(each.getKey()));
            }
        }
        return OptionalDouble.empty();
    }
}
