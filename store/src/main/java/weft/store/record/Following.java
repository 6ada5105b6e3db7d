package weft.store.record;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import weft.core.entry.step.StepRun.Then;
import weft.core.entry.step.Write;
import weft.core.record.StoredRow;
import weft.core.record.StoredRows;

/**
 * What goes with an entry, once it is written.
 *
 * @param tables the tables to which rows may be added beside it
 * @param belonging those of them, and others, whose rows are one thing with the record
 * @param after what is found out when it is written; empty where nothing is
 * @param keeping what the house itself keeps of it, once all else is written
 */
public record Following(Set<String> tables, Set<String> belonging, Optional<After> after, Optional<Keeping> keeping) {

    /** Nothing goes with it. */
    public static final Following NOTHING = new Following(Set.of(), Set.of(), Optional.empty(), Optional.empty());

    public Following {
        tables = Set.copyOf(tables);
        belonging = Set.copyOf(belonging);
    }

    /** What goes with an entry that is written; what it asks of stored rows is asked in the entry's own transaction. */
    @FunctionalInterface
    public interface After {
        /** Says it. It may be asked more than once, and throw what ends the save. */
        Followed of(StoredRow written, StoredRows rows);
    }

    /** What is written beside an entry, and what the Desk does then. */
    public record Followed(List<Write> writes, List<Then> then) {}

    /** Something that the house itself keeps of an entry, in its transaction. */
    public interface Keeping {
        /** Keeps it, of the record as it is written. */
        void keep(DSLContext within, StoredRow written);
    }

    /** That of rows in those tables, and whatever else. */
    public static Following of(Set<String> tables, After after) {
        return new Following(tables, Set.of(), Optional.of(after), Optional.empty());
    }

    /** The same, of which rows of those tables are one thing with the record. */
    public Following belonging(Set<String> those) {
        return new Following(tables, those, after, keeping);
    }

    /** Whether nothing goes with it. */
    public boolean nothing() {
        return after.isEmpty() && keeping.isEmpty();
    }

    /** The same, of which the house keeps that. */
    public Following keeping(Optional<Keeping> kept) {
        return new Following(tables, belonging, after, kept);
    }

    /** The same, of which the house keeps that as well. */
    public Following keepingToo(Keeping more) {
        return keeping(Optional.of(keeping.<Keeping>map(kept -> (within, written) -> {
                    kept.keep(within, written);
                    more.keep(within, written);
                })
                .orElse(more)));
    }

    /** The same, found out so. */
    public Following around(UnaryOperator<After> change) {
        return new Following(tables, belonging, after.map(change), keeping);
    }

    /** First this, then what another one writes and does. */
    public Following before(Following other) {
        return new Following(
                both(tables, other.tables),
                both(belonging, other.belonging),
                after.isEmpty() || other.after.isEmpty()
                        ? after.or(other::after)
                        : Optional.of((written, rows) -> {
                            var first = after.get().of(written, rows);
                            var second = other.after.get().of(written, rows);
                            return new Followed(
                                    joined(first.writes(), second.writes()), joined(first.then(), second.then()));
                        }),
                other.keeping.or(() -> keeping));
    }

    private static Set<String> both(Set<String> some, Set<String> others) {
        return Stream.concat(some.stream(), others.stream()).collect(Collectors.toUnmodifiableSet());
    }

    private static <T> List<T> joined(List<T> some, List<T> others) {
        return Stream.concat(some.stream(), others.stream()).toList();
    }
}
