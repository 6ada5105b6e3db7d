package weft.store.table;

import org.jooq.DSLContext;
import weft.core.record.StoredRows;

/** Where the records of any table are looked up within a transaction. */
@FunctionalInterface
public interface RowsIn {

    /** The records as that transaction sees them. */
    StoredRows of(DSLContext within);
}
