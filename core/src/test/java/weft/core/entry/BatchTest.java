package weft.core.entry;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.core.entry.Booked.ENGINE;
import static weft.core.entry.Booked.column;
import static weft.core.entry.Booked.text;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Random;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import weft.core.entry.draft.Draft;
import weft.core.entry.draft.Finding;
import weft.core.entry.plan.EntryPlan;
import weft.core.form.FormMaking;
import weft.core.record.StoredRow;
import weft.core.record.StoredRows;
import weft.core.rule.Derived;
import weft.core.rule.Derived.Decides;
import weft.core.rule.Fill;
import weft.core.rule.Numbering;
import weft.core.rule.Rules;
import weft.core.table.Constraint;
import weft.core.table.Constraint.NoOverlap;
import weft.core.table.Table;
import weft.core.table.Table.Placement;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Order;
import weft.core.value.Typed;
import weft.core.value.Value;

/** Many lines are assessed as their entries would be, one after the other, each stored before the next. */
class BatchTest {

    private static final Table COUNTS = new Table(
            "counts",
            "Counts",
            List.of(
                    column("code", ColumnType.TEXT).unique(true),
                    column("sample", ColumnType.TEXT).required(true),
                    column("taxon", ColumnType.TEXT),
                    column("from_on", ColumnType.DATE),
                    column("to_on", ColumnType.DATE),
                    column("count", ColumnType.WHOLE)),
            Placement.AFTER_LAST,
            List.of(
                    new Constraint.Unique("alike", List.of("sample", "taxon"), ""),
                    new NoOverlap("apart", List.of("sample"), "from_on", "to_on", "")));

    private static EntryPlan plan(Derived... formulas) {
        var form = FormMaking.from(COUNTS, "counts", Conventions.DEFAULT)
                .ruled(new Rules(List.of(), List.of(), List.of(formulas), List.of(), List.of(), List.of(), List.of()));
        return EntryPlan.of(form, COUNTS);
    }

    private static Draft draft(Map<String, String> typed) {
        var keyed = new HashMap<String, Typed>();
        typed.forEach((column, text) -> keyed.put(column, new Typed.Keyed(text)));
        return new Draft(keyed, OptionalLong.empty());
    }

    /** Stored rows that can only be looked through one by one. */
    private static final class Stored implements StoredRows {
        private final List<StoredRow> rows = new ArrayList<>();
        private final AtomicInteger asked = new AtomicInteger();

        @Override
        public Optional<StoredRow> with(Map<String, Value> values, OptionalLong except) {
            return rows.stream()
                    .filter(row -> values.entrySet().stream()
                            .allMatch(each -> row.of(each.getKey()).equals(each.getValue())))
                    .findFirst();
        }

        @Override
        public Optional<StoredRow> overlapping(NoOverlap constraint, Map<String, Value> values, OptionalLong except) {
            return rows.stream()
                    .filter(row -> constraint.columns().stream()
                            .noneMatch(column -> row.of(column).isEmpty()))
                    .filter(row -> constraint.same().stream()
                            .allMatch(column -> row.of(column).equals(values.get(column))))
                    .filter(row -> Order.compare(row.of(constraint.from()), values.get(constraint.to())) < 0
                            && Order.compare(row.of(constraint.to()), values.get(constraint.from())) > 0)
                    .findFirst();
        }

        @Override
        public List<StoredRow> matching(String table, Map<String, Value> values, int most) {
            asked.incrementAndGet();
            return List.of(new StoredRow(1, 1, 1, Map.of("name", text("of " + values.values()))));
        }

        @Override
        public Optional<StoredRow> alike(String table, Map<String, Value> values) {
            return Optional.empty();
        }

        @Override
        public Optional<StoredRow> record(String table, long id) {
            return Optional.empty();
        }

        @Override
        public Optional<StoredRow> inRow(String table, long row) {
            return Optional.empty();
        }
    }

    private static Map<String, String> line(Random random) {
        var typed = new HashMap<String, String>();
        if (random.nextInt(3) > 0) {
            typed.put("code", "c" + random.nextInt(6));
        }
        if (random.nextInt(8) > 0) {
            typed.put("sample", "S" + random.nextInt(2));
        }
        if (random.nextInt(3) > 0) {
            typed.put("taxon", "t" + random.nextInt(3));
        }
        if (random.nextInt(3) > 0) {
            var from = LocalDate.of(2026, 8, 1 + random.nextInt(12));
            typed.put("from_on", from.toString());
            typed.put("to_on", from.plusDays(random.nextInt(4) - 1).toString());
        }
        typed.put("count", random.nextInt(9) == 0 ? "many" : "" + random.nextInt(50));
        return typed;
    }

