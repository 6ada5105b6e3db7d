package weft.server.bench;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Size;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import weft.core.entry.plan.EntryPlan;
import weft.core.form.FormTerms;
import weft.core.rule.Check;
import weft.core.rule.Choices;
import weft.core.rule.Declaration;
import weft.core.rule.Derived;
import weft.core.rule.Fill;
import weft.core.rule.Numbering;
import weft.core.rule.Placed;
import weft.core.rule.Rules;
import weft.core.rule.Step.Steps;
import weft.core.sentence.Sentences;
import weft.core.sentence.Terms;
import weft.core.sentence.Terms.Term;
import weft.core.sentence.Unclear;
import weft.core.table.Table;
import weft.server.form.Copy;
import weft.store.form.Definitions;
import weft.store.form.Forms;
import weft.store.form.ReadyForm;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/** Sentences that builders type, read as the rules that they say. Nothing is kept. */
@RestController
class SentencesApi {

    private static final int LONGEST = 100_000;
    private static final int MOST_LINES = 400;

    private final Definitions definitions;
    private final Tables tables;
    private final Forms forms;

    SentencesApi(Definitions definitions, Tables tables, Forms forms) {
        this.definitions = definitions;
        this.tables = tables;
        this.forms = forms;
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
            int at) {}

    /**
     * Something that could stand at the end of what is typed.
     *
     * @param from where it begins, counted in characters
     * @param name whether it is a name, rather than a word of the grammar
     */
    record Offer(int from, String text, boolean name) {}

    /** The lines read, and what could follow at the end of the last one. */
    record SentencesCame(List<ReadRule> read, List<Offer> offers) {}

    /** Reads sentences for the working copy, or for each line of those on it. */
    @PostMapping("/api/forms/{form}/bench/sentences")
    SentencesCame sentences(
            @Copy ReadyForm whole,
            @RequestParam(required = false) Optional<String> lines,
            @RequestBody @Valid SentencesJson asked) {
        var form = OrLines.of(definitions, whole, lines);
        var terms = terms(form);
        var typed = asked.text().split("\r?\n");
        var read = List.of(typed).stream()
                .filter(line -> !line.isBlank())
                .limit(MOST_LINES)
                .map(line -> read(line, form, terms))
                .toList();
        var last = typed.length == 0 ? "" : typed[typed.length - 1];
        return new SentencesCame(
                read,
                new Sentences(terms)
                        .completions(last).stream()
                                .map(each -> new Offer(each.from(), each.text(), each.name()))
                                .limit(60)
                                .toList());
    }

    /** How a rule reads, and whether it can be followed. */
    @PostMapping("/api/forms/{form}/bench/rule")
    ReadRule rule(
            @Copy ReadyForm whole,
            @RequestParam(required = false) Optional<String> lines,
            @RequestBody Declaration asked) {
        var form = OrLines.of(definitions, whole, lines);
        return read("", asked, form, terms(form));
    }

    private ReadRule read(String line, ReadyForm form, Terms terms) {
        try {
            return read(line, new Sentences(terms).read(line), form, terms);
        } catch (Unclear unclear) {
            return new ReadRule(line, null, null, unclear.sentence(), unclear.at());
        }
    }

    private ReadRule read(String line, Declaration rule, ReadyForm form, Terms terms) {
        return new ReadRule(
                line,
                rule,
                RuleJson.of("", rule, new Sentences(terms), terms),
                fault(rule, form).orElse(null),
                0);
    }

    /** What of the rule alone can't be followed in this form. */
    private Optional<String> fault(Declaration rule, ReadyForm form) {
        var plain = plan(form, Rules.NONE);
        return plan(form, alone(rule)).faults().stream()
                .filter(fault -> !plain.faults().contains(fault))
                .map(EntryPlan.Fault::sentence)
                .findFirst();
    }

    private EntryPlan plan(ReadyForm form, Rules rules) {
        return EntryPlan.of(
                form.form().ruled(rules),
                form.table().definition(),
                name -> definitions.table(name).map(StoredTable::definition));
    }

    private static Rules alone(Declaration rule) {
        return new Rules(
                of(Check.class, rule),
                of(Fill.class, rule),
                of(Derived.class, rule),
                of(Choices.class, rule),
                of(Numbering.class, rule),
                of(Placed.class, rule).stream()
                        .map(placed -> new Steps(placed.when(), List.of(placed.step())))
                        .toList(),
                List.of());
    }

    private static <T> List<T> of(Class<T> kind, Declaration rule) {
        return kind.isInstance(rule) ? List.of(kind.cast(rule)) : List.of();
    }

    /** What sentences can speak of, asked of the database only when they do. */
    private Terms terms(ReadyForm form) {
        var all = once(tables::list);
        Function<String, Optional<Table>> others = name -> definitions
                .table(name)
                .or(() -> all.get().stream()
                        .filter(table -> table.title().equalsIgnoreCase(name)
                                || table.name().equalsIgnoreCase(name))
                        .findFirst()
                        .flatMap(table -> definitions.table(table.name())))
                .map(StoredTable::definition);
        return FormTerms.of(
                form.form(),
                form.table().definition(),
                others,
                () -> all.get().stream().map(Tables.Listed::name).toList(),
                once(() -> forms.list().stream()
                        .map(each -> new Term(each.id(), each.title()))
                        .toList()));
    }

    private static <T> Supplier<T> once(Supplier<T> asked) {
        var answers = new ArrayList<T>(1);
        return () -> {
            if (answers.isEmpty()) {
                answers.add(asked.get());
            }
            return answers.getFirst();
        };
    }
}
