package weft.core.entry;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.core.entry.Booked.ENGINE;
import static weft.core.entry.Booked.STORED;
import static weft.core.entry.Booked.assess;
import static weft.core.entry.Booked.column;
import static weft.core.entry.Booked.draft;
import static weft.core.entry.Booked.form;
import static weft.core.entry.Booked.one;
import static weft.core.entry.Booked.plan;
import static weft.core.entry.Booked.rules;

import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weft.core.entry.draft.Draft;
import weft.core.entry.draft.Draft.Around;
import weft.core.entry.draft.Finding;
import weft.core.entry.plan.EntryPlan;
import weft.core.form.FormMaking;
import weft.core.rule.Check;
import weft.core.rule.Derived;
import weft.core.rule.Derived.Decides;
import weft.core.rule.Numbering;
import weft.core.rule.Rules;
import weft.core.table.Table;
import weft.core.table.Table.Placement;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Value;
import weft.core.value.Wire;

/** What checks, constraints and running numbers find in bookings of kit. */
class ChecksTest {

    private static Check check(Check.Rule rule) {
        return new Check("c", rule, false, false, "");
    }

    private static String said(Check.Rule rule, Map<String, String> typed) {
        var assessment = assess(rules(List.of(check(rule)), List.of(), List.of()), typed);
        return assessment.findings().all().isEmpty()
                ? ""
                : Wire.word(one(assessment).code()) + ": " + one(assessment).message();
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
        assertThat(finding.message()).isEqualTo("Remark and Borrower are empty.");
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
                .isEqualTo("7 days is long for K-07.");
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
    void runningNumbersAreWrittenByTheirPattern() {
        var numbering = new Numbering("tag", "S-{year}-{0000}");
        assertThat(numbering.fault()).isEmpty();
        var period = numbering.period(java.time.LocalDate.of(2026, 8, 1));
        assertThat(Numbering.written(period, 7)).isEqualTo("S-2026-0007");
        assertThat(Numbering.written(period, 12345)).isEqualTo("S-2026-12345");
    }

    private static Rules numbered(String column, String pattern) {
        return new Rules(
                List.of(),
                List.of(),
                List.of(),
                List.of(),
                List.of(new Numbering(column, pattern)),
                List.of(),
                List.of());
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "tag | S-{year} | no place for the number",
                "tag | {000}-{000} | several places",
                "tag | {yaer}-{0000} | something else than {year}, {month} and zeros",
                "tag | {0000 | no place",
                "tag | {0000}} | something else",
                "days | {0000} | running numbers need a column of text",
                "gone | {0000} | no field for"
            })
    void aRunningNumberThatCannotBeGivenIsAFaultAndTakesNoPart(String column, String pattern, String words) {
        var plan = plan(form(numbered(column, pattern)));
        assertThat(plan.faults())
                .singleElement()
                .satisfies(fault -> assertThat(fault.sentence()).contains(words));
        assertThat(plan.numbers()).isEmpty();
    }

    @Test
    void whatIsTypedWhereANumberIsGivenIsSaidNotToCount() {
        var assessment = assess(numbered("tag", "K-{0000}"), Map.of("tag", "K-7"));
        assertThat(assessment.values().get("tag")).isEqualTo(Value.EMPTY);
        assertThat(assessment.fields().get("tag").locked()).isTrue();
        assertThat(assessment.readings().get("tag")).isEqualTo("its number is given when it is saved");
    }

    /** Whatever the type, a list is of values and not of spellings. */
    @ParameterizedTest
    @CsvSource({
        "DECIMAL, 1, 1.0",
        "DECIMAL, 1.50, 1.5",
        "TIME, 12:00, 12:00:00",
        "YESNO, y, yes",
        "DATE, 8/1/2026, 2026-08-01"
    })
    void oneOfAListComparesValues(ColumnType type, String listed, String typed) {
        var table = new Table("t", "T", List.of(column("c", type)), Placement.AFTER_LAST);
        var check = new Check("one", new Check.OneOf("c", List.of(listed)), false, false, "");
        var plan = EntryPlan.of(
                FormMaking.from(table, "t", Conventions.DEFAULT).ruled(rules(List.of(check), List.of(), List.of())),
                table);
        assertThat(plan.faults()).isEmpty();
        assertThat(ENGINE.assess(plan, draft(Map.of("c", typed)), STORED)
                        .findings()
                        .all())
                .isEmpty();
    }

    @Test
    void aRangeOfTimesMayGoOverMidnightAndAnyOtherUpsideDownIsAFault() {
        var table = new Table(
                "t", "T", List.of(column("at", ColumnType.TIME), column("n", ColumnType.WHOLE)), Placement.AFTER_LAST);
        var form = FormMaking.from(table, "t", Conventions.DEFAULT);
        var night = EntryPlan.of(
                form.ruled(rules(
                        List.of(new Check("night", new Check.Range("at", "22:00", "6:00"), false, false, "")),
                        List.of(),
                        List.of())),
                table);
        for (var within : List.of("22:00", "23:59", "0:00", "6:00")) {
            assertThat(ENGINE.assess(night, draft(Map.of("at", within)), STORED)
                            .findings()
                            .all())
                    .as(within)
                    .isEmpty();
        }
        assertThat(one(ENGINE.assess(night, draft(Map.of("at", "12:00")), STORED))
                        .code())
                .isEqualTo(Finding.Code.RANGE);
        var upsideDown = EntryPlan.of(
                form.ruled(rules(
                        List.of(new Check("n", new Check.Range("n", "7", "3"), false, false, "")),
                        List.of(),
                        List.of())),
                table);
        assertThat(upsideDown.faults())
                .singleElement()
                .satisfies(fault -> assertThat(fault.sentence()).contains("from the larger to the smaller"));
    }

    @Test
    void aColumnThatEveryRecordNeedsStopsTheEntryWhileItIsNotShown() {
        var table = new Table(
                "t",
                "T",
                List.of(
                        column("kind", ColumnType.TEXT),
                        column("size", ColumnType.WHOLE).required(true)),
                Placement.AFTER_LAST);
        var plan = EntryPlan.of(
                FormMaking.from(table, "t", Conventions.DEFAULT)
                        .ruled(rules(
                                List.of(), List.of(), List.of(new Derived("size", Decides.SHOWN, "kind = \"net\"")))),
                table);
        assertThat(one(ENGINE.assess(plan, draft(Map.of("kind", "pole", "size", "3")), STORED))
                        .message())
                .isEqualTo(
                        "Size is needed in every record, but this form does not show it here. Its builder can mend that.");
        assertThat(ENGINE.assess(plan, draft(Map.of("kind", "net", "size", "3")), STORED)
                        .findings()
                        .all())
                .isEmpty();
    }
}
