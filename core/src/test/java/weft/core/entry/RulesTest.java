package weft.core.entry;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;
import weft.core.entry.draft.Draft;
import weft.core.entry.draft.Draft.Around;
import weft.core.entry.draft.FieldState;
import weft.core.entry.draft.Finding;
import weft.core.entry.draft.Trace;
import weft.core.entry.plan.EntryPlan;
import weft.core.entry.step.Write;
import weft.core.form.Field;
import weft.core.form.Form;
import weft.core.form.FormMaking;
import weft.core.record.StoredRow;
import weft.core.record.StoredRows;
import weft.core.rule.Check;
import weft.core.rule.Choices;
import weft.core.rule.Derived;
import weft.core.rule.Derived.What;
import weft.core.rule.Fill;
import weft.core.rule.Fill.Tie;
import weft.core.rule.Numbering;
import weft.core.rule.Rules;
import weft.core.table.Column;
import weft.core.table.Constraint;
import weft.core.table.Table;
import weft.core.table.Table.Placement;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Typed;
import weft.core.value.Value;

/** Rules on bookings of kit, whose tags bring in what is known of each piece. */
class RulesTest {

    private static final EntryEngine ENGINE =
            new EntryEngine(Clock.fixed(Instant.parse("2026-08-05T14:07:00Z"), ZoneOffset.UTC));

    private static Column column(String name, ColumnType type) {
        return Column.plain(
                name, name.substring(0, 1).toUpperCase() + name.substring(1).replace('_', ' '), type);
    }

    private static final Table BOOKINGS = new Table(
            "bookings",
            "Bookings",
            List.of(
                    column("tag", ColumnType.TEXT),
                    column("kind", ColumnType.TEXT),
                    column("charge", ColumnType.DECIMAL).scaled(OptionalInt.of(2)),
                    column("from_at", ColumnType.DATETIME),
                    column("to_at", ColumnType.DATETIME),
                    column("days", ColumnType.WHOLE),
                    column("total", ColumnType.DECIMAL).scaled(OptionalInt.of(2)),
                    column("borrower", ColumnType.TEXT),
                    column("remark", ColumnType.TEXT)),
            Placement.AFTER_LAST,
            List.of(new Constraint.NoOverlap("once", List.of("tag"), "from_at", "to_at", "")));

    private static final Table KIT = new Table(
            "kit",
            "Kit",
            List.of(
                    column("code", ColumnType.TEXT),
                    column("name", ColumnType.TEXT),
                    column("per_day", ColumnType.DECIMAL)),
            Placement.AFTER_LAST);

    private static Value text(String text) {
        return new Value.Text(text);
    }

    private static final StoredRows STORED = new Rows()
            .with(
                    "kit",
                    3,
                    Map.of(
                            "code",
                            text("K-07"),
                            "name",
                            text("Meter"),
                            "per_day",
                            new Value.Decimal(new BigDecimal("4.5"))))
            .with(
                    "kit",
                    4,
                    Map.of(
                            "code",
                            text("K-08"),
                            "name",
                            text("Net"),
                            "per_day",
                            new Value.Decimal(new BigDecimal("1"))))
            .with("kit", 5, Map.of("code", text("K-08"), "name", text("Net, large"), "per_day", Value.EMPTY))
            .with(
                    88,
                    Map.of(
                            "tag", text("K-07"),
                            "from_at", new Value.Moment(LocalDateTime.of(2026, 8, 1, 9, 0)),
                            "to_at", new Value.Moment(LocalDateTime.of(2026, 8, 1, 12, 0))));

    private static final Fill FILL = new Fill(
            "kit",
            "kit",
            List.of(new Tie("tag", "code")),
            List.of(new Tie("kind", "name"), new Tie("charge", "per_day")),
            Fill.None.STOP,
            Fill.Several.CHOOSE,
            true);
    private static final List<Derived> FORMULAS = List.of(
            new Derived(
                    "days",
                    What.DEFAULT,
                    "if to_at = null then null else floor((to_at - from_at) / duration(\"P1D\")) + 1"),
            new Derived("total", What.CALCULATED, "days * charge"),
            new Derived("remark", What.SHOWN, "total > 10"),
            new Derived("borrower", What.REQUIRED, "total > 10"));

