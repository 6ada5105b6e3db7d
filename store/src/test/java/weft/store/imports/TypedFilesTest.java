package weft.store.imports;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.github.miachm.sods.Sheet;
import com.github.miachm.sods.SpreadSheet;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.json.JsonMapper;
import weft.core.value.Value;
import weft.core.value.Wire;
import weft.store.TestDatabase;
import weft.store.form.Forms;
import weft.store.record.Records;
import weft.store.table.Tables;

/** Files that tell numbers and dates from text themselves: spreadsheets and JSON. */
@ExtendWith(TestDatabase.class)
class TypedFilesTest {

    private static final String KIND = "application/vnd.oasis.opendocument.spreadsheet";

    private final Imports imports = new Imports(
            TestDatabase.get().sql(),
            new Tables(TestDatabase.get().sql()),
            new Forms(TestDatabase.get().sql()),
            Records::anyTable,
            Clock.systemDefaultZone());

    private Imports.Brought bring(byte[] bytes) {
        return imports.bring("rows", new ByteArrayInputStream(bytes));
    }

    private Imports.Brought bring(String text) {
        return bring(text.getBytes(StandardCharsets.UTF_8));
    }

    private List<List<String>> rows(Imports.Brought file) {
        return imports.look(file, file.columns()).preview().stream()
                .map(row -> row.stream().map(Value::plain).toList())
                .toList();
    }

    private static List<String> types(Imports.Brought file) {
        return file.columns().stream()
                .map(column -> Wire.word(column.column().type()))
                .toList();
    }

    /** As another program writes it. */
    private static byte[] spreadsheet(Sheet... sheets) throws IOException {
        var document = new SpreadSheet();
        Arrays.stream(sheets).forEach(document::appendSheet);
        var out = new ByteArrayOutputStream();
        document.save(out);
        return out.toByteArray();
    }

    private static Sheet sheet(String name, Object[]... rows) {
        var sheet = new Sheet(name, rows.length, rows[0].length);
        sheet.getDataRange().setValues(rows);
        return sheet;
    }

    /** A spreadsheet with this between the beginning and the end of its tables. */
    private static byte[] document(String tables) throws IOException {
        return zip("mimetype", KIND, "content.xml", """
                <?xml version="1.0"?><office:document-content xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" \
                xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" \
                xmlns:dc="http://purl.org/dc/elements/1.1/"><office:body><office:spreadsheet>%s</office:spreadsheet></office:body></office:document-content>""".formatted(tables));
    }

    /** Names and texts by turns, packed. */
    private static byte[] zip(String... parts) throws IOException {
        var out = new ByteArrayOutputStream();
        try (var zip = new ZipOutputStream(out)) {
            for (int i = 0; i < parts.length; i += 2) {
                zip.putNextEntry(new ZipEntry(parts[i]));
                zip.write(parts[i + 1].getBytes(StandardCharsets.UTF_8));
                zip.closeEntry();
            }
        }
        return out.toByteArray();
    }

    private static String row(String... cells) {
        return "<table:table-row>" + String.join("", cells) + "</table:table-row>";
    }

    private static String cell(String text) {
        return "<table:table-cell office:value-type=\"string\"><text:p>" + text + "</text:p></table:table-cell>";
    }

    private static String number(String value) {
        return "<table:table-cell office:value-type=\"float\" office:value=\"" + value
                + "\"><text:p>shown</text:p></table:table-cell>";
    }

