package weft.core.entry;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import weft.core.entry.EntryPlan.Fault;
import weft.core.form.Calculated;
import weft.core.form.Field;
import weft.core.form.Form;
import weft.core.formula.Formula;
import weft.core.formula.Pattern;
import weft.core.formula.Template;
import weft.core.rule.Check;
import weft.core.rule.Command;
import weft.core.rule.Derived.What;
import weft.core.rule.Rules;
import weft.core.rule.Step;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.value.Reading;
import weft.core.value.Value;
import weft.core.value.ValueReader;

/** Makes a form ready: reads its rules once, finds the order of its fields, and says what of it cannot be followed. */
final class Planning {

    /** What formulas may name beside columns. */
    private static final Set<String> AROUND = Set.of("last", "person", "row", "answers");

    private final Form form;
    private final Table table;
    private final Function<String, Optional<Table>> tables;
    private final Rules rules;
    private final List<Fault> faults = new ArrayList<>();

    Planning(Form form, Table table, Function<String, Optional<Table>> tables) {
        this.form = form;
        this.table = table;
        this.tables = tables;
        this.rules = form.rules();
    }

    EntryPlan plan() {
        var nodes = form.fields()
                .flatMap(field -> table.column(field.column()).stream().map(column -> node(field, column)))
                .toList();
        var inOrder = ordered(nodes);
        var sound = nodes.stream()
                .map(node -> inOrder.contains(node) ? node : node.bare())
                .toList();
        var order = new ArrayList<>(inOrder);
        sound.stream().filter(node -> !inOrder.contains(node)).forEach(order::add);
        return new EntryPlan(form, table, sound, order, checks(), shown(), steps(), faults);
    }

    private Node node(Field field, Column column) {
        var name = column.name();
        return new Node(
                field,
                column,
                formula(name, What.DEFAULT),
                formula(name, What.CALCULATED),
                formula(name, What.SHOWN),
                formula(name, What.LOCKED),
                formula(name, What.REQUIRED),
                bring(column),
                list(column),
                rules.numbers().stream().anyMatch(each -> column.answersTo(each.column())));
    }

    private Optional<Formula> formula(String target, What what) {
        return rules.formula(target, what).flatMap(text -> formula(target, text));
    }

    private Optional<Formula> formula(String about, String text) {
        try {
            return Optional.of(read(table, text));
        } catch (Formula.Misread misread) {
            faults.add(new Fault(about, misread.getMessage()));
            return Optional.empty();
        }
    }

    private Optional<Template> template(String about, String text) {
        try {
            var template = Template.of(text);
            known(table, template.names());
            return Optional.of(template);
        } catch (Formula.Misread misread) {
            faults.add(new Fault(about, misread.getMessage()));
            return Optional.empty();
        }
    }

    /**
     * Reads a formula on that table.
     *
     * @throws Formula.Misread when it is none, or names what there is not
     */
    static Formula read(Table table, String text) {
        var formula = Formula.of(text);
        known(table, formula.names());
        return formula;
    }

    private static void known(Table table, Set<String> names) {
        names.stream()
                .filter(name -> !AROUND.contains(name) && table.column(name).isEmpty())
                .sorted()
                .findFirst()
                .ifPresent(name -> {
                    throw Formula.misnamed(name, table.title());
                });
    }

    private Optional<Node.Bring> bring(Column column) {
        return rules.fills().stream()
                .flatMap(fill -> fill.brings().stream()
                        .filter(tie -> column.answersTo(tie.column()))
                        .flatMap(tie -> other(fill.id(), fill.table())
                                .filter(from -> fill.keys().stream()
                                        .allMatch(key -> source(fill.id(), from, key.source())
                                                .isPresent()))
                                .flatMap(from -> source(fill.id(), from, tie.source())
                                        .map(source -> new Node.Bring(fill, from, source)))
                                .stream()))
                .findFirst();
    }

    private Optional<Node.ListOf> list(Column column) {
        return rules.choices().stream()
                .filter(each -> column.answersTo(each.column()))
                .findFirst()
                .flatMap(each -> other(column.name(), each.table())
                        .flatMap(from -> source(column.name(), from, each.source())
                                .map(source -> new Node.ListOf(each, from, source))));
    }

