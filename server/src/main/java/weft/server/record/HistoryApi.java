package weft.server.record;

import static weft.server.Versions.etag;
import static weft.server.Versions.seen;

import io.swagger.v3.oas.annotations.media.Schema;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import org.springframework.http.HttpHeaders;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import weft.server.Problems.Problem;
import weft.server.Who;
import weft.server.form.PreparedForms;
import weft.store.record.History;
import weft.store.record.History.Removed;
import weft.store.record.NotSaved;
import weft.store.record.Records;
import weft.store.record.Stale;
import weft.store.record.StoredRecord;

/** What became of records: their changes, those removed, and how they are put back. */
@RestController
class HistoryApi {

    private static final int MOST_AT_ONCE = 200;

    private final PreparedForms forms;
    private final Records records;
    private final History history;

    HistoryApi(PreparedForms forms, Records records, History history) {
        this.forms = forms;
        this.records = records;
        this.history = history;
    }

    /** One change of a record; {@code before} is null for a new one, {@code after} for a deleted one. */
    record ChangeJson(
            OffsetDateTime at,
            String by,
            String action,
            int version,
            Map<String, Object> before,
            Map<String, Object> after) {}

    /** Removed records, the latest first. {@code next} leads to earlier ones; null when there are none. */
    record RemovedJson(
            List<Removed> records,
            @Schema(types = {"integer", "null"}) Long next) {}

    /** The version to put back; left out for a record that was deleted. */
    record State(Integer version) {}

    /** A record to be removed, with the version that was seen of it. */
    record Seen(long id, int version) {}

    record ToRemove(List<Seen> records) {}

    /** Those that were removed, and those that somebody changed meanwhile, which were kept. */
    record Removal(List<Long> removed, List<Long> kept) {}

    @GetMapping("/api/forms/{form}/records/{id}/history")
    List<ChangeJson> history(@PathVariable String form, @PathVariable long id) {
        var entries = history.of(forms.published(form).table(), id);
        if (entries.isEmpty()) {
            throw Problem.unknown("record " + id);
        }
        return entries.stream()
                .map(entry -> new ChangeJson(
                        entry.at(),
                        entry.by(),
                        entry.action(),
                        entry.version(),
                        entry.before().orElse(null),
                        entry.after().orElse(null)))
                .toList();
    }

    /** Puts a deleted record back, or an earlier state of one that is there, which wants If-Match. */
    @PostMapping("/api/forms/{form}/records/{id}/restore")
    ResponseEntity<StoredRecord> restore(
            @PathVariable String form,
            @PathVariable long id,
            @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) String ifMatch,
            @RequestHeader(name = Who.HEADER, required = false) String person,
            @RequestBody(required = false) State state) {
        var table = forms.published(form).table();
        try {
            var record = state == null || state.version() == null
                    ? history.restore(table, id, Who.of(person))
                            .orElseThrow(() -> Problem.unknown("removed record " + id))
                    : records.change(
                            table,
                            id,
                            seen(ifMatch),
                            history.values(table, id, state.version())
                                    .orElseThrow(() -> Problem.unknown("version " + state.version() + " of it")),
                            Who.of(person));
            return ResponseEntity.ok().eTag(etag(record.version())).body(record);
        } catch (NotSaved e) {
            throw LastWord.stopped(e, table.definition());
        }
    }

    @GetMapping("/api/forms/{form}/removed")
    RemovedJson removed(
            @PathVariable String form,
            @RequestParam(required = false) Long after,
            @RequestParam(defaultValue = "50") int limit) {
        RecordPage.check(limit);
        var found = history.removed(
                forms.published(form).table(), after == null ? OptionalLong.empty() : OptionalLong.of(after), limit);
        return new RemovedJson(
                found, found.size() < limit ? null : found.getLast().place());
    }

    /** Removes several records, up to 200 at once; those changed since they were seen are kept. */
    @PostMapping("/api/forms/{form}/removals")
    Removal remove(
            @PathVariable String form,
            @RequestHeader(name = Who.HEADER, required = false) String person,
            @RequestBody ToRemove asked) {
        var table = forms.published(form).table();
        if (asked.records() == null || asked.records().size() > MOST_AT_ONCE) {
            throw Problem.malformed("Name the records to remove, " + MOST_AT_ONCE + " at most.");
        }
        var removed = new ArrayList<Long>();
        var kept = new ArrayList<Long>();
        for (var each : asked.records()) {
            try {
                records.delete(table, each.id(), each.version(), Who.of(person));
                removed.add(each.id());
            } catch (Stale changed) {
                changed.now().ifPresent(now -> kept.add(now.id()));
            }
        }
        return new Removal(removed, kept);
    }
}
