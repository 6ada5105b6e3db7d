package weft.core.entry.plan;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weft.core.entry.plan.EntryPlan.PlanFault;
import weft.core.form.FormMaking;
import weft.core.rule.Check;
import weft.core.rule.Command;
import weft.core.rule.Derived;
import weft.core.rule.Derived.Decides;
import weft.core.rule.Rules;
import weft.core.rule.Step;
import weft.core.rule.Step.Setting;
import weft.core.rule.Step.Steps;
import weft.core.table.Column;
import weft.core.table.Names;
import weft.core.table.Table;
import weft.core.table.Table.Placement;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;

class PlanningTest {

    private static final Table SAMPLES = new Table(
            "samples",
            "Samples",
            List.of(
                    Column.plain("site", "Site", ColumnType.TEXT),
                    Column.plain("depth", "Depth", ColumnType.WHOLE).once(List.of("deep")),
                    Column.plain("twice", "Twice", ColumnType.WHOLE)),
            Placement.AFTER_LAST);

    private static final Table NOTES =
            new Table("notes", "Notes", List.of(Column.plain("place", "Place", ColumnType.TEXT)), Placement.AFTER_LAST);

    private static EntryPlan plan(Rules rules) {
        return EntryPlan.of(
                FormMaking.from(SAMPLES, "samples", Conventions.DEFAULT).ruled(rules),
                SAMPLES,
                name -> name.equals("notes") ? Optional.of(NOTES) : Optional.empty());
    }

    private static EntryPlan checked(Check.Rule... rules) {
        var checks = java.util.stream.IntStream.range(0, rules.length)
                .mapToObj(i -> new Check("c" + i, rules[i], false, false, ""))
                .toList();
        return plan(new Rules(checks, List.of(), List.of(), List.of(), List.of(), List.of(), List.of()));
    }

    private static EntryPlan stepped(String when, Step... steps) {
        return plan(new Rules(
                List.of(),
                List.of(),
                List.of(),
                List.of(),
                List.of(),
                List.of(new Steps(when, List.of(steps))),
                List.of()));
    }

    private static EntryPlan derived(Derived... formulas) {
        return plan(new Rules(List.of(), List.of(), List.of(formulas), List.of(), List.of(), List.of(), List.of()));
    }

    private static List<String> sentences(EntryPlan plan) {
        return plan.faults().stream().map(PlanFault::sentence).toList();
    }

    @Test
    void aCheckThatCanBeFollowedIsReadyAndOneThatCannotIsAFault() {
        var plan = checked(
                new Check.Range("depth", "1", "9"),
                new Check.Range("depth", "shallow", ""),
                new Check.Range("gone", "1", "9"),
                new Check.Matches("site", "[A-"),
                new Check.Holds("depth >", "depth"),
                new Check.Holds("height > 1", "depth"),
                new Check.Holds("deep > 1", "depth"));
        assertThat(plan.checks())
                .extracting(check -> check.told().id() + " " + check.getClass().getSimpleName())
                .containsExactly("c0 Range", "c1 Range", "c6 Holds");
        assertThat(plan.faults()).extracting(PlanFault::about).containsExactly("c1", "c2", "c3", "c4", "c5");
        assertThat(sentences(plan))
                .startsWith(
                        "“shallow” is no bound for Depth, which holds a whole number.",
                        "The check speaks of “gone”, which the form has no field for.")
                .contains("The formula names “height”, but Samples has no such column.");
    }

    @Test
    void aMessageThatCannotBeReadGivesWayToTheRulesOwnSentence() {
        var plan = plan(new Rules(
                List.of(new Check("c", new Check.Length("site", 1, 3), true, false, "{site")),
                List.of(),
                List.of(),
                List.of(),
                List.of(),
                List.of(),
                List.of()));
        assertThat(plan.checks()).singleElement().satisfies(check -> {
            assertThat(check.told().message()).isEmpty();
            assertThat(check.told().asks()).isTrue();
        });
        assertThat(sentences(plan)).containsExactly("A brace { in the text is not closed by }.");
    }

    @Test
    void fieldsComeAfterWhatTheyDependOnAndCirclesAreFaults() {
        var straight = derived(
                new Derived("site", Decides.DEFAULT, "string(twice)"),
                new Derived("twice", Decides.CALCULATED, "depth * 2"));
        assertThat(straight.faults()).isEmpty();
        assertThat(straight.order().stream().map(node -> node.column().name()))
                .containsSubsequence("depth", "twice", "site");
        var circle = derived(
                new Derived("depth", Decides.CALCULATED, "twice + 1"),
                new Derived("twice", Decides.CALCULATED, "depth * 2"));
        assertThat(sentences(circle))
                .containsExactly(
                        "Depth and Twice are worked out from each other in a circle: Depth, then Twice, then Depth again."
                                + " One of them must be typed.");
        assertThat(circle.nodes())
                .allSatisfy(node -> assertThat(node.calculated()).isEmpty());
    }

    @Test
    void aStepIsReadyAsAWholeOrNotAtAllAndSaysAllThatIsWrongWithIt() {
        var plan = stepped(
                Steps.SAVED,
                new Step("", new Step.AddRow("notes", List.of(new Setting("place", "site")))),
                new Step("", new Step.AddRow("nowhere", List.of(new Setting("place", "site")))),
                new Step("", new Step.AddRow("notes", List.of(new Setting("away", "site"), new Setting("place", "(")))),
                new Step("", new Step.ChangeRow("notes", List.of(), List.of())),
                new Step("height > 1", new Step.Say("Tall.")),
                new Step("deep > 1", new Step.Say("Deep.")));
        assertThat(plan.steps().get(Steps.SAVED))
                .extracting(step -> step.getClass().getSimpleName())
                .containsExactly("AddRow", "Say");
        assertThat(sentences(plan))
                .contains(
                        "There is no table “nowhere” any more.",
                        "Notes has no column “away” any more.",
                        "A step changes a row of notes, but does not say which.",
                        "The formula names “height”, but Samples has no such column.")
                .anyMatch(sentence -> sentence.startsWith("The formula"));
    }

    @Test
    void aButtonThatWritesMustSave() {
        var adds = new Step("", new Step.AddRow("notes", List.of(new Setting("place", "site"))));
        assertThat(sentences(stepped("b", adds)))
                .containsExactly(
                        "The steps of this button write to other tables or send messages, but do not save. Add save.");
        var saves = stepped("b", adds, new Step("", new Step.Press(Command.SAVE)));
        assertThat(saves.faults()).isEmpty();
        assertThat(saves.saves("b")).isTrue();
        assertThat(saves.plain("b")).isFalse();
        assertThat(saves.plain(Steps.SAVED)).isTrue();
    }

    /** A column may be called as a word of formulas is: it is found wherever the formula can be read so. */
    @ParameterizedTest
    @ValueSource(strings = {"return", "function", "between", "satisfies", "every", "external", "instance", "some"})
    void aColumnMayBeCalledAsAWordOfFormulasIs(String word) {
        var table = new Table("t", "T", List.of(Column.plain(word, "Word", ColumnType.WHOLE)), Placement.AFTER_LAST);
        var plan = EntryPlan.of(FormMaking.from(table, "t", Conventions.DEFAULT), table);
        assertThat(plan.formula(word + " * 2 + 1").names()).containsExactly(word);
        assertThat(plan.formula("if " + word + " > 3 then \"" + word + "\" else \"no\"")
                        .names())
                .contains(word);
        assertThat(Names.name(word, 1, new HashSet<>())).isEqualTo(word + "_");
    }
}
