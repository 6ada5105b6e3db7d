package weft.store.imports;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.groups.Tuple.tuple;

import java.io.ByteArrayInputStream;
import java.io.InputStream;
import java.io.SequenceInputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Executors;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weft.core.find.Sort;
import weft.core.find.View;
import weft.core.table.Faults;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Value;
import weft.store.TestDatabase;
import weft.store.find.Cursor;
import weft.store.find.Views;
import weft.store.form.Forms;
import weft.store.imports.Imports.OnMisfit;
import weft.store.record.Records;
import weft.store.table.SeenTable;
import weft.store.table.Tables;

@ExtendWith(TestDatabase.class)
class ImportsTest {

    private final Tables tables = new Tables(TestDatabase.get().sql());
    private final Views views =
            new Views(TestDatabase.get(), new Tables(TestDatabase.get().sql()));
    private final Records records = new Records(TestDatabase.get().sql());
    private final Imports imports = new Imports(
            TestDatabase.get().sql(),
            tables,
            new Forms(TestDatabase.get().sql()),
            Records::anyTable,
            Clock.systemDefaultZone());

    private Imports.Brought bring(byte[] bytes) {
        return imports.bring("rows.csv", new ByteArrayInputStream(bytes));
    }

    private Imports.Brought bring(String text) {
        return bring(text.getBytes(StandardCharsets.UTF_8));
    }

    private Imports.Loaded load(Imports.Brought file, String name, OnMisfit onMisfit) {
        var columns = file.columns().stream().map(ImportColumn::column).toList();
        var table = new Table(name, name, columns, Table.Placement.AFTER_LAST);
        return imports.load(file, table, file.columns(), onMisfit, Conventions.DEFAULT, "tester");
    }

    private static List<String> plain(List<Value> row) {
        return row.stream().map(Value::plain).toList();
    }

    @ParameterizedTest
    @ValueSource(strings = {",", ";", "\t"})
    void separatorsQuotesAndLineBreaksAreRead(String separator) {
        var file = bring(String.join(
                "\r\n",
                "Site,Remark,pH".replace(",", separator),
                "",
                "QB-03,\"two\nlines, \"\"quoted\"\"; and\ttab\",7.4"
                        .replace(",\"two", separator + "\"two")
                        .replace("\",7", "\"" + separator + "7"),
                separator + separator,
                "QB-04,,6.9".replace(",", separator),
                ""));
        var look = imports.look(file, file.columns());
        assertThat(look.rows()).isEqualTo(2);
        assertThat(plain(look.preview().getFirst()))
                .containsExactly("QB-03", "two\nlines, \"quoted\"; and\ttab", "7.4");
        assertThat(file.columns().get(1).column().type()).isEqualTo(ColumnType.LONGTEXT);
        assertThat(file.columns().get(2).column().type()).isEqualTo(ColumnType.DECIMAL);
    }

    @Test
    void characterSetsAreToldApart() {
        var text = "Größe;Ort\n1,5;Müll “x” –\n";
        for (var bytes : List.of(
                text.getBytes(StandardCharsets.UTF_8),
                ("\uFEFF" + text).getBytes(StandardCharsets.UTF_8),
                text.getBytes(Charset.forName("windows-1252")),
                ("\uFEFF" + text).getBytes(StandardCharsets.UTF_16LE))) {
            var file = bring(bytes);
            assertThat(file.columns())
                    .extracting(column -> column.column().title())
                    .containsExactly("Größe", "Ort");
            assertThat(plain(imports.look(file, file.columns()).preview().getFirst()))
                    .containsExactly("1.5", "Müll “x” –");
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"sep=;\r\n", "\uFEFFsep=;\n", "SEP=;\n"})
    void aFirstLineThatNamesTheSeparatorIsNoHeading(String first) {
        var file = bring(first + "Site;a,b\nQB-03;1,2\n");
        assertThat(file.columns()).extracting(column -> column.column().title()).containsExactly("Site", "A,b");
        assertThat(plain(imports.look(file, file.columns()).preview().getFirst()))
                .containsExactly("QB-03", "1.2");
    }

