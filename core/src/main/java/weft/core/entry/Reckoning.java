package weft.core.entry;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import weft.core.entry.check.ColumnChecks;
import weft.core.entry.check.RuleChecks;
import weft.core.entry.draft.Cause;
import weft.core.entry.draft.Draft;
import weft.core.entry.draft.FieldState;
import weft.core.entry.draft.FieldState.Origin;
import weft.core.entry.draft.Finding;
import weft.core.entry.draft.Findings;
import weft.core.entry.draft.Known;
import weft.core.entry.draft.Trace;
import weft.core.entry.draft.Trace.Mark;
import weft.core.entry.draft.Trace.Stage;
import weft.core.entry.plan.EntryPlan;
import weft.core.entry.plan.Node;
import weft.core.form.Field;
import weft.core.formula.Answer;
import weft.core.formula.Formula;
import weft.core.formula.Moment;
import weft.core.record.Links;
import weft.core.record.StoredRows;
import weft.core.rule.Fill;
import weft.core.table.Column;
import weft.core.value.ColumnType;
import weft.core.value.Reading;
import weft.core.value.Typed;
import weft.core.value.Value;
import weft.core.value.ValueReader;

/** One assessment of one draft: the value of each field is found in the plan's order, then all of it is checked. */
final class Reckoning {

    private final EntryPlan plan;
    private final Draft draft;
    private final Trace trace;
    private final ValueReader reader;
    private final Fills fills;
    private final StoredRows stored;
    private final Known known;
    private final Links links;

    private final Map<String, Boolean> written = new HashMap<>();
    private final Map<String, String> readings = new HashMap<>();
    private final Map<String, FieldState> states = new HashMap<>();
    private final List<Finding> findings = new ArrayList<>();

    Reckoning(EntryPlan plan, Draft draft, StoredRows stored, Moment moment, Trace trace) {
        this.plan = plan;
        this.draft = draft;
        this.trace = trace;
        this.stored = stored;
        this.reader = new ValueReader(plan.conventions(), moment.now().toLocalDateTime());
        this.fills = new Fills(plan, draft, stored, trace);
        this.known = Known.of(plan.table(), draft, stored, moment);
        this.links = new Links(stored, plan.conventions());
    }

    Assessment assessment() {
        plan.form()
                .fields()
                .filter(field -> plan.table().column(field.column()).isEmpty())
                .forEach(this::unthreaded);
        plan.faults().forEach(fault -> trace.add(Stage.FORMULA, Mark.FAULT, fault.about(), fault::sentence));
        plan.order().forEach(this::reckon);
        findings.addAll(fills.findings());
        plan.nodes().forEach(node -> check(node).ifPresent(findings::add));
        findings.addAll(fills.overtaken(states, known));
        findings.addAll(ruleChecks().all(new Findings(findings).fields()));
        draft.gone().forEach(label -> findings.add(Finding.stop("", new Cause.FieldGone(label))));
        var inOrder = new LinkedHashMap<String, Value>();
        var fields = new LinkedHashMap<String, FieldState>();
        var said = new LinkedHashMap<String, String>();
        for (var node : plan.nodes()) {
            var name = node.column().name();
            if (written.getOrDefault(name, false)) {
                inOrder.put(name, known.of(name));
            }
            fields.put(name, states.get(name));
            Optional.ofNullable(readings.get(name)).ifPresent(reading -> said.put(name, reading));
        }
        var shown = new LinkedHashMap<String, String>();
        plan.shown()
                .forEach((id, formula) -> shown.put(id, known.answer(formula).words()));
        var columns = plan.columns().stream().map(Column::name).toList();
        return new Assessment(
                inOrder,
                said,
                fields,
                new Findings(findings).open(draft).inOrder(columns),
                fills.offers(),
                shown,
                fills.backs(states, known));
    }

    private RuleChecks ruleChecks() {
        return new RuleChecks(plan, draft, stored, trace, known, states);
    }

    /** What a formula comes to, once every value is found. */
    Answer answer(Formula formula) {
        plan.order().forEach(this::reckon);
        return known.answer(formula);
    }

