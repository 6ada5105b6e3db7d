package weft.server.record;

import java.time.Clock;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.stream.Stream;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import weft.core.entry.Assessment;
import weft.core.entry.Draft;
import weft.core.entry.EntryEngine;
import weft.core.entry.StepRun;
import weft.core.entry.StoredRows;
import weft.core.entry.Trace;
import weft.core.entry.Write;
import weft.core.rule.Step.Steps;
import weft.core.value.Value;
import weft.server.Problems.Problem;
import weft.server.Problems.Stopped;
import weft.server.form.PreparedForms;
import weft.server.form.PreparedForms.Prepared;
import weft.store.record.Entries;
import weft.store.record.Entries.Kept;
import weft.store.record.NotSaved;
import weft.store.record.Records;
import weft.store.record.SaveKey;
import weft.store.record.StoredRecord;
import weft.store.record.ValuesJson;

/** The one way of an entry from what was typed to what is stored: assessed, asked about, written with all that goes with it. */
@Component
class Saving {

    private final EntryEngine engine;
    private final Records records;
    private final Entries entries;
    private final PreparedForms forms;
    private final Clock clock;

    Saving(EntryEngine engine, Records records, Entries entries, PreparedForms forms, Clock clock) {
        this.engine = engine;
        this.records = records;
        this.entries = entries;
        this.forms = forms;
        this.clock = clock;
    }

    /**
     * What came with a request.
     *
     * @param values what is typed, by column
     * @param record the record that is changed; empty for a new entry
     * @param version the version of that record that was seen
     */
    record Sent(
            Prepared prepared,
            Map<String, JsonNode> values,
            OptionalLong record,
            int version,
            Draft.Around around,
            Optional<SaveKey> key) {

        Sent under(Optional<SaveKey> saved) {
            return new Sent(prepared, values, record, version, around, saved);
        }

        Sent seen(int latest) {
            return new Sent(prepared, values, record, latest, around, key);
        }

        String when() {
            return record.isEmpty() ? Steps.SAVED : Steps.CHANGED;
        }
    }

    /** A saved entry, and what the Desk does next. */
    record Saved(StoredRecord record, List<StepRun.Then> then) {}

    /** What a request says is typed, with what rules may ask for beside it. */
    Draft draft(Sent sent) {
        var table = sent.prepared().table();
        Map<String, Value> stored = sent.record().isEmpty()
                ? Map.of()
                : records.find(table, sent.record().getAsLong())
                        .map(record -> ValuesJson.values(record.values(), table.definition()))
                        .orElseThrow(
                                () -> Problem.unknown("record " + sent.record().getAsLong()));
        return TypedJson.draft(sent.prepared().plan(), sent.values(), sent.record(), stored, sent.around());
    }

    Assessment assess(Prepared prepared, Draft draft, Trace trace) {
        return engine.assess(prepared.plan(), draft, rows(prepared), trace);
    }

    private StoredRows rows(Prepared prepared) {
        return records.rowsOf(prepared.table(), forms::find);
    }

    /** The values of the last entry of a sitting; none when it is gone. */
    Map<String, Value> last(Prepared prepared, Long id) {
        return id == null
                ? Map.of()
                : records.find(prepared.table(), id)
                        .map(record -> ValuesJson.values(
                                record.values(), prepared.table().definition()))
                        .orElse(Map.of());
    }

    /**
     * Saves a new entry or a change.
     *
     * @throws Stopped when something is in the way: a stop, or an ask that is not answered
     */
    Saved save(Sent sent) {
        var draft = draft(sent);
        return save(sent, draft, sent.when());
    }

    /** The same, with the steps of that place. */
    Saved save(Sent sent, Draft draft, String when) {
        var assessment = assess(sent.prepared(), draft, Trace.none());
        if (!assessment.findings().all().isEmpty()) {
            // An entry that was saved before under its key may well collide with itself by now.
            return sent.key()
                    .flatMap(key -> before(sent.prepared(), key))
                    .map(record -> new Saved(record, List.of()))
                    .orElseThrow(() -> new Stopped(assessment.findings()));
        }
        var by = draft.around().person();
        try {
            if (sent.prepared().plan().plain(when) && assessment.backs().isEmpty()) {
                return new Saved(plainly(sent, assessment, by), List.of());
            }
            var following = new Following(sent, draft, assessment, when, Trace.none());
            following.ahead();
            return new Saved(
                    entries.save(entry(sent, assessment, by), following).record(), following.then);
        } catch (NotSaved e) {
            // Whatever it was that failed, a save done before under this key is the answer.
            return sent.key()
                    .flatMap(key -> before(sent.prepared(), key))
                    .map(record -> new Saved(record, List.of()))
                    .orElseThrow(() -> refusal(e, sent, draft));
        }
    }

    private StoredRecord plainly(Sent sent, Assessment assessment, String by) {
        return sent.record().isEmpty()
                ? records.save(sent.prepared().table(), assessment.values(), sent.key(), by)
                : records.change(
                        sent.prepared().table(), sent.record().getAsLong(), sent.version(), assessment.values(), by);
    }

