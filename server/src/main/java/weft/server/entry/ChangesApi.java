package weft.server.entry;

import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.May;
import weft.core.entry.draft.Finding;
import weft.core.entry.draft.Findings;
import weft.core.record.StoredRow;
import weft.core.table.Faults;
import weft.core.value.Value;
import weft.server.door.Needs;
import weft.server.find.FindRequest;
import weft.server.http.Problem;
import weft.store.door.Ways.Way;
import weft.store.entry.ChangingMany;
import weft.store.entry.LastWord;
import weft.store.find.Views;
import weft.store.record.ChangeSets;
import weft.store.record.NotSaved;
import weft.store.record.Records;
import weft.store.record.Stale;

/** Many records changed as one: those named, or all that are found; rehearsed first, and taken back as one. */
@RestController
class ChangesApi {

    /** The most records that are changed as one. */
    private static final int MOST = 5_000;

    private static final int EXAMPLES = 10;
    private static final int FINDINGS = 100;
    private static final int PAGE = 500;

    private final Views views;
    private final Records records;
    private final ChangingMany changing;
    private final ChangeSets changes;
    private final Clock clock;

    ChangesApi(Views views, Records records, ChangingMany changing, ChangeSets changes, Clock clock) {
        this.views = views;
        this.records = records;
        this.changing = changing;
        this.changes = changes;
        this.clock = clock;
    }

    /**
     * What a field is set to: one of the two.
     *
     * @param typed as one would type it; nothing empties the field
     * @param formula what it comes to for each record
     */
    record SetTo(@Nullable String typed, @Nullable String formula) {}

    /**
     * A change of many records.
     *
     * @param ids which ones; none for all that are found
     * @param where those that match all of these, each {@code column:criterion}
     * @param any and have that in any field
     * @param set by column, what it is set to
     * @param rehearse whether nothing is kept
     */
    record ChangesAsked(
            @Nullable List<Long> ids,
            @Nullable List<String> where,
            @Nullable String any,
            Map<String, SetTo> set,
            @Nullable Boolean rehearse) {}

    /** A record that changes: the columns that do, before and after. */
    record Example(long row, Map<String, Value> before, Map<String, Value> after) {}

    /**
     * Something in the way of a record, which stays as it is.
     *
     * @param row the row of the record
     */
    record RowFinding(
            long row, String field, Finding.Code code, Finding.Severity severity, String message, String rule) {}

    /**
     * What a change comes to.
     *
     * @param id by which it can be taken back; none where nothing was kept
     * @param count how many records were meant
     * @param changed how many of them change
     * @param stopped how many stay as they are, since something is in the way
     * @param examples ten of those that change
     * @param findings what is in the way, of a hundred at most
     */
    record ChangesMade(
            @Nullable Long id,
            int count,
            int changed,
            int stopped,
            List<Example> examples,
            List<RowFinding> findings) {}

    @PostMapping("/api/doors/{door}/changes")
    @Needs(May.CHANGE)
    ChangesMade change(Way door, @RequestBody ChangesAsked asked) {
        if (asked.set().isEmpty()) {
            throw new Faults("set", "Say which field is set to what.");
        }
        var settings = asked.set().entrySet().stream()
                .map(each -> ChangingMany.setting(
                        door,
                        each.getKey(),
                        Optional.ofNullable(each.getValue().typed()),
                        Optional.ofNullable(each.getValue().formula())))
                .toList();
        var meant = meant(door, asked);
        var outcome = made(door, meant, settings, !Boolean.TRUE.equals(asked.rehearse()));
        var left = new ArrayList<RowFinding>();
        outcome.left().forEach(each -> findings(door, each.row(), each.findings(), left));
        return new ChangesMade(
                outcome.id().isPresent() ? outcome.id().getAsLong() : null,
                meant.size(),
                outcome.changes().size(),
                Math.toIntExact(outcome.left().stream()
                        .map(ChangingMany.Left::row)
                        .distinct()
                        .count()),
                outcome.changes().stream()
                        .limit(EXAMPLES)
                        .map(change -> new Example(
                                change.row(),
                                door.narrowing().of(change.before()).it(),
                                door.narrowing().of(change.after()).it()))
                        .toList(),
                left.stream().limit(FINDINGS).toList());
    }

    private ChangingMany.ManyChanged made(
            Way door, List<StoredRow> meant, List<ChangingMany.Setting> settings, boolean keeps) {
        try {
            return changing.set(door, meant, settings, keeps);
        } catch (Stale changed) {
            throw new Problem(
                    HttpStatus.CONFLICT,
                    "Somebody changed one of these records just now. Nothing was changed; try again.");
        }
    }

    private static void findings(Way door, long row, Findings findings, List<RowFinding> all) {
        door.narrowing()
                .of(findings)
                .it()
                .forEach(finding -> all.add(new RowFinding(
                        row, finding.field(), finding.code(), finding.severity(), finding.message(), finding.rule())));
    }

    /** The records meant, of those in view; 422 when they are too many. */
    private List<StoredRow> meant(Way door, ChangesAsked asked) {
        var seen = door.shown().seen();
        var found = new ArrayList<StoredRow>();
        if (asked.ids() != null) {
            tooMany(asked.ids().size());
            asked.ids().stream().distinct().forEach(id -> records.find(seen, id).ifPresent(found::add));
            return found;
        }
        if (asked.where() == null && asked.any() == null) {
            throw new Faults("ids", "Say which records are changed: their ids, or where they are found.");
        }
        var where = asked.where() == null ? List.<String>of() : asked.where();
        var view = FindRequest.of(door.shown(), where, asked.any(), null, clock).view();
        var after = Optional.<String>empty();
        do {
            var page = views.page(seen, view, after, PAGE);
            tooMany(
                    page.total().exact()
                            ? page.total().count()
                            : found.size() + page.records().size());
            found.addAll(page.records());
            after = page.next().map(cursor -> cursor.wire());
        } while (after.isPresent());
        return found;
    }

    private static void tooMany(long records) {
        if (records > MOST) {
            throw new Faults("where", "Up to %,d records are changed as one. Find fewer of them.".formatted(MOST));
        }
    }

    /** How many records are again what they were. */
    record TakenBack(int records) {}

    @PostMapping("/api/doors/{door}/changes/{id}/take-back")
    @Needs(May.CHANGE)
    TakenBack takeBack(Way door, @PathVariable long id) {
        try {
            var records =
                    changes.takeBack(door.saving().table(), id, door.pass().by(), columns -> letsChange(door, columns));
            if (records.isEmpty()) {
                throw Problem.unknown("change " + id + " of yours");
            }
            return new TakenBack(records.getAsInt());
        } catch (NotSaved refused) {
            throw LastWord.stopped(refused, door.saving().table().definition());
        }
    }

    private static boolean letsChange(Way door, Set<String> columns) {
        var values = columns.stream().collect(Collectors.toMap(column -> column, _ -> Value.EMPTY));
        var locked = door.pass().door().fields().locked();
        // What rules put into a locked field changes with what they follow.
        return door.narrowing().of(values).it().size() == columns.size()
                && door.saving().plan().nodes().stream()
                        .filter(node ->
                                node.bring().isEmpty() && node.calculated().isEmpty())
                        .map(node -> node.column().name())
                        .noneMatch(column -> columns.contains(column) && locked.contains(column));
    }
}
