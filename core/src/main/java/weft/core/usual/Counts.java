package weft.core.usual;

import java.math.BigDecimal;
import java.util.Comparator;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import weft.core.usual.Unusual.Plot;
import weft.core.usual.Unusual.Tick;

/**
 * How often each value was there in a group of records, by its key. Amounts are held against the quartiles: usual is what lies
 * within 2.2 times their distance of them (Hoaglin and Iglewicz 1987, Fine-Tuning Some Resistant Rules for Outlier Labeling). Words are
 * held against how often they were there.
 *
 * @param depth of how many parts of the grouping the group is
 * @param times by key; none is 0
 */
public record Counts(int depth, Map<String, Long> times) {

    /** So many distances of the quartiles beyond them an amount is unusual. */
    public static final BigDecimal FENCE = new BigDecimal("2.2");
    /** Of fewer amounts nothing is said. */
    public static final long LEAST_AMOUNTS = 20;
    /** Of fewer words nothing is said. */
    public static final long LEAST_WORDS = 100;
    /** Unusual is a word that is not one in so many. */
    public static final long RARE = 200;
    /** A plot has so many places for ticks. */
    private static final int PLACES = 200;

    public Counts {
        times = Map.copyOf(times);
    }

    /** How many records are in the group. */
    public long records() {
        return times.values().stream().mapToLong(Long::longValue).sum();
    }

    /** Whether there are enough to say what is usual. */
    public boolean speaks(boolean amounts) {
        return records() >= (amounts ? LEAST_AMOUNTS : LEAST_WORDS);
    }

    /** What stands against an amount: the least and the greatest of those that are usual, and how many records lie beyond these. */
    public record Beyond(BigDecimal least, BigDecimal most, long beyond, Plot plot) {}

    /** What stands against an amount of that key; empty when it is usual. */
    public Optional<Beyond> beyond(String key) {
        var sorted = new TreeMap<BigDecimal, Long>(Comparator.naturalOrder());
        times.forEach((each, many) -> sorted.merge(new BigDecimal(each), many, Long::sum));
        var amount = new BigDecimal(key);
        var fences = fences(sorted);
        if (fences.holds(amount)) {
            return Optional.empty();
        }
        var usual = sorted.keySet().stream().filter(fences::holds).toList();
        long beyond = sorted.entrySet().stream()
                .filter(each -> !fences.holds(each.getKey()))
                .mapToLong(Map.Entry::getValue)
                .sum();
        return Optional.of(new Beyond(
                usual.getFirst(), usual.getLast(), beyond, plot(sorted, amount, usual.getFirst(), usual.getLast())));
    }

    private static Plot plot(TreeMap<BigDecimal, Long> sorted, BigDecimal amount, BigDecimal least, BigDecimal most) {
        double left = sorted.firstKey().min(amount).doubleValue();
        double width = sorted.lastKey().max(amount).doubleValue() - left;
        var ticks = new TreeMap<Long, Long>();
        sorted.forEach(
                (each, many) -> ticks.merge(Math.round((each.doubleValue() - left) / width * PLACES), many, Long::sum));
        return new Plot(
                (amount.doubleValue() - left) / width,
                (least.doubleValue() - left) / width,
                (most.doubleValue() - left) / width,
                ticks.entrySet().stream()
                        .map(tick -> new Tick(tick.getKey() / (double) PLACES, tick.getValue()))
                        .toList());
    }

    private record Fences(BigDecimal low, BigDecimal high) {
        boolean holds(BigDecimal amount) {
            return amount.compareTo(low) >= 0 && amount.compareTo(high) <= 0;
        }
    }

    /** Where half of the values and more are one and the same, all that was there is usual. */
    private Fences fences(TreeMap<BigDecimal, Long> sorted) {
        var first = quartile(sorted, 1);
        var third = quartile(sorted, 3);
        var distance = third.subtract(first).multiply(FENCE);
        return distance.signum() == 0
                ? new Fences(sorted.firstKey(), sorted.lastKey())
                : new Fences(first.subtract(distance), third.add(distance));
    }

    private BigDecimal quartile(TreeMap<BigDecimal, Long> sorted, int which) {
        long place = Math.ceilDiv(records() * which, 4);
        for (var each : sorted.entrySet()) {
            place -= each.getValue();
            if (place <= 0) {
                return each.getKey();
            }
        }
        throw new IllegalStateException("an empty group has no quartiles");
    }

    /** How many records have the word of that key; empty when it is usual. */
    public Optional<Long> rare(String key) {
        long many = times.getOrDefault(key, 0L);
        return many * RARE < records() ? Optional.of(many) : Optional.empty();
    }
}
