package weft.server.record;

import com.fasterxml.jackson.annotation.JsonInclude;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.May;
import weft.core.entry.draft.Draft;
import weft.core.record.StoredRow;
import weft.core.table.Column;
import weft.core.value.Typed;
import weft.core.value.Value;
import weft.server.door.Needs;
import weft.server.http.Problem;
import weft.server.http.Seen;
import weft.store.door.Ways.Way;
import weft.store.entry.LastWord;
import weft.store.entry.Saving;
import weft.store.entry.SavingSheets;
import weft.store.entry.Sent;
import weft.store.people.People;
import weft.store.record.History;
import weft.store.record.History.Action;
import weft.store.record.LinkedTo;
import weft.store.record.MadeOne;
import weft.store.record.NotSaved;
import weft.store.record.Records;
import weft.store.record.Stale;
import weft.store.record.TakingBack;
import weft.store.table.SeenTable;

/** What became of records: their changes, those removed, and how they are put back. */
@RestController
class HistoryApi {

    private static final int MOST_LINE_CHANGES = 200;

    private final Records records;
    private final Saving saving;
    private final History history;
    private final People people;
    private final SavingSheets sheets;
    private final OwnEntries own;
    private final TakingBack takingBack;
    private final MadeOne madeOne;
    private final Clock clock;

    HistoryApi(
            Records records,
            Saving saving,
            History history,
            SavingSheets sheets,
            People people,
            OwnEntries own,
            TakingBack takingBack,
            MadeOne madeOne,
            Clock clock) {
        this.records = records;
        this.saving = saving;
        this.history = history;
        this.sheets = sheets;
        this.people = people;
        this.own = own;
        this.takingBack = takingBack;
        this.madeOne = madeOne;
        this.clock = clock;
    }

    /** One change of a record; {@code before} is null for a new one, {@code after} for a deleted one. */
    record ChangeJson(
            OffsetDateTime at,
            String by,
            Action action,
            int version,
            @Nullable Map<String, Object> before,
            @Nullable Map<String, Object> after,

            @JsonInclude(JsonInclude.Include.NON_NULL) @Nullable
            MadeOneOf madeOne) {

        /** The same, with what it was made one of. */
        ChangeJson madeOne(MadeOne.@Nullable Was was) {
            return new ChangeJson(
                    at,
                    by,
                    action,
                    version,
                    before,
                    after,
                    was == null ? null : new MadeOneOf(was.id().orElse(null), was.rows()));
        }

        static ChangeJson of(History.Entry entry, UnaryOperator<String> titles) {
            return new ChangeJson(
                    entry.at(),
                    titles.apply(entry.by()),
                    entry.action(),
                    entry.version(),
                    entry.before().orElse(null),
                    entry.after().orElse(null),
                    null);
        }
    }

    /**
     * What a record was made one of.
     *
     * @param id by which that is taken back; none where it is, or cannot be any more
     * @param rows the rows that the others had
     */
    record MadeOneOf(@Nullable Long id, List<Long> rows) {}

    /**
     * A record that was removed and not put back.
     *
     * @param place leads on through the list
     * @param row the row it had
     */
    record RemovedRecord(long place, long id, long row, OffsetDateTime at, String by, Map<String, Object> values) {

        static RemovedRecord of(History.Removed removed, UnaryOperator<String> titles) {
            return new RemovedRecord(
                    removed.place(),
                    removed.id(),
                    removed.row(),
                    removed.at(),
                    titles.apply(removed.by()),
                    removed.values());
        }
    }

    /** Removed records, the latest first. {@code next} leads to earlier ones; null when there are none. */
    record RemovedJson(
            List<RemovedRecord> records, @Nullable Long next) {}

    /**
     * What is put back.
     *
     * @param version the version to put back; left out for a record that was deleted
     * @param answers what was answered to what is asked of it, as of a draft
     * @param elsewhere whether what was undone elsewhere with an entry that was taken back is done again
     */
    record State(
            @Nullable Integer version,
            @Nullable Map<String, String> answers,
            @Nullable Boolean elsewhere) {}

