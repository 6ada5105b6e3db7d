package weft.store.entry;

import java.util.List;
import weft.core.entry.draft.Finding;
import weft.core.entry.draft.Findings;
import weft.core.table.Table;
import weft.store.record.NotSaved;

/** The database has the last word: what it refused comes back as a finding on the field concerned. */
public final class LastWord {

    private LastWord() {}

    /** What another table refused of what a step hands on to it. */
    static Stopped elsewhere(NotSaved e) {
        var what = switch (e.reason()) {
            case NOT_UNIQUE, NOT_ALONE -> "has such a row already";
            case EMPTY ->
                "needs %s, which the step leaves empty".formatted(e.column().orElse("a value"));
            default -> "does not take the value for %s".formatted(e.column().orElse("a column"));
        };
        return new Stopped(new Findings(List.of(
                Finding.stop("", Finding.Code.FORMULA, "Nothing was saved: %s %s.".formatted(e.elsewhere(), what)))));
    }

    /** What the entry's own table refused. */
    public static Stopped stopped(NotSaved e, Table table) {
        var field = e.column().orElse("");
        var title = table.column(field).map(column -> column.title()).orElse("The entry");
        return new Stopped(new Findings(List.of(
                switch (e.reason()) {
                    case NOT_UNIQUE ->
                        Finding.stop(
                                field,
                                Finding.Code.UNIQUE,
                                title + " is in another record already. No two may share it.");
                    case NOT_ALONE ->
                        Finding.stop(
                                "",
                                Finding.Code.UNIQUE,
                                "Another record that was just saved is in the way. Try again.");
                    case EMPTY ->
                        Finding.stop(
                                field,
                                Finding.Code.REQUIRED,
                                title + " is needed, but this form has no field for it. Its builder can add one.");
                    case GONE ->
                        Finding.stop(
                                field,
                                Finding.Code.CHOICE,
                                title + " leads to a record that was removed meanwhile. Choose another.");
                    case NOWHERE ->
                        Finding.stop(
                                field,
                                Finding.Code.CHOICE,
                                title + " names nothing that is there. Type one that is, or add it first.");
                    case BROKEN ->
                        Finding.stop(
                                field,
                                Finding.Code.FORMULA,
                                "%s breaks what the table itself checks: %s. Look at its values again."
                                        .formatted(title, e.said()));
                    case SAID ->
                        Finding.stop("", Finding.Code.FORMULA, "The table itself refused it: %s".formatted(e.said()));
                    case SHOWN_ONLY ->
                        Finding.stop("", Finding.Code.FORMULA, "These records come of a view. It takes no entries.");
                    case KEY_REUSED, OUT_OF_RANGE ->
                        Finding.stop(field, Finding.Code.RANGE, title + " is outside what may be stored.");
                })));
    }
}
