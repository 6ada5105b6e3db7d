package weft.store.record;

import java.util.Optional;

/** The database refused an entry. Nothing was written and no row number was used. */
public final class NotSaved extends RuntimeException {

    /** Why. */
    public enum Reason {
        /** The key was used before for a save of something else. */
        KEY_REUSED,
        /** Another record has the same value in a column that must be unique. */
        NOT_UNIQUE,
        /** A column that must have a value has none. */
        EMPTY,
        /** A value is outside what its column takes. */
        OUT_OF_RANGE
    }

    private final Reason reason;
    private final transient Optional<String> column;

    NotSaved(Reason reason, Optional<String> column) {
        super(reason.name());
        this.reason = reason;
        this.column = column;
    }

    /** Why. */
    public Reason reason() {
        return reason;
    }

    /** The name of the column concerned, where one is. */
    public Optional<String> column() {
        return column;
    }
}
