package weft.server.record;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.time.LocalDate;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import weft.core.record.StoredRow;
import weft.server.http.Person;
import weft.server.http.Problem;
import weft.server.http.Seen;
import weft.store.entry.LastWord;
import weft.store.form.ReadyForm;
import weft.store.record.EntryWriter;
import weft.store.record.EntryWriter.Following;
import weft.store.record.History;
import weft.store.record.NotSaved;
import weft.store.record.Records;
import weft.store.record.Stale;
import weft.store.table.StoredTable;

/** What became of records: their changes, those removed, and how they are put back. */
@RestController
class HistoryApi {

    private static final int MOST_AT_ONCE = 200;

    private final Records records;
    private final EntryWriter writer;
    private final History history;
    private final Clock clock;

    HistoryApi(Records records, EntryWriter writer, History history, Clock clock) {
        this.records = records;
        this.writer = writer;
        this.history = history;
        this.clock = clock;
    }

    /** One change of a record; {@code before} is null for a new one, {@code after} for a deleted one. */
    record ChangeJson(
            OffsetDateTime at,
            String by,
            String action,
            int version,
            @Nullable Map<String, Object> before,
            @Nullable Map<String, Object> after) {

        static ChangeJson of(History.Entry entry) {
            return new ChangeJson(
                    entry.at(),
                    entry.by(),
                    entry.action(),
                    entry.version(),
                    entry.before().orElse(null),
                    entry.after().orElse(null));
        }
    }

    /**
     * A record that was removed and not put back.
     *
     * @param place leads on through the list
     * @param row the row it had
     */
    record RemovedRecord(long place, long id, long row, OffsetDateTime at, String by, Map<String, Object> values) {

        static RemovedRecord of(History.Removed removed) {
            return new RemovedRecord(
                    removed.place(), removed.id(), removed.row(), removed.at(), removed.by(), removed.values());
        }
    }

    /** Removed records, the latest first. {@code next} leads to earlier ones; null when there are none. */
    record RemovedJson(
            List<RemovedRecord> records, @Nullable Long next) {}

    /** The version to put back; left out for a record that was deleted. */
    record State(@Nullable Integer version) {}

    /** A record to be removed, with the version that was seen of it. */
    record SeenRecord(long id, int version) {}

    record ToRemove(
            @Size(max = MOST_AT_ONCE, message = "Name the records to remove, 200 at most.")
            List<SeenRecord> records) {}

    /** Those that were removed, and those that somebody changed meanwhile, which were kept. */
    record Removal(List<Long> removed, List<Long> kept) {}

    @GetMapping("/api/forms/{form}/records/{id}/history")
    List<ChangeJson> history(ReadyForm form, @PathVariable long id) {
        var entries = history.of(form.table(), id);
        if (entries.isEmpty()) {
            throw Problem.unknown("record " + id);
        }
        return entries.stream().map(ChangeJson::of).toList();
    }

    /** Puts a deleted record back, or an earlier state of one that is there, which wants If-Match. */
    @PostMapping("/api/forms/{form}/records/{id}/restore")
    ResponseEntity<RecordJson> restore(
            ReadyForm form,
            @PathVariable long id,
            Seen seen,
            Person person,
            @RequestBody(required = false) @Nullable State state) {
        var table = form.table();
        try {
            var record = state == null || state.version() == null
                    ? history.restore(table, id, person.name())
                            .orElseThrow(() -> Problem.unknown("removed record " + id))
                    : putBack(table, id, seen.version(), state.version(), person);
            return ResponseEntity.ok().eTag(Seen.etag(record.version())).body(RecordJson.of(record));
        } catch (NotSaved e) {
            throw LastWord.stopped(e, table.definition());
        }
    }

    private StoredRow putBack(StoredTable table, long id, int seen, int version, Person person) {
        var values =
                history.values(table, id, version).orElseThrow(() -> Problem.unknown("version " + version + " of it"));
        var entry = EntryWriter.Entry.over(table, id, seen, values, LocalDate.now(clock), person.name());
        return writer.save(entry, Following.NOTHING).record();
    }

    @GetMapping("/api/forms/{form}/removed")
    RemovedJson removed(
            ReadyForm form,
            @RequestParam(required = false) @Nullable Long after,
            @RequestParam(defaultValue = "50") int limit) {
        RecordPage.check(limit);
        var found = history.removed(form.table(), after == null ? OptionalLong.empty() : OptionalLong.of(after), limit);
        return new RemovedJson(
                found.stream().map(RemovedRecord::of).toList(),
                found.size() < limit ? null : found.getLast().place());
    }

    /** Removes several records, up to 200 at once; those changed since they were seen are kept. */
    @PostMapping("/api/forms/{form}/removals")
    Removal remove(ReadyForm form, Person person, @RequestBody @Valid ToRemove asked) {
        var removed = new ArrayList<Long>();
        var kept = new ArrayList<Long>();
        for (var each : asked.records()) {
            try {
                records.delete(form.table(), each.id(), each.version(), person.name());
                removed.add(each.id());
            } catch (Stale changed) {
                changed.now().ifPresent(now -> kept.add(now.id()));
            }
        }
        return new Removal(removed, kept);
    }
}