    /** What the checks say of the values as they are stored. */
    List<Finding> checksAlone() {
        for (var node : plan.order()) {
            boolean shown = shown(node);
            if (!shown) {
                known.learn(node.column(), Value.EMPTY);
            }
            states.put(node.column().name(), new FieldState(shown, false, false, Origin.STORED, Optional.empty()));
        }
        plan.nodes()
                .forEach(node -> states.computeIfPresent(
                        node.column().name(), (_, state) -> state.requiring(state.shown() && required(node))));
        return ruleChecks().ofForm();
    }

    /** What came of finding a field's value. */
    private record Came(Reading reading, Origin origin, boolean written, Optional<Value> source) {}

    private void reckon(Node node) {
        var column = node.column();
        var name = column.name();
        boolean shown = shown(node);
        // A number that was given stays: another would be given once more.
        boolean numbered = node.numbered()
                && (draft.fresh()
                        || !draft.stored().getOrDefault(name, Value.EMPTY).isEmpty());
        boolean locked = numbered
                || column.shownOnly().isPresent()
                || node.locked().map(formula -> ask(name, formula).yes()).orElse(false);
        if (numbered && draft.fresh() && draft.says(name)) {
            readings.put(name, "its number is given when it is saved");
        }
        var came = shown ? value(node, locked) : new Came(Reading.EMPTY, Origin.CALCULATED, true, Optional.empty());
        states.put(name, new FieldState(shown, locked, false, came.origin(), came.source()));
        if (shown && shut(node, locked) && !stands(node, came)) {
            findings.add(Finding.stop(name, new Cause.Locked(node.field().label(), written(came))));
        }
        switch (came.reading()) {
            case Reading.Read(var value, var readBack) -> {
                known.learn(column, value);
                written.put(name, came.written());
                if (came.origin() == Origin.TYPED && !readBack.isEmpty()) {
                    readings.put(name, readBack);
                }
                if (came.written() && shown) {
                    told(node, came, value, readBack);
                }
            }
            case Reading.Refused(var refusal) -> {
                known.learn(column, Value.EMPTY);
                boolean typed = came.origin() == Origin.TYPED
                        || (came.origin() == Origin.BEGUN && node.usual().isEmpty());
                var finding = Finding.stop(
                        name,
                        typed
                                ? new Cause.Refused(refusal)
                                : new Cause.NotWorkedOut(node.field().label(), refusal));
                trace.add(Stage.READ, Mark.STOP, name, finding::message);
                findings.add(finding);
            }
        }
    }

    /** Whether people see the field and cannot type into it, by its use or by a rule, though it is not Weft that gives its value. */
    private boolean shut(Node node, boolean locked) {
        var field = node.field();
        boolean given = node.numbered()
                || node.column().shownOnly().isPresent()
                || node.calculated().isPresent()
                || (draft.fresh() && node.usual().isPresent());
        return !given && field.use() != Field.Use.HIDDEN && !typable(node, locked);
    }

    private boolean typable(Node node, boolean locked) {
        var start = node.field().start();
        return draft.fresh()
                ? node.field().open() || start.carried() || start.linked()
                : node.field().open() && !locked;
    }

    /** Whether what was sent for a field is nothing, or what stands there all the same. */
    private boolean stands(Node node, Came came) {
        var column = node.column();
        var before = draft.stored().getOrDefault(column.name(), Value.EMPTY);
        if (!draft.says(column.name()) || Untouched.is(draft.of(column.name()), before)) {
            return true;
        }
        var sent = spelled(node, meant(column, reader.read(column.kind(), draft.of(column.name()))));
        return sent instanceof Reading.Read(var value, var _)
                && (value.isEmpty() || alike(value, before) || same(came.reading(), value));
    }

    private static Value written(Came came) {
        return came.reading() instanceof Reading.Read(var value, var _) ? value : Value.EMPTY;
    }

    private void unthreaded(Field field) {
        trace.add(
                Stage.READ,
                Mark.FAULT,
                field.column(),
                () -> "%s is threaded to “%s”, a column that %s has no more. What is typed there is not kept."
                        .formatted(field.label(), field.column(), plan.table().title()));
    }

