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
 * @param anywhere text that must be in one of the searched columns
 * @param searched the columns in which that text may be
 */
public record View(List<Condition> conditions, Optional<String> anywhere, List<Column> searched, Sort sort) {

    public View {
        conditions = List.copyOf(conditions);
        searched = List.copyOf(searched);
    }

    /** What is asked of one column. {@code label} names the column as people know it. */
    public record Condition(Column column, String label, Criterion criterion) {}

    /** Every record, by row. */
    public static final View ALL = new View(List.of(), Optional.empty(), List.of(), Sort.BY_ROW);

    /** Every record, in that order. */
    public static View all(Sort sort) {
        return new View(List.of(), Optional.empty(), List.of(), sort);
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
                        anywhere.stream().map(text -> "“" + text + "” in any field"))
                .collect(Collectors.joining(", and "));
    }
}
