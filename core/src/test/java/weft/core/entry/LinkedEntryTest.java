package weft.core.entry;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;
import weft.core.entry.draft.Draft;
import weft.core.entry.draft.Finding;
import weft.core.entry.draft.Trace;
import weft.core.entry.plan.EntryPlan;
import weft.core.entry.step.Write;
import weft.core.form.FormMaking;
import weft.core.formula.Formula;
import weft.core.rule.Check;
import weft.core.rule.Derived;
import weft.core.rule.Derived.Decides;
import weft.core.rule.Fill;
import weft.core.rule.Rules;
import weft.core.rule.Step;
import weft.core.rule.Step.Setting;
import weft.core.rule.Step.Steps;
import weft.core.table.Column;
import weft.core.table.Link;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Typed;
import weft.core.value.Value;
import weft.core.value.Value.Text;

/** Counts that link to the samples they were made of. */
class LinkedEntryTest {

    private static final Table SAMPLES = new Table(
            "samples",
            "Samples",
            List.of(
                    Column.plain("number", "Number", ColumnType.TEXT),
                    Column.plain("taken_on", "Taken on", ColumnType.DATE),
                    Column.plain("site", "Site", ColumnType.TEXT).once(List.of("place"))),
            Table.Placement.AFTER_LAST);
    private static final Column SAMPLE = Column.plain("sample", "Sample", ColumnType.LINK)
            .leading(new Link("samples", "Samples", List.of(SAMPLES.columns().getFirst()), Link.Removed.REFUSE));
    private static final Table COUNTS = new Table(
            "counts",
            "Counts",
            List.of(
                    SAMPLE,
                    Column.plain("counted_on", "Counted on", ColumnType.DATE),
                    Column.plain("site", "Site", ColumnType.TEXT),
                    Column.plain("note", "Note", ColumnType.TEXT)),
            Table.Placement.AFTER_LAST);
    private static final Fill BROUGHT = new Fill(
            "of-sample",
            "samples",
            List.of(new Fill.Tie("sample", "")),
            List.of(new Fill.Tie("site", "site")),
            Fill.None.LEAVE,
            Fill.Several.LEAVE,
            false);
    private static final EntryEngine ENGINE =
            new EntryEngine(Clock.fixed(Instant.parse("2026-08-20T10:00:00Z"), ZoneOffset.UTC));
    private static final Rows STORED = new Rows()
            .with("samples", 1, sample("S-1", "2026-08-01", "QB-03"))
            .with("samples", 2, sample("S-2", "2026-08-02", "MB-01"));

    private static Map<String, Value> sample(String number, String day, String site) {
        return Map.of(
                "number", new Text(number), "taken_on", new Value.Day(LocalDate.parse(day)), "site", new Text(site));
    }

    private static Rules rules(List<Check> checks, List<Fill> fills, List<Derived> formulas, List<Steps> steps) {
        return new Rules(checks, fills, formulas, List.of(), List.of(), steps, List.of());
    }

    private static EntryPlan plan(Rules rules) {
        return EntryPlan.of(
                FormMaking.from(COUNTS, "counts", Conventions.DEFAULT).ruled(rules),
                COUNTS,
                name -> Optional.of(SAMPLES).filter(table -> table.name().equals(name)));
    }

    private static Assessment assess(Rules rules, Map<String, String> typed) {
        return ENGINE.assess(plan(rules), draft(typed), STORED);
    }

    private static Draft draft(Map<String, String> typed) {
        var keyed = new HashMap<String, Typed>();
        typed.forEach((column, text) -> keyed.put(column, new Typed.Keyed(text)));
        return new Draft(keyed, OptionalLong.empty());
    }

    @Test
    void choosingTheLinkBringsTheColumnsAndFormulasGoThroughIt() {
        var rules = rules(
                List.of(new Check(
                        "after",
                        new Check.Holds("counted_on >= sample.taken_on", "counted_on"),
                        false,
                        false,
                        "Sample {sample} was taken on {sample.taken_on}.")),
                List.of(BROUGHT),
                List.of(new Derived("note", Decides.DEFAULT, "sample.place + \" \" + sample.number")),
                List.of());
        var assessment = assess(rules, Map.of("sample", "s-2", "counted_on", "2026-08-01"));
        assertThat(assessment.values())
                .containsEntry("sample", new Value.Link(2, 2, "S-2"))
                .containsEntry("site", new Text("MB-01"));
        assertThat(assessment.readings()).containsEntry("sample", "S-2");
        assertThat(assessment.findings().all())
                .extracting(Finding::message)
                .containsExactly("Sample S-2 was taken on Sun 2 Aug 2026.");
        assertThat(assess(rules, Map.of("counted_on", "2026-08-01")).findings().all())
                .as("what is asked of nothing is nothing")
                .isEmpty();
    }