    /** Whether it must be filled is known when all values are; then the column's own rules are seen to. */
    private Optional<Finding> check(Node node) {
        var name = node.column().name();
        var state = Objects.requireNonNull(states.get(name));
        boolean required = state.shown() && !node.numbered() && required(node);
        states.put(name, state.requiring(required));
        if (!state.shown()) {
            return hidden(node);
        }
        if (!written.getOrDefault(name, false)) {
            return Optional.empty();
        }
        var finding = ColumnChecks.of(node, required, known.of(name), draft, stored);
        finding.ifPresent(each -> trace.add(Stage.CHECK, Mark.STOP, name, each::message));
        return finding;
    }

    private boolean shown(Node node) {
        return node.shown()
                .map(formula -> shows(ask(node.column().name(), formula)))
                .orElse(true);
    }

    private boolean required(Node node) {
        return node.always()
                || node.required()
                        .map(formula -> ask(node.column().name(), formula).yes())
                        .orElse(false);
    }

    /** What is not shown holds nothing; a column that needs a value in every record stops the entry then. */
    private Optional<Finding> hidden(Node node) {
        var name = node.column().name();
        var finding = Finding.stop(name, new Cause.NoField(node.column().title(), true));
        if (!node.column().required() || node.numbered()) {
            return Optional.empty();
        }
        trace.add(Stage.CHECK, Mark.STOP, name, finding::message);
        return Optional.of(finding);
    }

    private void told(Node node, Came came, Value value, String readBack) {
        var label = node.field().label();
        var name = node.column().name();
        if (value.isEmpty()) {
            return;
        }
        switch (came.origin()) {
            case TYPED ->
                trace.add(
                        Stage.READ,
                        Mark.DONE,
                        name,
                        () -> readBack.isEmpty()
                                ? "Read " + label + " as " + value.spoken() + "."
                                : "Read " + label + ": " + keyed(node) + " is " + readBack + ".");
            case FILLED ->
                trace.add(
                        Stage.FILL,
                        Mark.DONE,
                        name,
                        node.bring().map(bring -> bring.fill().id()).orElse(""),
                        () -> "Filled " + label + " with " + value.spoken() + fills.whence(node) + ".");
            case CALCULATED, BEGUN ->
                trace.add(
                        Stage.FORMULA,
                        Mark.DONE,
                        name,
                        () -> label + " comes to " + value.spoken()
                                + node.calculated()
                                        .or(node::usual)
                                        .map(formula -> ": " + formula.text())
                                        .orElse("") + ".");
            case STORED -> {
                // It stays as it is.
            }
        }
    }

    private String keyed(Node node) {
        return draft.of(node.column().name()) instanceof Typed.Keyed(var text)
                ? "“" + text.strip() + "”"
                : "what was given";
    }

    /** Nothing is no yes; a formula that fails hides nothing. */
    private static boolean shows(Answer answer) {
        return answer.yes() || answer instanceof Answer.Fault;
    }

    private Answer ask(String about, Formula formula) {
        var answer = known.answer(formula);
        if (answer instanceof Answer.Fault(var sentence)) {
            trace.add(Stage.FORMULA, Mark.FAULT, about, () -> sentence);
        }
        return answer;
    }

    private Came value(Node node, boolean locked) {
        var column = node.column();
        var name = column.name();
        if (draft.fresh() && (node.numbered() || column.shownOnly().isPresent())) {
            return new Came(Reading.EMPTY, Origin.CALCULATED, true, Optional.empty());
        }
        if (column.shownOnly().isPresent()) {
            var stored = draft.stored().getOrDefault(name, Value.EMPTY);
            return new Came(new Reading.Read(stored, ""), Origin.STORED, false, Optional.empty());
        }
        if (node.calculated().isPresent()) {
            return new Came(answered(node, node.calculated().get()), Origin.CALCULATED, true, Optional.empty());
        }
        var found = node.bring().flatMap(bring -> fills.brought(bring, known));
        boolean typable = typable(node, locked);
        boolean says = draft.says(name) && typable;
        var before = draft.stored().getOrDefault(name, Value.EMPTY);
        // What stands there as it was stored is what is stored, however another program wrote it.
        var typed = says && !before.isEmpty() && Untouched.is(draft.of(name), before)
                ? new Reading.Read(before, "")
                : spelled(node, meant(column, reader.read(column.kind(), says ? draft.of(name) : Typed.NOTHING)));
        boolean blank = typed instanceof Reading.Read(var value, var _) && value.isEmpty();
        var brought = found.map(source -> fit(node, source));
        if (!draft.fresh()) {
            return changed(node, typable, typed, brought);
        }
        if (says && !blank) {
            return new Came(typed, Origin.TYPED, true, over(brought, typed));
        }
        if (brought.isPresent()) {
            return new Came(brought.get(), Origin.FILLED, true, Optional.empty());
        }
        if (says) {
            return new Came(typed, Origin.TYPED, true, Optional.empty());
        }
        if (node.usual().isPresent()) {
            return new Came(answered(node, node.usual().get()), Origin.BEGUN, true, Optional.empty());
        }
        return new Came(
                meant(
                        column,
                        reader.read(
                                column.kind(),
                                new Typed.Keyed(node.field().start().value()))),
                node.field().start().value().isEmpty() ? Origin.TYPED : Origin.BEGUN,
                true,
                Optional.empty());
    }

