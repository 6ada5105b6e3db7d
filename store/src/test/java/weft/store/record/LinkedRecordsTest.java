package weft.store.record;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static weft.store.Given.text;
import static weft.store.Given.values;

import java.io.ByteArrayInputStream;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.stream.IntStream;
import org.jooq.DSLContext;
import org.jooq.exception.DataAccessException;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.core.find.Criterion;
import weft.core.find.CriterionReader;
import weft.core.find.Sort;
import weft.core.find.View;
import weft.core.record.Links;
import weft.core.record.StoredRow;
import weft.core.table.Column;
import weft.core.table.Faults;
import weft.core.table.Link;
import weft.core.table.Link.Removed;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Value;
import weft.core.value.ValueReader;
import weft.store.Given;
import weft.store.TestDatabase;
import weft.store.find.Views;
import weft.store.form.Forms;
import weft.store.imports.ImportColumn;
import weft.store.imports.Imports;
import weft.store.imports.Imports.OnMisfit;
import weft.store.table.Columns;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/** Links between real tables: kept by PostgreSQL, shown, found and sorted by words, made of text. */
@ExtendWith(TestDatabase.class)
class LinkedRecordsTest {

    private final DSLContext sql = TestDatabase.get().sql();
    private final Tables tables = new Tables(sql);
    private final Columns columns = new Columns(sql, Records::anyTable);
    private final Records records = new Records(sql);
    private final Views views = new Views(TestDatabase.get(), tables);
    private StoredTable samples;
    private StoredTable counts;

    @BeforeEach
    void given() {
        samples = Given.table(
                "after-last", "number text unique", "site text", "taken_on date", "depth decimal", "size whole");
        counts = Given.table("after-last", "taxon text");
        sample("S-1", "Stepping stones", "2026-08-01", "1.5", 3L);
        sample("S-2", "Mill, lower", null, null, null);
        sample("s-10", null, "2026-12-24", "0.0", -7L);
        sample(null, null, null, null, null);
        link(Removed.REFUSE, "number", "site", "taken_on", "depth", "size");
    }

    private void sample(String number, String site, String day, String depth, Long size) {
        Given.saved(
                samples,
                values(
                        "number", number == null ? Value.EMPTY : text(number),
                        "site", site == null ? Value.EMPTY : text(site),
                        "taken_on", day == null ? Value.EMPTY : new Value.Day(LocalDate.parse(day)),
                        "depth", depth == null ? Value.EMPTY : new Value.Decimal(new BigDecimal(depth)),
                        "size", size == null ? Value.EMPTY : new Value.Whole(size)),
                Optional.empty(),
                "tester");
    }

    private void link(Removed removed, String... shown) {
        columns.add(counts.definition().name(), List.of(column("sample", removed, shown)));
        counts = tables.find(counts.id()).orElseThrow();
    }

    private Column column(String name, Removed removed, String... shown) {
        var to = samples.definition();
        return Column.plain(name, "Sample", ColumnType.LINK)
                .leading(new Link(
                        to.name(),
                        to.title(),
                        List.of(shown).stream()
                                .map(each -> to.column(each).orElseThrow())
                                .toList(),
                        removed));
    }

    private StoredRow count(String taxon, long sample) {
        return Given.saved(
                counts,
                values("taxon", text(taxon), "sample", sample == 0 ? Value.EMPTY : new Value.Link(sample, 0, "")),
                Optional.empty(),
                "tester");
    }

    private StoredRow stored(StoredRow row) {
        return records.find(SeenTable.all(counts), row.id()).orElseThrow();
    }

    @Test
    void aLinkIsAForeignKeyAndReadWithTheWordsOfItsRecord() {
        var row = count("mayfly", 1);
        assertThat(stored(row).of("sample"))
                .isInstanceOfSatisfying(
                        Value.Link.class,
                        link -> assertThat(link.shown()).isEqualTo("S-1, Stepping stones, Sat 1 Aug 2026, 1.5, 3"));
        assertThatThrownBy(() -> count("ghost", 99)).isInstanceOfSatisfying(NotSaved.class, refused -> {
            assertThat(refused.reason()).isEqualTo(NotSaved.Reason.GONE);
            assertThat(refused.column()).contains("sample");
        });
        assertThatThrownBy(() -> sql.execute("delete from " + sql.render(samples.sqlName()) + " where _id = 1"))
                .as("whoever writes")
                .isInstanceOf(DataAccessException.class);
        assertThat(new History(sql)
                        .of(SeenTable.all(counts), row.id())
                        .getFirst()
                        .after()
                        .orElseThrow())
                .extractingByKey("sample")
                .isEqualTo(Map.of("id", 1L, "row", 0L, "shown", ""));
    }

