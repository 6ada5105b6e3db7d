package weft.store.work;

import java.time.LocalDate;
import java.util.Comparator;

/**
 * Something that is counted.
 *
 * @param about a column, a rule after a #, or nothing for the entry as a whole
 * @param ofClass of seconds their class, of entries the hour; else 0
 */
public record Count(String form, LocalDate day, String person, String about, Measure what, int ofClass)
        implements Comparable<Count> {

    private static final Comparator<Count> ORDER = Comparator.comparing(Count::form)
            .thenComparing(Count::day)
            .thenComparing(Count::person)
            .thenComparing(Count::about)
            .thenComparing(Count::what)
            .thenComparing(Count::ofClass);

    /** What is counted. */
    public enum Measure {
        /** An entry that was keyed first. */
        ENTRY,
        /** A paper that was keyed second. */
        AGAIN,
        /** Entries, or fields, by the seconds they took. */
        SECONDS,
        /** Thousandths of a second in all. */
        TIME,
        /** Entries that were stopped or asked before they were saved. */
        HINDERED,
        STOP,
        ASK,
        /** An ask that was answered with save all the same. */
        DESPITE,
        /** A field was typed again after a stop. */
        RETYPED,
        /** From a field one went back. */
        BACK,
        /** Keys that were pressed. */
        KEYS,
        /** The fewest that would have done. */
        LEAST,
        /** A field was compared when keyed twice; by who keyed it first. */
        COMPARED,
        /** It differed. */
        DIFFERED
    }

    /** What stands before the id of a rule. */
    public static final String RULE = "#";

    @Override
    public int compareTo(Count other) {
        return ORDER.compare(this, other);
    }
}