    @Test
    void aQuotationMarkThatIsNeverClosedIsToldWithItsLine() {
        var rows = IntStream.range(0, 500).mapToObj(i -> "S" + i + "," + i).collect(Collectors.joining("\n"));
        assertThatThrownBy(() -> bring("code,count\nA,1\nB,\"2\n" + rows + "\n"))
                .isInstanceOf(BadFile.class)
                .hasMessageContaining("begins on line 3")
                .hasMessageContaining("opened and not closed");
        assertThat(bring("code,remark\nA,\"two\nlines\"\nB,5\" pipe\n").columns())
                .hasSize(2);
    }

    @Test
    void awkwardHeadingsBecomeTitlesAndSafeNames() {
        var file = bring("order,,pH,PH,水温," + "x".repeat(200) + "\n1,2,3,4,5,6\n");
        assertThat(file.columns())
                .extracting(column -> column.column().name())
                .containsExactly("order_", "column_2", "ph", "ph_2", "column_5", "x".repeat(63));
        assertThat(load(file, "awkward", OnMisfit.STOP).rows()).isEqualTo(1);
    }

    @Test
    void cellsThatDoNotFitAreListedByLineAndStopTheLoad() {
        var rows = IntStream.range(0, 20).mapToObj(i -> "S" + i + "," + i).collect(Collectors.joining("\n"));
        var file = bring("code,count\n" + rows + "\nS20,many\nS21\nS22,5,extra\n");
        var look = imports.look(file, file.columns());
        assertThat(look.misfits())
                .extracting(Misfit::line, Misfit::column, Misfit::cell)
                .containsExactly(tuple(22L, "count", "many"), tuple(24L, "", "extra"));
        assertThatThrownBy(() -> load(file, "misfits", OnMisfit.STOP)).isInstanceOf(Imports.MisfitsFound.class);
        assertThat(tables.find("misfits")).isEmpty();
        var loaded = load(file, "misfits", OnMisfit.EMPTY);
        assertThat(loaded.rows()).isEqualTo(23);
        assertThat(views.page(
                                SeenTable.all(loaded.table()),
                                View.all(Sort.BY_ROW),
                                Optional.of(Cursor.afterRow(20).wire()),
                                3)
                        .records())
                .extracting(record -> record.of("count"))
                .containsExactly(Value.EMPTY, Value.EMPTY, new Value.Whole(5));
        assertThat(records.nextRow(loaded.table())).isEqualTo(24);
        assertThat(tables.rows(loaded.table())).isEqualTo(23);
    }

    @Test
    void rowsThatFitAreTakenAndTheOthersGivenWithTheirReasons() {
        var rows =
                IntStream.range(0, 20).mapToObj(i -> "S" + i + "," + i + ",a\n").collect(Collectors.joining());
        var file = bring("code,count,note\n" + rows + "S20,many,=x\nS21,3,a,extra\nS22,4\n");
        assertThat(imports.waiting()).extracting(Imports.Waiting::id).contains(file.id());
        var left = new ArrayList<String>();
        imports.left(file, file.columns(), (cells, why) -> left.add(String.join("|", cells) + " <- " + why));
        assertThat(left)
                .containsExactly(
                        "Code|Count|Note <- Why",
                        "S20|many|=x <- Count: “many” can't be read as a whole number. Use digits only, such as 42.",
                        "S21|3|a <- The row has 4 cells and the headings name 3. This one would be left out.");
        var loaded = load(file, "fitting", OnMisfit.LEAVE);
        assertThat(loaded.rows()).isEqualTo(21);
        assertThat(records.nextRow(loaded.table())).isEqualTo(22);
        assertThat(imports.waiting()).extracting(Imports.Waiting::id).doesNotContain(file.id());
    }

