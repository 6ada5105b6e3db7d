package weft.server.record;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import weft.core.entry.EntryEngine;
import weft.core.entry.EntryPlan;
import weft.core.find.Sort;
import weft.core.find.View;
import weft.core.formula.Answer;
import weft.core.formula.Formula;
import weft.core.rule.Check;
import weft.core.rule.Rules;
import weft.server.Problems.Problem;
import weft.server.Who;
import weft.server.form.PreparedForms;
import weft.store.find.Cursor;
import weft.store.find.Views;
import weft.store.form.RulesJson;
import weft.store.record.Records;
import weft.store.record.ValuesJson;

/** What builders try at the Bench: a formula on the draft, a check on the stored records. */
@RestController
class TryApi {

    private static final int EXAMPLES = 10;
    private static final int PAGE = 1_000;

    /** So long one request looks, in nanoseconds; the next one goes on from there. */
    private static final long LOOKING = 400_000_000;

    private final PreparedForms forms;
    private final Saving saving;
    private final EntryEngine engine;
    private final Records records;
    private final Views views;

    TryApi(PreparedForms forms, Saving saving, EntryEngine engine, Records records, Views views) {
        this.forms = forms;
        this.saving = saving;
        this.engine = engine;
        this.records = records;
        this.views = views;
    }

    record FormulaTry(String formula, DraftJson draft) {}

    /** What the formula comes to: in words, or a sentence that says why not. */
    record FormulaCame(
            String words,
            @Schema(types = {"string", "null"}) String fault) {}

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
            @Schema(types = {"string", "null"}) String next) {}

    record Broken(long row, String message) {}

    @PostMapping("/api/forms/{form}/bench/formula")
    FormulaCame formula(
            @PathVariable String form,
            @RequestHeader(name = Who.HEADER, required = false) String person,
            @RequestBody FormulaTry asked) {
        var prepared = forms.workingCopy(form);
        try {
            var draft = saving.draft(asked.draft().threaded(prepared).sent(prepared, saving, person));
            var answer = engine.answer(
                    prepared.plan(),
                    draft,
                    records.rowsOf(prepared.table(), forms::find),
                    asked.formula() == null ? "" : asked.formula());
            return answer instanceof Answer.Fault(var sentence)
                    ? new FormulaCame("", sentence)
                    : new FormulaCame(answer.words(), null);
        } catch (Formula.Misread misread) {
            return new FormulaCame("", misread.getMessage());
        }
    }

    /** Looks at stored records, by row, with a check that need not be kept yet; for some time, so that one sees how far it is. */
    @PostMapping("/api/forms/{form}/bench/look")
    CheckCame look(
            @PathVariable String form,
            @RequestParam(required = false) Optional<String> after,
            @RequestBody JsonNode check) {
        var prepared = forms.workingCopy(form);
        var alone = new Rules(List.of(read(check)), List.of(), List.of(), List.of(), List.of(), List.of(), List.of());
        var table = prepared.table();
        var plan = EntryPlan.of(prepared.form().ruled(alone), table.definition());
        if (!plan.faults().isEmpty()) {
            throw Problem.malformed(plan.faults().getFirst().sentence());
        }
        var rows = records.rowsOf(table, forms::find);
        var examples = new ArrayList<Broken>();
        long looked = 0;
        long broken = 0;
        var from = after;
        long end = System.nanoTime() + LOOKING;
        do {
            var page = views.page(table, View.all(Sort.BY_ROW), from, PAGE);
            for (var record : page.records()) {
                var findings = engine.broken(plan, ValuesJson.values(record.values(), table.definition()), rows);
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

    private static Check read(JsonNode check) {
        try {
            return RulesJson.readCheck(check);
        } catch (JacksonException e) {
            throw Problem.malformed("This is no check.");
        }
    }
}