    record ToRemove(
            @Size(max = SeenRecord.MOST, message = "Name the records to remove, 200 at most.")
            List<SeenRecord> records) {}

    /** Those that were removed; those that somebody changed meanwhile, and those that others link to, which were kept. */
    record Removal(
            List<Long> removed,
            List<Long> kept,
            @JsonInclude(JsonInclude.Include.NON_EMPTY) List<Long> linked) {}

    /**
     * A change of a line of a record.
     *
     * @param lines the id of the form's lines
     * @param row the row that it has or had
     */
    record LineChangeJson(String lines, long row, ChangeJson change) {}

    /** What became of the lines of a record, where they are one thing with it. */
    @GetMapping("/api/doors/{door}/records/{id}/lines/history")
    @Needs(May.SEE)
    List<LineChangeJson> linesHistory(Way door, @PathVariable long id) {
        var _ = records.find(door.shown().seen(), id).orElseThrow(() -> Problem.unknown("record " + id));
        var changes = sheets.history(door.shown(), id, MOST_LINE_CHANGES);
        var titles =
                people.titles(changes.stream().map(each -> each.change().by()).toList());
        return changes.stream()
                .map(each -> new LineChangeJson(each.lines(), each.row(), ChangeJson.of(each.change(), titles)))
                .toList();
    }

    /** What became of a record that is in view, or was when it was removed. */
    @GetMapping("/api/doors/{door}/records/{id}/history")
    @Needs(May.SEE)
    List<ChangeJson> history(Way door, @PathVariable long id) {
        var entries = history.of(door.shown().seen(), id);
        boolean there = records.find(door.shown().seen(), id).isPresent();
        if (entries.isEmpty()
                || (!there
                        && (!door.pass().may(May.REMOVE) || entries.getFirst().action() != Action.DELETED))) {
            throw Problem.unknown("record " + id);
        }
        var titles = people.titles(entries.stream().map(History.Entry::by).toList());
        var madeOne = this.madeOne.of(door.shown().seen(), id);
        return entries.stream()
                .map(entry -> ChangeJson.of(entry, titles).madeOne(madeOne.get(entry.version())))
                .toList();
    }

    /** Puts a deleted record back, or an earlier state of one that is there, which wants If-Match. */
    @PostMapping("/api/doors/{door}/records/{id}/restore")
    @Needs({May.REMOVE, May.CHANGE, May.ADD})
    ResponseEntity<RecordJson> restore(
            Way door, @PathVariable long id, Seen seen, @RequestBody(required = false) @Nullable State state) {
        var table = door.shown().seen();
        var version = state == null ? null : state.version();
        var answers = state == null ? null : state.answers();
        boolean own = version == null && this.own.takenBack(door, id);
        if (!own && !door.pass().may(version == null ? May.REMOVE : May.CHANGE)) {
            throw Problem.forbidden("By the door “" + door.pass().door().title() + "” one may not "
                    + (version == null ? "put records back." : "change records."));
        }
        try {
            var record = version == null
                    ? back(door, id, own, state != null && Boolean.TRUE.equals(state.elsewhere()))
                            .or(() -> restored(own ? SeenTable.all(table.stored()) : table, id))
                            .orElseThrow(() -> Problem.unknown("removed record " + id))
                    : putBack(door, id, seen.version(), version, answers);
            return ResponseEntity.ok().eTag(Seen.etag(record.version())).body(RecordJson.of(door.of(record)));
        } catch (NotSaved e) {
            throw LastWord.stopped(e, table.definition());
        }
    }

    private Optional<StoredRow> back(Way door, long id, boolean own, boolean elsewhere) {
        var table = door.saving().table();
        var seen = own ? SeenTable.all(table) : door.shown().seen();
        var by = door.pass().by();
        var belonging = sheets.belonging(door.saving());
        if (!elsewhere) {
            return history.restore(seen, id, by, belonging);
        }
        return seen.whole() || !history.of(seen, id).isEmpty()
                ? takingBack.putBack(table, id, by, belonging)
                : Optional.empty();
    }