    private static Rules rules(List<Check> checks, List<Fill> fills, List<Derived> formulas) {
        return new Rules(checks, fills, formulas, List.of(), List.of(), List.of(), List.of());
    }

    private static Form form(Rules rules) {
        return FormMaking.from(BOOKINGS, "bookings", Conventions.DEFAULT).ruled(rules);
    }

    private static EntryPlan plan(Form form) {
        return EntryPlan.of(
                form,
                BOOKINGS,
                name -> Optional.of(KIT).filter(table -> table.name().equals(name)));
    }

    private static Draft draft(Map<String, String> typed) {
        var keyed = new HashMap<String, Typed>();
        typed.forEach((name, text) -> keyed.put(name, new Typed.Keyed(text)));
        return new Draft(keyed, OptionalLong.empty());
    }

    private static Assessment assess(Rules rules, Map<String, String> typed) {
        return ENGINE.assess(plan(form(rules)), draft(typed), STORED);
    }

    private static Finding one(Assessment assessment) {
        assertThat(assessment.findings().all()).hasSize(1);
        return assessment.findings().all().getFirst();
    }

    private static final Map<String, String> BOOKED =
            Map.of("tag", "K-07", "from_at", "8/3/2026 9:00", "to_at", "8/5/2026 9:00", "borrower", "Imre");

    @Test
    void aTypedKeyBringsInTheRestAndFormulasFollow() {
        var assessment = assess(rules(List.of(), List.of(FILL), FORMULAS), BOOKED);
        assertThat(assessment.findings().all()).isEmpty();
        assertThat(assessment.values().get("kind")).isEqualTo(text("Meter"));
        assertThat(assessment.values().get("days").plain()).isEqualTo("3");
        assertThat(assessment.values().get("total").plain()).isEqualTo("13.50");
        assertThat(assessment.fields().get("kind").origin()).isEqualTo(FieldState.Origin.FILLED);
        assertThat(assessment.fields().get("remark").shown()).isTrue();
        assertThat(assessment.fields().get("borrower").required()).isTrue();
    }

    @Test
    void whatIsTypedOverAFilledValueIsMarkedAndGoesBackToItsSource() {
        var typed = new HashMap<>(BOOKED);
        typed.put("charge", "5");
        var assessment = assess(rules(List.of(), List.of(FILL), FORMULAS), typed);
        assertThat(assessment.values().get("total").plain()).isEqualTo("15.00");
        assertThat(assessment.fields().get("charge").source().map(Value::plain)).contains("4.50");
        assertThat(assessment.backs())
                .containsExactly(
                        new Write.Change("kit", 3, 1, 3, Map.of("per_day", new Value.Decimal(new BigDecimal("5.00")))));
    }

    @Test
    void aFillThatFindsNoneOrSeveralDoesAsItsBuilderChose() {
        var none = one(assess(rules(List.of(), List.of(FILL), List.of()), Map.of("tag", "K-99")));
        assertThat(none.message()).isEqualTo("Kit has no row with K-99.");
        assertThat(none.severity()).isEqualTo(Finding.Severity.STOP);
        var several = assess(rules(List.of(), List.of(FILL), List.of()), Map.of("tag", "K-08"));
        assertThat(one(several).message()).isEqualTo("2 rows of Kit match. Choose one of them.");
        assertThat(several.offers().get("kit")).extracting(StoredRow::row).containsExactly(4L, 5L);
        var chosen = new Draft(
                draft(Map.of("tag", "K-08")).typed(),
                OptionalLong.empty(),
                Map.of(),
                new Around("Imre", Map.of(), Map.of("kit", 5L), Map.of()));
        assertThat(ENGINE.assess(plan(form(rules(List.of(), List.of(FILL), List.of()))), chosen, STORED)
                        .values()
                        .get("kind"))
                .isEqualTo(text("Net, large"));
    }