    /**
     * Does all that a save does, by the same code, and keeps nothing.
     *
     * @throws Stopped when something is in the way
     */
    Kept rehearse(Sent sent, Draft draft, Assessment assessment, Trace trace) {
        var following = new Following(sent, draft, assessment, sent.when(), trace);
        following.ahead();
        try {
            return entries.rehearse(entry(sent, assessment, draft.around().person()), following);
        } catch (NotSaved e) {
            throw refusal(e, sent, draft);
        }
    }

    /**
     * What would be written if nothing that was found were in the way. It is worked out and not tried, since the database
     * would not let it through either: rows are those that come next, 0 for a second one of the same table.
     */
    Kept letThrough(Sent sent, Draft draft, Assessment assessment) {
        var table = sent.prepared().table();
        var values = new LinkedHashMap<>(draft.stored());
        values.putAll(assessment.values());
        long row = sent.record().isEmpty()
                ? records.nextRow(table)
                : records.find(table, sent.record().getAsLong()).orElseThrow().row();
        var steps = engine.steps(
                sent.prepared().plan(), sent.when(), draft, values, row, rows(sent.prepared()), Trace.none());
        var given = new HashSet<>(Set.of(table.definition().name()));
        return new Kept(
                new StoredRecord(0, row, 0, ValuesJson.of(values)),
                Stream.concat(steps.writes().stream(), assessment.backs().stream())
                        .map(write -> new Entries.Done(write, row(write, given)))
                        .toList());
    }

    private long row(Write write, Set<String> given) {
        return switch (write) {
            case Write.Add(var to, var _) ->
                given.add(to) ? forms.find(to).map(records::nextRow).orElse(0L) : 0;
            case Write.Change(var _, long _, int _, long row, var _) -> row;
            case Write.Message _ -> 0;
        };
    }

    private Entries.Entry entry(Sent sent, Assessment assessment, String by) {
        return new Entries.Entry(
                sent.prepared().form().id(),
                sent.prepared().table(),
                assessment.values(),
                sent.record(),
                sent.version(),
                sent.key(),
                sent.prepared().plan().numbers(),
                LocalDate.now(clock),
                by);
    }

    /** What goes with an entry: its steps, and what is written back to where it was filled from. */
    private final class Following implements Entries.Following {
        private final Sent sent;
        private final Draft draft;
        private final Assessment assessment;
        private final String when;
        private final Trace trace;
        private List<StepRun.Then> then = List.of();

        Following(Sent sent, Draft draft, Assessment assessment, String when, Trace trace) {
            this.sent = sent;
            this.draft = draft;
            this.assessment = assessment;
            this.when = when;
            this.trace = trace;
        }

        /** Goes through the steps before anything is written, so that what they ask is asked first. */
        void ahead() {
            var values = new LinkedHashMap<>(draft.stored());
            values.putAll(assessment.values());
            run(values, 0, rows(sent.prepared()), Trace.none());
        }

        @Override
        public List<Write> of(StoredRecord written, StoredRows rows) {
            var values =
                    ValuesJson.values(written.values(), sent.prepared().table().definition());
            var outcome = run(values, written.row(), rows, trace);
            then = outcome.then();
            var writes = new ArrayList<>(outcome.writes());
            writes.addAll(assessment.backs());
            return writes;
        }

        private StepRun.Outcome run(Map<String, Value> values, long row, StoredRows rows, Trace told) {
            var outcome = engine.steps(sent.prepared().plan(), when, draft, values, row, rows, told);
            if (outcome.question().isPresent()) {
                throw new Stopped(outcome.question().get());
            }
            // Before there is a row, what is worked out from it is empty yet, and proves nothing.
            if (row > 0 && outcome.findings().stop()) {
                throw new Stopped(outcome.findings());
            }
            return outcome;
        }
    }

    private Optional<StoredRecord> before(Prepared prepared, SaveKey key) {
        try {
            return records.savedBefore(prepared.table(), key);
        } catch (NotSaved reused) {
            throw keyReused();
        }
    }

    /** The database had the last word: what it refused comes back as findings on the fields concerned. */
    private RuntimeException refusal(NotSaved e, Sent sent, Draft draft) {
        if (e.reason() == NotSaved.Reason.KEY_REUSED) {
            return keyReused();
        }
        if (!e.elsewhere().isEmpty()) {
            return LastWord.elsewhere(e);
        }
        // What was lost in a race is there to be seen now.
        var again = assess(sent.prepared(), draft, Trace.none()).findings();
        return again.stop()
                ? new Stopped(again)
                : LastWord.stopped(e, sent.prepared().table().definition());
    }

    private static Problem keyReused() {
        return new Problem(
                HttpStatus.UNPROCESSABLE_CONTENT,
                "This Idempotency-Key was used for another entry. Send a new entry under a new key.");
    }
}
