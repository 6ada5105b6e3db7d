package weft.core.entry.draft;

import weft.core.value.Reading;

/**
 * Something about an entry that its keyer must know.
 *
 * @param field the column name of the field concerned
 * @param code which kind of fault
 * @param severity whether it stops the save or asks
 * @param message a plain sentence: what is wrong and what would be right
 * @param rule the id of the check, fill or question that it comes from; empty for a column's own rules
 */
public record Finding(String field, Code code, Severity severity, String message, String rule) {

    /** The kinds of fault. The wire name is the constant in lower case. */
    public enum Code {
        UNREADABLE,
        REQUIRED,
        RANGE,
        LENGTH,
        PATTERN,
        CHOICE,
        UNIQUE,
        OVERLAP,
        FORMULA,
        INCOMPLETE,
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

    /** What kind of fault it is that a value was refused. */
    public static Code code(Reading.Reason reason) {
        return switch (reason) {
            case UNREADABLE -> Code.UNREADABLE;
            case CHOICE -> Code.CHOICE;
            case LENGTH -> Code.LENGTH;
            case RANGE -> Code.RANGE;
        };
    }

    /** Whether it stops the save. */
    public boolean stops() {
        return severity == Severity.STOP;
    }

    /** A finding of a column's own rules, which stops. */
    public static Finding stop(String field, Code code, String message) {
        return new Finding(field, code, Severity.STOP, message, "");
    }

    /** A finding of a rule, which stops or asks. That it asks whether to save all the same is said where one can answer. */
    public static Finding of(String field, Code code, boolean asks, String message, String rule) {
        return new Finding(field, code, asks ? Severity.ASK : Severity.STOP, message, rule);
    }
}
