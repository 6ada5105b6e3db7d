package weft.core.entry.draft;

/**
 * Something about an entry that its keyer must know.
 *
 * @param field the column name of the field concerned
 * @param severity whether it stops the save or asks
 * @param cause what was found
 * @param rule the id of the check, fill or question that it comes from; empty for a column's own rules
 */
public record Finding(String field, Severity severity, Cause cause, String rule) {

    /** The kinds of fault. The wire name is the constant in lower case. */
    public enum Code {
        UNREADABLE,
        REQUIRED,
        RANGE,
        LENGTH,
        PATTERN,
        CHOICE,
        UNIQUE,
        /** Another record is nearly the same. */
        ALIKE,
        /** It is not as what is stored lets one expect. */
        UNUSUAL,
        OVERLAP,
        FORMULA,
        INCOMPLETE,
        /** Typed into a field that the form does not have any more. */
        GONE,
        /** Another value than what stands there was sent for a locked field. */
        LOCKED,
        /** A fill found none, or several. */
        FILL,
        /** A step asks a question. */
        QUESTION;
    }

    /** What a finding does to a save. */
    public enum Severity {
        /** It cannot be saved. */
        STOP,
        /** It may be saved after a yes. */
        ASK;
    }

    /** Which kind of fault it is. */
    public Code code() {
        return cause.code();
    }

    /** It in a plain sentence: what is wrong and what would be right. */
    public String message() {
        return CauseWords.of(cause);
    }

    /** Whether it stops the save. */
    public boolean stops() {
        return severity == Severity.STOP;
    }

    /** A finding of a column's own rules, which stops. */
    public static Finding stop(String field, Cause cause) {
        return new Finding(field, Severity.STOP, cause, "");
    }

    /** A finding of a rule, which stops or asks. That it asks whether to save all the same is said where one can answer. */
    public static Finding of(String field, boolean asks, Cause cause, String rule) {
        return new Finding(field, asks ? Severity.ASK : Severity.STOP, cause, rule);
    }
}
