package weft.store.record;

/** What was written beside an entry is not as it was then, so that it is not undone, nor the entry taken back. Nothing was done. */
public final class ChangedBeside extends RuntimeException {

    private final String table;
    private final long row;

    ChangedBeside(String table, long row) {
        super("changed beside");
        this.table = table;
        this.row = row;
    }

    /** The title of the table. */
    public String table() {
        return table;
    }

    /** The row of the record there. */
    public long row() {
        return row;
    }
}