    /** What SQL calls a record is what the core calls it, whatever it holds. */
    @Test
    void wordsAreTheSameInSqlAndInTheCore() {
        var random = new Random(7);
        for (int i = 0; i < 60; i++) {
            sample(
                    random.nextInt(4) == 0 ? null : "N" + i + ", 'x'",
                    random.nextInt(3) == 0 ? null : "Ä \"" + random.nextInt(9) + "\", b",
                    random.nextInt(3) == 0
                            ? null
                            : LocalDate.of(1890, 1, 1)
                                    .plusDays(random.nextInt(70_000))
                                    .toString(),
                    random.nextInt(3) == 0
                            ? null
                            : BigDecimal.valueOf(random.nextInt(140), 1).toPlainString(),
                    random.nextInt(3) == 0 ? null : random.nextLong());
        }
        var link = counts.definition().column("sample").orElseThrow().link().orElseThrow();
        var links = new Links(Records.anyTable(sql), Conventions.DEFAULT);
        for (long id = 1; id <= 64; id++) {
            var target = records.find(SeenTable.all(samples), id).orElseThrow();
            var shown = (Value.Link) stored(count("c" + id, id)).of("sample");
            assertThat(shown.shown()).isEqualTo(link.words(target.row(), target.values()));
            assertThat(links.called(link, shown.shown()))
                    .as("is found again by %s", shown.shown())
                    .extracting(StoredRow::id)
                    .contains(id);
        }
    }

    @Test
    void aRecordThatIsLinkedToIsNotRemovedOrItsLinksAreEmptiedWithHistory() {
        var row = count("mayfly", 1);
        count("worm", 1);
        assertThatThrownBy(() -> records.delete(samples, 1, 1, "bram"))
                .isInstanceOfSatisfying(
                        LinkedTo.class,
                        refused -> assertThat(refused.sentence())
                                .isEqualTo(
                                        "2 records of %s link to this one by Sample. Remove them or link them elsewhere first."
                                                .formatted(counts.definition().title())));
        columns.change(
                counts.definition().name(), "sample", column("sample", Removed.EMPTY, "number"), Optional.empty());
        counts = tables.find(counts.id()).orElseThrow();
        assertThat(((Value.Link) stored(row).of("sample")).shown())
                .as("called otherwise now")
                .isEqualTo("S-1");
        records.delete(samples, 1, 1, "bram");
        assertThat(stored(row).of("sample")).isEqualTo(Value.EMPTY);
        assertThat(stored(row).version()).isEqualTo(2);
        var last = new History(sql).of(SeenTable.all(counts), row.id()).getFirst();
        assertThat(last.by()).isEqualTo("bram");
        assertThat(ValuesJson.values(last.before().orElseThrow(), counts.definition())
                        .get("sample"))
                .isEqualTo(new Value.Link(1, 1, "S-1"));
        assertThat(new History(sql).restore(SeenTable.all(samples), 1, "bram")).isPresent();
        sql.execute("delete from " + sql.render(samples.sqlName()) + " where _id = 2"); // nobody links to it
        assertThatThrownBy(() -> columns.delete(samples.definition().name()))
                .isInstanceOf(Faults.class)
                .hasMessageContaining("A link leads to it: Sample of");
    }

    @Test
    void aRecordOfWhatIsGoneIsNotPutBack() {
        var row = count("mayfly", 2);
        records.delete(counts, row.id(), 1, "bram");
        records.delete(samples, 2, 1, "bram");
        assertThatThrownBy(() -> new History(sql).restore(SeenTable.all(counts), row.id(), "bram"))
                .isInstanceOfSatisfying(
                        NotSaved.class, e -> assertThat(e.reason()).isEqualTo(NotSaved.Reason.GONE));
    }

