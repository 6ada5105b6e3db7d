package weft.server.entry;

import jakarta.servlet.http.HttpServletRequest;
import java.net.URI;
import java.time.Clock;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.May;
import weft.server.door.Needs;
import weft.server.form.RuledJson;
import weft.server.http.Problem;
import weft.server.http.Seen;
import weft.server.record.RecordJson;
import weft.server.table.ColumnJson;
import weft.server.work.WorkTaking;
import weft.store.door.Ways.Way;
import weft.store.entry.Saving;
import weft.store.entry.SavingSheets;
import weft.store.record.Records;

/** Entries by a door: assessed while typed, saved to the next free row, changed. */
@RestController
class EntriesApi {

    private final Drafts drafts;
    private final Saving saving;
    private final SavingSheets sheets;
    private final Records records;
    private final WorkTaking work;
    private final Elsewhere elsewhere;
    private final Clock clock;

    EntriesApi(
            Drafts drafts,
            Saving saving,
            SavingSheets sheets,
            Records records,
            WorkTaking work,
            Elsewhere elsewhere,
            Clock clock) {
        this.drafts = drafts;
        this.saving = saving;
        this.sheets = sheets;
        this.records = records;
        this.work = work;
        this.elsewhere = elsewhere;
        this.clock = clock;
    }

    @PostMapping("/api/doors/{door}/assess")
    @Needs({May.ADD, May.CHANGE})
    AssessmentJson assess(Way way, @RequestBody DraftJson draft) {
        var sent = drafts.atDesk(way, draft);
        if (sent.form().plan().lines().isEmpty()) {
            return AssessmentJson.of(way.narrowing().of(saving.assess(sent.form(), sent.draft())));
        }
        var sheet = sheets.assess(sent);
        return AssessmentJson.of(way.narrowing().of(sheet.entry()), sheet);
    }

    @PostMapping("/api/doors/{door}/records")
    @Needs(May.ADD)
    ResponseEntity<SavedJson> save(
            Way way,
            @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String idempotencyKey,
            HttpServletRequest request,
            @RequestBody DraftJson draft) {
        drafts.throttled(way, request, 1);
        drafts.taking(way);
        var key = Optional.ofNullable(idempotencyKey).map(given -> Keys.of(way.pass(), given, draft.spelled()));
        var saved = sheets.save(drafts.entered(way, draft.of(null), key));
        if (!saved.again()) {
            work.entered(way, draft.work());
        }
        return ResponseEntity.created(URI.create("/api/doors/"
                        + way.pass().door().id() + "/records/" + saved.record().id()))
                .eTag(Seen.etag(saved.record().version()))
                .body(saved(way, saved));
    }

    private SavedJson saved(Way way, Saving.Saved saved) {
        return SavedJson.of(
                way.of(saved.record()),
                saved.then(),
                sheets.lines(way.shown(), saved.record().id()),
                elsewhere.of(way.pass(), saved.elsewhere()));
    }

    /**
     * What lines of the form are made of.
     *
     * @param ruled what their rules make of each field, by column
     */
    record LinesMade(List<ColumnJson> columns, Map<String, RuledJson> ruled) {}

    @GetMapping("/api/doors/{door}/lines/{lines}")
    @Needs
    LinesMade linesMade(Way door, @PathVariable String lines) {
        var plan = door.shown().plan().linesOf(lines).orElseThrow(() -> Problem.unknown("lines “" + lines + "”"));
        return new LinesMade(
                plan.plan().columns().stream().map(ColumnJson::of).toList(),
                RuledJson.of(plan.plan(), LocalDateTime.now(clock)));
    }

    /** The lines of a record, by the id of the form's lines, each by row. */
    @GetMapping("/api/doors/{door}/records/{id}/lines")
    @Needs(May.SEE)
    Map<String, List<RecordJson>> lines(Way door, @PathVariable long id) {
        var _ = records.find(door.shown().seen(), id).orElseThrow(() -> Problem.unknown("record " + id));
        return SavedJson.lines(sheets.lines(door.shown(), id));
    }

    /** What came of a save whose answer was lost: what was saved under its key, or 404 when nothing was. */
    @GetMapping("/api/doors/{door}/saves/{key}")
    @Needs(May.ADD)
    ResponseEntity<SavedJson> saved(Way door, @PathVariable String key) {
        var record = saving.savedUnder(door.saving(), door.pass().theirs(key))
                .orElseThrow(() -> Problem.unknown("save under this key"));
        return ResponseEntity.ok().eTag(Seen.etag(record.version())).body(saved(door, Saving.Saved.before(record)));
    }

    @PutMapping("/api/doors/{door}/records/{id}")
    @Needs(May.CHANGE)
    ResponseEntity<SavedJson> change(Way way, @PathVariable long id, Seen seen, @RequestBody DraftJson draft) {
        drafts.taking(way);
        var saved = sheets.save(drafts.sent(way, draft.of(id), seen.version(), Optional.empty()));
        return ResponseEntity.ok().eTag(Seen.etag(saved.record().version())).body(saved(way, saved));
    }
}
