package weft.core.rule;

/**
 * A formula that says something of a field or of a shown value.
 *
 * @param target the column of the field, or the id of the shown value
 * @param what what the formula decides
 * @param formula in FEEL
 */
public record Derived(String target, Decides what, String formula) implements Declaration {

    /** What a formula decides. */
    public enum Decides {
        /** What a new entry has there until something is typed. */
        DEFAULT,
        /** What is always there. */
        CALCULATED,
        /** Whether the field is there; a field that is not holds nothing. */
        SHOWN,
        /** Whether it is locked. */
        LOCKED,
        /** Whether it is required. */
        REQUIRED,
        /** What a shown value shows. */
        DISPLAYED
    }
}
