package weft.store.record;

import weft.core.table.Column;
import weft.store.table.StoredTable;

/**
 * Records that are one thing with the record that they link to: they are removed and put back with it.
 *
 * @param table the table that they are of
 * @param by its column that links to the record
 */
public record Belonging(StoredTable table, Column by) {}
