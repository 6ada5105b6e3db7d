package weft.core.entry;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.core.entry.Booked.BOOKED;
import static weft.core.entry.Booked.ENGINE;
import static weft.core.entry.Booked.FILL;
import static weft.core.entry.Booked.FORMULAS;
import static weft.core.entry.Booked.STORED;
import static weft.core.entry.Booked.assess;
import static weft.core.entry.Booked.draft;
import static weft.core.entry.Booked.form;
import static weft.core.entry.Booked.one;
import static weft.core.entry.Booked.plan;
import static weft.core.entry.Booked.rules;
import static weft.core.entry.Booked.text;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.Random;
import java.util.stream.Stream;
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
import weft.core.record.StoredRow;
import weft.core.rule.Choices;
import weft.core.rule.Derived;
import weft.core.rule.Derived.Decides;
import weft.core.rule.Fill;
import weft.core.rule.Rules;
import weft.core.value.Value;

/** How fills, formulas and lists decide the values of bookings of kit. */
class RulesTest {

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
    void whatIsTypedOverAnotherValueThanStandsThereByNowIsAskedAbout() {
        var typed = new HashMap<>(BOOKED);
        typed.put("charge", "5");
        var plan = plan(form(rules(List.of(), List.of(FILL), FORMULAS)));
        var said = Stream.of("4.50", "4.5", "4")
                .map(seen -> new Draft(
                        draft(typed).typed(),
                        OptionalLong.empty(),
                        Map.of(),
                        new Around("Imre", Map.of(), Map.of(), Map.of(), Map.of("charge", seen))))
                .map(draft -> ENGINE.assess(plan, draft, STORED).findings().all().stream()
                        .map(Finding::message)
                        .toList())
                .toList();
        assertThat(said.subList(0, 2)).allSatisfy(each -> assertThat(each).isEmpty());
        assertThat(said.get(2))
                .containsExactly("Charge in Kit row 3 was changed meanwhile and is “4.5” now."
                        + " What is typed here would be written over it.");
    }

    @Test
    void whatIsSentForALockedFieldIsNotDroppedWithoutAWord() {
        var locking = rules(List.of(), List.of(), List.of(new Derived("kind", Decides.LOCKED, "borrower = \"Imre\"")));
        var plan = plan(form(locking)
                .withFields(field -> field.column().equals("remark") ? field.used(Field.Use.LOCKED) : field));
        assertThat(locked(plan, OptionalLong.empty(), Map.of("remark", "x", "kind", "Net")))
                .containsExactly("remark: Remark is locked and stays empty. Take back what was typed there.");
        assertThat(locked(plan, OptionalLong.of(7), Map.of("remark", "y", "kind", "Meter", "borrower", "Imre")))
                .containsExactly(
                        "kind: Kind is locked and stays “Net”. Take back what was typed there.",
                        "remark: Remark is locked and stays “x”. Take back what was typed there.");
        // What a formula gives a new entry is worked out whatever is sent.
        var begun = plan(
                form(rules(List.of(), List.of(), List.of(new Derived("remark", Decides.DEFAULT, "\"by the door\""))))
                        .withFields(field -> field.column().equals("remark") ? field.used(Field.Use.LOCKED) : field));
        assertThat(locked(begun, OptionalLong.empty(), Map.of("remark", "mine")))
                .isEmpty();
        assertThat(locked(begun, OptionalLong.of(7), Map.of("remark", "mine"))).hasSize(1);
        // What stands there may be sent with the rest, and nothing says nothing.
        assertThat(locked(plan, OptionalLong.of(7), Map.of("remark", "x", "kind", " ", "borrower", "Imre")))
                .isEmpty();
        assertThat(locked(plan, OptionalLong.of(7), Map.of("kind", "Meter", "borrower", "Ada")))
                .isEmpty();
    }

    private static List<String> locked(EntryPlan plan, OptionalLong record, Map<String, String> typed) {
        Map<String, Value> stored = record.isEmpty()
                ? Map.of()
                : Map.of("kind", text("Net"), "remark", text("x"), "borrower", text("Imre"));
        var draft = new Draft(draft(typed).typed(), record, stored, Around.NOTHING);
        return ENGINE.assess(plan, draft, STORED).findings().all().stream()
                .map(finding -> finding.field() + ": " + finding.message())
                .toList();
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

    @Test
    void aNameThatIsNearlyAColumnsIsToldWithIt() {
        for (var slip : List.of("borower", "borrowre", "Borrower", "barrower")) {
            var plan = plan(form(rules(
                    List.of(), List.of(), List.of(new Derived("remark", Decides.CALCULATED, slip + " + \"x\"")))));
            assertThat(plan.faults())
                    .singleElement()
                    .extracting(EntryPlan.PlanFault::sentence)
                    .asString()
                    .endsWith("Bookings has no such column. Is it borrower?");
        }
    }

    @Test
    void aCircleIsRefusedInPlainWordsAndTheRestGoesOn() {
        var plan = plan(form(rules(
                List.of(),
                List.of(),
                List.of(
                        new Derived("days", Decides.CALCULATED, "total + 1"),
                        new Derived("total", Decides.CALCULATED, "days * 2"),
                        new Derived("remark", Decides.CALCULATED, "upper case(borrower)"),
                        new Derived("kind", Decides.CALCULATED, "nowhere + 1")))));
        assertThat(plan.faults())
                .extracting(EntryPlan.PlanFault::sentence)
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

    /** As choices do: by case and accents aside where that is still one record, and then as the record has it. */
    @Test
    void typedKeysFindTheirRecordInAnySpellingThatIsStillOne() {
        var filled = assess(rules(List.of(), List.of(FILL), List.of()), Map.of("tag", "k-07"));
        assertThat(filled.values().get("tag")).isEqualTo(text("K-07"));
        assertThat(filled.values().get("kind")).isEqualTo(text("Meter"));
        assertThat(filled.readings().get("tag")).isEqualTo("K-07");
        assertThat(one(assess(rules(List.of(), List.of(FILL), List.of()), Map.of("tag", "k-08")))
                        .message())
                .isEqualTo("Kit has no row with k-08.");
        var listed = new Rules(
                List.of(),
                List.of(),
                List.of(),
                List.of(new Choices("tag", "kit", "code", "name", List.of(), false)),
                List.of(),
                List.of(),
                List.of());
        var chosen = assess(listed, Map.of("tag", "k-07"));
        assertThat(chosen.findings().all()).isEmpty();
        assertThat(chosen.values().get("tag")).isEqualTo(text("K-07"));
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