    @Test
    void whatAnotherProgramWroteIsReadByItsValues() throws IOException {
        var file = bring(spreadsheet(
                new Sheet("Notes", 1, 1),
                sheet(
                        "Samples",
                        new Object[] {"Site", "Taken on", "At", "Seen", "pH", "Count", "Wet", "Remark"},
                        new Object[] {
                            "007",
                            LocalDate.of(2026, 8, 1),
                            Duration.ofMinutes(570),
                            LocalDateTime.of(2026, 8, 1, 9, 30),
                            7.125,
                            12.0,
                            true,
                            "two\nlines"
                        },
                        new Object[] {
                            "008", LocalDate.of(2026, 3, 4), Duration.ofMinutes(615), null, 1.234, 1000.0, false, "1,5"
                        })));
        assertThat(file.sheets()).containsExactly("Notes", "Samples");
        assertThat(file.sheet()).as("the first in which there is something").isEqualTo(1);
        assertThat(types(file))
                .containsExactly("text", "date", "time", "datetime", "decimal", "whole", "yesno", "longtext");
        assertThat(file.columns()).noneMatch(column -> column.askDayOrder() || column.askDecimalSign());
        assertThat(rows(file))
                .containsExactly(
                        List.of(
                                "007",
                                "2026-08-01",
                                "09:30:00",
                                "2026-08-01T09:30:00",
                                "7.125",
                                "12",
                                "true",
                                "two\nlines"),
                        List.of("008", "2026-03-04", "10:15:00", "", "1.234", "1000", "false", "1,5"));
        assertThatThrownBy(() -> imports.turn(file, 0)).hasMessageContaining("The file is empty");
        assertThatThrownBy(() -> imports.turn(file, 2)).hasMessageContaining("no such sheet");
    }

    @Test
    void anotherSheetHasItsOwnColumns() throws IOException {
        var file = bring(spreadsheet(
                sheet("A", new Object[] {"Code"}, new Object[] {1.0}),
                sheet("B", new Object[] {"Name", "Sum"}, new Object[] {"x", 2.5})));
        assertThat(types(file)).containsExactly("whole");
        var turned = imports.turn(file, 1);
        assertThat(types(turned)).containsExactly("text", "decimal");
        assertThat(rows(turned)).containsExactly(List.of("x", "2.5"));
        assertThat(imports.find(file.id())).contains(turned);
    }

    @Test
    void whatIsRepeatedSpacedOrBesideTheCellsIsReadAsItIsMeant() throws IOException {
        var file = bring(document(
                "<table:tracked-changes><table:table-row/></table:tracked-changes><table:table table:name=\"S\">"
                        + "<table:table-header-rows>" + row(cell("A"), cell("B"), cell("C"), cell("D"))
                        + "</table:table-header-rows>"
                        + "<table:table-row table:number-rows-repeated=\"3\"><table:table-cell table:number-columns-repeated=\"2\""
                        + " office:value-type=\"float\" office:value=\"1.50\"><text:p>1,5</text:p></table:table-cell>"
                        + "<table:table-cell table:number-columns-repeated=\"1022\"/></table:table-row>"
                        + "<table:table-row table:number-rows-repeated=\"5\"><table:table-cell/></table:table-row>"
                        + row(
                                number("1E-1"),
                                number("-0.25"),
                                "<table:table-cell/>",
                                "<table:table-cell office:value-type=\"string\"><office:annotation><dc:creator>me</dc:creator><text:p>a note</text:p></office:annotation>"
                                        + "<text:p> a<text:s text:c=\"2\"/><text:span>b</text:span><text:tab/>c</text:p><text:p>d</text:p></table:table-cell>",
                                "<table:covered-table-cell/>")
                        + "<table:table-row table:number-rows-repeated=\"1048000\"><table:table-cell table:number-columns-repeated=\"16384\"/></table:table-row>"
                        + "</table:table>"));
        assertThat(rows(file))
                .containsExactly(
                        List.of("1.5", "1.50", "", ""),
                        List.of("1.5", "1.50", "", ""),
                        List.of("1.5", "1.50", "", ""),
                        List.of("0.1", "-0.25", "", "a  b\tc\nd"));
        var off = bring(document("<table:table>" + row(cell("N"))
                + IntStream.range(0, 20).mapToObj(i -> row(number("" + i))).reduce("", String::concat)
                + "<table:table-row table:number-rows-repeated=\"4\"/>" + row(cell("many")) + "</table:table>"));
        assertThat(imports.look(off, off.columns()).misfits())
                .as("told by the row of the sheet")
                .extracting(Misfit::line)
                .containsExactly(26L);
    }

