package weft.core.usual;

import java.util.List;
import java.util.Optional;
import weft.core.value.Value;

/** How a value differs from those of its group. */
public sealed interface Unusual {

    /**
     * An amount that is less or more than is usual.
     *
     * @param least the least of those that are usual, as they were counted
     * @param most the greatest of those
     * @param records how many records it was held against
     * @param beyond how many of these are not usual either
     * @param plot where all these lie
     */
    record Amount(Value value, Value least, Value most, long records, long beyond, Plot plot) implements Unusual {}

    /**
     * Where an amount lies among the others, each place from 0, the left end, to 1.
     *
     * @param least where the usual begins
     * @param most where it ends
     */
    record Plot(double at, double least, double most, List<Tick> ticks) {
        public Plot {
            ticks = List.copyOf(ticks);
        }
    }

    /** A place on a plot, and how many records are there. */
    record Tick(double at, long records) {}

    /**
     * A choice, a link, a yes or a no that was hardly ever there.
     *
     * @param records how many records it was held against
     * @param times how many of these have it
     */
    record Word(Value value, long records, long times) implements Unusual {}

    /** How a value differs that has that place; empty when it is usual. */
    static Optional<Unusual> of(Grouping grouping, Grouping.Place place, Counts counts, Value value) {
        return grouping.ofAmounts()
                ? counts.beyond(place.key())
                        .map(beyond -> new Amount(
                                value,
                                grouping.of(beyond.least()),
                                grouping.of(beyond.most()),
                                counts.records(),
                                beyond.beyond(),
                                beyond.plot()))
                : counts.rare(place.key()).map(times -> new Word(value, counts.records(), times));
    }
}
