package weft.core.entry;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;
import weft.core.entry.draft.Draft;
import weft.core.entry.draft.Draft.Around;
import weft.core.entry.draft.Finding;
import weft.core.entry.draft.Trace;
import weft.core.entry.plan.EntryPlan;
import weft.core.entry.step.StepRun;
import weft.core.entry.step.StepRun.Then;
import weft.core.entry.step.Write;
import weft.core.form.FormMaking;
import weft.core.record.StoredRows;
import weft.core.rule.Command;
import weft.core.rule.Rules;
import weft.core.rule.Step;
import weft.core.rule.Step.Reply;
import weft.core.rule.Step.Setting;
import weft.core.rule.Step.Steps;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.table.Table.Placement;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Value;

class StepsTest {

    private static final EntryEngine ENGINE = new EntryEngine(Clock.systemUTC());
    private static final Table SAMPLES = new Table(
            "samples",
            "Samples",
            List.of(
                    Column.plain("site", "Site", ColumnType.TEXT),
                    Column.plain("follow_up", "Follow up", ColumnType.YESNO),
                    Column.plain("email", "E-mail", ColumnType.TEXT)),
            Placement.AFTER_LAST);
    private static final Table INCIDENTS = new Table(
            "incidents",
            "Incidents",
            List.of(Column.plain("place", "Place", ColumnType.TEXT), Column.plain("seen", "Seen", ColumnType.WHOLE)),
            Placement.AFTER_LAST);

    private static final List<Step> STEPS = List.of(
            new Step(
                    "follow_up",
                    new Step.AddRow("incidents", List.of(new Setting("place", "site"), new Setting("seen", "row")))),
            new Step("", new Step.Ask("offer", "Send a confirmation to {email}?", Reply.NO)),
            new Step("", new Step.Send("{email}", "Sample {row}", "Thank you for {site}.")),
            new Step("", new Step.Say("Row {row} is in.")));

    private static StepRun.Outcome run(List<Step> steps, Map<String, String> answers) {
        return run(steps, answers, new Rows());
    }

    private static StepRun.Outcome run(List<Step> steps, Map<String, String> answers, StoredRows stored) {
        var rules = new Rules(
                List.of(),
                List.of(),
                List.of(),
                List.of(),
                List.of(),
                List.of(new Steps(Steps.SAVED, steps)),
                List.of());
        var form = FormMaking.from(SAMPLES, "samples", Conventions.DEFAULT).ruled(rules);
        var plan = EntryPlan.of(
                form,
                SAMPLES,
                name -> Optional.of(INCIDENTS).filter(table -> table.name().equals(name)));
        assertThat(plan.faults()).isEmpty();
        Map<String, Value> values = Map.of(
                "site",
                new Value.Text("QB-03"),
                "follow_up",
                new Value.YesNo(true),
                "email",
                new Value.Text("i@example.org"));
        var draft =
                new Draft(Map.of(), OptionalLong.empty(), Map.of(), new Around("Imre", Map.of(), Map.of(), answers));
        return ENGINE.steps(plan, Steps.SAVED, draft, values, 12, stored, Trace.none());
    }

    @Test
    void aQuestionWaitsForItsAnswerAndANoLeavesOutTheNextStep() {
        var asked = run(STEPS, Map.of());
        assertThat(asked.question())
                .contains(new StepRun.Question("offer", "Send a confirmation to i@example.org?", Reply.NO));
        assertThat(run(STEPS, Map.of("offer", "no")).writes())
                .containsExactly(new Write.Add(
                        "incidents", Map.of("place", new Value.Text("QB-03"), "seen", new Value.Whole(12))));
        var yes = run(STEPS, Map.of("offer", "yes"));
        assertThat(yes.writes()).contains(new Write.Message("i@example.org", "Sample 12", "Thank you for QB-03."));
        assertThat(yes.then()).containsExactly(new Then.Say("Row 12 is in."));
    }

    @Test
    void cancelGivesAllOfItUpAndWhatIsNoAnswerAnswersNothing() {
        var cancelled = run(STEPS, Map.of("offer", "cancel"));
        assertThat(cancelled.cancelled()).isTrue();
        assertThat(cancelled.saves()).isFalse();
        assertThat(cancelled.writes()).isEmpty();
        assertThat(cancelled.then()).isEmpty();
        for (var word : List.of("maybe", "", "YES", "yes ")) {
            assertThat(run(STEPS, Map.of("offer", word)).question()).as(word).isPresent();
        }
    }

    @Test
    void aStepIsTakenOnlyIfItsFormulaSaysYes() {
        var unless = List.of(new Step("not(follow_up)", new Step.Say("nothing")));
        assertThat(run(unless, Map.of()).then()).isEmpty();
    }

    @Test
    void theMatchingRowIsChangedAndNoneOrTwoAreInTheWay() {
        var steps = List.<Step>of(new Step(
                "",
                new Step.ChangeRow(
                        "incidents", List.of(new Setting("place", "site")), List.of(new Setting("seen", "3")))));
        var row = Map.<String, Value>of("place", new Value.Text("QB-03"));
        assertThat(run(steps, Map.of(), new Rows().with("incidents", 7, row)).writes())
                .containsExactly(new Write.Change("incidents", 7, 1, 7, Map.of("seen", new Value.Whole(3))));
        assertThat(run(steps, Map.of()).findings().all())
                .extracting(Finding::message)
                .containsExactly("No row of incidents has place QB-03. Nothing was changed.");
        assertThat(run(steps, Map.of(), new Rows().with("incidents", 7, row).with("incidents", 8, row))
                        .findings()
                        .stop())
                .isTrue();
    }

    @Test
    void aButtonThatWritesMustSave() {
        var writes = new Step("", new Step.AddRow("incidents", List.of(new Setting("place", "site"))));
        for (boolean saves : new boolean[] {false, true}) {
            var steps = saves ? List.of(new Step("", new Step.Press(Command.SAVE)), writes) : List.of(writes);
            var rules = new Rules(
                    List.of(),
                    List.of(),
                    List.of(),
                    List.of(),
                    List.of(),
                    List.of(new Steps("button", steps)),
                    List.of());
            var plan = EntryPlan.of(
                    FormMaking.from(SAMPLES, "samples", Conventions.DEFAULT).ruled(rules),
                    SAMPLES,
                    _ -> Optional.of(INCIDENTS));
            assertThat(plan.faults()).hasSize(saves ? 0 : 1);
        }
    }

    @Test
    void aMessageNeedsAnAddress() {
        var steps = List.<Step>of(new Step("", new Step.Send("{site}", "x", "y")));
        assertThat(run(steps, Map.of()).findings().stop()).isTrue();
    }

    @Test
    void valuesThatDoNotFitTheOtherTableAreInTheWay() {
        var steps = List.<Step>of(new Step("", new Step.AddRow("incidents", List.of(new Setting("seen", "site")))));
        assertThat(run(steps, Map.of()).findings().all()).hasSize(1);
    }
}
