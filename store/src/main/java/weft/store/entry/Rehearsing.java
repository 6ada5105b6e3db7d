package weft.store.entry;

import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import weft.core.entry.Assessment;
import weft.core.entry.draft.Cause;
import weft.core.entry.draft.Draft;
import weft.core.entry.draft.Finding;
import weft.core.entry.draft.Findings;
import weft.core.entry.draft.Trace;
import weft.core.entry.draft.Trace.Mark;
import weft.core.entry.draft.Trace.Stage;
import weft.core.entry.step.Write;
import weft.core.record.StoredRow;
import weft.core.rule.Practice;
import weft.core.rule.Practice.Outcome;
import weft.core.value.Typed;
import weft.core.value.Wire;
import weft.store.form.Definitions;
import weft.store.form.ReadyForm;
import weft.store.record.EntryWriter.DoneBeside;
import weft.store.record.EntryWriter.Written;
import weft.store.record.Records;
import weft.store.record.Stale;
import weft.store.table.SeenTable;

/** Runs drafts as a save would run them, against the real data, with nothing kept. */
public final class Rehearsing {

    private final Saving saving;
    private final Records records;
    private final Definitions definitions;

    /** With these parts of the house. */
    public Rehearsing(Saving saving, Records records, Definitions definitions) {
        this.saving = saving;
        this.records = records;
        this.definitions = definitions;
    }

    /**
     * What came of a draft.
     *
     * @param kept what would be kept; empty when something is in the way
     * @param findings what is in the way
     * @param would what would be written; when something is in the way, what would be if that were let through
     * @param lines the run sheet
     */
    public record Rehearsed(Optional<Written> kept, Findings findings, Written would, List<Trace.Line> lines) {}

    /**
     * A practice entry and what came of it.
     *
     * @param words what came, and how it differs from what was expected, where it does
     */
    public record Practised(Practice practice, boolean asExpected, String words) {}

    private record Run(Assessment assessment, Optional<Written> kept, Findings findings) {}

    /** Runs a draft. */
    public Rehearsed rehearse(Sent sent) {
        var trace = Trace.kept();
        var run = run(sent, trace);
        var title = sent.form().table().definition().title();
        run.kept()
                .ifPresent(kept -> trace.add(
                        Stage.WRITE,
                        Mark.DONE,
                        "",
                        () -> "Would write row %d of %s."
                                .formatted(kept.record().row(), title)));
        run.findings().all().stream()
                .filter(finding -> finding.code() == Finding.Code.QUESTION
                        || finding.field().isEmpty())
                .forEach(finding ->
                        trace.add(Stage.AFTER, finding.stops() ? Mark.STOP : Mark.ASK, "", finding::message));
        var would = run.kept().orElseGet(() -> letThrough(sent, run.assessment()));
        return new Rehearsed(run.kept(), run.findings(), would, trace.lines());
    }

    /** Runs the practice entries of a form. */
    public List<Practised> practise(ReadyForm form) {
        return form.form().rules().practice().stream()
                .map(practice -> practised(form, practice))
                .toList();
    }

    private Run run(Sent sent, Trace trace) {
        var assessment = saving.assess(sent.form(), sent.draft(), trace);
        if (!assessment.findings().none()) {
            return new Run(assessment, Optional.empty(), assessment.findings());
        }
        try {
            return new Run(assessment, Optional.of(saving.rehearse(sent, assessment, trace)), Findings.NONE);
        } catch (Stopped stopped) {
            return new Run(assessment, Optional.empty(), stopped.findings());
        } catch (Stale stale) {
            return new Run(assessment, Optional.empty(), Findings.of(Finding.stop("", new Cause.Busy())));
        }
    }

    /**
     * It is worked out and not tried, since the database would not let it through either: rows are those that come next, 0
     * for a second one of the same table.
     */
    private Written letThrough(Sent sent, Assessment assessment) {
        var table = sent.form().table();
        var changed = sent.draft().record();
        long row = changed.isEmpty()
                ? records.nextRow(table)
                : records.find(SeenTable.all(table), changed.getAsLong())
                        .orElseThrow()
                        .row();
        var given = new HashSet<>(Set.of(table.definition().name()));
        return new Written(
                new StoredRow(0, row, 0, Saving.values(sent.draft(), assessment)),
                saving.letThrough(sent, assessment, row).stream()
                        .map(write -> new DoneBeside(write, row(write, given)))
                        .toList(),
                List.of(),
                false);
    }

    private long row(Write write, Set<String> given) {
        return switch (write) {
            case Write.Add(var to, var _) ->
                given.add(to) ? definitions.table(to).map(records::nextRow).orElse(0L) : 0;
            case Write.AddAll(var to, var _) ->
                given.add(to) ? definitions.table(to).map(records::nextRow).orElse(0L) : 0;
            case Write.Change(var _, long _, int _, long row, var _) -> row;
            case Write.Remove(var _, long _, int _, long row) -> row;
            case Write.Message _ -> 0;
        };
    }

    private Practised practised(ReadyForm form, Practice practice) {
        var typed = new LinkedHashMap<String, Typed>();
        practice.typed()
                .forEach((name, text) ->
                        form.plan().takes(name).ifPresent(column -> typed.put(column.name(), new Typed.Keyed(text))));
        var around = new Draft.Around("practice", Map.of(), Map.of(), practice.answers());
        var draft = new Draft(typed, OptionalLong.empty(), Map.of(), around);
        var run = run(new Sent(form, draft, "practice"), Trace.none());
        var different = different(practice, run);
        return new Practised(practice, different.isEmpty(), different.orElseGet(() -> came(run)));
    }

    private static String came(Run run) {
        return run.kept()
                .map(kept -> "Saved, in row " + kept.record().row() + " if it were kept.")
                .orElseGet(() -> run.findings().all().getFirst().message());
    }

    /** How what came differs from what was expected; empty when it does not. */
    private static Optional<String> different(Practice practice, Run run) {
        var outcome = run.kept().isPresent() ? Outcome.SAVED : run.findings().stop() ? Outcome.STOPPED : Outcome.ASKED;
        if (outcome != practice.outcome()) {
            return Optional.of("Expected to be %s, but it is %s. %s"
                    .formatted(spoken(practice.outcome()), spoken(outcome), came(run)));
        }
        if (outcome == Outcome.SAVED) {
            var stored = run.kept().orElseThrow().record();
            return practice.values().entrySet().stream()
                    .filter(each ->
                            !each.getValue().equals(stored.of(each.getKey()).plain()))
                    .findFirst()
                    .map(each -> "%s was expected to be “%s”, and is “%s”."
                            .formatted(
                                    each.getKey(),
                                    each.getValue(),
                                    stored.of(each.getKey()).plain()));
        }
        return practice.code().isEmpty()
                        || run.findings().all().stream()
                                .anyMatch(finding -> Wire.word(finding.code()).equals(practice.code())
                                        || finding.rule().equals(practice.code()))
                ? Optional.empty()
                : Optional.of("Expected “%s”, but: %s".formatted(practice.code(), came(run)));
    }

    private static String spoken(Outcome outcome) {
        return switch (outcome) {
            case SAVED -> "saved";
            case STOPPED -> "stopped";
            case ASKED -> "asked about";
        };
    }
}