    @Test
    void mergedHeadingsAreTold() throws IOException {
        var merged = document("<table:table>"
                + row(
                        "<table:table-cell table:number-columns-spanned=\"3\" office:value-type=\"string\">"
                                + "<text:p>All samples</text:p></table:table-cell>",
                        "<table:covered-table-cell table:number-columns-repeated=\"2\"/>")
                + row(cell("A"), cell("B"), cell("C")) + "</table:table>");
        assertThatThrownBy(() -> bring(merged))
                .isInstanceOf(BadFile.class)
                .hasMessageContaining("In row 1, where the headings are looked for, cells are merged.");
    }

    @Test
    void aFewBytesThatStandForVeryManyCellsAreRefused() throws IOException {
        var many =
                document("<table:table>" + row(cell("A")) + "<table:table-row table:number-rows-repeated=\"90000000\">"
                        + cell("x") + "</table:table-row></table:table>");
        assertThatThrownBy(() -> bring(many))
                .isInstanceOf(BadFile.class)
                .hasMessageContaining("more rows and cells than can be brought in");
        var wide = document("<table:table>" + row(cell("A"))
                + "<table:table-row table:number-rows-repeated=\"2000000\">"
                + cell("x").replace("<table:table-cell", "<table:table-cell table:number-columns-repeated=\"200\"")
                + "</table:table-row></table:table>");
        assertThatThrownBy(() -> bring(wide)).isInstanceOf(BadFile.class);
    }

    @Test
    void whatIsNoSpreadsheetIsRefusedInASentence() throws IOException {
        var whole = spreadsheet(sheet("A", new Object[] {"Code"}, new Object[] {1.0}));
        assertThatThrownBy(() -> bring(Arrays.copyOf(whole, whole.length / 3))).isInstanceOf(BadFile.class);
        assertThatThrownBy(
                        () -> bring(zip("mimetype", "application/vnd.oasis.opendocument.text", "content.xml", "<a/>")))
                .hasMessageContaining("no spreadsheet of the open document format");
        assertThatThrownBy(() -> bring(zip("other.xml", "<a/>")))
                .hasMessageContaining("no spreadsheet of the open document format");
        assertThatThrownBy(() -> bring(document("<table:table>")))
                .hasMessageContaining("can't be read as a spreadsheet");
        assertThatThrownBy(() -> bring(document("<!DOCTYPE x [<!ENTITY e SYSTEM \"file:///etc/passwd\">]>")))
                .isInstanceOf(BadFile.class);
        assertThatThrownBy(() -> bring(document("<table:table/><table:table/>")))
                .hasMessageContaining("Every sheet of the file is empty");
    }

