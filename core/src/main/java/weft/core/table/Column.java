package weft.core.table;

import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import weft.core.value.ColumnType;
import weft.core.value.Kind;
import weft.core.value.Value;

/**
 * A column of a table.
 *
 * @param name the SQL name, unique in its table
 * @param title the name people read
 * @param type what kind of values it holds
 * @param required whether every record must have a value here
 * @param unique whether no two records may have the same value here
 * @param scale the most decimals of a decimal column; empty for any number
 * @param min the least value, for types with a range
 * @param max the greatest value, for types with a range
 * @param choices the list of a choice column, else empty
 * @param usualLength how many characters its values usually have at most, which sets the width of a field
 */
public record Column(
        String name,
        String title,
        ColumnType type,
        boolean required,
        boolean unique,
        OptionalInt scale,
        Optional<Value> min,
        Optional<Value> max,
        List<String> choices,
        OptionalInt usualLength) {

    public Column {
        choices = List.copyOf(choices);
    }

    /** What a reader must know of it. */
    public Kind kind() {
        return new Kind(type, scale, choices);
    }
}