    /** The record that was put back just before, by the same request sent twice. */
    private Optional<StoredRow> restored(SeenTable table, long id) {
        return records.find(table, id).filter(record -> history.last(table, id, Action.RESTORED, record.version()));
    }

    /** An earlier state is put back by the rules that hold now. */
    private StoredRow putBack(Way way, long id, int seen, int version, @Nullable Map<String, String> answered) {
        var table = way.shown().seen();
        var now = records.find(SeenTable.all(table.stored()), id)
                .filter(_ -> records.find(table, id).isPresent())
                .orElseThrow(() -> Problem.unknown("record " + id));
        var values = way.narrowing()
                .changeable(history.values(table, id, version)
                        .orElseThrow(() -> Problem.unknown("version " + version + " of it")));
        var form = way.saving();
        var fields = form.plan().columns().stream().map(Column::name).collect(Collectors.toSet());
        var typed = new LinkedHashMap<String, Typed>();
        var beside = new LinkedHashMap<String, Value>();
        now.values().forEach((column, value) -> {
            var then = values.getOrDefault(column, value);
            if (fields.contains(column)) {
                typed.put(column, new Typed.Kept(then));
            } else if (!then.equals(value)) {
                beside.put(column, then);
            }
        });
        var answers = answered == null ? Map.<String, String>of() : answered;
        var around = new Draft.Around(way.pass().called(), Map.of(), Map.of(), answers);
        var draft = new Draft(typed, OptionalLong.of(id), now.values(), around);
        return saving.putBack(new Sent(form, draft, seen, Optional.empty(), way.pass()), beside)
                .record();
    }

    /** What was removed and not put back, since a moment by the clock of where Weft runs, or ever. */
    @GetMapping("/api/doors/{door}/removed")
    @Needs(May.REMOVE)
    RemovedJson removed(
            Way door,
            @RequestParam(required = false) @Nullable String since,
            @RequestParam(required = false) @Nullable Long after,
            @RequestParam(defaultValue = "50") int limit) {
        RecordPage.check(limit);
        var found = history.removed(
                door.shown().seen(),
                Optional.ofNullable(since).map(this::moment),
                after == null ? OptionalLong.empty() : OptionalLong.of(after),
                limit);
        var titles = people.titles(found.stream().map(History.Removed::by).toList());
        return new RemovedJson(
                found.stream().map(each -> RemovedRecord.of(each, titles)).toList(),
                found.size() < limit ? null : found.getLast().place());
    }

    private OffsetDateTime moment(String text) {
        try {
            return LocalDateTime.parse(text).atZone(clock.getZone()).toOffsetDateTime();
        } catch (DateTimeParseException e) {
            throw Problem.malformed("Say since when like 2026-11-01T17:30:00.");
        }
    }

    /** Removes several records, up to 200 at once; those changed since they were seen are kept. */
    @PostMapping("/api/doors/{door}/removals")
    @Needs(May.REMOVE)
    Removal remove(Way door, @RequestBody @Valid ToRemove asked) {
        var removed = new ArrayList<Long>();
        var kept = new ArrayList<Long>();
        var linked = new ArrayList<Long>();
        for (var each : asked.records()) {
            if (records.find(door.shown().seen(), each.id()).isEmpty()) {
                continue;
            }
            try {
                records.delete(
                        door.saving().table(),
                        each.id(),
                        each.version(),
                        door.pass().by(),
                        sheets.belonging(door.saving()));
                removed.add(each.id());
            } catch (LinkedTo others) {
                linked.add(each.id());
            } catch (Stale changed) {
                changed.now().ifPresent(now -> kept.add(now.id()));
            }
        }
        return new Removal(removed, kept, linked);
    }
}
