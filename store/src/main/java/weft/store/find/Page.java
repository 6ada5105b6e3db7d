package weft.store.find;

import java.util.List;
import java.util.Optional;
import weft.core.find.Total;
import weft.core.record.StoredRow;

/**
 * Some of the records in view, in their order.
 *
 * @param next leads to those after them; empty when there are none
 * @param previous leads to those before them; empty when there are none
 */
public record Page(List<StoredRow> records, Optional<Cursor> next, Optional<Cursor> previous, Total total) {}
