package weft.store.entry;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import weft.core.entry.Assessment;
import weft.core.entry.Batch;
import weft.core.entry.EntryEngine;
import weft.core.entry.draft.Findings;
import weft.core.value.Value;
import weft.store.Attempts;
import weft.store.record.EntryWriter;
import weft.store.record.NotSaved;
import weft.store.record.Stale;

/** Changes many records as one, by the rules that hold for each of them alone. */
public final class ChangingMany {

    private final Batch batch;
    private final Saving saving;
    private final EntryWriter writer;

    /** Each record goes the way of a single change. */
    public ChangingMany(EntryEngine engine, Saving saving, EntryWriter writer) {
        this.batch = new Batch(engine);
        this.saving = saving;
        this.writer = writer;
    }

    /** A record that is to be changed: its row, and the change as it would be sent alone. */
    public record Wanted(long row, Sent sent) {}

    /** A record that changes: its row, and the columns that do, before and after. */
    public record Change(long row, Map<String, Value> before, Map<String, Value> after) {}

    /** A record that stays as it is, since something is in the way. */
    public record Left(long row, Findings findings) {}

    /**
     * What a change of many comes to.
     *
     * @param id by which it can be taken back; empty when nothing was written
     */
    public record Outcome(OptionalLong id, List<Change> changes, List<Left> left) {}

    private record Ready(Wanted wanted, Change change, EntryWriter.Part part) {}

    /**
     * What would change, and what would be in the way. Nothing is written.
     *
     * @param wanted one at least, all by one form
     */
    public Outcome rehearse(List<Wanted> wanted) {
        var left = new ArrayList<Left>();
        var ready = ready(wanted, left);
        return new Outcome(
                OptionalLong.empty(), ready.stream().map(Ready::change).toList(), left);
    }

    /**
     * Changes those that nothing is in the way of, in one transaction; the others stay as they are.
     *
     * @throws Stale when somebody changed one of them meanwhile; nothing is changed then
     */
    public Outcome change(List<Wanted> wanted) {
        try {
            // What was lost in a race is seen at the next try.
            return Attempts.of(() -> changed(wanted), e -> e instanceof NotSaved);
        } catch (NotSaved refused) {
            throw LastWord.stopped(
                    refused, wanted.getFirst().sent().form().table().definition());
        }
    }

    private Outcome changed(List<Wanted> wanted) {
        var left = new ArrayList<Left>();
        var ready = ready(wanted, left);
        if (ready.isEmpty()) {
            return new Outcome(OptionalLong.empty(), List.of(), left);
        }
        var changed = writer.changeAll(ready.stream().map(Ready::part).toList());
        return new Outcome(
                OptionalLong.of(changed.id()), ready.stream().map(Ready::change).toList(), left);
    }

    private List<Ready> ready(List<Wanted> wanted, List<Left> left) {
        var ready = new ArrayList<Ready>();
        var form = wanted.getFirst().sent().form();
        var drafts = wanted.stream().map(each -> each.sent().draft()).toList();
        var assessments = batch.eachAlone(form.plan(), drafts, saving.rows(form));
        for (int at = 0; at < wanted.size(); at++) {
            var each = wanted.get(at);
            var sent = each.sent();
            var assessment = assessments.get(at);
            var change = change(each, assessment);
            if (change.after().isEmpty()) {
                continue;
            }
            if (!assessment.findings().none()) {
                left.add(new Left(each.row(), assessment.findings()));
                continue;
            }
            try {
                ready.add(new Ready(each, change, saving.part(sent, assessment)));
            } catch (Stopped stopped) {
                left.add(new Left(each.row(), stopped.findings()));
            }
        }
        return ready;
    }

    private static Change change(Wanted wanted, Assessment assessment) {
        var stored = wanted.sent().draft().stored();
        var before = new LinkedHashMap<String, Value>();
        var after = new LinkedHashMap<String, Value>();
        assessment.values().forEach((column, value) -> {
            var was = stored.getOrDefault(column, Value.EMPTY);
            if (!was.equals(value)) {
                before.put(column, was);
                after.put(column, value);
            }
        });
        // What cannot be read changes nothing, and is told all the same.
        if (after.isEmpty() && assessment.findings().stop()) {
            assessment.findings().fields().forEach(column -> after.put(column, Value.EMPTY));
        }
        return new Change(wanted.row(), before, after);
    }
}
