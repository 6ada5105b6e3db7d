package weft.server.record;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Size;
import java.util.List;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.May;
import weft.server.door.Needs;
import weft.server.http.Problem;
import weft.store.door.Ways.Way;
import weft.store.entry.LastWord;
import weft.store.entry.SavingSheets;
import weft.store.record.History;
import weft.store.record.History.Action;
import weft.store.record.NotSaved;
import weft.store.record.Records;
import weft.store.record.TakingBack;
import weft.store.table.SeenTable;

/** Takes entries of one's own back, with what their saves did elsewhere. */
@RestController
class TakingBackApi {

    private final TakingBack takingBack;
    private final OwnEntries own;
    private final Records records;
    private final History history;
    private final SavingSheets sheets;

    TakingBackApi(TakingBack takingBack, OwnEntries own, Records records, History history, SavingSheets sheets) {
        this.takingBack = takingBack;
        this.own = own;
        this.records = records;
        this.history = history;
        this.sheets = sheets;
    }

    record ToTakeBack(
            @Size(
                    min = 1,
                    max = SeenRecord.MOST,
                    message = "Name the entries to take back, in the order in which they were made, 200 at most.")
            List<SeenRecord> records) {}

    /**
     * What came of it.
     *
     * @param sent how many messages had gone out before; they cannot be taken back
     */
    record EntriesTakenBack(int sent) {}

    /** Takes them back together or not at all. Those that are taken back already are taken back: a request may come twice. */
    @PostMapping("/api/doors/{door}/take-back")
    @Needs({May.REMOVE, May.ADD})
    EntriesTakenBack takeBack(Way door, @RequestBody @Valid ToTakeBack asked) {
        var table = door.saving().table();
        var by = door.pass().by();
        if (asked.records().stream()
                .allMatch(each ->
                        history.lastBy(SeenTable.all(table), each.id(), Action.DELETED, each.version() + 1, by))) {
            return new EntriesTakenBack(0);
        }
        for (var each : asked.records()) {
            if (!own.takesBack(door, each.id()) && !(own.is(door, each.id()) && removes(door, each.id()))) {
                throw Problem.unknown("entry " + each.id() + " of yours that can still be taken back");
            }
        }
        var entries = asked.records().stream()
                .map(each -> new TakingBack.AtVersion(each.id(), each.version()))
                .toList();
        try {
            return new EntriesTakenBack(takingBack.takeBack(table, entries, by, sheets.belonging(door.saving())));
        } catch (NotSaved e) {
            throw LastWord.stopped(e, table.definition());
        }
    }

    private boolean removes(Way door, long id) {
        return door.pass().may(May.REMOVE)
                && records.find(door.shown().seen(), id).isPresent();
    }
}
