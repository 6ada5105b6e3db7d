package weft.core.entry;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;
import weft.core.entry.Sheet.Line;
import weft.core.entry.Sheet.Lines;
import weft.core.entry.draft.Draft;
import weft.core.entry.draft.Finding;
import weft.core.entry.plan.EntryPlan;
import weft.core.form.FormLines;
import weft.core.form.FormMaking;
import weft.core.form.Item;
import weft.core.record.StoredRow;
import weft.core.rule.Check;
import weft.core.rule.Derived;
import weft.core.rule.Derived.Decides;
import weft.core.rule.Rules;
import weft.core.table.Column;
import weft.core.table.Constraint;
import weft.core.table.Link;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Typed;
import weft.core.value.Value;
import weft.core.value.Value.Text;
import weft.core.value.Value.Whole;

/** Samples with their counts as lines. */
class SheetsTest {

    private static final Table SAMPLES = new Table(
            "samples",
            "Samples",
            List.of(
                    Column.plain("number", "Number", ColumnType.TEXT),
                    Column.plain("taken_on", "Taken on", ColumnType.DATE),
                    Column.plain("total", "Total", ColumnType.WHOLE)),
            Table.Placement.AFTER_LAST);
    private static final Table COUNTS = new Table(
            "counts",
            "Counts",
            List.of(
                    Column.plain("sample", "Sample", ColumnType.LINK)
                            .required(true)
                            .leading(new Link(
                                    "samples",
                                    "Samples",
                                    List.of(SAMPLES.columns().getFirst()),
                                    Link.Removed.REFUSE)),
                    Column.plain("taxon", "Taxon", ColumnType.TEXT).required(true),
                    Column.plain("count", "Count", ColumnType.WHOLE),
                    Column.plain("counted_on", "Counted on", ColumnType.DATE)),
            Table.Placement.AFTER_LAST,
            List.of(new Constraint.Unique("once", List.of("sample", "taxon"), "")));
    private static final EntryEngine ENGINE =
            new EntryEngine(Clock.fixed(Instant.parse("2026-08-20T10:00:00Z"), ZoneOffset.UTC));

    private static FormLines lines(int least, int most, List<String> alike) {
        var after = new Check(
                "after", new Check.Holds("counted_on >= sample.taken_on", "counted_on"), false, false, "Too early.");
        return new FormLines(
                "counts",
                "Counts",
                "counts",
                "sample",
                COUNTS.columns().stream().skip(1).map(FormMaking::field).toList(),
                6,
                least,
                most,
                alike,
                true,
                new Rules(List.of(after), List.of(), List.of(), List.of(), List.of(), List.of(), List.of()));
    }

    private static EntryPlan plan(FormLines lines, Check... checks) {
        var form = FormMaking.from(SAMPLES, "samples", Conventions.DEFAULT)
                .withSections(section -> {
                    var items = new java.util.ArrayList<Item>(section.items());
                    items.add(lines);
                    return section.with(items);
                })
                .ruled(new Rules(
                        List.of(checks),
                        List.of(),
                        List.of(new Derived("total", Decides.CALCULATED, "sum(counts.count)")),
                        List.of(),
                        List.of(),
                        List.of(),
                        List.of()));
        return EntryPlan.of(form, SAMPLES, name -> Optional.of(COUNTS).filter(table -> name.equals("counts")));
    }

    private static Line line(String taxon, String count, String day) {
        return new Line(
                Map.of(
                        "taxon", new Typed.Keyed(taxon),
                        "count", new Typed.Keyed(count),
                        "counted_on", new Typed.Keyed(day)),
                Optional.empty(),
                false,
                Map.of(),
                Map.of());
    }

    private static StoredRow stored(long id, String taxon, long count) {
        return new StoredRow(
                id,
                id,
                1,
                Map.of(
                        "sample", new Value.Link(7, 7, "S-7"),
                        "taxon", new Text(taxon),
                        "count", new Whole(count),
                        "counted_on", Value.EMPTY));
    }

    private static Lines numbered(Line... lines) {
        var sent = new HashMap<Integer, Line>();
        for (int at = 0; at < lines.length; at++) {
            sent.put(at + 1, lines[at]);
        }
        return new Lines(sent, List.of());
    }

    private static Sheet assess(EntryPlan plan, OptionalLong record, Lines lines, Rows ofLines) {
        var draft =
                new Draft(Map.of("taken_on", new Typed.Keyed("2026-08-05")), record, Map.of(), Draft.Around.NOTHING);
        return new Sheets(ENGINE).assess(plan, draft, 0, Map.of("counts", lines), new Rows(), _ -> ofLines);
    }

    private static List<String> found(Sheet sheet, int line) {
        return sheet.lines().get("counts").each().get(line).findings().all().stream()
                .map(Finding::message)
                .toList();
    }

