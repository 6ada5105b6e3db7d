package weft.core.door;

/** What a door may let people do with records. Each stands alone. */
public enum May {
    ADD,
    SEE,
    CHANGE,
    REMOVE,
    EXPORT;
}
