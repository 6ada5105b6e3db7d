package weft.store.form;

import java.util.ArrayList;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.Supplier;
import weft.core.entry.plan.EntryPlan;
import weft.core.form.FormTerms;
import weft.core.rule.Declaration;
import weft.core.rule.Rules;
import weft.core.sentence.Sentences;
import weft.core.sentence.Terms;
import weft.core.sentence.Terms.Term;
import weft.core.sentence.Unclear;
import weft.core.table.Table;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/** Sentences that builders type for a form, read as the rules that they say. Nothing is kept. */
public final class FormSentences {

    private final Definitions definitions;
    private final Tables tables;
    private final Forms forms;

    /** Sentences that can speak of those tables and forms. */
    public FormSentences(Definitions definitions, Tables tables, Forms forms) {
        this.definitions = definitions;
        this.tables = tables;
        this.forms = forms;
    }

    /** A sentence as it was read. */
    public sealed interface Read {

        /** What was typed. */
        String line();

        /**
         * It is this rule.
         *
         * @param fault why the rule can't be followed in this form, in a sentence
         */
        record Rule(String line, Declaration rule, Optional<String> fault) implements Read {}

        /**
         * It can't be read.
         *
         * @param why what would be right
         * @param at the place that is unclear, counted in characters
         */
        record NotClear(String line, String why, int at) implements Read {}
    }

    /** What the sentences of a form can speak of, asked of the database only when they do. */
    public Terms terms(ReadyForm form) {
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

    /** A sentence in those terms of the form. */
    public Read read(String line, ReadyForm form, Terms terms) {
        try {
            return read(line, new Sentences(terms).read(line), form);
        } catch (Unclear unclear) {
            return new Read.NotClear(line, unclear.sentence(), unclear.at());
        }
    }

    /** A rule that is known, and whether it can be followed in this form. */
    public Read.Rule read(String line, Declaration rule, ReadyForm form) {
        var before = definitions.planned(form, Rules.NONE).faults();
        return new Read.Rule(
                line,
                rule,
                definitions.planned(form, Rules.of(rule)).faults().stream()
                        .filter(fault -> !before.contains(fault))
                        .map(EntryPlan.PlanFault::sentence)
                        .findFirst());
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
