package weft.core.value;

/** What came of reading something typed. */
public sealed interface Reading {

    /**
     * It was read.
     *
     * @param value the typed value
     * @param readBack how it was understood, in words; empty when that says no more than what was typed
     */
    record Read(Value value, String readBack) implements Reading {}

    /** It could not be taken, and why. */
    record Refused(Refusal refusal) implements Reading {}

    /** Why something typed was refused. */
    enum Reason {
        /** It is not a value of the column's type. */
        UNREADABLE,
        /** It is not on the column's list. */
        CHOICE,
        /** It is longer than the column takes. */
        LENGTH,
        /** It has more decimals, or is larger, than the column takes. */
        RANGE
    }

    /** The reading of nothing. */
    Reading EMPTY = new Read(Value.EMPTY, "");
}
