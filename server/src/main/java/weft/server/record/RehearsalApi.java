package weft.server.record;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.StringNode;
import weft.core.entry.Assessment;
import weft.core.entry.Draft;
import weft.core.entry.Finding;
import weft.core.entry.Trace;
import weft.core.entry.Trace.Mark;
import weft.core.entry.Trace.Stage;
import weft.core.entry.Write;
import weft.core.rule.Practice;
import weft.core.rule.Practice.Outcome;
import weft.server.Problems.FindingJson;
import weft.server.Problems.Stopped;
import weft.server.Who;
import weft.server.form.PreparedForms;
import weft.server.form.PreparedForms.Prepared;
import weft.store.record.Entries.Kept;
import weft.store.record.Stale;
import weft.store.record.ValuesJson;

/** Rehearsals: drafts run as a save would run them, against the real data, with nothing kept. */
@RestController
class RehearsalApi {

    private final PreparedForms forms;
    private final Saving saving;

    RehearsalApi(PreparedForms forms, Saving saving) {
        this.forms = forms;
        this.saving = saving;
    }

    /**
     * A line of the run sheet.
     *
     * @param stage read, fill, formula, check, write or after
     * @param mark done, ask, stop or fault
     * @param about the column, or the id of the rule, that it speaks of; empty for the whole entry
     * @param rule the id of the check, fill or constraint, or the column of the choice list, that it comes from; else empty
     */
    record RunLine(String stage, String mark, String about, String rule, String text, long micros) {}

    /** Something that would be written: a row of this or another table, or a message. Its row is null where there is none, or none yet. */
    record WriteJson(
            String what,
            String table,
            @Schema(types = {"integer", "null"}) Long row,
            Map<String, Object> values) {}

    /**
     * What would come of a draft.
     *
     * @param row the row it would be written in; none when something is in its way
     * @param writes what would be written; when something is in its way, what would be if that were let through
     */
    record RunSheet(
            @Schema(types = {"integer", "null"}) Long row,
            List<RunLine> steps,
            List<WriteJson> writes,
            List<FindingJson> findings) {}

    /** A practice entry and what came of it. */
    record PracticeRun(String id, String name, boolean asExpected, String words) {}

    @PostMapping("/api/forms/{form}/rehearse")
    RunSheet rehearse(
            @PathVariable String form,
            @RequestHeader(name = Who.HEADER, required = false) String person,
            @RequestBody DraftJson draft) {
        return rehearsed(draft.sent(forms.published(form, Optional.ofNullable(draft.version())), saving, person));
    }

    /** By the rules of the working copy. */
    @PostMapping("/api/forms/{form}/bench/rehearse")
    RunSheet rehearseAtBench(
            @PathVariable String form,
            @RequestHeader(name = Who.HEADER, required = false) String person,
            @RequestBody DraftJson draft) {
        var prepared = forms.workingCopy(form);
        return rehearsed(draft.threaded(prepared).sent(prepared, saving, person));
    }

    /** Runs the practice entries of the working copy. */
    @PostMapping("/api/forms/{form}/bench/practice")
    List<PracticeRun> practice(@PathVariable String form) {
        var prepared = forms.workingCopy(form);
        return prepared.form().rules().practice().stream()
                .map(each -> practised(prepared, each))
                .toList();
    }

    private RunSheet rehearsed(Saving.Sent sent) {
        var trace = Trace.kept();
        var run = run(sent, trace);
        var table = sent.prepared().table().definition();
        run.kept()
                .ifPresent(kept -> trace.add(
                        Stage.WRITE,
                        Mark.DONE,
                        "",
                        () -> "Would write row %d of %s."
                                .formatted(kept.record().row(), table.title())));
        var would = run.kept().orElseGet(() -> saving.letThrough(sent, run.draft(), run.assessment()));
        var writes = new ArrayList<WriteJson>();
        writes.add(new WriteJson(
                "row", table.name(), would.record().row(), would.record().values()));
        would.beside().forEach(done -> writes.add(written(done.write(), done.row())));
        run.findings().stream()
                .filter(finding -> finding.code() == Finding.Code.QUESTION
                        || finding.field().isEmpty())
                .forEach(finding -> trace.add(
                        Stage.AFTER,
                        finding.severity() == Finding.Severity.ASK ? Mark.ASK : Mark.STOP,
                        "",
                        finding::message));
        return new RunSheet(
                run.kept().map(kept -> kept.record().row()).orElse(null),
                trace.lines().stream()
                        .map(line -> new RunLine(
                                line.stage().wire(),
                                line.mark().wire(),
                                line.about(),
                                line.rule(),
                                line.text(),
                                line.micros()))
                        .toList(),
                writes,
                FindingJson.of(run.findings()));
    }

