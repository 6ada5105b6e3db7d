package weft.core.table;

import java.util.List;
import java.util.Optional;

/**
 * A table of records.
 *
 * @param name the SQL name, unique among tables
 * @param title the name people read
 * @param columns its columns in their order; those the system keeps itself are not among them
 * @param placement where new entries go
 * @param constraints what must hold between its records
 * @param adopted whether others made it, so that what they write need not come to be known
 */
public record Table(
        String name,
        String title,
        List<Column> columns,
        Placement placement,
        List<Constraint> constraints,
        boolean adopted) {

    public Table {
        columns = List.copyOf(columns);
        constraints = List.copyOf(constraints);
    }

    /** A table whose records need not know of each other. */
    public Table(String name, String title, List<Column> columns, Placement placement) {
        this(name, title, columns, placement, List.of());
    }

    /** A table that Weft made. */
    public Table(String name, String title, List<Column> columns, Placement placement, List<Constraint> constraints) {
        this(name, title, columns, placement, constraints, false);
    }

    /** Where a new entry goes. */
    public enum Placement {
        /** The row after the last one ever given. */
        AFTER_LAST,
        /** The lowest row that a delete set free, else the row after the last one. */
        FIRST_FREE
    }

    /** The column that bears that name, or once did; empty when there is none. */
    public Optional<Column> column(String name) {
        return columns.stream().filter(column -> column.answersTo(name)).findFirst();
    }

    /** Whether nobody can type into any of its columns, as where it is a view: it takes no entries. */
    public boolean shownOnly() {
        return !columns.isEmpty()
                && columns.stream().allMatch(column -> column.shownOnly().isPresent());
    }

    /** The same with other columns. */
    public Table with(List<Column> others) {
        return new Table(name, title, others, placement, constraints, adopted);
    }

    /** The same with these constraints. */
    public Table holding(List<Constraint> others) {
        return new Table(name, title, columns, placement, others, adopted);
    }
}
