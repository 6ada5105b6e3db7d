package weft.core.entry;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Stream;
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
import weft.core.entry.step.Write;
import weft.core.record.StoredRow;
import weft.core.record.StoredRows;
import weft.core.rule.Fill;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Reading;
import weft.core.value.Value;
import weft.core.value.ValueReader;

/** The fills of one assessment: each is looked up once. */
final class Fills {

    /** So many matches are offered to choose from. */
    private static final int MOST = 50;

    private final EntryPlan plan;
    private final Draft draft;
    private final StoredRows stored;
    private final Trace trace;
    private final List<Finding> findings = new ArrayList<>();
    private final Map<String, Optional<StoredRow>> found = new HashMap<>();
    private final Map<String, List<StoredRow>> offers = new LinkedHashMap<>();

    Fills(EntryPlan plan, Draft draft, StoredRows stored, Trace trace) {
        this.plan = plan;
        this.draft = draft;
        this.stored = stored;
        this.trace = trace;
    }

    /** What comes into a field, be it nothing; empty when no record was found. */
    Optional<Value> brought(Node.Bring bring, Known known) {
        var fill = bring.fill();
        if (!found.containsKey(fill.id())) {
            found.put(fill.id(), look(fill, bring.from(), known));
        }
        return found.get(fill.id()).map(row -> row.of(bring.source().name()));
    }

    /** By the id of a fill for which several records match, those to choose from. */
    Map<String, List<StoredRow>> offers() {
        return offers;
    }

    /** What the fills that were looked up found amiss. */
    List<Finding> findings() {
        return findings;
    }

    /** Where a field's value was taken from, for the run sheet. */
    String whence(Node node) {
        return node.bring()
                .flatMap(bring -> found.getOrDefault(bring.fill().id(), Optional.empty())
                        .map(row -> " from " + bring.from().title() + " row " + row.row()))
                .orElse("");
    }

    /** A typed key as the one record that it leads to has it, where the case or the accents are others there. */
    Value spelled(Node node, Value typed) {
        if (!(typed instanceof Value.Text)) {
            return typed;
        }
        return node.list()
                .map(list -> spelled(list.from(), list.source().name(), typed))
                .or(() -> plan.nodes().stream()
                        .flatMap(each -> each.bring().stream())
                        .filter(bring -> bring.fill().keys().size() == 1)
                        .filter(bring -> node.column()
                                .answersTo(bring.fill().keys().getFirst().column()))
                        .findFirst()
                        .map(bring -> spelled(
                                bring.from(), bring.fill().keys().getFirst().source(), typed)))
                .orElse(typed);
    }

    private Value spelled(Table from, String source, Value typed) {
        var column = from.column(source).filter(each -> each.type().isText());
        if (column.isEmpty()) {
            return typed;
        }
        return meant(from, Map.of(column.get().name(), typed))
                .map(row -> row.of(column.get().name()))
                .orElse(typed);
    }

    /** The one record whose key differs in case or accents only, or that stayed when one of that key went. */
    private Optional<StoredRow> meant(Table from, Map<String, Value> keys) {
        return stored.alike(from.name(), keys)
                .or(() -> stored.matching(from.name(), keys, 1).isEmpty()
                        ? stored.stayed(from.name(), keys)
                        : Optional.empty());
    }

    private Optional<StoredRow> look(Fill fill, Table from, Known known) {
        if (fill.throughLink()) {
            return known.of(fill.keys().getFirst().column()) instanceof Value.Link link
                    ? stored.record(from.name(), link.id())
                    : Optional.empty();
        }
        var keys = keys(fill, from, known);
        if (keys.isEmpty()) {
            return Optional.empty();
        }
        var exactly = stored.matching(from.name(), keys.get(), MOST);
        var matching = exactly.isEmpty() ? meant(from, keys.get()).stream().toList() : exactly;
        var chosen = draft.around().chosen().get(fill.id());
        var field = fill.keys().getFirst().column();
        if (matching.isEmpty()) {
            none(fill, from, field, keys.get());
            return Optional.empty();
        }
        if (matching.size() == 1) {
            return Optional.of(matching.getFirst());
        }
        var picked = matching.stream()
                .filter(row -> chosen != null && row.id() == chosen)
                .findFirst();
        if (picked.isEmpty()) {
            several(fill, from, field, matching);
        }
        return picked;
    }

    private Optional<Map<String, Value>> keys(Fill fill, Table from, Known known) {
        var keys = new LinkedHashMap<String, Value>();
        for (var key : fill.keys()) {
            var mine = plan.table().column(key.column());
            var value = mine.map(known::of).orElse(Value.EMPTY);
            var source = from.column(key.source()).orElseThrow();
            var asked = value instanceof Value.Link && source.type() == ColumnType.LINK
                    ? new Reading.Read(value, "")
                    : ValueReader.ofStored(Conventions.DEFAULT).read(source.kind(), value.plain());
            if (!(asked instanceof Reading.Read(var read, var _)) || read.isEmpty()) {
                return Optional.empty();
            }
            keys.put(source.name(), read);
        }
        return Optional.of(keys);
    }

