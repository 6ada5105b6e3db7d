package weft.store.record;

import java.util.Optional;

/** A change or delete named a version that is not the record's latest. Nothing was written. */
public final class Stale extends RuntimeException {

    private final transient Optional<StoredRecord> now;

    Stale(Optional<StoredRecord> now) {
        super("stale");
        this.now = now;
    }

    /** The record as it now stands; empty when it is gone. */
    public Optional<StoredRecord> now() {
        return now;
    }
}