    /** Somebody removes a sample while others link to it: each is told, and no link leads nowhere. */
    @Test
    void removingAndLinkingAtOnceLeavesNoLinkThatLeadsNowhere() throws Exception {
        try (var hands = Executors.newFixedThreadPool(8)) {
            for (int round = 0; round < 12; round++) {
                sample("R-" + round, null, null, null, null);
                long id = 5L + round;
                var work = new ArrayList<Callable<Boolean>>();
                work.add(() -> done(() -> records.delete(samples, id, 1, "bram")));
                IntStream.range(0, 6).forEach(i -> work.add(() -> done(() -> count("t", id))));
                var came = hands.invokeAll(work).stream()
                        .map(LinkedRecordsTest::got)
                        .toList();
                boolean gone = records.find(SeenTable.all(samples), id).isEmpty();
                assertThat(came.getFirst()).isEqualTo(gone);
                assertThat(came.subList(1, 7)).containsOnly(!gone);
            }
        }
    }

    private static boolean done(Runnable work) {
        try {
            work.run();
            return true;
        } catch (LinkedTo | NotSaved refused) {
            return false;
        }
    }

    private static boolean got(java.util.concurrent.Future<Boolean> answer) {
        try {
            return answer.get();
        } catch (Exception e) {
            throw new AssertionError(e);
        }
    }

    private List<String> found(String typed) {
        var column = counts.definition().column("sample").orElseThrow();
        var criterion = ((Criterion.Read)
                        new CriterionReader(Conventions.DEFAULT, LocalDateTime.now()).read(column, typed))
                .criterion();
        var view = new View(List.of(new View.Condition(column, "Sample", criterion)), Optional.empty(), Sort.BY_ROW);
        return taxa(
                views.page(SeenTable.all(counts), view, Optional.empty(), 50).records());
    }

    private static List<String> taxa(List<StoredRow> rows) {
        return rows.stream().map(row -> row.of("taxon").plain()).toList();
    }

    @Test
    void linksAreFoundAndSortedByTheWordsOfTheirRecords() {
        count("a", 3);
        count("b", 0);
        count("c", 1);
        count("d", 2);
        count("e", 1);
        assertThat(found("stones")).containsExactly("c", "e");
        assertThat(found("s-1*")).containsExactly("a", "c", "e");
        assertThat(found("\"S-1\"")).containsExactly("c", "e");
        assertThat(found("\"S-2, Mill, lower\"")).containsExactly("d");
        assertThat(found("not stones")).containsExactly("a", "b", "d");
        assertThat(found("empty")).containsExactly("b");
        assertThat(found("filled and not mill")).containsExactly("a", "c", "e");
        var down = Sort.by(List.of(new Sort.Level("sample", true)));
        assertThat(taxa(views.page(
                                SeenTable.all(counts),
                                View.all(Sort.by(List.of(new Sort.Level("sample", false)))),
                                Optional.empty(),
                                50)
                        .records()))
                .containsExactly("c", "e", "a", "d", "b");
        assertThat(taxa(views.page(SeenTable.all(counts), View.all(down), Optional.empty(), 50)
                        .records()))
                .as("what links nowhere comes last")
                .containsExactly("d", "a", "e", "c", "b");
    }

