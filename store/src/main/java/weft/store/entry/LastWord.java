package weft.store.entry;

import java.util.Optional;
import weft.core.entry.draft.Cause;
import weft.core.entry.draft.Cause.Elsewhere;
import weft.core.entry.draft.Finding;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.value.Value;
import weft.store.record.NotSaved;

/** The database has the last word: what it refused comes back as a finding on the field concerned. */
public final class LastWord {

    private LastWord() {}

    /** What another table refused of what a step hands on to it. */
    private static Stopped elsewhere(NotSaved e) {
        var why = switch (e.reason()) {
            case NOT_UNIQUE, NOT_ALONE -> Elsewhere.Why.ALIKE;
            case EMPTY -> Elsewhere.Why.EMPTY;
            default -> Elsewhere.Why.NOT_TAKEN;
        };
        return new Stopped(Finding.stop("", new Elsewhere(e.elsewhere(), why, e.column())));
    }

    /** What the entry's own table refused, or another. */
    public static Stopped stopped(NotSaved e, Table table) {
        if (!e.elsewhere().isEmpty()) {
            return elsewhere(e);
        }
        var field = e.column().orElse("");
        var title = table.column(field).map(Column::title).orElse("The entry");
        return new Stopped(
                switch (e.reason()) {
                    case NOT_UNIQUE -> Finding.stop(field, new Cause.Taken(title, Optional.empty(), Value.EMPTY));
                    case NOT_ALONE -> Finding.stop("", new Cause.Overtaken());
                    case EMPTY -> Finding.stop(field, new Cause.NoField(title, false));
                    case GONE -> Finding.stop(field, new Cause.LeadsNowhere(title, true));
                    case NOWHERE -> Finding.stop(field, new Cause.LeadsNowhere(title, false));
                    case BROKEN -> Finding.stop(field, new Cause.TableCheck(title, e.said()));
                    case SAID -> Finding.stop("", new Cause.TableRefuses(e.said()));
                    case SHOWN_ONLY -> Finding.stop("", new Cause.OnlyShown());
                    case KEY_REUSED, OUT_OF_RANGE -> Finding.stop(field, new Cause.NotStorable(title));
                });
    }
}