    @Test
    void jsonIsReadAsAnArrayAndAsObjectsInLines() {
        var array = bring(
                "\uFEFF [ {\"site\":\"QB-03\",\"pH\":7.10,\"wet\":true,\"on\":\"2026-08-01\"},\n{\"pH\":1.234,\"more\":{\"a\":[1,2]},\"site\":null} ]");
        assertThat(array.columns())
                .extracting(column -> column.column().title())
                .containsExactly("Site", "pH", "Wet", "On", "More");
        assertThat(types(array)).containsExactly("text", "decimal", "yesno", "date", "text");
        assertThat(rows(array))
                .containsExactly(
                        List.of("QB-03", "7.100", "true", "2026-08-01", ""),
                        List.of("", "1.234", "", "", "{\"a\":[1,2]}"));
        assertThat(rows(bring("{\"n\":1}\n\n{\"n\":1e2}\n{}\n{\"n\":12345678901234567}")))
                .containsExactly(List.of("1"), List.of("100"), List.of("12345678901234567"));
        var odd = bring("[" + "{\"n\":1},".repeat(20) + "{\"n\":\"many\"}]");
        assertThat(imports.look(odd, odd.columns()).misfits())
                .extracting(Misfit::line)
                .containsExactly(21L);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "[{\"a\":1},2]|Number 2 is none.",
                "[{\"a\":1}|It was cut off",
                "[{\"a\":\"x|It was cut off",
                "[{\"a\":1,\"a\":2}]|on line 1",
                "[{\"a\":1 \"b\":2}]|on line 1",
                "[]|The file is empty"
            })
    void brokenJsonIsToldWhere(String text, String message) {
        assertThatThrownBy(() -> bring(text)).isInstanceOf(BadFile.class).hasMessageContaining(message);
    }

    @ParameterizedTest
    @ValueSource(strings = {"[id],name\n1,x\n", "{a},b\n1,2\n", "PKW,Preis\n1,2\n"})
    void aFileOfCellsIsNotTakenForAnythingElse(String text) {
        assertThat(bring(text).columns()).hasSize(2);
    }

    /** Whatever is in them, both formats give the same rows. */
    @Test
    void aSpreadsheetAndJsonOfTheSameValuesAreTheSame() throws IOException {
        var random = new Random(5);
        var words = List.of("x", "it's", "a<b&c", "  two  blanks", "水", "\"q\"", "tab\there");
        var data = IntStream.range(0, 20)
                .mapToObj(i -> new Object[] {
                    words.get(random.nextInt(words.size())),
                    (double) random.nextInt(1000) / 8,
                    LocalDate.of(2026, 1, 1).plusDays(random.nextInt(300)),
                    random.nextBoolean()
                })
                .toList();
        var table = new java.util.ArrayList<Object[]>(data);
        table.addFirst(new Object[] {"Word", "Number", "Day", "Yes"});
        var json = JsonMapper.shared()
                .writeValueAsString(data.stream()
                        .map(row -> Map.of("Word", row[0], "Number", row[1], "Day", row[2].toString(), "Yes", row[3]))
                        .toList());
        var fromSheet = bring(spreadsheet(sheet("S", table.toArray(Object[][]::new))));
        var fromJson = bring(json);
        var order = fromJson.columns().stream()
                .map(column -> column.column().name())
                .toList();
        var sheetOrder = fromSheet.columns().stream()
                .map(column -> column.column().name())
                .toList();
        assertThat(rows(fromJson).stream()
                        .map(row -> sheetOrder.stream()
                                .map(name -> row.get(order.indexOf(name)))
                                .toList())
                        .toList())
                .isEqualTo(rows(fromSheet));
    }

    @Test
    void whatAFileSaysItselfIsTakenAsItStands() throws IOException {
        var json = bring("""
                [{"site": "'=1+1", "sample": {"id": 7, "row": 3, "shown": "S-1, Mill"}},
                 {"site": "'-x", "sample": null}]""");
        assertThat(rows(json)).containsExactly(List.of("'=1+1", "S-1, Mill (row 3)"), List.of("'-x", ""));
        assertThat(rows(bring("site\n'=1+1\n''=x\n'plain\n")))
                .containsExactly(List.of("=1+1"), List.of("'=x"), List.of("'plain"));
        var stamps = bring(document("<table:table table:name=\"a\">"
                + row(cell("day"), cell("at"))
                + row(date("2026-08-01T00:00:00"), date("2026-08-01T10:15:29.999999977"))
                + row(date("2026-08-02"), date("2026-08-02T07:00:00.000"))
                + IntStream.range(0, 17)
                        .mapToObj(_ -> row(date("2026-08-03"), date("2026-08-03T07:00:00")))
                        .collect(Collectors.joining())
                // Midnight is written as its day alone.
                + row(date("2026-08-04"), date("2026-08-04"))
                + "</table:table>"));
        assertThat(types(stamps)).containsExactly("date", "datetime");
        assertThat(rows(stamps))
                .startsWith(List.of("2026-08-01", "2026-08-01T10:15:30"), List.of("2026-08-02", "2026-08-02T07:00:00"))
                .endsWith(List.of("2026-08-04", "2026-08-04T00:00:00"));
    }

    private static String date(String value) {
        return "<table:table-cell office:value-type=\"date\" office:date-value=\"" + value
                + "\"><text:p>x</text:p></table:table-cell>";
    }
}
