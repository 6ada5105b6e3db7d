package weft.store.find;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static weft.store.Given.text;
import static weft.store.Given.values;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.stream.LongStream;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import weft.core.find.Criterion;
import weft.core.find.CriterionReader;
import weft.core.find.Sort;
import weft.core.find.Total;
import weft.core.find.View;
import weft.core.record.StoredRow;
import weft.core.table.Column;
import weft.core.table.Faults;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Value;
import weft.store.Given;
import weft.store.TestDatabase;
import weft.store.form.Forms;
import weft.store.record.Records;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

@ExtendWith(TestDatabase.class)
class ViewsTest {

    private static final int MANY = 10_500;
    private static StoredTable few;
    private static StoredTable many;

    private final Tables tables = new Tables(TestDatabase.get().sql());
    private final Records records = new Records(TestDatabase.get().sql());
    private final Views views = new Views(TestDatabase.get(), tables);

    /** One table with all kinds of ties and empties; one with more records than are gathered. */
    @BeforeAll
    static void fill() {
        var records = new Records(TestDatabase.get().sql());
        few = Given.table(
                "after-last",
                "site text",
                "note longtext",
                "count whole",
                "ph decimal",
                "wet yesno",
                "taken_on date",
                "seen_at datetime",
                "risk choice");
        add(records, "QB-01", "Dead perch, two", 3, "7.4", true, "2026-05-01", "2026-05-01T09:30", "low");
        add(records, "qb-02", "Élan vital", 12, "8.6", false, "2026-06-15", "2026-05-31T23:59:59", "it's high");
        add(records, "TS-04", "100% sure_thing", -5, "9.1", null, "2025-12-31", "2026-06-01T00:00", null);
        add(records, "QB-1", null, null, null, true, null, null, "low");
        add(records, null, "elan", 3, "0.0", null, "2026-05-31", null, "it's high");
        many = Given.table("after-last", "site text", "count whole", "ph decimal required", "day date");
        TestDatabase.get()
                .sql()
                .execute("insert into records." + many.definition().name()
                        + " (_row, _version, _entered_by, site, count, ph, day)"
                        + " select n, 1, 'tester', case when n % 5 > 0 then 'Wend ' || n % 70 end,"
                        + " case when n % 7 > 0 then n % 40 end, n % 11, case when n % 3 > 0 then date '2024-01-01' + n % 900 end"
                        + " from generate_series(1, " + MANY + ") n");
        TestDatabase.get()
                .sql()
                .execute("update weft.row_counter set next_row = " + (MANY + 1) + " where table_id = " + many.id());
        TestDatabase.get().sql().execute("analyze records." + many.definition().name());
    }

    private static void add(
            Records records,
            String site,
            String note,
            Integer count,
            String ph,
            Boolean wet,
            String day,
            String at,
            String risk) {
        Given.saved(
                few,
                values(
                        "site", site == null ? Value.EMPTY : text(site),
                        "note", note == null ? Value.EMPTY : text(note),
                        "count", count == null ? Value.EMPTY : new Value.Whole(count),
                        "ph", ph == null ? Value.EMPTY : new Value.Decimal(new BigDecimal(ph)),
                        "wet", wet == null ? Value.EMPTY : new Value.YesNo(wet),
                        "taken_on", day == null ? Value.EMPTY : new Value.Day(LocalDate.parse(day)),
                        "seen_at", at == null ? Value.EMPTY : new Value.Moment(LocalDateTime.parse(at)),
                        "risk", risk == null ? Value.EMPTY : text(risk)),
                Optional.empty(),
                "tester");
    }

    private static View asking(StoredTable table, String column, String typed, Sort sort) {
        var asked = table.definition().column(column).orElseThrow();
        var reader = new CriterionReader(Conventions.DEFAULT, LocalDateTime.parse("2026-06-20T12:00"));
        var criterion = ((Criterion.Read) reader.read(asked, typed)).criterion();
        return new View(List.of(new View.Condition(asked, column, criterion)), Optional.empty(), sort);
    }

    private static Sort sort(StoredTable table, String wire) {
        return Sort.read(wire, table.definition());
    }

