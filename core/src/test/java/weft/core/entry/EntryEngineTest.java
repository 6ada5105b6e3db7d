package weft.core.entry;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;
import static org.assertj.core.groups.Tuple.tuple;

import java.math.BigDecimal;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;
import weft.core.entry.draft.Draft;
import weft.core.entry.draft.Finding;
import weft.core.entry.plan.EntryPlan;
import weft.core.form.Field;
import weft.core.form.FormMaking;
import weft.core.record.StoredRows;
import weft.core.table.Faults;
import weft.core.table.Table;
import weft.core.table.TableProposal;
import weft.core.table.TableProposal.ColumnProposal;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Typed;
import weft.core.value.Value;
import weft.core.value.Wire;

class EntryEngineTest {

    private static final EntryEngine ENGINE =
            new EntryEngine(Clock.fixed(Instant.parse("2026-08-05T14:07:00Z"), ZoneOffset.UTC));

    private static ColumnProposal column(String name, String title, ColumnType type, String min, String max) {
        return ColumnProposal.plain(name, title, type)
                .required(name.equals("site"))
                .unique(name.equals("number"))
                .scaled(type == ColumnType.DECIMAL ? OptionalInt.of(1) : OptionalInt.empty())
                .within(
                        Optional.of(min).filter(bound -> !bound.isEmpty()),
                        Optional.of(max).filter(bound -> !bound.isEmpty()));
    }

    private static final Table SAMPLES = new TableProposal(
                    "samples",
                    "Samples",
                    List.of(
                            column("site", "Site", ColumnType.TEXT, "", ""),
                            column("ph", "pH", ColumnType.DECIMAL, "0", "14"),
                            column("taken_on", "Taken on", ColumnType.DATE, "2020-01-01", ""),
                            column("number", "Number", ColumnType.TEXT, "", "")),
                    Table.Placement.AFTER_LAST)
            .checked();

    /** Row 88 holds the number S-1. */
    private static final StoredRows STORED = new Rows().with(88, Map.of("number", new Value.Text("S-1")));

    private static Assessment assess(Map<String, String> typed) {
        var draft = new HashMap<String, Typed>();
        typed.forEach((column, text) -> draft.put(column, new Typed.Keyed(text)));
        var plan = EntryPlan.of(FormMaking.from(SAMPLES, "samples", Conventions.DEFAULT), SAMPLES);
        return ENGINE.assess(plan, new Draft(draft, OptionalLong.empty()), STORED);
    }

    @Test
    void aGoodEntryHasItsValuesAndReadings() {
        var assessment = assess(Map.of("site", " QB-03 ", "ph", "7.4", "taken_on", "8/1"));
        assertThat(assessment.findings().all()).isEmpty();
        assertThat(assessment.values().values().stream().map(Value::plain))
                .containsExactly("QB-03", "7.4", "2026-08-01", "");
        assertThat(assessment.readings()).isEqualTo(Map.of("taken_on", "Sat 1 Aug 2026"));
    }

    @Test
    void findingsComeInTabOrderAndSayWhatWouldBeRight() {
        var findings =
                assess(Map.of("ph", "74", "taken_on", "8/x", "number", "S-1")).findings();
        assertThat(findings.stop()).isTrue();
        assertThat(findings.all())
                .extracting(Finding::field, finding -> Wire.word(finding.code()), Finding::message)
                .containsExactly(
                        tuple("site", "required", "Site is needed. Type it here."),
                        tuple("ph", "range", "pH must be between 0 and 14. 74 is above it; 7.4?"),
                        tuple(
                                "taken_on",
                                "unreadable",
                                "“8/x” can't be read as a date. Write it like 12/24 or 2026-12-24."),
                        tuple("number", "unique", "Row 88 already has S-1. No two records may share it."));
    }

    @Test
    void oneSidedRangesAreToldAsSuch() {
        assertThat(assess(Map.of("site", "x", "taken_on", "2019-12-31"))
                        .findings()
                        .all())
                .extracting(Finding::message)
                .containsExactly("Taken on must be at least Wed 1 Jan 2020. Tue 31 Dec 2019 is below it.");
    }

    @Test
    void aTableThatCannotBeIsRefusedWithEveryFault() {
        var bad = new TableProposal(
                "Bad name",
                "",
                List.of(
                        column("a", "", ColumnType.DECIMAL, "5", "1"),
                        column("a", "", ColumnType.CHOICE, "", ""),
                        column("c", "", ColumnType.TEXT, "1", "")),
                Table.Placement.AFTER_LAST);
        assertThat(catchThrowableOfType(Faults.class, bad::checked).faults())
                .extracting(Faults.Fault::where)
                .containsExactly("name", "columns[0].min", "columns[1].name", "columns[1].choices", "columns[2].min");
    }

    private static Assessment assess(Field.Use use, Field.Start start, OptionalLong record, Map<String, Typed> typed) {
        var form = FormMaking.from(SAMPLES, "samples", Conventions.DEFAULT)
                .withFields(
                        field -> field.column().equals("ph") ? field.used(use).begun(start) : field);
        return ENGINE.assess(EntryPlan.of(form, SAMPLES), new Draft(typed, record), STORED);
    }

    @Test
    void aFieldBeginsAsItIsSetAndNobodyChangesItWhereNobodyMayType() {
        var seven = new Field.Start("7", false, false);
        var kept = new Field.Start("7", true, false);
        Map<String, Typed> nine = Map.of("ph", new Typed.Keyed("9"));
        var stored = OptionalLong.of(5);
        var fresh = OptionalLong.empty();
        assertThat(assess(Field.Use.OPEN, seven, fresh, Map.of()).values()).containsEntry("ph", decimal("7.0"));
        assertThat(assess(Field.Use.OPEN, seven, fresh, nine).values()).containsEntry("ph", decimal("9.0"));
        assertThat(assess(Field.Use.OPEN, seven, fresh, Map.of("ph", new Typed.Keyed("")))
                        .values())
                .containsEntry("ph", Value.EMPTY);
        assertThat(assess(Field.Use.LOCKED, seven, fresh, nine).values()).containsEntry("ph", decimal("7.0"));
        assertThat(assess(Field.Use.LOCKED, kept, fresh, nine).values()).containsEntry("ph", decimal("9.0"));
        assertThat(assess(Field.Use.HIDDEN, seven, stored, nine).values()).doesNotContainKey("ph");
    }

    private static Value decimal(String number) {
        return new Value.Decimal(new BigDecimal(number));
    }
}
