package weft.core.rule;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** All that a form declares about its entries. */
public record Rules(
        List<Check> checks,
        List<Fill> fills,
        List<Derived> formulas,
        List<Choices> choices,
        List<Numbering> numbers,
        List<Step.Steps> steps,
        List<Practice> practice) {

    /** No rules. */
    public static final Rules NONE =
            new Rules(List.of(), List.of(), List.of(), List.of(), List.of(), List.of(), List.of());

    public Rules {
        checks = List.copyOf(checks);
        fills = List.copyOf(fills);
        formulas = List.copyOf(formulas);
        choices = List.copyOf(choices);
        numbers = List.copyOf(numbers);
        steps = List.copyOf(steps);
        practice = List.copyOf(practice);
    }

    /** That rule alone; none where it holds between records, since such rules are the table's. */
    public static Rules of(Declaration only) {
        return new Rules(
                one(Check.class, only),
                one(Fill.class, only),
                one(Derived.class, only),
                one(Choices.class, only),
                one(Numbering.class, only),
                one(Placed.class, only).stream()
                        .map(placed -> new Step.Steps(placed.when(), List.of(placed.step())))
                        .toList(),
                List.of());
    }

    private static <T> List<T> one(Class<T> kind, Declaration rule) {
        return kind.isInstance(rule) ? List.of(kind.cast(rule)) : List.of();
    }

    /** The formula that decides that of the target, or empty. */
    public Optional<String> formula(String target, Derived.Decides what) {
        return formulas.stream()
                .filter(each -> each.target().equals(target)
                        && each.what() == what
                        && !each.formula().isBlank())
                .map(Derived::formula)
                .findFirst();
    }

    /** The same with one more check that stops, under an id of its own. */
    public Rules checking(Check.Rule rule) {
        var id = "check";
        for (int n = 2; hasCheck(id); n++) {
            id = "check-" + n;
        }
        var more = new ArrayList<>(checks);
        more.add(new Check(id, rule, false, false, ""));
        return new Rules(more, fills, formulas, choices, numbers, steps, practice);
    }

    /** The same with other checks and practice entries. */
    public Rules with(List<Check> otherChecks, List<Practice> otherPractice) {
        return new Rules(otherChecks, fills, formulas, choices, numbers, steps, otherPractice);
    }

    private boolean hasCheck(String id) {
        return checks.stream().anyMatch(check -> check.id().equals(id));
    }

    /** The same without the formula that decides that of the target. */
    public Rules without(String target, Derived.Decides what) {
        var others = formulas.stream()
                .filter(each -> !each.target().equals(target) || each.what() != what)
                .toList();
        return new Rules(checks, fills, others, choices, numbers, steps, practice);
    }

    /**
     * The same with every column of the form's table under its present name. Formulas are left as they were written: they
     * know columns by their former names too.
     */
    public Rules following(UnaryOperator<String> now) {
        return new Rules(
                checks.stream().map(check -> check.following(now)).toList(),
                fills.stream().map(fill -> fill.following(now)).toList(),
                formulas.stream()
                        .map(each -> new Derived(now.apply(each.target()), each.what(), each.formula()))
                        .toList(),
                choices.stream()
                        .map(each -> new Choices(
                                now.apply(each.column()),
                                each.table(),
                                each.source(),
                                each.shown(),
                                Fill.following(each.when(), now),
                                each.open()))
                        .toList(),
                numbers.stream()
                        .map(each -> new Numbering(now.apply(each.column()), each.pattern()))
                        .toList(),
                steps,
                practice);
    }

    /**
     * The list that a column is chosen from: its own, or the records that its value, being the first key of a fill, finds
     * them by. Of those any value may be typed; the fill says what of it is none.
     */
    public Optional<Choices> listOf(String column) {
        return choices.stream()
                .filter(each -> each.column().equals(column))
                .findFirst()
                .or(() -> fills.stream()
                        .filter(fill -> fill.keys().getFirst().column().equals(column))
                        .findFirst()
                        .map(fill -> new Choices(
                                column,
                                fill.table(),
                                fill.keys().getFirst().source(),
                                fill.brings().isEmpty()
                                        ? ""
                                        : fill.brings().getFirst().source(),
                                fill.keys().subList(1, fill.keys().size()),
                                true)));
    }

    /** The columns of another table by which its records are looked for. */
    public Set<String> lookUps(String table) {
        return Stream.of(
                        fills.stream()
                                .filter(fill -> fill.table().equals(table))
                                .flatMap(fill -> fill.keys().stream().map(Fill.Tie::source)),
                        choices.stream()
                                .filter(list -> list.table().equals(table))
                                .map(Choices::source),
                        steps.stream()
                                .flatMap(each -> each.steps().stream())
                                .map(Step::action)
                                .filter(Step.ChangeRow.class::isInstance)
                                .map(Step.ChangeRow.class::cast)
                                .filter(change -> change.table().equals(table))
                                .flatMap(change -> change.where().stream().map(Step.Setting::column)))
                .flatMap(names -> names)
                .collect(Collectors.toUnmodifiableSet());
    }

    /**
     * A rule and what names it within its form for as long as it stands.
     *
     * @param key its kind and its id, or its field, or its place
     */
    public record Declared(String key, Declaration rule) {}

    /** All of them but practice entries, each as one rule, in the order in which they act. */
    public List<Declared> declared() {
        var declared = new ArrayList<Declared>();
        fills.forEach(fill -> declared.add(new Declared("fill " + fill.id(), fill)));
        for (int i = 0; i < choices.size(); i++) {
            declared.add(new Declared("list " + i, choices.get(i)));
        }
        for (int i = 0; i < formulas.size(); i++) {
            declared.add(new Declared("formula " + i, formulas.get(i)));
        }
        checks.forEach(check -> declared.add(new Declared("check " + check.id(), check)));
        for (int i = 0; i < numbers.size(); i++) {
            declared.add(new Declared("number " + i, numbers.get(i)));
        }
        for (var each : steps) {
            for (int i = 0; i < each.steps().size(); i++) {
                declared.add(new Declared(
                        "step " + i + " " + each.when(),
                        new Placed(each.when(), each.steps().get(i))));
            }
        }
        return List.copyOf(declared);
    }

    /** What a rule does with a field. */
    public enum Mark {
        CHECK,
        FORMULA,
        LIST,
        NUMBER,
        FILL
    }

    /** What rules do with each field, by column; the last of them where there are several. */
    public Map<String, Mark> marks() {
        var marks = new LinkedHashMap<String, Mark>();
        checks.forEach(check -> check.rule().columns().forEach(column -> marks.put(column, Mark.CHECK)));
        formulas.forEach(each -> marks.put(each.target(), Mark.FORMULA));
        choices.forEach(each -> marks.put(each.column(), Mark.LIST));
        numbers.forEach(each -> marks.put(each.column(), Mark.NUMBER));
        fills.forEach(fill -> fill.brings().forEach(tie -> marks.put(tie.column(), Mark.FILL)));
        return marks;
    }

    /** Whether a rule gives new entries a value in that column. */
    public boolean feeds(String column) {
        return formula(column, Derived.Decides.DEFAULT).isPresent()
                || formula(column, Derived.Decides.CALCULATED).isPresent()
                || numbers.stream().anyMatch(each -> each.column().equals(column))
                || fills.stream()
                        .flatMap(fill -> fill.brings().stream())
                        .anyMatch(tie -> tie.column().equals(column));
    }

    /** The steps of that place; none when it has none. */
    public List<Step> stepsOf(String when) {
        return steps.stream()
                .filter(each -> each.when().equals(when))
                .findFirst()
                .map(Step.Steps::steps)
                .orElse(List.of());
    }
}
