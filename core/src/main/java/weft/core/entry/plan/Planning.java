package weft.core.entry.plan;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import weft.core.form.Calculated;
import weft.core.form.Field;
import weft.core.form.Field.Widget;
import weft.core.form.Form;
import weft.core.form.FormLines;
import weft.core.form.FormMaking;
import weft.core.form.FormTerms;
import weft.core.form.Item;
import weft.core.formula.Formula;
import weft.core.rule.Derived.Decides;
import weft.core.rule.Fill;
import weft.core.rule.Numbering;
import weft.core.rule.Rules;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.value.ColumnType;

/** Makes a form ready: reads its rules once, finds the order of its fields, and says what of it cannot be followed. */
final class Planning {

    private final Form form;
    private final Table table;
    private final Function<String, Optional<Table>> tables;
    private final Rules rules;
    private final List<LinesPlan> lines;
    private final RuleReader reader;

    Planning(Form form, Table table, Function<String, Optional<Table>> tables) {
        this.form = form;
        this.table = table;
        this.tables = tables;
        this.rules = form.rules();
        this.lines = new ArrayList<>();
        var linesFaults = new ArrayList<EntryPlan.PlanFault>();
        form.lines().forEach(item -> lines(item, linesFaults));
        this.reader = new RuleReader(table, tables, EntryPlan.lists(lines));
        linesFaults.forEach(fault -> reader.fault(fault.about(), fault.sentence()));
    }

    EntryPlan plan() {
        var numbers = rules.numbers().stream().filter(this::sound).toList();
        var nodes = form.fields()
                .flatMap(field -> table.column(field.column()).stream().map(column -> node(field, column, numbers)))
                .toList();
        var inOrder = ordered(nodes);
        var sound = nodes.stream()
                .map(node -> inOrder.contains(node) ? node : node.bare())
                .toList();
        var order = new ArrayList<>(inOrder);
        sound.stream().filter(node -> !inOrder.contains(node)).forEach(order::add);
        var checking = new CheckPlanning(form, table, reader);
        var checks = rules.checks().stream()
                .flatMap(check -> checking.ready(check).stream())
                .toList();
        var shown = shown();
        var steps = new StepPlanning(table, reader).ready(rules.steps());
        return new EntryPlan(
                form,
                table,
                sound,
                order,
                checks,
                shown,
                numbers,
                steps,
                reader.looksBack(),
                reader.faults(),
                linked(),
                lines,
                FormTerms.of(form, table, tables));
    }

    /** The lines made ready, or a fault that says why they can't be. */
    private void lines(FormLines item, List<EntryPlan.PlanFault> faults) {
        var of = tables.apply(item.table());
        var by = of.flatMap(each -> each.column(item.by()))
                .filter(column -> column.link()
                        .filter(link -> link.to().equals(table.name()))
                        .isPresent());
        if (by.isEmpty()) {
            faults.add(new EntryPlan.PlanFault(
                    item.id(),
                    of.isEmpty()
                            ? "There is no table “%s” any more.".formatted(item.table())
                            : "“%s” of %s is no link to %s, so that %s can't be its lines."
                                    .formatted(
                                            item.by(),
                                            of.get().title(),
                                            table.title(),
                                            of.get().title())));
            return;
        }
        var link =
                Field.plain("by " + by.get().name(), by.get().title(), by.get().name(), Widget.LINK, 1);
        var items = new ArrayList<Item>(item.fields().stream()
                .filter(field -> !by.get().answersTo(field.column()))
                .toList());
        items.add(link);
        var each = FormMaking.from(of.get().with(List.of()), item.id(), form.conventions())
                .withSections(List.of(new Form.Section("", Form.Section.USUAL_COLUMNS, items)))
                .ruled(item.rules());
        var plan = EntryPlan.of(each, of.get(), tables);
        plan.faults()
                .forEach(fault ->
                        faults.add(new EntryPlan.PlanFault(item.id(), item.label() + ": " + fault.sentence())));
        lines.add(new LinesPlan(item, plan, by.get()));
    }