    private Optional<Table> other(String about, String name) {
        var other = tables.apply(name);
        if (other.isEmpty()) {
            faults.add(new Fault(about, "There is no table “%s” any more.".formatted(name)));
        }
        return other;
    }

    private Optional<Column> source(String about, Table from, String name) {
        var column = from.column(name);
        if (column.isEmpty()) {
            faults.add(new Fault(about, "%s has no column “%s” any more.".formatted(from.title(), name)));
        }
        return column;
    }

    /** The nodes, each after those that it depends on. Those that depend on each other in a circle are left out. */
    private Set<Node> ordered(List<Node> nodes) {
        var ordered = new LinkedHashSet<Node>();
        var refused = new HashSet<Node>();
        for (var node : nodes) {
            place(node, nodes, ordered, refused, new ArrayList<>());
        }
        return ordered;
    }

    private void place(Node node, List<Node> nodes, Set<Node> ordered, Set<Node> refused, List<Node> way) {
        if (ordered.contains(node) || refused.contains(node)) {
            return;
        }
        int at = way.indexOf(node);
        if (at >= 0) {
            var circle = way.subList(at, way.size());
            refused.addAll(circle);
            var names = circle.stream().map(each -> each.field().label()).toList();
            faults.add(new Fault(
                    node.column().name(),
                    names.size() == 1
                            ? "%s is worked out from itself. Leave it out of its own formula."
                                    .formatted(names.getFirst())
                            : "%s are worked out from each other in a circle: %s, then %s again. One of them must be typed."
                                    .formatted(
                                            String.join(" and ", names),
                                            String.join(", then ", names),
                                            names.getFirst())));
            return;
        }
        way.add(node);
        for (var name : node.needs()) {
            nodes.stream()
                    .filter(each -> each.column().answersTo(name))
                    .findFirst()
                    .ifPresent(each -> place(each, nodes, ordered, refused, way));
        }
        way.remove(way.size() - 1);
        if (!refused.contains(node)) {
            ordered.add(node);
        }
    }

    private List<PlannedCheck> checks() {
        return rules.checks().stream().flatMap(check -> check(check).stream()).toList();
    }

    private Optional<PlannedCheck> check(Check check) {
        var columns = new ArrayList<Column>();
        for (var name : check.rule().columns()) {
            var column =
                    table.column(name).filter(each -> form.fieldOf(each.name()).isPresent());
            if (column.isEmpty()) {
                faults.add(new Fault(
                        check.id(), "The check speaks of “%s”, which the form has no field for.".formatted(name)));
                return Optional.empty();
            }
            columns.add(column.get());
        }
        try {
            var formula = check.rule() instanceof Check.Holds(var text, var _)
                    ? formula(check.id(), text)
                    : Optional.<Formula>empty();
            var pattern = check.rule() instanceof Check.Matches(var _, var text)
                    ? Optional.of(Pattern.of(text))
                    : Optional.<Pattern>empty();
            if (check.rule() instanceof Check.Holds && formula.isEmpty()) {
                return Optional.empty();
            }
            var range =
                    check.rule() instanceof Check.Range(var _, var from, var to) ? List.of(from, to) : List.of("", "");
            return Optional.of(new PlannedCheck(
                    check,
                    columns,
                    formula,
                    pattern,
                    bound(check, columns, range.get(0)),
                    bound(check, columns, range.get(1)),
                    check.message().isBlank() ? Optional.empty() : template(check.id(), check.message())));
        } catch (Formula.Misread misread) {
            faults.add(new Fault(check.id(), misread.getMessage()));
            return Optional.empty();
        }
    }

