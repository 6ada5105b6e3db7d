package weft.server.bench;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.node.ObjectNode;
import weft.core.door.Person;
import weft.core.entry.EntryEngine;
import weft.core.entry.plan.EntryPlan;
import weft.core.find.Sort;
import weft.core.find.View;
import weft.core.formula.Answer;
import weft.core.formula.Formula;
import weft.core.formula.Pattern;
import weft.core.rule.Rules;
import weft.server.entry.AssessmentJson;
import weft.server.entry.DraftJson;
import weft.server.entry.Drafts;
import weft.server.form.Copy;
import weft.server.http.Problem;
import weft.store.entry.Saving;
import weft.store.find.Cursor;
import weft.store.find.Views;
import weft.store.form.Definitions;
import weft.store.form.ReadyForm;
import weft.store.form.RulesJson;
import weft.store.record.Records;

/** What builders try at the Bench: the working copy on a draft, a formula on it, a check on the stored records. */
@RestController
class TryApi {

    private static final int EXAMPLES = 10;
    private static final int PAGE = 1_000;

    /** So long one request looks, in nanoseconds; the next one goes on from there. */
    private static final long LOOKING = 400_000_000;

    private final Drafts drafts;
    private final Saving saving;
    private final EntryEngine engine;
    private final Records records;
    private final Definitions definitions;
    private final Views views;

    TryApi(Drafts drafts, Saving saving, EntryEngine engine, Records records, Definitions definitions, Views views) {
        this.drafts = drafts;
        this.saving = saving;
        this.engine = engine;
        this.records = records;
        this.definitions = definitions;
        this.views = views;
    }

    record FormulaTry(@Nullable String formula, DraftJson draft) {}

    /** What the formula comes to: in words, or a sentence that says why not. */
    record FormulaCame(String words, @Nullable String fault) {}

    /**
     * What a look at stored records found.
     *
     * @param looked how many were looked at
     * @param broken how many of them break the check
     * @param examples the first of those
     * @param next where the next look goes on; null when all were looked at
     */
    record CheckCame(
            long looked,
            long broken,
            List<Broken> examples,
            @Nullable String next) {}

    record Broken(long row, String message) {}

    record PatternTry(String pattern, String text) {}

    /** Whether the text matches the pattern; or a sentence that says why the pattern can't be read. */
    record PatternCame(boolean matches, @Nullable String fault) {}

    /** As at the Desk, by the rules of the working copy. Nothing is written. */
    @PostMapping("/api/forms/{form}/bench/assess")
    AssessmentJson assess(@Copy ReadyForm form, Person person, @RequestBody DraftJson draft) {
        var sent = drafts.atBench(form, draft, person);
        return AssessmentJson.of(saving.assess(form, sent.draft()));
    }

    /** Of the form, or of the lines of that id on it. */
    private ReadyForm of(ReadyForm form, Optional<String> lines) {
        return lines.map(id -> definitions
                        .lines(form, id)
                        .orElseThrow(() -> Problem.unknown("lines “" + id + "” on this form")))
                .orElse(form);
    }

    @PostMapping("/api/forms/{form}/bench/formula")
    FormulaCame formula(
            @Copy ReadyForm whole,
            @RequestParam(required = false) Optional<String> lines,
            Person person,
            @RequestBody FormulaTry asked) {
        var form = of(whole, lines);
        var sent = drafts.atBench(form, asked.draft(), person);
        try {
            var answer = saving.answer(form, sent.draft(), asked.formula() == null ? "" : asked.formula());
            return answer instanceof Answer.Fault(var sentence)
                    ? new FormulaCame("", sentence)
                    : new FormulaCame(answer.words(), null);
        } catch (Formula.Misread misread) {
            return new FormulaCame("", misread.sentence());
        }
    }

    /** Whether a text would pass a pattern. */
    @PostMapping("/api/forms/{form}/bench/pattern")
    PatternCame pattern(@Copy ReadyForm form, @RequestBody PatternTry asked) {
        try {
            return new PatternCame(Pattern.of(asked.pattern()).matches(asked.text()), null);
        } catch (Formula.Misread misread) {
            return new PatternCame(false, misread.sentence());
        }
    }

    /** Looks at stored records, by row, with a check that need not be kept yet; for some time, so that one sees how far it is. */
    @PostMapping("/api/forms/{form}/bench/look")
    CheckCame look(
            @Copy ReadyForm whole,
            @RequestParam(required = false) Optional<String> lines,
            @RequestParam(required = false) Optional<String> after,
            @RequestBody ObjectNode check) {
        var form = of(whole, lines);
        var alone = new Rules(
                List.of(RulesJson.readCheck(check)), List.of(), List.of(), List.of(), List.of(), List.of(), List.of());
        var table = form.table();
        var plan = EntryPlan.of(form.form().ruled(alone), table.definition());
        if (!plan.faults().isEmpty()) {
            throw Problem.malformed(plan.faults().getFirst().sentence());
        }
        var rows = records.rowsOf(table, definitions);
        var examples = new ArrayList<Broken>();
        long looked = 0;
        long broken = 0;
        var from = after;
        long end = System.nanoTime() + LOOKING;
        do {
            var page = views.page(table, View.all(Sort.BY_ROW), from, PAGE);
            for (var record : page.records()) {
                var findings = engine.broken(plan, record.values(), rows);
                looked++;
                if (!findings.isEmpty()) {
                    broken++;
                    if (examples.size() < EXAMPLES) {
                        examples.add(
                                new Broken(record.row(), findings.getFirst().message()));
                    }
                }
            }
            from = page.next().map(Cursor::wire);
        } while (from.isPresent() && System.nanoTime() < end);
        return new CheckCame(looked, broken, List.copyOf(examples), from.orElse(null));
    }
}
