package weft.core.entry;

import java.util.Locale;

/**
 * Something about an entry that its keyer must know.
 *
 * @param field the column name of the field concerned
 * @param code which kind of fault
 * @param severity whether it stops the save or asks
 * @param message a plain sentence: what is wrong and what would be right
 */
public record Finding(String field, Code code, Severity severity, String message) {

    /** The kinds of fault. The wire name is the constant in lower case. */
    public enum Code {
        UNREADABLE,
        REQUIRED,
        RANGE,
        LENGTH,
        CHOICE,
        UNIQUE;

        /** The name used in JSON. */
        public String wire() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /** What a finding does to a save. */
    public enum Severity {
        /** It cannot be saved. */
        STOP,
        /** It may be saved after a yes. */
        ASK;

        /** The name used in JSON. */
        public String wire() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /** A finding that stops. */
    public static Finding stop(String field, Code code, String message) {
        return new Finding(field, code, Severity.STOP, message);
    }
}
