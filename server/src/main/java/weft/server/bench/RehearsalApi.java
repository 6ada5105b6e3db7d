package weft.server.bench;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.Person;
import weft.core.door.Shown;
import weft.core.entry.draft.Trace;
import weft.core.entry.step.Write;
import weft.core.value.Value;
import weft.server.entry.DraftJson;
import weft.server.entry.Drafts;
import weft.server.entry.FindingJson;
import weft.server.form.Copy;
import weft.store.entry.Rehearsing;
import weft.store.entry.Sent;
import weft.store.form.ReadyForm;
import weft.store.record.EntryWriter.DoneBeside;

/** Rehearsals: drafts run as a save would run them, against the real data, with nothing kept. */
@RestController
class RehearsalApi {

    private final Drafts drafts;
    private final Rehearsing rehearsing;

    RehearsalApi(Drafts drafts, Rehearsing rehearsing) {
        this.drafts = drafts;
        this.rehearsing = rehearsing;
    }

    /**
     * A line of the run sheet.
     *
     * @param about the column, or the id of the rule, that it speaks of; empty for the whole entry
     * @param rule the id of the check, fill or constraint, or the column of the choice list, that it comes from; else empty
     */
    record RunLine(Trace.Stage stage, Trace.Mark mark, String about, String rule, String text, long micros) {
        static RunLine of(Trace.Line line) {
            return new RunLine(line.stage(), line.mark(), line.about(), line.rule(), line.text(), line.micros());
        }
    }

    /** What would be written. */
    enum WriteKind {
        /** The entry itself. */
        ROW,
        ADDED,
        CHANGED,
        REMOVED,
        MESSAGE
    }

    /** Something that would be written: a row of this or another table, or a message. Its row is null where there is none, or none yet. */
    record WriteJson(WriteKind what, String table, @Nullable Long row, Map<String, Value> values) {
        static WriteJson of(DoneBeside done) {
            return switch (done.write()) {
                case Write.Add(var table, var values) ->
                    new WriteJson(WriteKind.ADDED, table, done.row() == 0 ? null : done.row(), values);
                case Write.AddAll(var table, var rows) ->
                    new WriteJson(WriteKind.ADDED, table, done.row(), rows.getFirst());
                case Write.Remove(var table, long _, int _, long _) ->
                    new WriteJson(WriteKind.REMOVED, table, done.row(), Map.of());
                case Write.Change(var table, long _, int _, long _, var values) ->
                    new WriteJson(WriteKind.CHANGED, table, done.row(), values);
                case Write.Message(var to, var subject, var text) ->
                    new WriteJson(
                            WriteKind.MESSAGE,
                            "",
                            null,
                            Map.of(
                                    "to", new Value.Text(to),
                                    "subject", new Value.Text(subject),
                                    "text", new Value.Text(text)));
            };
        }
    }

    /**
     * What would come of a draft.
     *
     * @param row the row it would be written in; none when something is in its way
     * @param writes what would be written; when something is in its way, what would be if that were let through
     */
    record RunSheet(@Nullable Long row, List<RunLine> steps, List<WriteJson> writes, List<FindingJson> findings) {}

    /** A practice entry and what came of it. */
    record PracticeRun(String id, String name, boolean asExpected, String words) {}

    @PostMapping("/api/forms/{form}/rehearse")
    RunSheet rehearse(@PathVariable String form, Person person, @RequestBody DraftJson draft) {
        return rehearsed(drafts.rehearsed(form, draft, person));
    }

    /** By the rules of the working copy. */
    @PostMapping("/api/forms/{form}/bench/rehearse")
    RunSheet rehearseAtBench(@Copy ReadyForm form, Person person, @RequestBody DraftJson draft) {
        return rehearsed(drafts.atBench(form, draft, person));
    }

    /** Runs the practice entries of the working copy. */
    @PostMapping("/api/forms/{form}/bench/practice")
    List<PracticeRun> practice(@Copy ReadyForm form) {
        return rehearsing.practise(form).stream()
                .map(each ->
                        new PracticeRun(each.practice().id(), each.practice().name(), each.asExpected(), each.words()))
                .toList();
    }

    private RunSheet rehearsed(Sent sent) {
        var rehearsed = rehearsing.rehearse(sent);
        var own = rehearsed.would().record();
        var writes = new ArrayList<WriteJson>();
        writes.add(new WriteJson(WriteKind.ROW, sent.form().table().definition().name(), own.row(), own.values()));
        rehearsed.would().beside().forEach(done -> writes.add(WriteJson.of(done)));
        return new RunSheet(
                rehearsed.kept().map(kept -> kept.record().row()).orElse(null),
                rehearsed.lines().stream().map(RunLine::of).toList(),
                writes,
                FindingJson.of(Shown.whole(rehearsed.findings())));
    }
}
