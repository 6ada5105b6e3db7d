package weft.server.entry;

/**
 * What a save did beside the entry's own row and its lines.
 *
 * @param table the title of the table; empty for a message
 * @param row the row there, the first of several; 0 for a message
 */
public record ElsewhereJson(What what, String table, long row) {

    /** What was done there. */
    public enum What {
        ADDED,
        CHANGED,
        REMOVED,
        SENT
    }
}