    private static WriteJson written(Write write, long row) {
        return switch (write) {
            case Write.Add(var table, var values) ->
                new WriteJson("added", table, row == 0 ? null : row, ValuesJson.of(values));
            case Write.Change(var table, long _, int _, long _, var values) ->
                new WriteJson("changed", table, row, ValuesJson.of(values));
            case Write.Message(var to, var subject, var text) ->
                new WriteJson("message", "", null, Map.of("to", to, "subject", subject, "text", text));
        };
    }

    /** What came of a draft: what would be kept, or what is in the way. */
    private record Run(Draft draft, Assessment assessment, Optional<Kept> kept, List<Finding> findings) {}

    private Run run(Saving.Sent sent, Trace trace) {
        var draft = saving.draft(sent);
        var assessment = saving.assess(sent.prepared(), draft, trace);
        if (!assessment.findings().all().isEmpty()) {
            return new Run(
                    draft, assessment, Optional.empty(), assessment.findings().all());
        }
        try {
            return new Run(draft, assessment, Optional.of(saving.rehearse(sent, draft, assessment, trace)), List.of());
        } catch (Stopped stopped) {
            var findings = new ArrayList<Finding>();
            stopped.findings().forEach(findings::add);
            return new Run(draft, assessment, Optional.empty(), findings);
        } catch (Stale stale) {
            return new Run(
                    draft,
                    assessment,
                    Optional.empty(),
                    List.of(Finding.stop(
                            "", Finding.Code.UNIQUE, "Somebody else is changing the same row just now. Try again.")));
        }
    }

    private PracticeRun practised(Prepared prepared, Practice practice) {
        var values = new LinkedHashMap<String, JsonNode>();
        practice.typed().forEach((column, text) -> {
            if (prepared.plan().takes(column).isPresent()) {
                values.put(column, StringNode.valueOf(text));
            }
        });
        var run = run(
                new Saving.Sent(
                        prepared,
                        values,
                        OptionalLong.empty(),
                        0,
                        new Draft.Around("practice", Map.of(), Map.of(), practice.answers()),
                        Optional.empty()),
                Trace.none());
        var words = different(practice, run);
        return new PracticeRun(practice.id(), practice.name(), words.isEmpty(), words.orElse(came(run)));
    }

    private static String came(Run run) {
        return run.kept()
                .map(kept -> "Saved, in row " + kept.record().row() + " if it were kept.")
                .orElseGet(() -> run.findings().getFirst().message());
    }

    /** How what came differs from what was expected; empty when it does not. */
    private static Optional<String> different(Practice practice, Run run) {
        var outcome = run.kept().isPresent()
                ? Outcome.SAVED
                : run.findings().stream().anyMatch(finding -> finding.severity() == Finding.Severity.STOP)
                        ? Outcome.STOPPED
                        : Outcome.ASKED;
        if (outcome != practice.outcome()) {
            return Optional.of("Expected to be %s, but it is %s. %s"
                    .formatted(spoken(practice.outcome()), spoken(outcome), came(run)));
        }
        if (outcome == Outcome.SAVED) {
            var stored = run.kept().orElseThrow().record().values();
            return practice.values().entrySet().stream()
                    .filter(each -> !each.getValue().equals(plain(stored.get(each.getKey()))))
                    .findFirst()
                    .map(each -> "%s was expected to be “%s”, and is “%s”."
                            .formatted(each.getKey(), each.getValue(), plain(stored.get(each.getKey()))));
        }
        return practice.code().isEmpty()
                        || run.findings().stream()
                                .anyMatch(finding -> finding.code().wire().equals(practice.code())
                                        || finding.rule().equals(practice.code()))
                ? Optional.empty()
                : Optional.of("Expected “%s”, but: %s".formatted(practice.code(), came(run)));
    }

    private static String plain(Object value) {
        return value == null ? "" : value.toString();
    }

    private static String spoken(Outcome outcome) {
        return switch (outcome) {
            case SAVED -> "saved";
            case STOPPED -> "stopped";
            case ASKED -> "asked about";
        };
    }
}
