package weft.store.record;

import java.time.Clock;
import java.time.Duration;
import java.time.OffsetDateTime;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import org.jooq.DSLContext;
import org.jooq.exception.DataAccessException;
import weft.core.record.StoredRow;
import weft.store.Attempts;
import weft.store.table.StoredTable;

/** Entries taken back with all that was written beside them, and put back with it: all of it or nothing. */
public final class TakingBack {

    private final DSLContext sql;
    private final Clock clock;

    /** In the database that those queries go to. */
    public TakingBack(DSLContext sql, Clock clock) {
        this.sql = sql;
        this.clock = clock;
    }

    /** An entry, in the version of it that was seen. */
    public record AtVersion(long id, int version) {}

    /**
     * Takes entries back, the last first.
     *
     * @param belonging what is one thing with each
     * @return how many of their messages had gone out, and stay so
     * @throws Stale when a version is not the latest
     * @throws ChangedBeside when something that was written beside one was changed since
     * @throws LinkedTo when others link to one and are not to be emptied
     * @throws NotSaved when the database's own constraints forbid it, here or in another table
     */
    public int takeBack(StoredTable table, List<AtVersion> entries, String by, List<Belonging> belonging) {
        return together(table, within -> {
            int gone = 0;
            for (var entry : entries.reversed()) {
                gone += Beside.undo(within, table, entry.id(), by);
                Records.delete(within, table, entry.id(), entry.version(), by, belonging);
            }
            return gone;
        });
    }

    private <T> T together(StoredTable table, Function<DSLContext, T> work) {
        try {
            return Attempts.of(() -> sql.transactionResult(inner -> work.apply(inner.dsl())), Attempts::deadlock);
        } catch (DataAccessException e) {
            throw Refusal.told(table, e);
        }
    }

    /**
     * Puts an entry back, with what was undone when it was taken back.
     *
     * @return the record, or empty when it is not among the removed
     * @throws ChangedBeside when something that it was written over was changed since
     * @throws NotSaved when the database's own constraints forbid it, here or in another table
     */
    public Optional<StoredRow> putBack(StoredTable table, long id, String by, List<Belonging> belonging) {
        return together(table, within -> {
            var back = History.restore(within, table, id, by, belonging);
            if (back.isPresent()) {
                Beside.redo(within, table, id, by);
            }
            return back;
        });
    }

    /** Forgets what was written beside entries of longer ago than that. */
    public void forget(Duration age) {
        Beside.forget(sql, OffsetDateTime.now(clock).minus(age));
    }
}
