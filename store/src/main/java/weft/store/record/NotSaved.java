package weft.store.record;

import java.util.Optional;

/** The database refused an entry. Nothing was written and no row number was used. */
public final class NotSaved extends RuntimeException {

    /** Why. */
    public enum Reason {
        /** The key was used before for a save of something else. */
        KEY_REUSED,
        /** Another record has the same value in a column that must be unique. */
        NOT_UNIQUE,
        /** Another record is in the way of a constraint between records; its id is given instead of a column. */
        NOT_ALONE,
        /** A column that must have a value has none. */
        EMPTY,
        /** A value is outside what its column takes. */
        OUT_OF_RANGE,
        /** A record that it links to is there no more. */
        GONE,
        /** A value of an adopted table names nothing that is there. */
        NOWHERE,
        /** A check of an adopted table is broken, whose name is given. */
        BROKEN,
        /** A trigger of an adopted table refused it, in words of its own. */
        SAID,
        /** The table is a view, which takes no entries. */
        SHOWN_ONLY
    }

    private final Reason reason;
    private final transient Optional<String> column;
    private final String elsewhere;
    private final String said;

    NotSaved(Reason reason, Optional<String> column) {
        this(reason, column, "", "");
    }

    private NotSaved(Reason reason, Optional<String> column, String elsewhere, String said) {
        super(reason.name());
        this.reason = reason;
        this.column = column;
        this.elsewhere = elsewhere;
        this.said = said;
    }

    static NotSaved broken(Optional<String> column, String check) {
        return new NotSaved(Reason.BROKEN, column, "", check);
    }

    static NotSaved said(String words) {
        return new NotSaved(Reason.SAID, Optional.empty(), "", words);
    }

    NotSaved in(String table) {
        return new NotSaved(reason, column, table, said);
    }

    /** The name of the check that is broken, or what a trigger said; empty for other reasons. */
    public String said() {
        return said;
    }

    /** The title of the other table that refuses what is handed on to it; empty when it is the entry's own. */
    public String elsewhere() {
        return elsewhere;
    }

    /** Why. */
    public Reason reason() {
        return reason;
    }

    /** The name of the column concerned, where one is. */
    public Optional<String> column() {
        return column;
    }
}