    private Map<String, Table> linked() {
        var linked = new LinkedHashMap<String, Table>();
        table.columns().stream()
                .flatMap(column -> column.link().stream())
                .forEach(link -> tables.apply(link.to()).ifPresent(to -> linked.put(link.to(), to)));
        return linked;
    }

    private Node node(Field field, Column column, List<Numbering> numbers) {
        var name = column.name();
        return new Node(
                field,
                column,
                formula(name, Decides.DEFAULT),
                formula(name, Decides.CALCULATED),
                formula(name, Decides.SHOWN),
                formula(name, Decides.LOCKED),
                formula(name, Decides.REQUIRED),
                bring(column),
                list(column),
                numbers.stream().anyMatch(each -> column.answersTo(each.column())));
    }

    /** Whether running numbers can be given; if not, it is a fault. */
    private boolean sound(Numbering numbering) {
        var column = table.column(numbering.column())
                .filter(each -> form.fieldOf(each.name()).isPresent());
        if (column.isEmpty()) {
            reader.fault(
                    numbering.column(),
                    "Running numbers are given to “%s”, which the form has no field for."
                            .formatted(numbering.column()));
            return false;
        }
        var fault = column.get().type() == ColumnType.TEXT
                ? numbering.fault()
                : Optional.of("%s holds %s; running numbers need a column of text."
                        .formatted(column.get().title(), column.get().type().inWords()));
        fault.ifPresent(sentence -> reader.fault(column.get().name(), sentence));
        return fault.isEmpty();
    }

    private Optional<Formula> formula(String target, Decides what) {
        return rules.formula(target, what).flatMap(text -> reader.formula(target, text));
    }

    private Optional<Node.Bring> bring(Column column) {
        return rules.fills().stream()
                .flatMap(fill -> fill.brings().stream()
                        .filter(tie -> column.answersTo(tie.column()))
                        .flatMap(tie -> reader
                                .other(fill.id(), fill.table())
                                .filter(from -> keysFound(fill, from))
                                .flatMap(from -> reader.column(fill.id(), from, tie.source())
                                        .map(source -> new Node.Bring(fill, from, source)))
                                .stream()))
                .findFirst();
    }

    private boolean keysFound(Fill fill, Table from) {
        if (!fill.throughLink()) {
            return fill.keys().stream()
                    .allMatch(
                            key -> reader.column(fill.id(), from, key.source()).isPresent());
        }
        var key = fill.keys().getFirst().column();
        boolean leads = table.column(key)
                .flatMap(Column::link)
                .filter(link -> link.to().equals(from.name()))
                .isPresent();
        if (!leads) {
            reader.fault(fill.id(), "“%s” is no link to %s.".formatted(key, from.title()));
        }
        return leads;
    }

    private Optional<Node.ListOf> list(Column column) {
        return rules.choices().stream()
                .filter(each -> column.answersTo(each.column()))
                .findFirst()
                .flatMap(each -> reader.other(column.name(), each.table())
                        .flatMap(from -> reader.column(column.name(), from, each.source())
                                .map(source -> new Node.ListOf(each, from, source))));
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
            reader.fault(
                    node.column().name(),
                    names.size() == 1
                            ? "%s is worked out from itself. Leave it out of its own formula."
                                    .formatted(names.getFirst())
                            : "%s are worked out from each other in a circle: %s, then %s again. One of them must be typed."
                                    .formatted(
                                            String.join(" and ", names),
                                            String.join(", then ", names),
                                            names.getFirst()));
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

    private Map<String, Formula> shown() {
        var shown = new LinkedHashMap<String, Formula>();
        form.items()
                .filter(Calculated.class::isInstance)
                .forEach(item ->
                        formula(item.id(), Decides.DISPLAYED).ifPresent(formula -> shown.put(item.id(), formula)));
        return shown;
    }
}
