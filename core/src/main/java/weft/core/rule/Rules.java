package weft.core.rule;

import java.util.List;
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

    /** The formula that decides that of the target, or empty. */
    public Optional<String> formula(String target, Derived.What what) {
        return formulas.stream()
                .filter(each -> each.target().equals(target)
                        && each.what() == what
                        && !each.formula().isBlank())
                .map(Derived::formula)
                .findFirst();
    }

    /** The same without the formula that decides that of the target. */
    public Rules without(String target, Derived.What what) {
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

    /** How many there are of each, in words. */
    public String counted() {
        var words = Stream.of(
                        counted(checks.size(), "check"),
                        counted(fills.size(), "fill"),
                        counted(formulas.size(), "formula"),
                        counted(choices.size(), "choice list"),
                        counted(numbers.size(), "running number"),
                        counted(
                                steps.stream()
                                        .mapToInt(each -> each.steps().size())
                                        .sum(),
                                "step"))
                .filter(each -> !each.isEmpty())
                .toList();
        return words.isEmpty() ? "there are none" : String.join(", ", words);
    }

    private static String counted(int count, String what) {
        return count == 0 ? "" : count + " " + what + (count == 1 ? "" : "s");
    }

    /** Whether a rule gives new entries a value in that column. */
    public boolean feeds(String column) {
        return formula(column, Derived.What.DEFAULT).isPresent()
                || formula(column, Derived.What.CALCULATED).isPresent()
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
