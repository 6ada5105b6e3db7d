package weft.server.record;

import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.May;
import weft.server.door.Needs;
import weft.server.http.Problem;
import weft.server.http.Seen;
import weft.store.door.Ways.Way;
import weft.store.entry.SavingSheets;
import weft.store.record.History;
import weft.store.record.History.Action;
import weft.store.record.Records;
import weft.store.table.SeenTable;

/** Records behind a door: read, deleted, and where the next goes. */
@RestController
class RecordsApi {

    private final Records records;
    private final History history;
    private final SavingSheets sheets;
    private final OwnEntries own;

    RecordsApi(Records records, History history, SavingSheets sheets, OwnEntries own) {
        this.records = records;
        this.history = history;
        this.sheets = sheets;
        this.own = own;
    }

    record NextRow(long row) {}

    @GetMapping("/api/doors/{door}/next-row")
    @Needs(all = true)
    NextRow nextRow(Way door) {
        return new NextRow(records.nextRow(door.saving().table()));
    }

    @GetMapping("/api/doors/{door}/records/{id}")
    @Needs(May.SEE)
    ResponseEntity<RecordJson> record(Way door, @PathVariable long id) {
        var record = records.find(door.shown().seen(), id).orElseThrow(() -> Problem.unknown("record " + id));
        return ResponseEntity.ok().eTag(Seen.etag(record.version())).body(RecordJson.of(door.of(record)));
    }

    /**
     * Removes a record, or takes an entry of one's own back. One that was removed from that version already is removed: the
     * same request may well come twice.
     */
    @DeleteMapping("/api/doors/{door}/records/{id}")
    @Needs({May.REMOVE, May.ADD})
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void delete(Way door, @PathVariable long id, Seen seen) {
        int version = seen.version();
        var table = door.saving().table();
        if (!removable(door, id)) {
            if (gone(door, id, version)) {
                return;
            }
            throw door.pass().may(May.REMOVE)
                            || records.find(door.shown().seen(), id).isEmpty()
                    ? Problem.unknown("record " + id + " that you could remove or take back")
                    : Problem.forbidden("By the door “" + door.pass().door().title()
                            + "” records are not removed, and an entry can be taken back only by who entered it, and"
                            + " only for a while.");
        }
        records.delete(table, id, version, door.pass().by(), sheets.belonging(door.saving()));
    }

    /** Whether it is in view where records may be removed, or an entry of one's own that can still be taken back. */
    private boolean removable(Way door, long id) {
        return (door.pass().may(May.REMOVE)
                        && records.find(door.shown().seen(), id).isPresent())
                || own.takesBack(door, id);
    }

    /** Whether that very request was carried out before: by the same person, where not all may be removed. */
    private boolean gone(Way door, long id, int version) {
        return door.pass().may(May.REMOVE)
                ? history.last(door.shown().seen(), id, Action.DELETED, version + 1)
                : history.lastBy(
                        SeenTable.all(door.saving().table()),
                        id,
                        Action.DELETED,
                        version + 1,
                        door.pass().by());
    }
}