    @Test
    void aStoredRecordIsFilledAnewOnlyWhenItsKeyIsChanged() {
        var stored = Map.of(
                "tag", text("K-08"), "kind", text("Old net"), "charge", (Value) new Value.Decimal(BigDecimal.ONE));
        var plan = plan(form(rules(List.of(), List.of(FILL), List.of())));
        var same = ENGINE.assess(
                plan,
                new Draft(
                        draft(Map.of("tag", "K-07", "kind", "Old net")).typed(),
                        OptionalLong.of(1),
                        Map.of("tag", text("K-07"), "kind", text("Old net")),
                        Around.NOTHING),
                STORED);
        assertThat(same.values().get("kind")).isEqualTo(text("Old net"));
        var other = ENGINE.assess(
                plan,
                new Draft(
                        draft(Map.of("tag", "K-07", "kind", "Old net", "charge", "1"))
                                .typed(),
                        OptionalLong.of(1),
                        stored,
                        Around.NOTHING),
                STORED);
        assertThat(other.values().get("kind")).isEqualTo(text("Meter"));
    }

    private static Check check(Check.Rule rule) {
        return new Check("c", rule, false, false, "");
    }

    private static String said(Check.Rule rule, Map<String, String> typed) {
        var assessment = assess(rules(List.of(check(rule)), List.of(), List.of()), typed);
        return assessment.findings().all().isEmpty()
                ? ""
                : one(assessment).code().wire() + ": " + one(assessment).message();
    }

    @Test
    void eachKindOfCheckSaysWhatIsWrongAndWhatWouldBeRight() {
        assertThat(said(new Check.AnyOf(List.of("kind", "remark")), Map.of("tag", "x")))
                .isEqualTo("required: Fill at least one of Kind and Remark.");
        assertThat(said(new Check.AnyOf(List.of("kind", "remark")), Map.of("remark", "x")))
                .isEmpty();
        assertThat(said(new Check.Range("days", "1", "30"), Map.of("days", "31")))
                .isEqualTo("range: Days is 31, above 30.");
        assertThat(said(
                        new Check.Range("from_at", "2015-01-01 00:00", "2100-12-31 23:59"),
                        Map.of("from_at", "2014-12-31 8:00")))
                .startsWith("range: From at is Wed 31 Dec 2014, 08:00, below");
        assertThat(said(new Check.Range("days", "1", ""), Map.of("days", "1"))).isEmpty();
        assertThat(said(new Check.Length("tag", 4, 4), Map.of("tag", "K-123")))
                .isEqualTo("length: Tag must have 4 characters; it has 5.");
        assertThat(said(new Check.Matches("tag", "K-[0-9]{2}"), Map.of("tag", "K-1")))
                .isEqualTo("pattern: Tag is not written as it should be.");
        assertThat(said(new Check.Matches("tag", "(a+)+b"), Map.of("tag", "a".repeat(900))))
                .startsWith("pattern");
        assertThat(said(new Check.OneOf("kind", List.of("Net", "Meter")), Map.of("kind", "Boat")))
                .isEqualTo("choice: Kind must be one of Net, Meter.");
        assertThat(said(new Check.Needs("days", "from_at"), Map.of("days", "3")))
                .isEqualTo("required: Days is filled, so From at is needed too.");
        assertThat(said(
                        new Check.Holds("to_at > from_at", "to_at"),
                        Map.of("from_at", "8/2/2026 9", "to_at", "8/1/2026 9")))
                .isNotEmpty();
        assertThat(said(new Check.Holds("days < 5", "days"), Map.of("days", "7")))
                .isEqualTo("formula: This must hold: days < 5.");
        assertThat(said(new Check.Holds("tag + 1 > 2", "tag"), Map.of("tag", "K")))
                .contains("can't be worked out");
        assertThat(said(new Check.Holds("days < 5", "days"), Map.of())).isEmpty();
    }

