package weft.core.sentence;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.Supplier;
import java.util.stream.Stream;
import weft.core.rule.Between;
import weft.core.rule.Check;
import weft.core.rule.Choices;
import weft.core.rule.Declaration;
import weft.core.rule.Derived;
import weft.core.rule.Fill;
import weft.core.rule.Numbering;
import weft.core.rule.Placed;
import weft.core.rule.Step;
import weft.core.table.Column;
import weft.core.table.Table;

/**
 * What the sentences of a form can speak of.
 *
 * @param table the form's table
 * @param fields its fields, by label, in their order
 * @param shown its shown values, by label
 * @param buttons its buttons that take steps, by label
 * @param others tables by name or title
 * @param tables the names of all tables, for those who look for one
 * @param forms forms by title
 */
public record Terms(
        Table table,
        List<Term> fields,
        List<Term> shown,
        List<Term> buttons,
        Function<String, Optional<Table>> others,
        Supplier<List<String>> tables,
        Supplier<List<Term>> forms) {

    public Terms {
        fields = List.copyOf(fields);
        shown = List.copyOf(shown);
        buttons = List.copyOf(buttons);
    }

    /** The terms of a table alone, whatever form writes to it. */
    public static Terms of(Table table) {
        return new Terms(
                table,
                table.columns().stream()
                        .map(column -> new Term(column.name(), column.title()))
                        .toList(),
                List.of(),
                List.of(),
                _ -> Optional.empty(),
                List::of,
                List::of);
    }

    /**
     * Something by what people call it.
     *
     * @param name a column, an item of the form, or a form
     * @param label what people read
     */
    public record Term(String name, String label) {}

    /** The rule with all columns as they are called now, in formulas and texts too; a former name leads to its column all the same. */
    Declaration asNow(Declaration rule) {
        var now = new NamesNow(table, others);
        var known = others(rule);
        return switch (known) {
            case Check(var id, Check.Holds(var formula, var column), boolean asks, boolean stays, var message) ->
                new Check(id, new Check.Holds(now.formula(formula), column), asks, stays, now.text(message));
            case Check(var id, var what, boolean asks, boolean stays, var message) ->
                new Check(id, what, asks, stays, now.text(message));
            case Derived(var target, var what, var formula) -> new Derived(target, what, now.formula(formula));
            case Placed(var when, var step) -> new Placed(when, now.step(step));
            case Fill _, Choices _, Numbering _, Between _ -> known;
        };
    }

    /** With the columns of other tables so. */
    private Declaration others(Declaration rule) {
        return switch (rule) {
            case Fill fill ->
                new Fill(
                        fill.id(),
                        fill.table(),
                        ties(fill.table(), fill.keys()),
                        ties(fill.table(), fill.brings()),
                        fill.none(),
                        fill.several(),
                        fill.writesBack());
            case Choices(var column, var from, var source, var beside, var when, boolean open) ->
                new Choices(column, from, now(from, source), now(from, beside), ties(from, when), open);
            case Placed(var when, Step(var onlyIf, Step.AddRow(var to, var values))) ->
                new Placed(when, new Step(onlyIf, new Step.AddRow(to, settings(to, values))));
            case Placed(var when, Step(var onlyIf, Step.ChangeRow(var to, var where, var values))) ->
                new Placed(when, new Step(onlyIf, new Step.ChangeRow(to, settings(to, where), settings(to, values))));
            case Check _, Derived _, Numbering _, Placed _, Between _ -> rule;
        };
    }

    private List<Fill.Tie> ties(String of, List<Fill.Tie> ties) {
        return ties.stream()
                .map(tie -> new Fill.Tie(tie.column(), now(of, tie.source())))
                .toList();
    }

    private List<Step.Setting> settings(String of, List<Step.Setting> settings) {
        return settings.stream()
                .map(setting -> new Step.Setting(now(of, setting.column()), setting.formula()))
                .toList();
    }

    private String now(String of, String column) {
        return others.apply(of)
                .flatMap(other -> other.column(column))
                .map(Column::name)
                .orElse(column);
    }

    /** The names of the form's fields and of the columns of its table. */
    Names columns() {
        var names = spellings(table);
        return new Names(Stream.concat(fields.stream(), names.stream()).toList());
    }

    /** The names of what has a formula: fields, columns, and then shown values. */
    Names targets() {
        return new Names(
                Stream.of(fields, spellings(table), shown).flatMap(List::stream).toList());
    }

    /** The names of a table's columns. */
    static Names columns(Optional<Table> of) {
        return new Names(of.map(Terms::spellings).orElse(List.of()));
    }

    /** Each column by its name, then by its title, then by its former names. */
    private static List<Term> spellings(Table table) {
        var terms = new ArrayList<Term>();
        table.columns().forEach(column -> terms.add(new Term(column.name(), column.name())));
        table.columns().forEach(column -> terms.add(new Term(column.name(), column.title())));
        table.columns().forEach(column -> column.former().forEach(name -> terms.add(new Term(column.name(), name))));
        return terms;
    }

    /**
     * The column of another table that goes with a field where none is said: that of the same name, or of the field's
     * label, or one that the field's column or its label ends with, as {@code site_code} does with {@code code}.
     */
    Optional<String> goesWith(String column, Table other) {
        var label = fields.stream()
                .filter(field -> field.name().equals(column))
                .map(Term::label)
                .findFirst()
                .orElse(column);
        return Stream.<Function<Column, Boolean>>of(
                        each -> each.name().equals(column),
                        each -> each.title().equalsIgnoreCase(label),
                        each -> column.endsWith("_" + each.name()),
                        each -> label.toLowerCase(Locale.ROOT)
                                .endsWith(" " + each.title().toLowerCase(Locale.ROOT)))
                .flatMap(goes -> other.columns().stream().filter(goes::apply).map(Column::name))
                .findFirst();
    }
}
