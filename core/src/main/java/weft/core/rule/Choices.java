package weft.core.rule;

import java.util.List;

/**
 * A choice list that is a column of a table, kept current.
 *
 * @param column the column of the form's table that is chosen for
 * @param table the table that the list comes from
 * @param source its column with the values
 * @param shown its column that is shown beside each value, or empty
 * @param when which fields must be what which columns of that table are, for a value to be on the list
 * @param open whether a value that is not on the list may be typed too
 */
public record Choices(String column, String table, String source, String shown, List<Fill.Tie> when, boolean open)
        implements Declaration {

    public Choices {
        when = List.copyOf(when);
    }
}