    @Test
    void anIncompleteEntryAsksAndIsSavedAfterAYes() {
        var rules = rules(
                List.of(new Check("c", new Check.Complete(List.of("remark", "borrower")), true, false, "")),
                List.of(),
                List.of());
        var finding = one(assess(rules, Map.of("tag", "K-07")));
        assertThat(finding.message()).isEqualTo("Remark and Borrower are empty. Save all the same?");
        assertThat(finding.severity()).isEqualTo(Finding.Severity.ASK);
        assertThat(finding.field()).isEqualTo("remark");
        for (var answer : List.of("incomplete", "c")) {
            var yes = new Draft(
                    draft(Map.of("tag", "K-07")).typed(),
                    OptionalLong.empty(),
                    Map.of(),
                    new Around("Imre", Map.of(), Map.of(), Map.of(answer, "yes")));
            assertThat(ENGINE.assess(plan(form(rules)), yes, STORED).findings().all())
                    .isEmpty();
        }
    }

    @Test
    void aBuildersSentenceMayHoldValues() {
        var check = new Check("c", new Check.Holds("days < 5", "days"), true, false, "{days} days is long for {tag}.");
        assertThat(one(assess(rules(List.of(check), List.of(), List.of()), Map.of("tag", "K-07", "days", "7")))
                        .message())
                .isEqualTo("7 days is long for K-07. Save all the same?");
    }

    @Test
    void timesThatOverlapAreRefusedAndBackToBackIsNot() {
        var none = rules(List.of(), List.of(), List.of());
        var clash = one(assess(none, Map.of("tag", "K-07", "from_at", "8/1/2026 11:00", "to_at", "8/1/2026 13:00")));
        assertThat(clash.code()).isEqualTo(Finding.Code.OVERLAP);
        assertThat(clash.message())
                .isEqualTo("Row 88 already has K-07 from Sat 1 Aug 2026, 09:00 to Sat 1 Aug 2026, 12:00.");
        assertThat(assess(none, Map.of("tag", "K-07", "from_at", "8/1/2026 12:00", "to_at", "8/1/2026 13:00"))
                        .findings()
                        .all())
                .isEmpty();
        assertThat(one(assess(none, Map.of("tag", "K-07", "from_at", "8/1/2026 13:00", "to_at", "8/1/2026 13:00")))
                        .message())
                .isEqualTo("To at must be after From at.");
    }

    @Test
    void aCircleIsRefusedInPlainWordsAndTheRestGoesOn() {
        var plan = plan(form(rules(
                List.of(),
                List.of(),
                List.of(
                        new Derived("days", What.CALCULATED, "total + 1"),
                        new Derived("total", What.CALCULATED, "days * 2"),
                        new Derived("remark", What.CALCULATED, "upper case(borrower)"),
                        new Derived("kind", What.CALCULATED, "nowhere + 1")))));
        assertThat(plan.faults())
                .extracting(EntryPlan.Fault::sentence)
                .anySatisfy(
                        sentence -> assertThat(sentence)
                                .isEqualTo(
                                        "Days and Total are worked out from each other in a circle: Days, then Total, then Days again. One of them must be typed."))
                .contains("The formula names “nowhere”, but Bookings has no such column.");
        assertThat(ENGINE.assess(plan, draft(Map.of("borrower", "imre")), STORED)
                        .values()
                        .get("remark"))
                .isEqualTo(text("IMRE"));
    }

    @Test
    void aChoiceListOfATableTakesWhatIsOnIt() {
        var listed = new Rules(
                List.of(),
                List.of(),
                List.of(),
                List.of(new Choices("tag", "kit", "code", "name", List.of(), false)),
                List.of(),
                List.of(),
                List.of());
        assertThat(assess(listed, Map.of("tag", "K-07")).findings().all()).isEmpty();
        assertThat(one(assess(listed, Map.of("tag", "K-9"))).message())
                .isEqualTo("K-9 is not in Kit. Choose one of its list.");
    }

    @Test
    void runningNumbersAreWrittenByTheirPattern() {
        var numbering = new Numbering("tag", "S-{year}-{0000}");
        assertThat(numbering.sound()).isTrue();
        assertThat(new Numbering("tag", "S-{year}").sound()).isFalse();
        var period = numbering.period(java.time.LocalDate.of(2026, 8, 1));
        assertThat(Numbering.written(period, 7)).isEqualTo("S-2026-0007");
        assertThat(Numbering.written(period, 12345)).isEqualTo("S-2026-12345");
    }

