package weft.core.entry.check;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import java.util.stream.Stream;
import weft.core.alike.Likeness;
import weft.core.entry.draft.Cause;
import weft.core.entry.draft.Draft;
import weft.core.entry.draft.FieldState;
import weft.core.entry.draft.Finding;
import weft.core.entry.draft.Known;
import weft.core.entry.draft.Trace;
import weft.core.entry.draft.Trace.Mark;
import weft.core.entry.draft.Trace.Stage;
import weft.core.entry.plan.EntryPlan;
import weft.core.entry.plan.Node;
import weft.core.entry.plan.ReadyCheck;
import weft.core.formula.Answer;
import weft.core.record.Links;
import weft.core.record.StoredRows;
import weft.core.table.Column;
import weft.core.table.Constraint;
import weft.core.usual.Grouping;
import weft.core.value.Order;
import weft.core.value.Reading;
import weft.core.value.Value;

/** The checks of a form and the constraints of its table, on values that were found. */
public final class RuleChecks {

    /** So many of those that are nearly the same are told. */
    private static final int MOST_ALIKE = 5;

    private final EntryPlan plan;
    private final Draft draft;
    private final StoredRows stored;
    private final Trace trace;
    private final Known known;
    private final Map<String, FieldState> states;

    /**
     * For one draft.
     *
     * @param known the values that were found
     * @param states how each field stands, by column
     */
    public RuleChecks(
            EntryPlan plan, Draft draft, StoredRows stored, Trace trace, Known known, Map<String, FieldState> states) {
        this.plan = plan;
        this.draft = draft;
        this.stored = stored;
        this.trace = trace;
        this.known = known;
        this.states = states;
    }

    /**
     * What the rules find. Of a field that something is said of already, nothing more is said.
     *
     * @param said the columns that there are findings on
     */
    public List<Finding> all(Set<String> said) {
        return Stream.of(
                        plan.nodes().stream()
                                .filter(node -> !said.contains(node.column().name()))
                                .map(this::onList),
                        plan.checks().stream()
                                .filter(check ->
                                        check.columns().stream().noneMatch(column -> said.contains(column.name())))
                                .map(this::check),
                        plan.table().constraints().stream()
                                .filter(constraint ->
                                        constraint.columns().stream().noneMatch(said::contains))
                                .map(this::constraint))
                .flatMap(each -> each)
                .flatMap(Optional::stream)
                .toList();
    }

    /** What the form's own checks find. */
    public List<Finding> ofForm() {
        return plan.checks().stream().flatMap(check -> check(check).stream()).toList();
    }

    private Optional<Finding> onList(Node node) {
        var value = known.of(node.column());
        if (node.list().isEmpty()
                || value.isEmpty()
                || node.list().get().choices().open()) {
            return Optional.empty();
        }
        var list = node.list().get();
        var keys = new LinkedHashMap<String, Value>();
        if (!(value instanceof Value.Link)) {
            keys.put(list.source().name(), value);
        }
        list.choices()
                .when()
                .forEach(tie -> plan.table()
                        .column(tie.column())
                        .map(known::of)
                        .filter(given -> !given.isEmpty())
                        .ifPresent(given -> keys.put(tie.source(), given)));
        if (value instanceof Value.Link link
                ? stored.record(list.from().name(), link.id())
                        .filter(row -> keys.entrySet().stream()
                                .allMatch(key -> row.of(key.getKey()).equals(key.getValue())))
                        .isPresent()
                : !stored.matching(list.from().name(), keys, 1).isEmpty()
                        || stored.alike(list.from().name(), keys).isPresent()) {
            return Optional.empty();
        }
        var column = node.column().name();
        var finding =
                Finding.stop(column, new Cause.NotInList(value, list.from().title()));
        trace.add(Stage.CHECK, Mark.STOP, column, column, finding::message);
        return Optional.of(finding);
    }

