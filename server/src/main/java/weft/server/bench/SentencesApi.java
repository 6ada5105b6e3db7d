package weft.server.bench;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import weft.core.rule.Declaration;
import weft.core.sentence.Sentences;
import weft.core.sentence.Terms;
import weft.server.form.Copy;
import weft.store.form.Definitions;
import weft.store.form.FormSentences;
import weft.store.form.ReadyForm;

/** Sentences that builders type, read as the rules that they say. Nothing is kept. */
@RestController
class SentencesApi {

    private static final int LONGEST = 100_000;
    private static final int MOST_LINES = 400;
    private static final int MOST_EXAMPLES = 12;

    private final Definitions definitions;
    private final FormSentences sentences;

    SentencesApi(Definitions definitions, FormSentences sentences) {
        this.definitions = definitions;
        this.sentences = sentences;
    }

    /** Sentences, one a line. */
    record SentencesJson(
            @Size(max = LONGEST, message = "Send 100,000 characters at most.")
            String text) {}

    /**
     * A line as it was read.
     *
     * @param line what was typed
     * @param rule the rule as in a form document, without an id; null when unclear
     * @param said the rule as its sentence; null when unclear
     * @param unclear why it can't be read or followed, and what would be right; null when it can
     * @param at the place in the line that is unclear, counted in characters
     */
    record ReadRule(
            String line,
            @Nullable Declaration rule,
            @Nullable RuleJson said,
            @Nullable String unclear,
            int at) {

        static ReadRule of(FormSentences.Read read, Terms terms) {
            return switch (read) {
                case FormSentences.Read.NotClear(var line, var why, int at) -> new ReadRule(line, null, null, why, at);
                case FormSentences.Read.Rule(var line, var rule, var fault) ->
                    new ReadRule(line, rule, RuleJson.of("", rule, new Sentences(terms), terms), fault.orElse(null), 0);
            };
        }
    }

    /**
     * Something that could stand at the end of what is typed.
     *
     * @param from where it begins, counted in characters
     * @param name whether it is a name, rather than a word of the grammar
     */
    record Offer(int from, String text, boolean name) {}

    /**
     * The lines read, and what could follow at the end of the last one.
     *
     * @param examples where nothing is typed, rules that could be, made of the form's own fields
     */
    record SentencesCame(List<ReadRule> read, List<Offer> offers, List<String> examples) {}

    /** Reads sentences for the working copy, or for each line of those on it. */
    @PostMapping("/api/forms/{form}/bench/sentences")
    SentencesCame sentences(
            @Copy ReadyForm whole,
            @RequestParam(required = false) Optional<String> lines,
            @RequestBody @Valid SentencesJson asked) {
        var form = OrLines.of(definitions, whole, lines);
        var terms = sentences.terms(form);
        var typed = asked.text().split("\r?\n");
        var read = List.of(typed).stream()
                .filter(line -> !line.isBlank())
                .limit(MOST_LINES)
                .map(line -> ReadRule.of(sentences.read(line, form, terms), terms))
                .toList();
        var last = typed.length == 0 ? "" : typed[typed.length - 1];
        var said = new Sentences(terms);
        return new SentencesCame(
                read,
                said.completions(last).stream()
                        .map(each -> new Offer(each.from(), each.text(), each.name()))
                        .limit(60)
                        .toList(),
                asked.text().isBlank() ? examples(said, form) : List.of());
    }

    /** Those that can be followed in this form, and that it does not have yet. */
    private List<String> examples(Sentences said, ReadyForm form) {
        var there = form.form().rules().declared().stream()
                .map(each -> said.of(each.rule()).text())
                .toList();
        return said.examples().stream()
                .filter(rule -> sentences.read("", rule, form).fault().isEmpty())
                .map(rule -> said.of(rule).text())
                .filter(text -> !there.contains(text))
                .limit(MOST_EXAMPLES)
                .toList();
    }

    /** How a rule reads, and whether it can be followed. */
    @PostMapping("/api/forms/{form}/bench/rule")
    ReadRule rule(
            @Copy ReadyForm whole,
            @RequestParam(required = false) Optional<String> lines,
            @RequestBody Declaration asked) {
        var form = OrLines.of(definitions, whole, lines);
        return ReadRule.of(sentences.read("", asked, form), sentences.terms(form));
    }
}
