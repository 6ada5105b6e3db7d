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
 */
public record Table(String name, String title, List<Column> columns, Placement placement) {

    public Table {
        columns = List.copyOf(columns);
    }

    /** Where a new entry goes. */
    public enum Placement {
        /** The row after the last one ever given. */
        AFTER_LAST("after-last"),
        /** The lowest row that a delete set free, else the row after the last one. */
        FIRST_FREE("first-free");

        private final String wire;

        Placement(String wire) {
            this.wire = wire;
        }

        /** The name used in JSON and in the definitions. */
        public String wire() {
            return wire;
        }

        /** The placement of that wire name, or empty when there is none. */
        public static Optional<Placement> named(String wire) {
            return List.of(values()).stream()
                    .filter(placement -> placement.wire.equals(wire))
                    .findFirst();
        }
    }

    /** The column that bears that name, or once did; empty when there is none. */
    public Optional<Column> column(String name) {
        return columns.stream().filter(column -> column.answersTo(name)).findFirst();
    }

    /** The same with other columns. */
    public Table with(List<Column> others) {
        return new Table(name, title, others, placement);
    }
}
