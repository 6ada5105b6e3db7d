package weft.core.entry;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Predicate;
import weft.core.entry.draft.Trace;
import weft.core.entry.draft.Trace.Stage;
import weft.core.entry.plan.EntryPlan;
import weft.core.rule.Between;
import weft.core.rule.Check;
import weft.core.rule.Choices;
import weft.core.rule.Declaration;
import weft.core.rule.Derived;
import weft.core.rule.Fill;
import weft.core.rule.Numbering;
import weft.core.rule.Placed;

/** What each rule of a form says of one draft, found in the trace of its assessment. */
public final class RulesSaid {

    private RulesSaid() {}

    /** How a rule stands to a draft. */
    public enum Mark {
        /** It has nothing to go by yet. */
        SILENT,
        /** What it wants is so. */
        HOLDS,
        /** It would ask. */
        ASKS,
        /** It would stop. */
        STOPS,
        /** It did something, such as bring a value in. */
        ACTS,
        /** It can't be worked out. */
        FAILS
    }

    /**
     * What one rule says.
     *
     * @param key as {@link weft.core.rule.Rules.Declared} has it, or "between" and the id of what the table keeps
     */
    public record Said(String key, Mark mark, String words) {}

    /** What the rules say, in the order in which they act; a rule that does not apply to the draft says nothing. */
    public static List<Said> of(EntryPlan plan, List<Trace.Line> lines) {
        var said = new ArrayList<Said>();
        plan.form().rules().declared().forEach(each -> add(each.key(), each.rule(), lines, said));
        plan.table().constraints().forEach(each -> add("between " + each.id(), new Between(each), lines, said));
        return List.copyOf(said);
    }

    private static void add(String key, Declaration rule, List<Trace.Line> lines, List<Said> said) {
        var of = of(rule);
        lines.stream()
                .filter(of)
                .reduce((one, other) -> mark(one, rule).compareTo(mark(other, rule)) >= 0 ? one : other)
                .ifPresent(line -> said.add(new Said(key, mark(line, rule), line.text())));
    }

    private static Predicate<Trace.Line> of(Declaration rule) {
        return switch (rule) {
            case Check _, Fill _, Between _ -> line -> line.rule().equals(rule.id());
            case Choices choices -> line -> line.rule().equals(choices.column());
            case Derived derived ->
                line -> line.stage() == Stage.FORMULA && line.about().equals(derived.target());
            case Numbering _, Placed _ -> _ -> false;
        };
    }

    private static Mark mark(Trace.Line line, Declaration rule) {
        return switch (line.mark()) {
            case DONE -> rule instanceof Check || rule instanceof Between ? Mark.HOLDS : Mark.ACTS;
            case SILENT -> Mark.SILENT;
            case ASK -> Mark.ASKS;
            case STOP -> Mark.STOPS;
            case FAULT -> Mark.FAILS;
        };
    }
}
