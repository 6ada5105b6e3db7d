package weft.store.record;

import java.util.Optional;

/** A change or delete named a version that is not the record's latest. Nothing was written. */
public final class Stale extends RuntimeException {

    private final long table;
    private final transient Optional<StoredRecord> now;

    Stale(long table, Optional<StoredRecord> now) {
        super("stale");
        this.table = table;
        this.now = now;
    }

    /** The identity of the table that the record is of. */
    long table() {
        return table;
    }

    /** The record as it now stands; empty when it is gone. */
    public Optional<StoredRecord> now() {
        return now;
    }
}
