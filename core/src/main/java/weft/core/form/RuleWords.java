package weft.core.form;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import weft.core.rule.Check;
import weft.core.rule.Choices;
import weft.core.rule.Fill;
import weft.core.table.Constraint;
import weft.core.table.Table;

/** The rules of a form in words, as one reads them wherever they are told. Fields are called by their labels. */
public final class RuleWords {

    private static final String NOT_SAID = "…";

    private final Form form;

    /** Of the rules of that form. */
    public RuleWords(Form form) {
        this.form = form;
    }

    /** What must be so, such as "pH is between 6 and 9". */
    public String check(Check.Rule rule) {
        return switch (rule) {
            case Check.AnyOf(var columns) -> "at least one of " + listed(columns) + " is filled";
            case Check.Range(var column, var from, var to) -> label(column) + " is " + range(from, to);
            case Check.Length(var column, int from, int to) ->
                "%s has %d%s characters".formatted(label(column), from, to > 0 ? " to " + to : " or more");
            case Check.Matches(var column, var pattern) -> label(column) + " is written like " + said(pattern);
            case Check.OneOf(var column, var list) -> label(column) + " is one of " + said(String.join(", ", list));
            case Check.Needs(var column, var other) -> "%s needs %s too".formatted(label(column), label(other));
            case Check.Holds(var formula, var _) -> formula.isBlank() ? "a formula holds" : formula;
            case Check.Complete(var columns) ->
                columns.isEmpty() ? "everything is filled" : listed(columns) + " are filled";
        };
    }

    private static String range(String from, String to) {
        return !from.isBlank() && !to.isBlank()
                ? "between %s and %s".formatted(from, to)
                : from.isBlank() ? "at most " + said(to) : "at least " + from;
    }

    /** What it brings, such as "Site brings River in from sites". */
    public String fill(Fill fill) {
        var brings = listed(fill.brings().stream().map(Fill.Tie::column).toList());
        return "%s brings %s in from %s"
                .formatted(
                        listed(fill.keys().stream().map(Fill.Tie::column).toList()),
                        brings.isEmpty() ? "nothing yet" : brings,
                        fill.table());
    }

    /** What is chosen from where, such as "Taxon is one of taxa". */
    public String list(Choices list) {
        return "%s is one of %s".formatted(label(list.column()), list.table());
    }

    /** What holds between the records of a table, by the titles of its columns. */
    public static String constraint(Constraint constraint, Table table) {
        return switch (constraint) {
            case Constraint.Unique(var _, var columns, var _) ->
                "No two records are alike in " + titles(columns, table);
            case Constraint.NoOverlap(var _, var same, var from, var to, var _) ->
                "%s never overlap%s"
                        .formatted(
                                titles(List.of(from), table) + " to " + titles(List.of(to), table),
                                same.isEmpty() ? "" : " for the same " + titles(same, table));
        };
    }

    private static String titles(List<String> columns, Table table) {
        return columns.stream()
                .map(name -> table.column(name).map(column -> column.title()).orElse(name))
                .collect(Collectors.joining(", "));
    }

    /** What rules do with each field, in a word, by column; the last of them where there are several. */
    public Map<String, String> marks() {
        var rules = form.rules();
        var marks = new LinkedHashMap<String, String>();
        rules.checks().forEach(check -> check.rule().columns().forEach(column -> marks.put(column, "check")));
        rules.formulas().forEach(each -> marks.put(each.target(), "formula"));
        rules.choices().forEach(each -> marks.put(each.column(), "list"));
        rules.numbers().forEach(each -> marks.put(each.column(), "number"));
        rules.fills().forEach(fill -> fill.brings().forEach(tie -> marks.put(tie.column(), "fill")));
        return marks;
    }

    private String listed(List<String> columns) {
        return columns.stream().map(this::label).collect(Collectors.joining(", "));
    }

    private String label(String column) {
        return form.fieldOf(column)
                .map(Field::label)
                .filter(label -> !label.isBlank())
                .orElse(column);
    }

    private static String said(String text) {
        return text.isBlank() ? NOT_SAID : text;
    }
}
