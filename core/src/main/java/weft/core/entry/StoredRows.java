package weft.core.entry;

import java.util.OptionalLong;
import weft.core.value.Value;

/** What the engine may ask of the stored records of the form's table. Every answer is of this moment and may be outdated. */
public interface StoredRows {

    /**
     * The row number of a record that has this value in this column.
     *
     * @param column a column of the table
     * @param value never empty
     * @param except the identity of a record that does not count
     * @return the row number, or empty when there is no such record
     */
    OptionalLong rowWith(String column, Value value, OptionalLong except);
}