    /** Records are named in a rule as they are in a field. */
    @Test
    void aLinkIsOneOfTheRecordsThatAreNamed() {
        var oneOf = new Check("one", new Check.OneOf("sample", List.of("s-1", "S-2 (row 2)")), false, false, "");
        var rules = rules(List.of(oneOf), List.of(), List.of(), List.of());
        for (var named : List.of("S-1", "S-2")) {
            assertThat(assess(rules, Map.of("sample", named)).findings().all())
                    .as(named)
                    .isEmpty();
        }
        var other = rules(
                List.of(new Check("one", new Check.OneOf("sample", List.of("S-1", "S-9")), false, false, "")),
                List.of(),
                List.of(),
                List.of());
        assertThat(assess(other, Map.of("sample", "S-2")).findings().all())
                .extracting(Finding::message)
                .containsExactly("Sample must be one of S-1, S-9.");
    }

    @Test
    void aLinkIsNoOtherRecordAndNoWordOfNone() {
        var assessment = assess(Rules.NONE, Map.of("sample", "S-9"));
        assertThat(assessment.findings().all())
                .extracting(Finding::code, Finding::message)
                .containsExactly(org.assertj.core.groups.Tuple.tuple(
                        Finding.Code.CHOICE,
                        "Samples has no record “S-9”. Type its Number, or choose it from the list."));
        assertThat(assessment.values()).doesNotContainKey("sample");
    }

    @Test
    void aPathThatLeadsNowhereIsAFaultAndSoIsAFillThroughNoLink() {
        assertThat(plan(rules(
                                List.of(),
                                List.of(),
                                List.of(new Derived("note", Decides.CALCULATED, "sample.depth")),
                                List.of()))
                        .faults())
                .extracting(EntryPlan.PlanFault::sentence)
                .containsExactly("The formula names “depth”, but Samples has no such column.");
        var through = new Fill(
                "x",
                "samples",
                List.of(new Fill.Tie("note", "")),
                BROUGHT.brings(),
                BROUGHT.none(),
                BROUGHT.several(),
                false);
        assertThat(plan(rules(List.of(), List.of(through), List.of(), List.of()))
                        .faults())
                .extracting(EntryPlan.PlanFault::sentence)
                .containsExactly("“note” is no link to Samples.");
        assertThatThrownBy(() -> plan(Rules.NONE).formula("sample.depth > 1")).isInstanceOf(Formula.Misread.class);
    }

    @Test
    void aStoredRecordIsFilledAnewWhenItLinksElsewhere() {
        var stored = Map.<String, Value>of("sample", new Value.Link(1, 1, "S-1"), "site", new Text("old"));
        var plan = plan(rules(List.of(), List.of(BROUGHT), List.of(), List.of()));
        assertThat(ENGINE.assess(plan, changed(stored, Map.of("sample", "S-1", "site", "old")), STORED)
                        .values())
                .containsEntry("site", new Text("old"));
        assertThat(ENGINE.assess(plan, changed(stored, Map.of("sample", "S-2", "site", "old")), STORED)
                        .values())
                .containsEntry("site", new Text("MB-01"));
    }

    private static Draft changed(Map<String, Value> stored, Map<String, String> typed) {
        return new Draft(draft(typed).typed(), OptionalLong.of(9), stored, Draft.Around.NOTHING);
    }

    @Test
    void aStepHandsALinkOnAsItIsAndFindsOneByItsWords() {
        var steps = new Steps(
                Steps.SAVED,
                List.of(
                        new Step("", new Step.AddRow("samples", List.of(new Setting("site", "sample")))),
                        new Step("", new Step.SetField(new Setting("sample", "\"S-1\"")))));
        var plan = plan(rules(List.of(), List.of(), List.of(), List.of(steps)));
        var outcome = ENGINE.steps(
                plan,
                Steps.SAVED,
                draft(Map.of()),
                Map.of("sample", new Value.Link(2, 2, "S-2")),
                5,
                STORED,
                Trace.none());
        assertThat(outcome.writes())
                .as("a text takes its words")
                .containsExactly(new Write.Add("samples", Map.of("site", new Text("S-2"))));
        assertThat(outcome.set()).isEqualTo(Map.of("sample", new Value.Link(1, 1, "S-1")));
    }
}