    private List<Long> rows(StoredTable table, View view) {
        return views.page(SeenTable.all(table), view, Optional.empty(), 500).records().stream()
                .map(StoredRow::row)
                .toList();
    }

    @ParameterizedTest(name = "{0}: {1} -> {2}")
    @CsvSource(delimiter = '|', quoteCharacter = '`', textBlock = """
            site     | qb              | 1 2 4
            site     | qb-0*           | 1 2
            site     | *4              | 3
            site     | q*1             | 1 4
            site     | "QB-1"          | 4
            site     | "qb-1"          |
            site     | not qb          | 3 5
            site     | empty           | 5
            site     | filled          | 1 2 3 4
            note     | elan            | 2 5
            note     | ELAN and vital  | 2
            note     | 100%            | 3
            note     | e_t             | 3
            note     | perch or sure   | 1 3
            count    | 3               | 1 5
            count    | > 3             | 2
            count    | below 3         | 3
            count    | -5 to 3         | 1 3 5
            count    | not 3           | 2 3 4
            count    | empty or > 10   | 2 4
            ph       | > 8.5           | 2 3
            ph       | at most 7.4     | 1 5
            wet      | y               | 1 4
            wet      | not y           | 2 3 5
            taken_on | 2026            | 1 2 5
            taken_on | May 2026        | 1 5
            taken_on | after may       | 2
            taken_on | last month      | 1 5
            seen_at  | 2026-05         | 1 2
            seen_at  | after 2026-05   | 3
            risk     | high            | 2 5
            risk     | not low         | 2 3 5
            """)
    void finds_what_is_asked(String column, String typed, String rows) {
        var found = rows(few, asking(few, column, typed, Sort.BY_ROW));
        assertThat(found)
                .isEqualTo(
                        rows == null
                                ? List.of()
                                : List.of(rows.split(" ")).stream()
                                        .map(Long::valueOf)
                                        .toList());
    }

