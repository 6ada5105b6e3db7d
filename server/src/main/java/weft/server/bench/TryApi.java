package weft.server.bench;

import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.Person;
import weft.core.door.Shown;
import weft.core.entry.RulesSaid;
import weft.core.formula.Answer;
import weft.core.formula.Formula;
import weft.core.formula.Pattern;
import weft.server.entry.AssessmentJson;
import weft.server.entry.DraftJson;
import weft.server.entry.Drafts;
import weft.server.form.Copy;
import weft.store.entry.Saving;
import weft.store.form.Definitions;
import weft.store.form.ReadyForm;

/** What builders try at the Bench: the working copy on a draft, and a formula or a pattern on it. */
@RestController
class TryApi {

    private final Drafts drafts;
    private final Saving saving;
    private final Definitions definitions;

    TryApi(Drafts drafts, Saving saving, Definitions definitions) {
        this.drafts = drafts;
        this.saving = saving;
        this.definitions = definitions;
    }

    record FormulaTry(@Nullable String formula, DraftJson draft) {}

    /** What the formula comes to: in words, or a sentence that says why not. */
    record FormulaCame(String words, @Nullable String fault) {}

    record PatternTry(String pattern, String text) {}

    /** Whether the text matches the pattern; or a sentence that says why the pattern can't be read. */
    record PatternCame(boolean matches, @Nullable String fault) {}

    /** As at the Desk, by the rules of the working copy. Nothing is written. */
    @PostMapping("/api/forms/{form}/bench/assess")
    AssessmentJson assess(@Copy ReadyForm form, Person person, @RequestBody DraftJson draft) {
        var sent = drafts.atBench(form, draft, person);
        return AssessmentJson.of(Shown.whole(saving.assess(form, sent.draft())));
    }

    @PostMapping("/api/forms/{form}/bench/formula")
    FormulaCame formula(
            @Copy ReadyForm whole,
            @RequestParam(required = false) Optional<String> lines,
            Person person,
            @RequestBody FormulaTry asked) {
        var form = OrLines.of(definitions, whole, lines);
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

    /**
     * What a rule says of a draft.
     *
     * @param key the rule, as the state of the working copy names it
     * @param words what it did, in a sentence
     */
    record RuleSaid(String key, RulesSaid.Mark mark, String words) {}

    /** What each rule says of this very draft; nothing of those that do not apply to it. */
    @PostMapping("/api/forms/{form}/bench/said")
    List<RuleSaid> said(@Copy ReadyForm form, Person person, @RequestBody DraftJson draft) {
        var sent = drafts.atBench(form, draft, person);
        return saving.said(form, sent.draft()).stream()
                .map(said -> new RuleSaid(said.key(), said.mark(), said.words()))
                .toList();
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
}