    /** The order of the fields decides nothing but the order of the answers. */
    @Property(tries = 60)
    void recalculationDoesNotDependOnTheOrderOfFields(@ForAll Random random) {
        var rules = rules(List.of(), List.of(FILL), FORMULAS);
        var form = form(rules);
        var fields = new ArrayList<>(form.fields().toList());
        Collections.shuffle(fields, random);
        var shuffled = form.withSections(section -> section.with(List.copyOf(fields)));
        var typed = new HashMap<String, String>();
        for (var field : fields) {
            if (random.nextBoolean()) {
                typed.put(field.column(), BOOKED.getOrDefault(field.column(), random.nextBoolean() ? "" : "3"));
            }
        }
        var one = ENGINE.assess(plan(form), draft(typed), STORED);
        var other = ENGINE.assess(plan(shuffled), draft(typed), STORED);
        assertThat(other.values()).isEqualTo(one.values());
        assertThat(other.findings().all())
                .containsExactlyInAnyOrderElementsOf(one.findings().all());
        assertThat(other.fields()).isEqualTo(one.fields());
    }

    @Test
    void aLockedFieldTakesWhatIsFilledAndNothingTyped() {
        var form = form(rules(List.of(), List.of(FILL), List.of()))
                .withFields(field -> field.column().equals("kind") ? field.used(Field.Use.LOCKED) : field);
        var assessment = ENGINE.assess(plan(form), draft(Map.of("tag", "K-07", "kind", "Boat")), STORED);
        assertThat(assessment.values().get("kind")).isEqualTo(text("Meter"));
    }

    /** The sign at the line is what the finding does to the entry. */
    @Test
    void theRunSheetMarksAFillThatFindsNothingAsItIsMeant() {
        for (var none : Fill.None.values()) {
            var fill = new Fill(FILL.id(), FILL.table(), FILL.keys(), FILL.brings(), none, FILL.several(), false);
            var trace = Trace.kept();
            var found = ENGINE
                    .assess(
                            plan(form(rules(List.of(), List.of(fill), List.of()))),
                            draft(Map.of("tag", "K-99")),
                            STORED,
                            trace)
                    .findings()
                    .all()
                    .stream()
                    .filter(finding -> finding.rule().equals(FILL.id()))
                    .map(finding -> finding.severity().name())
                    .findFirst();
            assertThat(trace.lines())
                    .filteredOn(line -> line.rule().equals(FILL.id()))
                    .singleElement()
                    .satisfies(line -> assertThat(line.mark().name()).isEqualTo(found.orElse("DONE")));
        }
    }

    @Test
    void theRunSheetTellsOfAThreadThatLeadsNowhere() {
        var trace = Trace.kept();
        var broken =
                form(Rules.NONE).withFields(field -> field.column().equals("kind") ? field.threadedTo("sort") : field);
        ENGINE.assess(plan(broken), draft(BOOKED), STORED, trace);
        assertThat(trace.lines())
                .filteredOn(line -> line.mark() == Trace.Mark.FAULT)
                .singleElement()
                .satisfies(line -> {
                    assertThat(line.stage()).isEqualTo(Trace.Stage.READ);
                    assertThat(line.about()).isEqualTo("sort");
                    assertThat(line.text()).startsWith("Kind is threaded to “sort”, a column that");
                });
    }

    @Test
    void theRunSheetTellsWhatWasDone() {
        var trace = Trace.kept();
        ENGINE.assess(plan(form(rules(List.of(), List.of(FILL), FORMULAS))), draft(BOOKED), STORED, trace);
        assertThat(trace.lines())
                .extracting(Trace.Line::text)
                .contains("Filled Kind with Meter from Kit row 3.", "Total comes to 13.5: days * charge.")
                .anySatisfy(line -> assertThat(line).startsWith("Read From at: “8/3/2026 9:00” is Mon 3 Aug 2026"));
        assertThat(trace.lines())
                .filteredOn(line -> line.text().startsWith("Filled Kind"))
                .singleElement()
                .satisfies(line -> {
                    assertThat(line.about()).isEqualTo("kind");
                    assertThat(line.rule()).isEqualTo(FILL.id());
                });
    }
}
