package weft.core.find;

import java.util.List;
import java.util.Optional;
import weft.core.table.Column;
import weft.core.value.ColumnType;

/** What records can be found by beside their columns: when they were entered and changed last, and by whom. */
public final class Around {

    private static final List<Column> ALL = List.of(
            Column.plain("_entered_at", "Entered", ColumnType.DATETIME),
            Column.plain("_entered_by", "Entered by", ColumnType.TEXT),
            Column.plain("_changed_at", "Changed", ColumnType.DATETIME),
            Column.plain("_changed_by", "Changed by", ColumnType.TEXT));

    private Around() {}

    /** The one of that name, or empty. No column of a table has a name like it. */
    public static Optional<Column> named(String name) {
        return ALL.stream().filter(column -> column.name().equals(name)).findFirst();
    }
}