    @Test
    void formulasOfTheFormGoOverItsLinesAndThoseOfALineThroughToTheEntryAsItIsTyped() {
        var plan = plan(
                lines(0, 0, List.of()),
                new Check("many", new Check.Holds("count(counts) >= 3", "total"), true, false, "Only {count(counts)}."),
                new Check(
                        "all",
                        new Check.Holds("every line in counts satisfies line.count != null", "total"),
                        false,
                        false,
                        "One is not counted."),
                new Check(
                        "none",
                        new Check.Holds("count(counts[count > 100]) = 0", "total"),
                        false,
                        false,
                        "One is a great many."));
        assertThat(plan.faults()).isEmpty();
        var sheet = assess(
                plan,
                OptionalLong.empty(),
                numbered(line("mayfly", "3", "2026-08-06"), line("worm", "101", "2026-08-01")),
                new Rows());
        assertThat(sheet.entry().values()).containsEntry("total", new Whole(104));
        assertThat(sheet.entry().findings().all())
                .extracting(Finding::message)
                .containsExactly("Only 2.", "One is a great many.");
        assertThat(assess(
                                plan,
                                OptionalLong.empty(),
                                numbered(line("a", "3", ""), line("b", "", ""), line("c", "many", "")),
                                new Rows())
                        .entry()
                        .values())
                .as("what is empty or can't be read does not count")
                .containsEntry("total", new Whole(3));
        assertThat(found(sheet, 1)).isEmpty();
        assertThat(found(sheet, 2)).as("the sample is not stored yet").containsExactly("Too early.");
        assertThat(sheet.clear()).isFalse();
        assertThat(assess(plan, OptionalLong.empty(), numbered(line("worm", "", "")), new Rows())
                        .entry()
                        .findings()
                        .all())
                .extracting(Finding::message)
                .containsExactly("Only 1.", "One is not counted.");
    }

    @Test
    void noTwoLinesAreAlikeAndThereAreNoFewerOrMoreThanWanted() {
        var plan = plan(lines(2, 3, List.of("count")));
        var none = assess(plan, OptionalLong.empty(), Lines.NONE, new Rows());
        assertThat(none.lines().get("counts").whole().all())
                .extracting(Finding::message)
                .containsExactly("Counts needs at least 2 lines; there are 0.");
        var four = assess(
                plan,
                OptionalLong.empty(),
                numbered(line("a", "1", ""), line("a", "2", ""), line("b", "1", ""), line("c", "", "")),
                new Rows());
        assertThat(found(four, 2)).containsExactly("Line 1 already has a.");
        assertThat(found(four, 3)).containsExactly("Line 1 has the same Count.");
        assertThat(four.lines().get("counts").whole().all())
                .extracting(Finding::message)
                .containsExactly("Counts takes at most 3 lines; there are 4. Take some out.");
    }

    @Test
    void linesThatStayCountAndThoseThatAreChangedTogetherAreInNobodysWay() {
        var plan = plan(lines(0, 0, List.of("taxon")));
        var rows = new Rows();
        for (var row : List.of(stored(1, "mayfly", 3), stored(2, "worm", 4), stored(3, "leech", 5))) {
            rows.with(row.row(), row.values());
        }
        var swapped = new Lines(
                Map.of(
                        1,
                        new Line(
                                line("worm", "10", "").typed(),
                                Optional.of(stored(1, "mayfly", 3)),
                                false,
                                Map.of(),
                                Map.of()),
                        2,
                        new Line(
                                line("mayfly", "20", "").typed(),
                                Optional.of(stored(2, "worm", 4)),
                                false,
                                Map.of(),
                                Map.of()),
                        3,
                        line("leech", "1", "")),
                List.of(stored(3, "leech", 5)));
        var sheet = assess(plan, OptionalLong.of(7), swapped, rows);
        assertThat(sheet.entry().values()).containsEntry("total", new Whole(36));
        assertThat(found(sheet, 1)).isEmpty();
        assertThat(found(sheet, 2)).isEmpty();
        assertThat(found(sheet, 3)).singleElement().asString().startsWith("Row 3 already has");
        var gone = new Lines(
                Map.of(1, new Line(Map.of(), Optional.of(stored(1, "mayfly", 3)), true, Map.of(), Map.of())),
                List.of(stored(2, "worm", 4)));
        assertThat(assess(plan, OptionalLong.of(7), gone, rows).entry().values())
                .containsEntry("total", new Whole(4));
    }

    @Test
    void linesThatCannotBeThereAreAFault() {
        var elsewhere =
                new FormLines("notes", "Notes", "notes", "sample", List.of(), 1, 0, 0, List.of(), false, Rules.NONE);
        assertThat(plan(elsewhere).faults())
                .extracting(EntryPlan.PlanFault::sentence)
                .startsWith("There is no table “notes” any more.");
        var unlinked =
                new FormLines("counts", "Counts", "counts", "taxon", List.of(), 1, 0, 0, List.of(), false, Rules.NONE);
        assertThat(plan(unlinked).faults())
                .extracting(EntryPlan.PlanFault::sentence)
                .contains("“taxon” of Counts is no link to Samples, so that Counts can't be its lines.");
    }

    /** Whatever lines there are, the sum is that of adding them up, and the first of those alike is let through. */
    @Property
    void sumsAndDoublesAreThoseOfLookingAtEachLine(@ForAll @Size(max = 20) List<@IntRange(max = 9) Integer> counts) {
        var plan = plan(lines(0, 0, List.of("count")));
        var each = new Line[counts.size()];
        for (int at = 0; at < each.length; at++) {
            each[at] = line("taxon " + at, Integer.toString(counts.get(at)), "");
        }
        var sheet = assess(plan, OptionalLong.empty(), numbered(each), new Rows());
        assertThat(sheet.entry().values().getOrDefault("total", Value.EMPTY))
                .isEqualTo(
                        counts.isEmpty()
                                ? Value.EMPTY
                                : new Whole(counts.stream()
                                        .mapToLong(Integer::longValue)
                                        .sum()));
        for (int at = 0; at < each.length; at++) {
            assertThat(found(sheet, at + 1).isEmpty()).isEqualTo(counts.indexOf(counts.get(at)) == at);
        }
    }
}