    /** What was read for a link, as the record that is meant. */
    private Reading meant(Column column, Reading read) {
        return links.meant(column, read, draft.stored().getOrDefault(column.name(), Value.EMPTY));
    }

    private Reading answered(Node node, Formula formula) {
        return meant(node.column(), ask(node.column().name(), formula).in(node.column(), reader));
    }

    private Reading spelled(Node node, Reading typed) {
        if (!(typed instanceof Reading.Read(var value, var readBack))) {
            return typed;
        }
        var spelled = fills.spelled(node, value);
        return spelled.equals(value) ? new Reading.Read(value, readBack) : new Reading.Read(spelled, spelled.spoken());
    }

    /** The value in a stored record: a fill acts again only when one of its keys was changed, and over nothing typed. */
    private Came changed(Node node, boolean typable, Reading typed, Optional<Reading> brought) {
        var before = draft.stored().getOrDefault(node.column().name(), Value.EMPTY);
        boolean anew = node.bring()
                .map(Node.Bring::fill)
                .filter(fill -> fill.keys().stream().anyMatch(this::keyChanged))
                .isPresent();
        if (anew && brought.isPresent() && (!typable || same(typed, before))) {
            return new Came(brought.get(), Origin.FILLED, true, Optional.empty());
        }
        return typable
                ? new Came(typed, Origin.TYPED, true, over(brought, typed))
                : new Came(new Reading.Read(before, ""), Origin.STORED, false, Optional.empty());
    }

    /** The value that was brought, where something else is typed over it. */
    private static Optional<Value> over(Optional<Reading> brought, Reading typed) {
        return brought.flatMap(source -> source instanceof Reading.Read(var value, var _)
                ? Optional.of(value).filter(each -> !same(typed, each))
                : Optional.empty());
    }

    private boolean keyChanged(Fill.Tie key) {
        return plan.table()
                .column(key.column())
                .filter(column -> !alike(known.of(column), draft.stored().getOrDefault(column.name(), Value.EMPTY)))
                .isPresent();
    }

    private static boolean same(Reading typed, Value value) {
        return typed instanceof Reading.Read(var read, var _) && alike(read, value);
    }

    /** Records are the same by their identity, all else by how it is written. */
    private static boolean alike(Value one, Value other) {
        return (one instanceof Value.Link && other instanceof Value.Link)
                ? one.equals(other)
                : one.spoken().equals(other.spoken());
    }

    /** A value of the column's own type goes over as it is, a link as the record that it is, all else as it is written. */
    private static Typed carried(Column column, Value source) {
        return switch (source) {
            case Value.Day _ when column.type() == ColumnType.DATE -> new Typed.Kept(source);
            case Value.Hour _ when column.type() == ColumnType.TIME -> new Typed.Kept(source);
            case Value.Moment _ when column.type() == ColumnType.DATETIME -> new Typed.Kept(source);
            case Value.Whole _, Value.Decimal _
            when column.type() == ColumnType.WHOLE || column.type() == ColumnType.DECIMAL -> new Typed.Given(source);
            case Value.Link _ -> new Typed.Given(source);
            default -> new Typed.Keyed(source.plain());
        };
    }

    /** A source's value as one of this column; refused where it does not fit. */
    private Reading fit(Node node, Value source) {
        var fitted = meant(node.column(), reader.read(node.column().kind(), carried(node.column(), source)));
        return fitted instanceof Reading.Read(var value, var _) ? new Reading.Read(value, "") : fitted;
    }
}