    @Test
    void textBecomesALinkOnceEveryValueIsFoundAndTextAgain() {
        var name = counts.definition().name();
        columns.add(name, List.of(Column.plain("of", "Of", ColumnType.TEXT)));
        counts = tables.find(counts.id()).orElseThrow();
        for (var words : List.of("s-2", "S-10", "S-1, Stepping stones, Sat 1 Aug 2026, 1.5, 3", "row 4", "", "S-77")) {
            Given.saved(counts, values("of", words.isEmpty() ? Value.EMPTY : text(words)), Optional.empty(), "tester");
        }
        var to = column("of", Removed.REFUSE, "number", "site", "taken_on", "depth", "size");
        var check = columns.check(name, "of", to, Optional.empty());
        assertThat(check.unfit()).isEqualTo(1);
        assertThat(check.examples()).singleElement().satisfies(example -> {
            assertThat(example.row()).isEqualTo(6);
            assertThat(example.message()).contains("has no record “S-77”");
        });
        assertThatThrownBy(() -> columns.change(name, "of", to, Optional.empty()))
                .isInstanceOf(Faults.class);
        Given.changed(counts, 6, 1, values("of", text("S-1")), "tester");
        columns.change(name, "of", to, Optional.empty());
        counts = tables.find(counts.id()).orElseThrow();
        assertThat(IntStream.rangeClosed(1, 6)
                        .mapToObj(id -> records.find(SeenTable.all(counts), id)
                                .orElseThrow()
                                .of("of"))
                        .map(value -> value instanceof Value.Link link ? link.id() : 0L))
                .containsExactly(2L, 3L, 1L, 4L, 0L, 1L);
        columns.change(name, "of", Column.plain("of", "Of", ColumnType.TEXT), Optional.empty());
        counts = tables.find(counts.id()).orElseThrow();
        assertThat(records.find(SeenTable.all(counts), 1).orElseThrow().of("of"))
                .isEqualTo(text("S-2, Mill, lower"));
    }

    @Test
    void aShownColumnMayBeRenamedOrRemoved() {
        var row = count("mayfly", 1);
        columns.change(
                samples.definition().name(), "site", Column.plain("place", "Place", ColumnType.TEXT), Optional.empty());
        columns.remove(samples.definition().name(), "taken_on");
        counts = tables.find(counts.id()).orElseThrow();
        assertThat(((Value.Link) stored(row).of("sample")).shown()).isEqualTo("S-1, Stepping stones, 1.5, 3");
    }

    @Test
    void aFileWhoseCodesAreAllFoundInOneColumnIsOfferedAsALink() {
        var imports = new Imports(sql, tables, new Forms(sql), Records::anyTable, Clock.systemDefaultZone());
        var csv = "Sample,Taxon\nS-1,mayfly\nS-2,worm\n,leech\nS-1,snail\n";
        var file = imports.bring("c.csv", new ByteArrayInputStream(csv.getBytes(StandardCharsets.UTF_8)));
        assertThat(file.columns().getFirst().offers())
                .contains(new ImportColumn.Offer(
                        samples.definition().name(), samples.definition().title(), "number"));
        assertThat(file.columns().get(1).offers()).isEmpty();
        var linked = new ArrayList<>(file.columns());
        var guess = linked.getFirst();
        linked.set(
                0,
                new ImportColumn(
                        0,
                        column("sample", Removed.REFUSE, "number"),
                        "",
                        guess.dayOrder(),
                        false,
                        guess.assumed(),
                        guess.signs(),
                        guess.offers()));
        var table = new Table(
                counts.definition().name() + "_file",
                "From a file",
                linked.stream().map(ImportColumn::column).toList(),
                Table.Placement.AFTER_LAST);
        var loaded = imports.load(file, table, linked, OnMisfit.STOP, Conventions.DEFAULT, "tester");
        assertThat(records.find(SeenTable.all(loaded.table()), 2).orElseThrow().of("sample"))
                .isEqualTo(new Value.Link(2, 2, ""));
        assertThat(ValueReader.fold(records.find(SeenTable.all(loaded.table()), 4)
                        .orElseThrow()
                        .of("sample")
                        .spoken()))
                .isEqualTo("s-1");
        var odd = imports.bring(
                "c.csv", new ByteArrayInputStream("Sample\nS-1\nS-99\n".getBytes(StandardCharsets.UTF_8)));
        assertThat(odd.columns().getFirst().offers()).isEmpty();
        var look = imports.look(odd, List.of(linked.getFirst()));
        assertThat(look.misfits())
                .singleElement()
                .satisfies(misfit -> assertThat(misfit.message()).contains("has no record “S-99”"));
    }

    @Test
    void aLinkIsFoundByHowAnyOfItsWordsBegin() {
        count("worm", 2);
        count("mayfly", 1);
        for (var asked : List.of("mill*", "*lower", "s-2*", "*ill, l*")) {
            assertThat(found(asked)).as(asked).containsExactly("worm");
        }
    }
}