    /** What the key may be that was typed with a slip, where there is one key of text. */
    private List<String> like(Table from, Map<String, Value> keys) {
        if (keys.size() > 1) {
            return List.of();
        }
        var key = keys.entrySet().iterator().next();
        return from.column(key.getKey())
                .filter(column -> column.type().isText())
                .map(column ->
                        stored.spelled(from.name(), column, key.getValue().plain()))
                .orElse(List.of());
    }

    private void none(Fill fill, Table from, String field, Map<String, Value> keys) {
        var finding = Finding.of(
                field,
                fill.none() == Fill.None.ASK,
                new Cause.NoRow(from.title(), List.copyOf(keys.values()), like(from, keys)),
                fill.id());
        var mark = switch (fill.none()) {
            case STOP -> Mark.STOP;
            case ASK -> Mark.ASK;
            case LEAVE -> Mark.DONE;
        };
        trace.add(Stage.FILL, mark, field, fill.id(), finding::message);
        if (fill.none() != Fill.None.LEAVE) {
            findings.add(finding);
        }
    }

    private void several(Fill fill, Table from, String field, List<StoredRow> matching) {
        var finding = Finding.of(
                field,
                fill.several() == Fill.Several.ASK,
                new Cause.SeveralRows(
                        from.title(),
                        Optional.of(matching.size()).filter(many -> many < MOST),
                        fill.several() == Fill.Several.CHOOSE),
                fill.id());
        var mark = switch (fill.several()) {
            case STOP, CHOOSE -> Mark.STOP;
            case ASK -> Mark.ASK;
            case LEAVE -> Mark.DONE;
        };
        trace.add(Stage.FILL, mark, field, fill.id(), finding::message);
        if (fill.several() == Fill.Several.CHOOSE) {
            offers.put(fill.id(), matching);
        }
        // Left alone, the fields stay as they are typed.
        if (fill.several() != Fill.Several.LEAVE) {
            findings.add(finding);
        }
    }

    /** What was typed over filled values, where it is to go back to its source. */
    List<Write> backs(Map<String, FieldState> states, Known known) {
        return plan.form().rules().fills().stream()
                .filter(Fill::writesBack)
                .flatMap(fill -> found.getOrDefault(fill.id(), Optional.empty()).stream()
                        .flatMap(row -> back(fill, row, states, known).stream()))
                .toList();
    }

    private Optional<Write> back(Fill fill, StoredRow row, Map<String, FieldState> states, Known known) {
        var changed = new LinkedHashMap<String, Value>();
        over(fill, states, known)
                .forEach(node -> changed.put(
                        node.bring().orElseThrow().source().name(),
                        known.of(node.column().name())));
        return changed.isEmpty()
                ? Optional.empty()
                : Optional.of(new Write.Change(fill.table(), row.id(), row.version(), row.row(), changed));
    }

    /** The fields in which something is typed over what a fill brings. */
    private Stream<Node> over(Fill fill, Map<String, FieldState> states, Known known) {
        return plan.nodes().stream()
                .filter(node -> node.bring()
                        .filter(bring -> bring.fill().id().equals(fill.id()))
                        .isPresent())
                .filter(node -> Optional.ofNullable(states.get(node.column().name()))
                        .flatMap(FieldState::source)
                        .isPresent())
                // In a stored record only what was typed now goes back, not what its source was once.
                .filter(node -> draft.fresh()
                        || !known.of(node.column().name())
                                .equals(draft.stored()
                                        .getOrDefault(node.column().name(), Value.EMPTY)));
    }

    /** What is to go back to its source was typed over something else than what stands there by now. */
    List<Finding> overtaken(Map<String, FieldState> states, Known known) {
        return plan.form().rules().fills().stream()
                .filter(Fill::writesBack)
                .flatMap(fill -> found.getOrDefault(fill.id(), Optional.empty()).stream()
                        .flatMap(row ->
                                over(fill, states, known).flatMap(node -> overtaken(fill, row, node, states).stream())))
                .toList();
    }

    /** Pages know numbers without the zeros at their ends. */
    private static boolean spells(String seen, Value value) {
        return seen.equals(value.spoken())
                || seen.equals(value.plain())
                || (value instanceof Value.Decimal(var number)
                        && seen.equals(number.stripTrailingZeros().toPlainString()));
    }

    private Optional<Finding> overtaken(Fill fill, StoredRow row, Node node, Map<String, FieldState> states) {
        var bring = node.bring().orElseThrow();
        var name = node.column().name();
        var now = Objects.requireNonNull(states.get(name)).source().orElse(Value.EMPTY);
        var seen = draft.around().seen().get(name);
        return seen == null || spells(seen, now)
                ? Optional.empty()
                : Optional.of(Finding.of(
                        name,
                        true,
                        new Cause.SourceChanged(
                                node.field().label(), bring.from().title(), row.row(), now),
                        fill.id()));
    }
}
