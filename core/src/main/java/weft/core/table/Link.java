package weft.core.table;

import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import weft.core.value.ColumnType;
import weft.core.value.Value;

/**
 * Where a link column leads: each of its values is a record of that table.
 *
 * @param to the name of the table
 * @param title what people call the table
 * @param shown the columns by whose values a record is called; the first is what people type
 * @param removed what becomes of a link when its record is removed
 */
public record Link(String to, String title, List<Column> shown, Removed removed) {

    /** So many columns call a record at most. */
    public static final int MOST_SHOWN = 6;

    public Link {
        shown = List.copyOf(shown);
    }

    /** What becomes of a link when its record is removed. */
    public enum Removed {
        /** A record that others link to is not removed. */
        REFUSE,
        /** The link is emptied. */
        EMPTY;
    }

    /** Whether records can be called by values of that type. */
    public static boolean shows(ColumnType type) {
        return switch (type) {
            case TEXT, CHOICE, WHOLE, DECIMAL, DATE -> true;
            case LONGTEXT, YESNO, TIME, DATETIME, PICTURE, LINK -> false;
        };
    }

    /**
     * How records of a table are called where nobody says: by a text that no two share, else by another value that each has and no
     * two share, else by the first text that is typed.
     */
    public static List<Column> usual(Table table) {
        var typed = table.columns().stream()
                .filter(column -> shows(column.type()) && column.shownOnly().isEmpty())
                .toList();
        var texts = typed.stream()
                .filter(column -> column.type() == ColumnType.TEXT)
                .toList();
        return texts.stream()
                .filter(Column::unique)
                .findFirst()
                .or(() -> typed.stream()
                        .filter(column -> column.unique() && column.required())
                        .findFirst())
                .or(() -> texts.stream().findFirst())
                .or(() -> table.columns().stream()
                        .filter(column -> shows(column.type()))
                        .findFirst())
                .map(List::of)
                .orElse(List.of());
    }

    /** What a record of that table is called: the values of the shown columns, or its row where all are empty. */
    public String words(long row, Map<String, Value> values) {
        var words = shown.stream()
                .map(column -> values.getOrDefault(column.name(), Value.EMPTY))
                .filter(value -> !value.isEmpty())
                .map(Value::spoken)
                .collect(Collectors.joining(", "));
        return words.isEmpty() ? "row " + row : words;
    }
}
