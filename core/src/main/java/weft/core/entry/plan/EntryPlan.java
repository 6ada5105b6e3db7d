package weft.core.entry.plan;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import weft.core.form.Field;
import weft.core.form.Form;
import weft.core.formula.Formula;
import weft.core.rule.Command;
import weft.core.rule.Numbering;
import weft.core.rule.Step.Steps;
import weft.core.sentence.Sentences;
import weft.core.sentence.Terms;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.value.Conventions;

/**
 * A form made ready to assess drafts: each field with the column its thread leads to and the rules that decide its value,
 * formulas read, in an order in which each comes after what it depends on.
 *
 * @param form the form itself
 * @param table the table it writes to
 * @param nodes the fields in tab order
 * @param order the same in the order in which their values are found
 * @param checks the form's checks
 * @param shown the formulas of shown values, by the id of the value
 * @param numbers the running numbers that a save gives
 * @param steps the steps, by where they are
 * @param looksBack what its formulas ask for of the entry before, by name; empty when none asks
 * @param faults what could not be made ready; none of it takes part in entries
 * @param linked the tables that the table's links lead to, by name
 * @param lines its lines of other tables
 * @param terms what its rules can speak of
 */
public record EntryPlan(
        Form form,
        Table table,
        List<Node> nodes,
        List<Node> order,
        List<ReadyCheck> checks,
        Map<String, Formula> shown,
        List<Numbering> numbers,
        Map<String, List<ReadyStep>> steps,
        Set<String> looksBack,
        List<PlanFault> faults,
        Map<String, Table> linked,
        List<LinesPlan> lines,
        Terms terms) {

    public EntryPlan {
        nodes = List.copyOf(nodes);
        order = List.copyOf(order);
        checks = List.copyOf(checks);
        shown = Map.copyOf(shown);
        numbers = List.copyOf(numbers);
        steps = Map.copyOf(steps);
        faults = List.copyOf(faults);
        linked = Map.copyOf(linked);
        lines = List.copyOf(lines);
    }

    /**
     * A rule that cannot be followed.
     *
     * @param about the column, or the id of the rule or the shown value
     * @param sentence what is wrong and what would be right
     */
    public record PlanFault(String about, String sentence) {}

    /** The plan of a form on its table. A field whose thread leads to no column takes no part in entries. */
    public static EntryPlan of(Form form, Table table, Function<String, Optional<Table>> tables) {
        return new Planning(form, table, tables).plan();
    }

    /** The plan of a form whose rules know no other table. */
    public static EntryPlan of(Form form, Table table) {
        return of(form, table, _ -> Optional.empty());
    }

    /** The column of that name, or once of that name, that a field of the form is threaded to; empty when there is none. */
    public Optional<Column> takes(String column) {
        return nodes.stream()
                .map(Node::column)
                .filter(each -> each.answersTo(column))
                .findFirst();
    }

    /**
     * Reads a formula on its table.
     *
     * @throws Formula.Misread when it is none, or names what there is not
     */
    public Formula formula(String text) {
        return new RuleReader(table, name -> Optional.ofNullable(linked.get(name)), lists(lines)).formula(text);
    }

    /**
     * Reads a formula that no builder wrote. It may name columns of the table, and of a record that a link leads to what the link
     * shows.
     *
     * @throws Formula.Misread when it is none, or names anything else
     */
    public Formula formulaFromOutside(String text) {
        return new RuleReader(
                        table, name -> Optional.ofNullable(linked.get(name)).map(this::asLinksShow), Map.of())
                .formula(text);
    }

    private Table asLinksShow(Table to) {
        return to.with(table.columns().stream()
                .flatMap(column -> column.link().stream())
                .filter(link -> link.to().equals(to.name()))
                .flatMap(link -> link.shown().stream())
                .distinct()
                .toList());
    }

    /** By the id of lines, the table that they are of: what formulas may name as a list. */
    static Map<String, Table> lists(List<LinesPlan> lines) {
        var lists = new LinkedHashMap<String, Table>();
        lines.forEach(each -> lists.put(each.item().id(), each.plan().table()));
        return lists;
    }

    /** Its rules as sentences. */
    public Sentences sentences() {
        return new Sentences(terms);
    }

    /** The lines of that id; empty when the form has none. */
    public Optional<LinesPlan> linesOf(String id) {
        return lines.stream().filter(each -> each.item().id().equals(id)).findFirst();
    }

    /** The field of a column; empty when it has none. */
    public Optional<Node> node(Column column) {
        return nodes.stream().filter(node -> node.column().equals(column)).findFirst();
    }

    /** The columns that the form writes to, in tab order. */
    public List<Column> columns() {
        return nodes.stream().map(Node::column).toList();
    }

    /** Those of them that people type into: not what is worked out, numbered, locked or not there. */
    public List<Column> keyed() {
        return nodes.stream()
                .filter(node -> node.field().open()
                        && !node.numbered()
                        && node.calculated().isEmpty()
                        && node.column().shownOnly().isEmpty())
                .map(Node::column)
                .toList();
    }

    /** Whether a save with the steps of that place writes its own row and nothing more. */
    public boolean plain(String when) {
        return (when.equals(Steps.CHANGED) || numbers.isEmpty())
                && steps.getOrDefault(when, List.of()).isEmpty();
    }

    /** Whether one of the steps of that place saves the entry. */
    public boolean saves(String when) {
        return steps.getOrDefault(when, List.of()).stream()
                .anyMatch(step -> step instanceof ReadyStep.Press(var _, var command) && command == Command.SAVE);
    }

    /** How its people write. */
    public Conventions conventions() {
        return form.conventions();
    }

    /** What its people call a column. */
    public String label(Column column) {
        return form.fieldOf(column.name()).map(Field::label).orElse(column.title());
    }
}
