package weft.core.value;

import java.util.List;
import java.util.OptionalInt;

/**
 * What a reader must know of a column.
 *
 * @param type the column's type
 * @param scale the most decimals of a decimal column; empty for any number
 * @param choices the list of a choice column, else empty
 */
public record Kind(ColumnType type, OptionalInt scale, List<String> choices) {

    /** A kind without scale or list. */
    public static Kind of(ColumnType type) {
        return new Kind(type, OptionalInt.empty(), List.of());
    }
}