    @Test
    void text_that_may_be_anywhere_is_looked_for_in_each_column_by_its_type() {
        var reader = new CriterionReader(Conventions.DEFAULT, LocalDateTime.parse("2026-06-20T12:00"));
        for (var asked : Map.of(
                        "perch",
                        List.of(1L),
                        "8.6",
                        List.of(2L),
                        "2026-05",
                        List.of(1L, 2L, 5L),
                        "nowhere",
                        List.<Long>of())
                .entrySet()) {
            var conditions = few.definition().columns().stream()
                    .flatMap(column -> reader.anywhere(column, asked.getKey()).stream()
                            .map(criterion -> new View.Condition(column, column.title(), criterion)))
                    .toList();
            var view = new View(List.of(), Optional.of(new View.Anywhere(asked.getKey(), conditions)), Sort.BY_ROW);
            assertThat(rows(few, view)).as(asked.getKey()).isEqualTo(asked.getValue());
        }
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            row       | 1 2 3 4 5
            -row      | 5 4 3 2 1
            site      | 1 2 4 3 5
            -site     | 3 4 2 1 5
            count     | 3 1 5 2 4
            -count    | 2 5 1 3 4
            wet,-ph   | 2 1 4 3 5
            -taken_on | 2 5 1 3 4
            """)
    void sorts_with_empties_last_whichever_way(String wire, String rows) {
        var view = View.all(sort(few, wire));
        var expected = List.of(rows.split(" ")).stream().map(Long::valueOf).toList();
        assertThat(rows(few, view)).isEqualTo(expected);
        // The same when it is gathered instead of walked.
        assertThat(rows(few, asking(few, "site", "filled or empty", sort(few, wire))))
                .isEqualTo(expected);
    }

    /** Every record of a view, stepping from page to page in one direction. */
    private List<Long> walked(StoredTable table, View view, int step, boolean back) {
        var all = new ArrayList<Long>();
        var last = views.place(SeenTable.all(table), view, new Goal.Last()).orElseThrow();
        Optional<String> at = Optional.empty();
        if (back) {
            all.add(last.record().id());
            at = Optional.of(last.cursor().backwards().wire());
        }
        do {
            var page = views.page(SeenTable.all(table), view, at, step);
            var ids = new ArrayList<>(page.records().stream().map(StoredRow::id).toList());
            if (back) {
                Collections.reverse(ids);
            }
            all.addAll(ids);
            at = (back ? page.previous() : page.next()).map(Cursor::wire);
        } while (at.isPresent());
        return all;
    }

    @ParameterizedTest
    @ValueSource(strings = {"-row", "site", "-ph,count", "count,-day,site"})
    void walks_forwards_and_backwards_over_ties_and_empties_meeting_each_record_once(String wire) {
        for (var view : List.of(
                View.all(sort(many, wire)),
                asking(many, "site", "wend or empty", sort(many, wire)),
                asking(many, "count", "7", sort(many, wire)))) {
            var forwards = walked(many, view, 1_700, false);
            assertThat(new HashSet<>(forwards)).hasSameSizeAs(forwards);
            assertThat(walked(many, view, 2_100, true)).isEqualTo(forwards.reversed());
            var whole = new ArrayList<Long>();
            views.each(SeenTable.all(many), view, _ -> {}, record -> whole.add(record.id()));
            assertThat(forwards).isEqualTo(whole);
        }
    }

    @Test
    void meets_every_lasting_record_once_while_others_insert_and_delete() throws Exception {
        var table = Given.table("first-free", "site text", "count whole");
        var random = new Random(7);
        for (int i = 0; i < 600; i++) {
            Given.saved(
                    table,
                    values(
                            "site",
                            i % 4 == 0 ? Value.EMPTY : text("S" + random.nextInt(5)),
                            "count",
                            new Value.Whole(i)),
                    Optional.empty(),
                    "tester");
        }
        var stop = new AtomicBoolean();
        try (var others = Executors.newSingleThreadExecutor()) {
            var at = others.submit(() -> {
                while (!stop.get()) {
                    var made = Given.saved(
                            table, values("site", text("S" + random.nextInt(5))), Optional.empty(), "other");
                    records.delete(table, made.id(), made.version(), "other");
                }
            });
            for (var wire : List.of("site", "-site", "row")) {
                var view = View.all(sort(table, wire));
                for (boolean back : List.of(false, true)) {
                    assertThat(walked(table, view, 97, back))
                            .filteredOn(id -> id <= 600)
                            .containsExactlyInAnyOrderElementsOf(
                                    LongStream.rangeClosed(1, 600).boxed().toList());
                }
            }
            stop.set(true);
            at.get();
        }
    }

    private Placed place(StoredTable table, View view, String to) {
        return views.place(
                        SeenTable.all(table),
                        view,
                        Goal.read(to, Optional.empty()).orElseThrow())
                .orElseThrow();
    }

    @Test
    void positions_are_exact_as_far_as_they_are_counted() {
        var bySite = View.all(sort(many, "site"));
        assertThat(place(many, bySite, "first").position().words(Conventions.DEFAULT))
                .isEqualTo("1 of 10,500");
        assertThat(place(many, bySite, "last").position().words(Conventions.DEFAULT))
                .isEqualTo("10,500 of 10,500");
        assertThat(place(many, bySite, "10400").position().words(Conventions.DEFAULT))
                .isEqualTo("10,400 of 10,500");
        var close = asking(many, "ph", "at least 0", sort(many, "-day"));
        assertThat(place(many, close, "first").position().words(Conventions.DEFAULT))
                .isEqualTo("1 of about 11,000");
        assertThat(place(many, close, "first").first()).isTrue();
        assertThat(place(many, close, "9999").position().words(Conventions.DEFAULT))
                .startsWith("9,999 of");
        var last = place(many, close, "last");
        assertThat(last.position().number()).isEmpty();
        assertThat(last.position().words(Conventions.DEFAULT))
                .isEqualTo("row " + "%,d".formatted(last.record().row()) + " of about 11,000");
        assertThat(last.last()).isTrue();
        assertThatThrownBy(() -> place(many, close, "10200"))
                .isInstanceOf(Faults.class)
                .hasMessageContaining("such as row 10200");
        assertThat(place(many, close, "row:10200").record().row()).isEqualTo(10_200);
        var some = asking(many, "count", "7", sort(many, "-day"));
        assertThat(place(many, some, "3").position().words(Conventions.DEFAULT))
                .isEqualTo("3 of " + views.total(SeenTable.all(many), some).words(Conventions.DEFAULT));
        assertThat(place(many, some, "99999").last()).isTrue();
        assertThat(place(many, some, "row:6").record().row()).isEqualTo(47);
    }

    @Test
    void a_number_counts_the_records_and_not_the_free_rows_between_them() {
        var table = Given.table("after-last", "n whole");
        for (int i = 1; i <= 30; i++) {
            var made = Given.saved(table, values("n", new Value.Whole(i)), Optional.empty(), "tester");
            if (i <= 7 || i == 10 || i == 20 || i == 30) {
                records.delete(table, made.id(), 1, "tester");
            }
        }
        for (var wire : List.of("row", "-row")) {
            var view = View.all(sort(table, wire));
            for (int number = 1; number <= 20; number++) {
                assertThat(place(table, view, "" + number).position().words(Conventions.DEFAULT))
                        .isEqualTo(number + " of 20");
            }
        }
        assertThat(place(table, View.all(Sort.BY_ROW), "1").record().row()).isEqualTo(8);
        assertThat(place(table, View.all(Sort.BY_ROW), "row:10").record().row()).isEqualTo(11);
        assertThat(place(table, View.all(Sort.BY_ROW), "row:30").record().row()).isEqualTo(29);
    }

    @Test
    void next_and_previous_lead_on_from_a_record_that_was_deleted_or_no_longer_matches() {
        var table = Given.table("after-last", "site text");
        var made = List.of("a", "b", "c").stream()
                .map(site -> Given.saved(table, values("site", text(site)), Optional.empty(), "tester"))
                .toList();
        var view = asking(table, "site", "a or b or c", sort(table, "site"));
        var at = Optional.of(place(table, view, "2").cursor().wire());
        Given.changed(table, made.get(1).id(), 1, values("site", text("x")), "tester");
        assertThat(views.place(SeenTable.all(table), view, Goal.read("next", at).orElseThrow())
                        .orElseThrow()
                        .record()
                        .row())
                .isEqualTo(3);
        records.delete(table, made.get(1).id(), 2, "tester");
        assertThat(views.place(
                                SeenTable.all(table),
                                view,
                                Goal.read("previous", at).orElseThrow())
                        .orElseThrow()
                        .record()
                        .row())
                .isEqualTo(1);
        assertThat(views.place(
                        SeenTable.all(table), view, new Goal.Itself(made.get(1).id())))
                .isEmpty();
    }

    @Test
    void a_cursor_of_another_order_is_refused() {
        var cursor = place(many, View.all(sort(many, "site")), "5").cursor().wire();
        for (var wrong : List.of(cursor, "nonsense", "W10")) {
            assertThatThrownBy(() ->
                            views.page(SeenTable.all(many), View.all(sort(many, "count,site")), Optional.of(wrong), 10))
                    .isInstanceOf(Faults.class);
        }
    }

    @Test
    void keeps_the_indexes_that_the_forms_of_a_large_table_need() {
        var forms = new Forms(TestDatabase.get().sql());
        forms.make(many, Conventions.DEFAULT);
        var indexes = new Indexes(TestDatabase.get(), tables, forms);
        indexes.keep();
        indexes.keep();
        assertThat(plan("select * from {t} where weft.fold(site) like '%end 69%'"))
                .contains("parts_");
        assertThat(plan("select * from {t} order by count, _row limit 10")).contains("values_");
        assertThat(plan("select * from {t} where _changed_at >= now()"))
                .contains("times_%d_changed".formatted(many.id()));
        assertThat(TestDatabase.get()
                        .sql()
                        .fetchValues("select indexdef from pg_indexes where indexname = 'times_%d_entered'"
                                .formatted(many.id())))
                .singleElement()
                .asString()
                .contains("USING brin (_entered_at)");
        TestDatabase.get().sql().execute("delete from weft.form where table_id = " + many.id());
        indexes.keep(many);
        assertThat(plan("select * from {t} order by count, _row limit 10")).doesNotContain("values_");
        assertThat(views.total(SeenTable.all(many), asking(many, "count", "not 7", Sort.BY_ROW)))
                .isInstanceOfSatisfying(
                        Total.class, total -> assertThat(total.exact()).isFalse());
    }

    private String plan(String query) {
        return TestDatabase.get()
                .sql()
                .fetch("explain "
                        + query.replace("{t}", "records." + many.definition().name()))
                .formatCSV();
    }

    @ParameterizedTest(name = "{0}: {1}")
    @CsvSource(delimiter = '|', quoteCharacter = '`', textBlock = """
            site     | wend 1*
            site     | *7
            site     | "Wend 7"
            site     | wend 6 or wend 12 and not "Wend 12"
            count    | 7
            count    | 3 to 9 or > 35
            ph       | not 4
            day      | 2024-05 or after 2026
            day      | empty
            """)
    void what_is_found_and_what_is_not_make_up_the_whole_table(String column, String typed) {
        var reader = new CriterionReader(Conventions.DEFAULT, LocalDateTime.parse("2026-06-20T12:00"));
        var asked = many.definition().column(column).orElseThrow();
        var criterion = ((Criterion.Read) reader.read(asked, typed)).criterion();
        var found = counted(asked, criterion);
        var others = counted(asked, new Criterion.Not(criterion));
        assertThat(found).isNotEmpty();
        assertThat(found).doesNotContainAnyElementsOf(others);
        assertThat(found.size() + others.size()).isEqualTo(MANY);
    }

    private Set<Long> counted(Column column, Criterion criterion) {
        var ids = new HashSet<Long>();
        var condition = new View.Condition(column, column.title(), criterion);
        views.each(
                SeenTable.all(many),
                new View(List.of(condition), Optional.empty(), Sort.BY_ROW),
                _ -> {},
                record -> ids.add(record.id()));
        return ids;
    }

    @Test
    void choicesSortAsPeopleReadThem() {
        var kind = Column.plain("kind", "Kind", ColumnType.CHOICE).of(List.of("Zebra", "apple", "Éclair", "dune"));
        var table =
                tables.make(new Table("sorted_choices", "Sorted choices", List.of(kind), Table.Placement.AFTER_LAST));
        kind.choices().forEach(choice -> Given.saved(table, values("kind", text(choice)), Optional.empty(), "tester"));
        assertThat(rows(table, View.all(sort(table, "kind")))).containsExactly(2L, 4L, 3L, 1L);
        assertThat(rows(table, asking(table, "kind", "éclair", sort(table, "-kind"))))
                .containsExactly(3L);
    }

    @Test
    void whatIsOnlyShownSortsAsNumbersWhereItIsNumbers() {
        var random = new Random(7);
        var numbers = new ArrayList<>(List.of("0", "-0.5", "1e-07", "-2.5e+12", "12", "7", "-12", "1e+20", "0.1"));
        for (int n = 0; n < 200; n++) {
            numbers.add(Double.toString(random.nextGaussian() * Math.pow(10, random.nextInt(12) - 4.0))
                    .replaceFirst("E(-?)", "e$10"));
        }
        var shown = new ArrayList<>(numbers);
        shown.addAll(List.of("$3.00", "{1,2}"));
        Collections.shuffle(shown, random);
        var sorted = TestDatabase.get()
                .sql()
                .fetch(
                        "select s from unnest(cast({0} as text[])) s order by weft.shown_key(s) collate \"C\"",
                        DSL.val(shown.toArray(String[]::new)))
                .getValues(0, String.class);
        assertThat(sorted.subList(0, numbers.size()).stream().map(Double::valueOf))
                .isSorted()
                .hasSize(numbers.size());
        assertThat(sorted.subList(numbers.size(), shown.size())).containsExactly("$3.00", "{1,2}");
    }
}
