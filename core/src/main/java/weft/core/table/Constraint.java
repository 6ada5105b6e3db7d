package weft.core.table;

import java.util.List;

/** What must hold between the records of a table, whoever writes. The database keeps it too. */
public sealed interface Constraint {

    /** Names it within its table. */
    String id();

    /** The builder's own sentence, or empty. */
    String message();

    /** The columns that it speaks of. */
    List<String> columns();

    /** The same under that id. */
    Constraint named(String other);

    /** No two records have the same values in all of these columns. A record with one of them empty is free of it. */
    record Unique(String id, List<String> columns, String message) implements Constraint {
        public Unique {
            columns = List.copyOf(columns);
        }

        @Override
        public Unique named(String other) {
            return new Unique(other, columns, message);
        }
    }

    /**
     * No two records that are alike in {@code same} have times that overlap. From is included and to is not, so that one
     * may begin when the other ends. A record with one of them empty is free of it.
     *
     * @param from a date, or a date and time
     * @param to the same type as from
     */
    record NoOverlap(String id, List<String> same, String from, String to, String message) implements Constraint {
        public NoOverlap {
            same = List.copyOf(same);
        }

        @Override
        public List<String> columns() {
            return java.util.stream.Stream.concat(same.stream(), java.util.stream.Stream.of(from, to))
                    .toList();
        }

        @Override
        public NoOverlap named(String other) {
            return new NoOverlap(other, same, from, to, message);
        }
    }
}
