package weft.core.entry;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import weft.core.entry.Finding.Code;
import weft.core.entry.Trace.Mark;
import weft.core.entry.Trace.Stage;
import weft.core.formula.Answer;
import weft.core.formula.Moment;
import weft.core.rule.Check;
import weft.core.table.Column;
import weft.core.table.Constraint;
import weft.core.value.Order;
import weft.core.value.Value;

/** The checks of a form and the constraints of its table, on values that were found. */
final class RuleChecks {

    private final EntryPlan plan;
    private final Draft draft;
    private final StoredRows stored;
    private final Moment moment;
    private final Trace trace;
    private final Map<String, Value> values;
    private final Map<String, Object> known;
    private final Map<String, FieldState> states;

    RuleChecks(
            EntryPlan plan,
            Draft draft,
            StoredRows stored,
            Moment moment,
            Trace trace,
            Map<String, Value> values,
            Map<String, Object> known,
            Map<String, FieldState> states) {
        this.plan = plan;
        this.draft = draft;
        this.stored = stored;
        this.moment = moment;
        this.trace = trace;
        this.values = values;
        this.known = known;
        this.states = states;
    }

    /**
     * What the rules find. Of a field that something is said of already, nothing more is said.
     *
     * @param said the columns that there are findings on
     */
    List<Finding> all(Set<String> said) {
        var found = new ArrayList<Finding>();
        plan.form()
                .fields()
                .map(field -> plan.table().column(field.column()))
                .flatMap(Optional::stream)
                .forEach(column -> {
                    if (!said.contains(column.name())) {
                        plan.nodes().stream()
                                .filter(node -> node.column().equals(column))
                                .findFirst()
                                .flatMap(this::onList)
                                .ifPresent(found::add);
                    }
                });
        plan.checks().forEach(check -> {
            if (check.columns().stream().noneMatch(column -> said.contains(column.name()))) {
                check(check).ifPresent(found::add);
            }
        });
        plan.table().constraints().forEach(constraint -> {
            if (constraint.columns().stream().noneMatch(said::contains)) {
                constraint(constraint).ifPresent(found::add);
            }
        });
        return found;
    }

    /** What the form's own checks find. */
    List<Finding> ofForm() {
        return plan.checks().stream().flatMap(check -> check(check).stream()).toList();
    }

    private Value of(Column column) {
        return values.getOrDefault(column.name(), Value.EMPTY);
    }

    private Optional<Finding> onList(Node node) {
        var value = of(node.column());
        if (node.list().isEmpty()
                || value.isEmpty()
                || node.list().get().choices().open()) {
            return Optional.empty();
        }
        var list = node.list().get();
        var keys = new LinkedHashMap<String, Value>();
        keys.put(list.source().name(), value);
        list.choices()
                .when()
                .forEach(tie -> plan.table()
                        .column(tie.column())
                        .map(this::of)
                        .filter(given -> !given.isEmpty())
                        .ifPresent(given -> keys.put(tie.source(), given)));
        if (!stored.matching(list.from().name(), keys, 1).isEmpty()) {
            return Optional.empty();
        }
        var words = "%s is not in %s. Choose one of its list."
                .formatted(value.spoken(), list.from().title());
        trace.add(Stage.CHECK, Mark.STOP, node.column().name(), node.column().name(), () -> words);
        return Optional.of(Finding.stop(node.column().name(), Code.CHOICE, words));
    }

    private Optional<Finding> check(PlannedCheck planned) {
        var check = planned.check();
        var broken = broken(planned);
        var about =
                planned.columns().isEmpty() ? "" : planned.columns().getFirst().name();
        if (broken.isEmpty()) {
            trace.add(Stage.CHECK, Mark.DONE, about, check.id(), () -> name(planned) + ": holds.");
            return Optional.empty();
        }
        var words = broken.get().own()
                ? broken.get().words()
                : planned.message()
                        .map(template -> template.words(known, moment))
                        .orElse(broken.get().words());
        boolean asks = check.asks() && !broken.get().own() || check.rule() instanceof Check.Complete;
        var finding = Finding.of(broken.get().field(), broken.get().code(), asks, words, check.id());
        trace.add(Stage.CHECK, asks ? Mark.ASK : Mark.STOP, about, check.id(), finding::message);
        return Optional.of(finding);
    }

    private String name(PlannedCheck planned) {
        return switch (planned.check().rule()) {
            case Check.Holds(var formula, var _) -> formula;
            case Check.Complete _ -> "Complete";
            default ->
                String.join(", ", planned.columns().stream().map(plan::label).toList());
        };
    }

    /**
     * A rule that is broken.
     *
     * @param own whether the sentence is the engine's even where the builder has one: the rule itself fails
     */
    private record Broken(String field, Code code, String words, boolean own) {
        Broken(Column column, Code code, String words) {
            this(column.name(), code, words, false);
        }
    }