    @Test
    void linesCollideWithEachOtherAsStoredRecordsWould() {
        var plan = plan();
        int collided = 0;
        for (int seed = 0; seed < 300; seed++) {
            var random = new Random(seed);
            var lines = IntStream.range(0, 8).mapToObj(_ -> line(random)).toList();
            var one = new Stored();
            one.rows.add(new StoredRow(9, 900, 1, Map.of("code", text("c5"))));
            var expected = new ArrayList<List<String>>();
            for (var typed : lines) {
                var assessment = ENGINE.assess(plan, draft(typed), one);
                expected.add(said(assessment, "Row "));
                one.rows.add(new StoredRow(one.rows.size(), one.rows.size(), 1, assessment.values()));
            }
            var stored = new Stored();
            stored.rows.add(one.rows.getFirst());
            var all = new Batch(ENGINE)
                    .assess(plan, COUNTS, lines.stream().map(BatchTest::draft).toList(), stored);
            assertThat(all.stream().map(each -> said(each, "Line ")).toList())
                    .as("seed %d: %s", seed, lines)
                    .isEqualTo(expected);
            collided += (int) all.stream()
                    .flatMap(each -> each.findings().all().stream())
                    .filter(finding -> finding.message().startsWith("Line "))
                    .count();
        }
        assertThat(collided).isGreaterThan(500);
    }

    /** What is said, a line before as if it were a row. */
    private static List<String> said(Assessment assessment, String called) {
        return assessment.findings().all().stream()
                .map(finding -> finding.field() + " " + finding.code() + " "
                        + finding.message().replaceFirst("^" + called + "(?=\\d{1,2} )", "# "))
                .toList();
    }

    @Test
    void theLineAboveIsTheEntryBefore() {
        var plan = plan(
                new Derived("count", Decides.DEFAULT, "if last.count = null then 1 else last.count + 1"),
                new Derived("sample", Decides.DEFAULT, "last.sample"));
        assertThat(plan.looksBack()).contains("count", "sample");
        var lines = List.of(
                draft(Map.of("sample", "S1", "taxon", "a")),
                draft(Map.of("taxon", "b")),
                draft(Map.of("taxon", "c", "count", "40")),
                draft(Map.of("taxon", "d")));
        assertThat(new Batch(ENGINE).assess(plan, COUNTS, lines, new Stored()))
                .extracting(each -> each.values().get("sample").plain() + " "
                        + each.values().get("count").plain())
                .containsExactly("S1 1", "S1 2", "S1 40", "S1 41");
    }

    /** It would be taken for nothing. */
    @Test
    void theNumberOfTheLineAboveIsNotKnownBeforeThatIsSaved() {
        var rules = new Rules(
                List.of(),
                List.of(),
                List.of(new Derived("taxon", Decides.DEFAULT, "\"after \" + last.sample")),
                List.of(),
                List.of(new Numbering("sample", "S-{000}")),
                List.of(),
                List.of());
        var plan = EntryPlan.of(
                FormMaking.from(COUNTS, "counts", Conventions.DEFAULT).ruled(rules), COUNTS, _ -> Optional.empty());
        var lines = List.of(draft(Map.of("count", "1")), draft(Map.of("count", "2")), draft(Map.of("count", "3")));
        assertThat(new Batch(ENGINE).assess(plan, COUNTS, lines, new Stored()))
                .extracting(each -> each.findings().all().stream()
                        .map(Finding::message)
                        .anyMatch(said -> said.contains("asks for Sample of the entry before")))
                .containsExactly(false, true, true);
    }

    @Test
    void whatManyLinesAskForIsLookedUpOnce() {
        var form = FormMaking.from(COUNTS, "counts", Conventions.DEFAULT);
        var other = new Table(
                "samples",
                "Samples",
                List.of(column("number", ColumnType.TEXT), column("name", ColumnType.TEXT)),
                Placement.AFTER_LAST);
        var fill = new Fill(
                "f",
                "samples",
                List.of(new Fill.Tie("sample", "number")),
                List.of(new Fill.Tie("taxon", "name")),
                Fill.None.LEAVE,
                Fill.Several.LEAVE,
                false);
        var plan = EntryPlan.of(
                form.ruled(new Rules(List.of(), List.of(fill), List.of(), List.of(), List.of(), List.of(), List.of())),
                COUNTS,
                _ -> Optional.of(other));
        var stored = new Stored();
        var lines = IntStream.range(0, 200)
                .mapToObj(n -> draft(Map.of("sample", "S" + n % 2, "count", "" + n)))
                .toList();
        var all = new Batch(ENGINE).assess(plan, COUNTS, lines, stored);
        assertThat(all.get(199).values().get("taxon")).isEqualTo(text("of [" + text("S1") + "]"));
        // Two that begin at once may both ask.
        assertThat(stored.asked.get()).isBetween(2, 8);
        assertThat(all.get(2).findings().all()).extracting(Finding::field).containsExactly("taxon");
    }

    @Test
    void whatADoorDoesNotShowIsNotToldOfALine() {
        var seen = COUNTS.with(COUNTS.columns().stream()
                .filter(column -> !column.name().equals("taxon"))
                .toList());
        var lines = List.of(
                draft(Map.of("sample", "S1", "taxon", "secret")), draft(Map.of("sample", "S1", "taxon", "secret")));
        var findings = new Batch(ENGINE)
                .assess(plan(), seen, lines, new Stored())
                .get(1)
                .findings()
                .all();
        assertThat(findings)
                .singleElement()
                .satisfies(finding ->
                        assertThat(finding.message()).startsWith("Line 1").doesNotContain("secret"));
    }
}
