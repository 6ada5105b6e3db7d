package weft.core.table;

import java.util.List;
import java.util.stream.Collectors;

/** What is wrong with a definition somebody sent. Nothing of it has been made. */
public final class Faults extends RuntimeException {

    private final transient List<Fault> faults;

    /**
     * One fault.
     *
     * @param where the part it is about, such as {@code columns[2].name}
     * @param message a plain sentence: what is wrong and what would be right
     */
    public record Fault(String where, String message) {}

    /** All of these at once. */
    public Faults(List<Fault> faults) {
        super(faults.stream().map(Fault::message).collect(Collectors.joining(" ")));
        this.faults = List.copyOf(faults);
    }

    /** A single fault. */
    public Faults(String where, String message) {
        this(List.of(new Fault(where, message)));
    }

    /** Every fault found, in the order of the definition. */
    public List<Fault> faults() {
        return faults;
    }
}