    private Optional<Value> bound(Check check, List<Column> columns, String typed) {
        if (typed.isBlank()) {
            return Optional.empty();
        }
        // Bounds do not move with the day: what counts from today can't be read here.
        var reading =
                ValueReader.ofStored(form.conventions()).read(columns.getFirst().kind(), typed);
        if (reading instanceof Reading.Read(var value, var _)
                && columns.getFirst().type().hasRange()) {
            return Optional.of(value);
        }
        faults.add(new Fault(
                check.id(),
                "“%s” is no bound for %s, which holds %s."
                        .formatted(
                                typed,
                                columns.getFirst().title(),
                                columns.getFirst().type().inWords())));
        return Optional.empty();
    }

    private Map<String, Formula> shown() {
        var shown = new LinkedHashMap<String, Formula>();
        form.items()
                .filter(Calculated.class::isInstance)
                .forEach(
                        item -> formula(item.id(), What.DISPLAYED).ifPresent(formula -> shown.put(item.id(), formula)));
        return shown;
    }

    private Map<String, List<PlannedStep>> steps() {
        var planned = new LinkedHashMap<String, List<PlannedStep>>();
        rules.steps().forEach(this::saving);
        rules.steps()
                .forEach(each -> planned.put(
                        each.when(),
                        each.steps().stream()
                                .flatMap(step -> step(each.when(), step).stream())
                                .toList()));
        return planned;
    }

    /** What a button's steps write goes with its entry, and so needs one that is saved. */
    private void saving(Step.Steps each) {
        boolean ofSave = each.when().equals(Step.Steps.SAVED) || each.when().equals(Step.Steps.CHANGED);
        boolean saves = each.steps().stream().anyMatch(step -> step.action().equals(new Step.Press(Command.SAVE)));
        boolean writes = each.steps().stream()
                .map(Step::action)
                .anyMatch(action -> action instanceof Step.AddRow
                        || action instanceof Step.ChangeRow
                        || action instanceof Step.Send);
        if (writes && !saves && !ofSave) {
            faults.add(new Fault(
                    each.when(),
                    "The steps of this button write to other tables or send messages, but do not save. Add save."));
        }
    }

    private Optional<PlannedStep> step(String when, Step step) {
        int before = faults.size();
        var onlyIf = step.onlyIf().isBlank() ? Optional.<Formula>empty() : formula(when, step.onlyIf());
        Optional<Table> target = Optional.empty();
        List<PlannedStep.Set> where = List.of();
        List<PlannedStep.Set> values = List.of();
        var texts = new LinkedHashMap<String, Template>();
        switch (step.action()) {
            case Step.AddRow(var to, var settings) -> {
                target = other(when, to);
                values = sets(when, target, settings);
            }
            case Step.ChangeRow(var to, var found, var settings) -> {
                target = other(when, to);
                where = sets(when, target, found);
                values = sets(when, target, settings);
                if (found.isEmpty()) {
                    faults.add(new Fault(when, "A step changes a row of %s, but does not say which.".formatted(to)));
                }
            }
            case Step.SetField(var setting) -> values = sets(when, Optional.of(table), List.of(setting));
            case Step.Open(var _, var settings) -> values = sets(when, Optional.empty(), settings);
            case Step.Send(var to, var subject, var text) -> {
                template(when, to).ifPresent(each -> texts.put("to", each));
                template(when, subject).ifPresent(each -> texts.put("subject", each));
                template(when, text).ifPresent(each -> texts.put("text", each));
            }
            case Step.Say(var text) -> template(when, text).ifPresent(each -> texts.put("text", each));
            case Step.Ask(var _, var text, var _) -> template(when, text).ifPresent(each -> texts.put("text", each));
            case Step.Press _ -> {
                // It needs nothing.
            }
        }
        return faults.size() > before
                ? Optional.empty()
                : Optional.of(new PlannedStep(step, onlyIf, target, where, values, texts));
    }

    private List<PlannedStep.Set> sets(String when, Optional<Table> of, List<Step.Setting> settings) {
        var sets = new ArrayList<PlannedStep.Set>();
        for (var setting : settings) {
            var column = of.flatMap(each -> source(when, each, setting.column()));
            formula(when, setting.formula())
                    .ifPresent(formula -> sets.add(new PlannedStep.Set(setting.column(), column, formula)));
        }
        return sets;
    }
}
