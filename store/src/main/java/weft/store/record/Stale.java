package weft.store.record;

import java.util.Optional;
import weft.core.record.StoredRow;

/** A change or delete named a version that is not the record's latest. Nothing was written. */
public final class Stale extends RuntimeException {

    private final long table;
    private final transient Optional<StoredRow> now;

    /** Of that table; the record as it now stands, if it does. */
    public Stale(long table, Optional<StoredRow> now) {
        super("stale");
        this.table = table;
        this.now = now;
    }

    /** The identity of the table that the record is of. */
    public long table() {
        return table;
    }

    /** The record as it now stands; empty when it is gone. */
    public Optional<StoredRow> now() {
        return now;
    }
}
