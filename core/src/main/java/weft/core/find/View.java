package weft.core.find;

import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import weft.core.table.Column;

/**
 * Which records are in view, and in what order.
 *
 * @param conditions what is asked of columns; a record in view matches all of them
 * @param anywhere what is asked of all shown columns at once, or empty
 */
public record View(List<Condition> conditions, Optional<Anywhere> anywhere, Sort sort) {

    public View {
        conditions = List.copyOf(conditions);
    }

    /** What is asked of one column. {@code label} names the column as people know it. */
    public record Condition(Column column, String label, Criterion criterion) {}

    /**
     * What is asked of several columns at once: a record in view matches one of them at least.
     *
     * @param text as it was typed
     * @param conditions empty when no column can hold it; then nothing matches
     */
    public record Anywhere(String text, List<Condition> conditions) {
        public Anywhere {
            conditions = List.copyOf(conditions);
        }
    }

    /** Every record, in that order. */
    public static View all(Sort sort) {
        return new View(List.of(), Optional.empty(), sort);
    }

    /** Whether every record of the table is in view. */
    public boolean everything() {
        return conditions.isEmpty() && anywhere.isEmpty();
    }

    /** What is asked, in words: "River begins with quill, and pH above 8.5"; nothing when everything is in view. */
    public String words() {
        return Stream.concat(
                        conditions.stream()
                                .map(condition -> condition.label() + " "
                                        + condition.criterion().words()),
                        anywhere.stream().map(asked -> "“" + asked.text() + "” in any field"))
                .collect(Collectors.joining(", and "));
    }
}