    private Optional<Finding> check(ReadyCheck check) {
        var told = check.told();
        var about = check.columns().isEmpty() ? "" : check.columns().getFirst().name();
        var found = broken(check).map(broken -> {
            // Where the rule itself fails, its builder's words are not of what is wrong.
            boolean fails = broken.cause() instanceof Cause.FormulaFails;
            var cause = told.message()
                    .filter(_ -> !fails)
                    .<Cause>map(words -> new Cause.Told(broken.cause().code(), known.words(words)))
                    .orElse(broken.cause());
            boolean asks = (told.asks() && !fails)
                    || check instanceof ReadyCheck.Complete
                    || check instanceof ReadyCheck.Alike
                    || check instanceof ReadyCheck.Usual;
            return Finding.of(broken.column().name(), asks, cause, told.id());
        });
        found.ifPresentOrElse(
                finding -> trace.add(
                        Stage.CHECK, finding.stops() ? Mark.STOP : Mark.ASK, about, told.id(), finding::message),
                () -> {
                    if (!trace.isRead() || !applies(check)) {
                        return;
                    }
                    if (silent(check)) {
                        trace.add(
                                Stage.CHECK,
                                Mark.SILENT,
                                about,
                                told.id(),
                                () ->
                                        "Nothing is said: too little is stored there to tell what is usual, or it is not counted yet.");
                    } else {
                        trace.add(Stage.CHECK, Mark.DONE, about, told.id(), () -> "Holds: " + sentence(check) + ".");
                    }
                });
        return found;
    }

    /** Whether there is anything that the check could be broken by. */
    private boolean applies(ReadyCheck check) {
        return switch (check) {
            case ReadyCheck.AnyOf _, ReadyCheck.Complete _ -> true;
            case ReadyCheck.Alike alike -> alike.columns().stream().noneMatch(this::empty);
            case ReadyCheck.Usual usual -> usual.of().place(known::of).isPresent();
            case ReadyCheck.Needs(var _, var _, var filled) -> !empty(filled);
            case ReadyCheck.OfValue of -> !empty(of.column());
            case ReadyCheck.Holds holds -> !(known.answer(holds.formula()) instanceof Answer.Nothing);
        };
    }

    /** Whether nothing is known that the values could be held against. */
    private boolean silent(ReadyCheck check) {
        return check instanceof ReadyCheck.Usual(var _, var of)
                && of.place(known::of).flatMap(place -> stored.usual(of, place)).isEmpty();
    }

    private String sentence(ReadyCheck check) {
        return plan.form().rules().checks().stream()
                .filter(each -> each.id().equals(check.told().id()))
                .findFirst()
                .map(each -> plan.sentences().of(each).text())
                .orElseThrow();
    }

    /** That a rule is broken, told at that column. */
    private record Breach(Column column, Cause cause) {}

    private Optional<Breach> broken(ReadyCheck check) {
        return switch (check) {
            case ReadyCheck.AnyOf(var _, var columns) ->
                when(
                        columns.stream().allMatch(this::empty),
                        () -> new Breach(columns.getFirst(), new Cause.NoneFilled(labels(columns))));
            case ReadyCheck.Needs(var _, var needed, var filled) ->
                when(
                        empty(needed) && !empty(filled),
                        () -> new Breach(needed, new Cause.NeededWith(plan.label(needed), plan.label(filled))));
            case ReadyCheck.Complete(var _, var columns) -> incomplete(columns);
            case ReadyCheck.Holds holds -> holds(holds);
            case ReadyCheck.Alike alike -> alike(alike);
            case ReadyCheck.Usual(var _, var of) -> unusual(of);
            case ReadyCheck.OfValue of -> empty(of.column()) ? Optional.empty() : ofValue(of, known.of(of.column()));
        };
    }

    private boolean empty(Column column) {
        return known.of(column).isEmpty();
    }

    private static Optional<Breach> when(boolean broken, Supplier<Breach> how) {
        return broken ? Optional.of(how.get()) : Optional.empty();
    }

    private Optional<Breach> ofValue(ReadyCheck.OfValue check, Value value) {
        var label = plan.label(check.column());
        return switch (check) {
            case ReadyCheck.Range(var _, var column, var limits) ->
                limits.outOf(value)
                        .map(side -> new Breach(column, new Cause.Beyond(label, value, side, limits.bound(side))));
            case ReadyCheck.Length(var _, var column, int from, int to) -> {
                int length = value.plain().length();
                yield when(
                        length < from || (to > 0 && length > to),
                        () -> new Breach(column, new Cause.OfLength(label, from, to, length)));
            }
            case ReadyCheck.Matches(var _, var column, var pattern) ->
                when(!pattern.matches(value.plain()), () -> new Breach(column, new Cause.NotLikePattern(label)));
            case ReadyCheck.OneOf(var _, var column, var list) ->
                when(
                        !(value instanceof Value.Link link ? leads(column, link, list) : list.contains(value)),
                        () -> new Breach(column, new Cause.NoneOf(label, List.copyOf(list))));
        };
    }