    @Test
    void aFileThatNobodyLoadsIsForgottenWhenItIsGivenUp() {
        var file = bring("code\nS1\n");
        imports.giveUp(file.id());
        assertThat(imports.find(file.id())).isEmpty();
        imports.giveUp(file.id());
        var loaded = bring("code\nS1\n");
        load(loaded, "not_forgotten", OnMisfit.STOP);
        imports.giveUp(loaded.id());
        assertThat(imports.progress(loaded.id())).isPresent();
    }

    @Test
    void aLoadThatFailsLeavesNothing() {
        var rows = IntStream.range(0, 5_000).mapToObj(i -> "S" + i % 4_999).collect(Collectors.joining("\n"));
        var file = bring("code\n" + rows);
        var code = file.columns().getFirst().column();
        var unique = code.unique(true);
        var table = new Table("doubled", "x", List.of(unique), Table.Placement.AFTER_LAST);
        assertThatThrownBy(
                        () -> imports.load(file, table, file.columns(), OnMisfit.STOP, Conventions.DEFAULT, "tester"))
                .isInstanceOf(Faults.class)
                .hasMessageContaining("Two rows have the same value in Code");
        assertThat(tables.find("doubled")).isEmpty();
        assertThat(imports.find(file.id())).isPresent();
    }

    @Test
    @Timeout(60)
    void aLoadThatIsGivenUpLeavesNothingAndCanBeStartedAgain() throws Exception {
        var file = imports.bring(
                "long.csv",
                new SequenceInputStream(
                        new ByteArrayInputStream("code,day\n".getBytes(StandardCharsets.UTF_8)),
                        new Repeated("x,2026-08-01\n".getBytes(StandardCharsets.UTF_8), 200_000)));
        try (var threads = Executors.newSingleThreadExecutor()) {
            var load = threads.submit(() -> load(file, "given_up", OnMisfit.STOP));
            while (imports.progress(file.id()).orElseThrow().loaded() == 0) {
                Thread.sleep(1);
            }
            imports.giveUp(file.id());
            assertThatThrownBy(load::get).hasCauseInstanceOf(Imports.GivenUp.class);
        }
        assertThat(tables.find("given_up")).isEmpty();
        assertThat(load(file, "given_up", OnMisfit.STOP).rows()).isEqualTo(200_000);
    }

    @Test
    void filesThatAreNoRowsAreRefusedInASentence() {
        assertThatThrownBy(() -> bring("")).isInstanceOf(BadFile.class).hasMessageContaining("The file is empty");
        assertThatThrownBy(() -> bring("a,b\n\"x\"y,2\n")).isInstanceOf(BadFile.class);
        assertThat(imports.look(bring("a,b\n"), bring("a,b\n").columns()).rows())
                .isZero();
    }

    @Test
    void aHundredThousandRowsLoadWithoutBeingHeld() {
        var line = "QB-03,2026-08-01,09:30,7.4,a remark that is not short\n".getBytes(StandardCharsets.UTF_8);
        var head = "site,taken on,at,ph,remark\n".getBytes(StandardCharsets.UTF_8);
        var file = imports.bring(
                "large.csv", new SequenceInputStream(new ByteArrayInputStream(head), new Repeated(line, 100_000)));
        assertThat(load(file, "large", OnMisfit.STOP).rows()).isEqualTo(100_000);
        assertThat(imports.progress(file.id()).orElseThrow()).isEqualTo(new Imports.Progress(100_000, 100_000));
    }

    /** The same line again and again, without ever standing in memory as a whole. */
    private static final class Repeated extends InputStream {
        private final byte[] line;
        private long left;

        Repeated(byte[] line, int times) {
            this.line = line;
            this.left = (long) line.length * times;
        }

        @Override
        public int read() {
            return left == 0 ? -1 : line[(int) (line.length - (left-- - 1) % line.length - 1)];
        }
    }
}
