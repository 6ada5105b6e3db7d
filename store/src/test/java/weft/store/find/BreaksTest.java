package weft.store.find;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.time.Clock;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.core.entry.EntryEngine;
import weft.core.entry.plan.EntryPlan;
import weft.core.form.Form;
import weft.core.form.FormMaking;
import weft.core.record.StoredRow;
import weft.core.rule.Check;
import weft.core.rule.Rules;
import weft.core.table.Constraint;
import weft.core.value.Conventions;
import weft.core.value.Value;
import weft.store.Given;
import weft.store.TestDatabase;
import weft.store.record.Records;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/** What the database finds to break a rule is what the engine finds, record by record. */
@ExtendWith(TestDatabase.class)
class BreaksTest {

    private static final int RECORDS = 300;
    private static final String[] TEXTS = {"", "a", "dry", "Dry", "rain", "𝄞𝄞", "é", "水水水", "six six", "a-b"};

    private static StoredTable table;
    private static List<StoredRow> stored;
    private static Form form;

    private final Breaks breaks = new Breaks(TestDatabase.get());

    @BeforeAll
    static void fill() {
        table = Given.table(
                "after-last",
                "site text",
                "note longtext",
                "count whole",
                "ph decimal",
                "wet yesno",
                "from_on date",
                "to_on date",
                "at time",
                "risk choice");
        form = FormMaking.from(table.definition(), "breaks", Conventions.DEFAULT);
        var random = new Random(7);
        stored = new ArrayList<>();
        for (int i = 0; i < RECORDS; i++) {
            var values = new LinkedHashMap<String, Value>();
            put(values, "site", random, () -> Given.text(TEXTS[1 + random.nextInt(TEXTS.length - 1)]));
            put(values, "note", random, () -> Given.text(TEXTS[1 + random.nextInt(TEXTS.length - 1)]));
            put(values, "count", random, () -> new Value.Whole(random.nextInt(9)));
            put(values, "ph", random, () -> new Value.Decimal(BigDecimal.valueOf(random.nextInt(140), 1)));
            put(values, "wet", random, () -> new Value.YesNo(random.nextBoolean()));
            put(values, "from_on", random, () -> day(random));
            put(values, "to_on", random, () -> day(random));
            put(values, "at", random, () -> new Value.Hour(LocalTime.of(random.nextInt(24), 30)));
            put(values, "risk", random, () -> Given.text(random.nextBoolean() ? "low" : "it's high"));
            stored.add(Given.saved(table, values, Optional.empty(), "Odile"));
        }
    }

    private static Value day(Random random) {
        return new Value.Day(LocalDate.of(2026, 8, 1).plusDays(random.nextInt(40)));
    }

    private static void put(
            Map<String, Value> values, String column, Random random, java.util.function.Supplier<Value> value) {
        values.put(column, random.nextInt(4) == 0 ? Value.EMPTY : value.get());
    }

    @Test
    void theDatabaseFindsWhatTheEngineFinds() {
        var random = new Random(11);
        var asked = new ArrayList<Check.Rule>(List.of(
                new Check.Complete(List.of()),
                new Check.Range("at", "22:00", "6:00"),
                new Check.OneOf("site", List.of()),
                new Check.OneOf("risk", List.of("low", "it's high"))));
        for (int i = 0; i < 200; i++) {
            asked.add(rule(random));
        }
        for (var rule : asked) {
            var plan = plan(rule);
            assertThat(plan.faults()).as("%s", rule).isEmpty();
            var found = breaks.of(plan, plan.checks().getFirst(), table, 0, 10).orElseThrow();
            var broken = byTheEngine(plan);
            assertThat(found.broken()).as("%s", rule).isEqualTo(broken.size());
            assertThat(rows(found.shown())).as("%s", rule).isEqualTo(first(broken, 10));
        }
    }

    @Test
    void thoseThatAreFoundAreShownRowAfterRow() {
        var plan = plan(new Check.Range("count", "3", ""));
        var all = byTheEngine(plan);
        var shown = new ArrayList<Long>();
        long after = 0;
        for (int i = 0; i * 7 <= all.size(); i++) {
            var found =
                    breaks.of(plan, plan.checks().getFirst(), table, after, 7).orElseThrow();
            shown.addAll(rows(found.shown()));
            after = shown.getLast();
        }
        assertThat(shown).isEqualTo(all);
        var beyond = breaks.of(plan, plan.checks().getFirst(), table, after, 7).orElseThrow();
        assertThat(beyond).isEqualTo(new Breaks.Breaking(all.size(), List.of()));
    }