    /** Whether a link leads to one of the records that are called so, in any of the ways that one may be called. */
    private boolean leads(Column column, Value.Link link, List<Value> list) {
        var links = new Links(stored, plan.conventions());
        return list.stream()
                .anyMatch(called -> called.equals(new Value.Text(link.shown()))
                        || (links.meant(column, new Reading.Read(called, ""), Value.EMPTY)
                                        instanceof Reading.Read(Value.Link(long id, long _, var _), var _)
                                && id == link.id()));
    }

    private Optional<Breach> holds(ReadyCheck.Holds check) {
        return switch (known.answer(check.formula())) {
            case Answer.Fault(var sentence) ->
                Optional.of(new Breach(check.column(), new Cause.FormulaFails(false, sentence)));
            case Answer.Of answer ->
                when(
                        answer.no(),
                        () -> new Breach(
                                check.column(),
                                new Cause.DoesNotHold(check.formula().text())));
            case Answer.Nothing _ -> Optional.empty();
        };
    }

    private Optional<Breach> alike(ReadyCheck.Alike check) {
        var values = new LinkedHashMap<String, Value>();
        check.columns().forEach(column -> values.put(column.name(), known.of(column)));
        if (values.values().stream().anyMatch(Value::isEmpty)) {
            return Optional.empty();
        }
        var likes = stored.near(check.columns(), values, check.sound(), draft.record()).stream()
                .flatMap(record -> Likeness.of(check.columns(), values, record, check.sound()).stream())
                .sorted(Likeness.NEAREST)
                .limit(MOST_ALIKE)
                .map(likeness -> new Cause.Like(
                        likeness.record().id(),
                        likeness.record().row(),
                        likeness.record().called(),
                        check.columns().stream()
                                .map(column -> likeness.record().of(column.name()))
                                .toList(),
                        likeness.why(plan::label)))
                .toList();
        int unseen = check.all() && isNew(values)
                ? stored.nearUnseen(check.columns(), values, check.sound(), draft.record())
                : 0;
        return when(
                !likes.isEmpty() || unseen > 0,
                () -> new Breach(check.columns().getFirst(), new Cause.NearlyAlike(likes, unseen)));
    }

    /** Whether they are of a new entry, or others than were stored: who could not see the others can't have said that they are different. */
    private boolean isNew(Map<String, Value> values) {
        return draft.record().isEmpty()
                || values.entrySet().stream()
                        .anyMatch(each -> !each.getValue().equals(draft.stored().get(each.getKey())));
    }

    private Optional<Breach> unusual(Grouping of) {
        return of.place(known::of)
                .flatMap(place -> stored.usual(of, place)
                        .flatMap(counts -> Cause.NotUsual.of(of, place, counts, known::of, plan::label)))
                .map(cause -> new Breach(of.column(), cause));
    }

    private Optional<Breach> incomplete(List<Column> named) {
        var wanted = named.isEmpty()
                ? plan.nodes().stream()
                        .filter(node -> node.field().open() && node.calculated().isEmpty() && !node.numbered())
                        .map(Node::column)
                        .toList()
                : named;
        var empty = wanted.stream()
                .filter(this::empty)
                .filter(column -> Optional.ofNullable(states.get(column.name()))
                        .filter(state -> state.shown() && !state.required())
                        .isPresent())
                .toList();
        return when(!empty.isEmpty(), () -> new Breach(empty.getFirst(), new Cause.Empty(labels(empty))));
    }

    private List<String> labels(List<Column> columns) {
        return columns.stream().map(plan::label).toList();
    }

    private Optional<Finding> constraint(Constraint constraint) {
        var asked = new LinkedHashMap<String, Value>();
        constraint.columns().forEach(name -> asked.put(name, known.of(name)));
        if (asked.values().stream().anyMatch(Value::isEmpty)) {
            return Optional.empty();
        }
        var finding = switch (constraint) {
            case Constraint.Unique unique ->
                stored.with(asked, draft.record()).map(row -> Collision.unique(plan, unique, row));
            case Constraint.NoOverlap overlap -> {
                if (Order.compare(known.of(overlap.from()), known.of(overlap.to())) >= 0) {
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
