package weft.core.rule;

/** What a button does by itself. */
public enum Command {
    SAVE,
    CLEAR,
    NEW,
    FIRST,
    PREVIOUS,
    NEXT,
    LAST,
    FIND,
    DELETE,
    PUT_BACK,
    CLOSE,
    OPEN,
    /** The steps that the form has for it. */
    STEPS
}
