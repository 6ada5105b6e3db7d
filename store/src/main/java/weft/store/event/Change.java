package weft.store.event;

/** Something that happened in the database, on whichever server. */
public sealed interface Change {

    /**
     * A record was saved, changed or deleted.
     *
     * @param table the identity of its table
     * @param kind "saved", "changed" or "deleted"
     * @param id the record's identity
     * @param row its row number
     */
    record OfRecord(long table, String kind, long id, long row) implements Change {}

    /** Tables or forms were made or changed. */
    record OfDefinitions() implements Change {}

    /** Nothing was heard for a while: anything may have happened. */
    record Unheard() implements Change {}
}
