package weft.core.rule;

import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;

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

    /** The steps of that place; none when it has none. */
    public List<Step> stepsOf(String when) {
        return steps.stream()
                .filter(each -> each.when().equals(when))
                .findFirst()
                .map(Step.Steps::steps)
                .orElse(List.of());
    }
}
