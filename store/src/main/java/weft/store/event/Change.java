package weft.store.event;

/** Something that happened in the database, on whichever server. */
public sealed interface Change {

    /** What happened to a record. */
    enum Kind {
        SAVED,
        CHANGED,
        DELETED
    }

    /**
     * A record was saved, changed or deleted.
     *
     * @param table the identity of its table
     * @param id the record's identity
     * @param row its row number
     */
    record OfRecord(long table, Kind kind, long id, long row) implements Change {}

    /**
     * Many records of a table were saved, changed or deleted at once.
     *
     * @param table the identity of the table
     */
    record OfRecords(long table) implements Change {}

    /**
     * The working copy of a form was changed, which concerns its builders only.
     *
     * @param table the identity of its table
     */
    record OfWorkingCopy(long table, String form) implements Change {}

    /**
     * A form was made, published, put out of use or into use again.
     *
     * @param table the identity of its table
     */
    record OfPublished(long table, String form) implements Change {}

    /** A table was made, changed or deleted: its columns, its constraints, its title. */
    record OfTable(long table) implements Change {}

    /** Nothing was heard for a while: anything may have happened. */
    record Unheard() implements Change {}
}
