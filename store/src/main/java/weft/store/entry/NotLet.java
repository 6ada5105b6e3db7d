package weft.store.entry;

import weft.core.door.May;

/** Whoever sends an entry may not do with it what they ask. Nothing was written. */
public final class NotLet extends RuntimeException {
    private final May needed;

    NotLet(May needed) {
        super("not let");
        this.needed = needed;
    }

    /** What they would have to be let do. */
    public May needed() {
        return needed;
    }
}