    @Test
    void whatOnlyTheEngineCanSayIsLeftToIt() {
        for (var rule : List.of(new Check.Matches("site", "[a-z]+"), new Check.Holds("count > 3", "count"))) {
            var plan = plan(rule);
            assertThat(breaks.of(plan, plan.checks().getFirst(), table, 0, 10)).isEmpty();
        }
    }

    @Test
    void recordsThatAreAlikeAreFound() {
        var alike = stored.stream()
                .filter(row -> !row.of("count").isEmpty() && !row.of("risk").isEmpty())
                .collect(Collectors.groupingBy(row -> List.of(row.of("count"), row.of("risk"))))
                .values()
                .stream()
                .filter(rows -> rows.size() > 1)
                .flatMap(List::stream)
                .map(StoredRow::row)
                .sorted()
                .toList();
        var found = breaks.of(new Constraint.Unique("", List.of("count", "risk"), ""), table, 0, 10);
        assertThat(found.broken()).isEqualTo(alike.size());
        assertThat(rows(found.shown())).isEqualTo(first(alike, 10));
    }

    @Test
    void recordsThatOverlapAnEarlierOneAreFound() {
        var spans = stored.stream()
                .filter(row -> Stream.of("risk", "from_on", "to_on")
                        .noneMatch(column -> row.of(column).isEmpty()))
                .toList();
        var overlapping = spans.stream()
                .filter(row -> !day(row, "to_on").isAfter(day(row, "from_on"))
                        || spans.stream().anyMatch(other -> beginsWithin(row, other)))
                .map(StoredRow::row)
                .sorted()
                .toList();
        var found = breaks.of(new Constraint.NoOverlap("", List.of("risk"), "from_on", "to_on", ""), table, 0, 10);
        assertThat(found.broken()).isEqualTo(overlapping.size());
        assertThat(rows(found.shown())).isEqualTo(first(overlapping, 10));
    }

    private static boolean beginsWithin(StoredRow row, StoredRow other) {
        int later = day(row, "from_on").compareTo(day(other, "from_on"));
        return row.of("risk").equals(other.of("risk"))
                && (later > 0 || later == 0 && row.id() > other.id())
                && day(row, "from_on").isBefore(day(other, "to_on"));
    }

    private static LocalDate day(StoredRow row, String column) {
        return ((Value.Day) row.of(column)).date();
    }

    private static Check.Rule rule(Random random) {
        var columns = List.of("site", "note", "count", "ph", "wet", "from_on", "to_on", "at", "risk");
        var one = columns.get(random.nextInt(columns.size()));
        var other = columns.get(random.nextInt(columns.size()));
        return switch (random.nextInt(6)) {
            case 0 -> new Check.AnyOf(List.of(one, other));
            case 1 -> new Check.Complete(List.of(one, other));
            case 2 -> new Check.Needs(one, other);
            case 3 -> new Check.Length(random.nextBoolean() ? "site" : "note", random.nextInt(4), random.nextInt(7));
            case 4 ->
                switch (random.nextInt(3)) {
                    case 0 -> new Check.Range("count", random.nextBoolean() ? "" : "2", "" + (3 + random.nextInt(4)));
                    case 1 -> new Check.Range("ph", "6." + random.nextInt(9), random.nextBoolean() ? "" : "9");
                    default -> new Check.Range("from_on", "2026-08-0" + (1 + random.nextInt(9)), "2026-08-20");
                };
            default ->
                random.nextBoolean()
                        ? new Check.OneOf("site", List.of(TEXTS[1 + random.nextInt(9)], TEXTS[1 + random.nextInt(9)]))
                        : new Check.OneOf("ph", List.of("7", "7.0", "6.5", "" + random.nextInt(14)));
        };
    }

    private static EntryPlan plan(Check.Rule rule) {
        return EntryPlan.of(
                form.ruled(new Rules(
                        List.of(new Check("c", rule, false, false, "")),
                        List.of(),
                        List.of(),
                        List.of(),
                        List.of(),
                        List.of(),
                        List.of())),
                table.definition());
    }

    private static List<Long> byTheEngine(EntryPlan plan) {
        var engine = new EntryEngine(Clock.systemDefaultZone());
        var tables = new Tables(TestDatabase.get().sql());
        var rows = new Records(TestDatabase.get().sql()).rowsOf(table, tables::find);
        return stored.stream()
                .filter(row -> !engine.broken(plan, row, rows).isEmpty())
                .map(StoredRow::row)
                .toList();
    }

    private static List<Long> rows(List<StoredRow> records) {
        return records.stream().map(StoredRow::row).toList();
    }

    private static List<Long> first(List<Long> rows, int count) {
        return rows.subList(0, Math.min(count, rows.size()));
    }
}