    private Optional<Broken> broken(PlannedCheck planned) {
        var columns = planned.columns();
        return switch (planned.check().rule()) {
            case Check.AnyOf _ ->
                columns.stream().allMatch(column -> of(column).isEmpty())
                        ? Optional.of(new Broken(
                                columns.getFirst(),
                                Code.REQUIRED,
                                "Fill at least one of " + listed(columns, "and") + "."))
                        : Optional.empty();
            case Check.Needs _ ->
                of(columns.get(0)).isEmpty() && !of(columns.get(1)).isEmpty()
                        ? Optional.of(new Broken(
                                columns.get(0),
                                Code.REQUIRED,
                                "%s is filled, so %s is needed too."
                                        .formatted(plan.label(columns.get(1)), plan.label(columns.get(0)))))
                        : Optional.empty();
            case Check.Complete _ -> incomplete(columns);
            case Check.Holds _ -> holds(planned);
            default -> of(columns.getFirst()).isEmpty() ? Optional.empty() : ofOne(planned, columns.getFirst());
        };
    }

    private Optional<Broken> ofOne(PlannedCheck planned, Column column) {
        var value = of(column);
        var label = plan.label(column);
        return switch (planned.check().rule()) {
            case Check.Range _ -> {
                boolean below = planned.from()
                        .filter(from -> Order.compare(value, from) < 0)
                        .isPresent();
                boolean above =
                        planned.to().filter(to -> Order.compare(value, to) > 0).isPresent();
                yield below || above
                        ? Optional.of(new Broken(
                                column,
                                Code.RANGE,
                                "%s is %s, %s %s."
                                        .formatted(
                                                label,
                                                value.spoken(),
                                                below ? "below" : "above",
                                                (below ? planned.from() : planned.to())
                                                        .orElseThrow()
                                                        .spoken())))
                        : Optional.empty();
            }
            case Check.Length(var _, int from, int to) -> {
                int length = value.plain().length();
                yield length < from || to > 0 && length > to
                        ? Optional.of(new Broken(
                                column,
                                Code.LENGTH,
                                "%s must have %s; it has %d.".formatted(label, characters(from, to), length)))
                        : Optional.empty();
            }
            case Check.Matches _ ->
                planned.pattern().orElseThrow().matches(value.plain())
                        ? Optional.empty()
                        : Optional.of(new Broken(column, Code.PATTERN, label + " is not written as it should be."));
            case Check.OneOf(var _, var list) ->
                list.contains(value.plain())
                        ? Optional.empty()
                        : Optional.of(new Broken(
                                column,
                                Code.CHOICE,
                                "%s must be one of %s.".formatted(label, String.join(", ", list))));
            default -> throw new IllegalStateException();
        };
    }

    private static String characters(int from, int to) {
        return to <= 0
                ? "at least " + from + " characters"
                : from <= 0
                        ? "at most " + to + " characters"
                        : from == to ? from + " characters" : from + " to " + to + " characters";
    }

    private Optional<Broken> holds(PlannedCheck planned) {
        var column = planned.columns().getFirst();
        return switch (planned.formula().orElseThrow().answer(known, moment)) {
            case Answer.Fault(var sentence) ->
                Optional.of(new Broken(
                        column.name(),
                        Code.FORMULA,
                        "A check can't be worked out: %s Its builder must mend it.".formatted(sentence),
                        true));
            case Answer answer
            when answer.no() ->
                Optional.of(new Broken(
                        column,
                        Code.FORMULA,
                        "This must hold: %s.".formatted(planned.formula().get().text())));
            default -> Optional.empty();
        };
    }

    private Optional<Broken> incomplete(List<Column> named) {
        var wanted = named.isEmpty()
                ? plan.nodes().stream()
                        .filter(node -> node.field().open() && node.calculated().isEmpty() && !node.numbered())
                        .map(Node::column)
                        .toList()
                : named;
        var empty = wanted.stream()
                .filter(column -> of(column).isEmpty())
                .filter(column -> states.get(column.name()).shown()
                        && !states.get(column.name()).required())
                .toList();
        return empty.isEmpty()
                ? Optional.empty()
                : Optional.of(new Broken(
                        empty.getFirst(),
                        Code.INCOMPLETE,
                        listed(empty, "and") + (empty.size() == 1 ? " is empty." : " are empty.")));
    }

    private String listed(List<Column> columns, String joint) {
        var labels = columns.stream().map(plan::label).toList();
        return labels.size() == 1
                ? labels.getFirst()
                : String.join(", ", labels.subList(0, labels.size() - 1)) + " " + joint + " " + labels.getLast();
    }

    private Optional<Finding> constraint(Constraint constraint) {
        var asked = new LinkedHashMap<String, Value>();
        constraint.columns().forEach(name -> asked.put(name, values.getOrDefault(name, Value.EMPTY)));
        if (asked.values().stream().anyMatch(Value::isEmpty)) {
            return Optional.empty();
        }
        var finding = switch (constraint) {
            case Constraint.Unique unique ->
                stored.with(asked, draft.record()).map(row -> Collision.unique(plan, unique, row));
            case Constraint.NoOverlap overlap -> {
                if (Order.compare(asked.get(overlap.from()), asked.get(overlap.to())) >= 0) {
                    yield Optional.of(Collision.backwards(plan, overlap));
                }
                yield stored.overlapping(overlap, asked, draft.record())
                        .map(row -> Collision.overlap(plan, overlap, row));
            }
        };
        finding.ifPresentOrElse(
                each -> trace.add(Stage.CHECK, Mark.STOP, each.field(), constraint.id(), each::message),
                () -> trace.add(
                        Stage.CHECK,
                        Mark.DONE,
                        constraint.columns().getFirst(),
                        constraint.id(),
                        () -> "No other row is in the way."));
        return finding;
    }
}
