package weft.server.record;

import java.time.Clock;
import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.util.Optional;
import java.util.Set;
import org.springframework.stereotype.Component;
import weft.store.door.Ways.Way;
import weft.store.record.History;
import weft.store.record.History.Action;
import weft.store.record.Records;
import weft.store.table.SeenTable;

/** Entries of one's own: for as long as a door says, whoever made one may take it back and put it back, whatever else they may. */
@Component
class OwnEntries {

    private final Records records;
    private final History history;
    private final Clock clock;

    OwnEntries(Records records, History history, Clock clock) {
        this.records = records;
        this.history = history;
        this.clock = clock;
    }

    /** Whether it is an entry of whoever comes by that door. */
    boolean is(Way way, long id) {
        return own(way, id).isPresent();
    }

    /** Whether it is one, and can still be taken back. */
    boolean takesBack(Way way, long id) {
        return own(way, id).filter(entered -> still(way, entered.at())).isPresent();
    }

    private Optional<Records.Entered> own(Way way, long id) {
        return records.entered(way.saving().table(), id)
                .filter(entered -> entered.by().equals(way.pass().by()));
    }

    /** Whether it is one that whoever comes took back and can still put back, or just did. */
    boolean takenBack(Way way, long id) {
        var entries = history.of(SeenTable.all(way.saving().table()), id);
        return !entries.isEmpty()
                && Set.of(Action.DELETED, Action.RESTORED)
                        .contains(entries.getFirst().action())
                && entries.getFirst().by().equals(way.pass().by())
                && entries.getLast().by().equals(way.pass().by())
                && still(way, entries.getLast().at());
    }

    private boolean still(Way way, OffsetDateTime entered) {
        return way.pass()
                .takesBack(entered.atZoneSameInstant(clock.getZone()).toLocalDateTime(), LocalDateTime.now(clock));
    }
}
