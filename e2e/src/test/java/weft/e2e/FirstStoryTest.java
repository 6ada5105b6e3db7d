package weft.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.LocatorAssertions;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.FilePayload;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** From headings, and from a file of rows, to entries in the next free row. */
@ExtendWith(Running.class)
class FirstStoryTest {

    private final Page page = Running.page();
    private final Keys keys = new Keys(page);

    private void seesRow(int number, String... cells) {
        var header = page.getByRole(
                AriaRole.ROWHEADER,
                new Page.GetByRoleOptions().setName("" + number).setExact(true));
        var row = page.getByRole(AriaRole.ROW).filter(new Locator.FilterOptions().setHas(header));
        assertThat(row.getByRole(AriaRole.GRIDCELL)).hasText(cells);
    }

    private void bring(String name, String text) {
        bring(name, text.getBytes(StandardCharsets.UTF_8));
    }

    private void bring(String name, byte[] file) {
        // From the first listener on, the browser hands its file choosers over.
        page.onFileChooser(_ -> {});
        page.navigate("/tables/new");
        var choose = page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Choose a file"));
        choose.focus();
        page.waitForFileChooser(() -> keys.press("Enter"))
                .setFiles(new FilePayload(name, "application/octet-stream", file));
        assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("Bring in rows")))
                .isVisible(new LocatorAssertions.IsVisibleOptions().setTimeout(120_000));
    }

    @Test
    void headingsTypedInBecomeATableAFormAndAnEntryInRowOne() {
        page.navigate("/tables/new");
        assertThat(page.getByLabel("A heading")).isFocused();
        keys.type("Site")
                .press("Enter")
                .type("Level, whole 0 to 100")
                .press("Enter")
                .type("Born on")
                .press("Enter");
        // What would be made is seen while one types, and what a heading tells is refused with one press.
        var headings = page.getByLabel("Headings");
        assertThat(headings).containsText("a whole number, 0 to 100");
        assertThat(headings).containsText("a date: “Born” tells a date");
        keys.type("Paid").press("Enter");
        assertThat(headings).containsText("yes or no: “Paid” tells yes or no");
        page.getByText("As text").last().press("Enter");
        assertThat(headings).not().containsText("yes or no: ");
        page.getByLabel("What would be made").getByLabel("Level").fill("7");
        page.getByLabel("Called").fill("Water levels");
        keys.press("Enter");

        assertThat(page.getByText("Next free row 1")).isVisible();
        assertThat(page.getByLabel("Site")).isFocused();
        keys.entry("QB-03", "42", "2026-08-01", "y").press("Enter");
        assertThat(page.getByText("Saved in row 1")).isVisible();
        assertThat(page.getByText("Next free row 2")).isVisible();
        assertThat(page.getByLabel("Site")).isFocused();
        assertThat(page.getByLabel("Site")).hasValue("");
        keys.entry("QB-04", "420").press("Tab");
        assertThat(page.getByText(Pattern.compile("Level.*100"))).isVisible();
        keys.press("F8");
        seesRow(1, "QB-03", "42", "8/1/2026", "y");
    }

    @Test
    void rowsCopiedFromAnywhereArePastedWithTheirHeadings() {
        page.context().grantPermissions(List.of("clipboard-read", "clipboard-write"));
        page.navigate("/tables/new");
        assertThat(page.getByLabel("A heading")).isFocused();
        page.evaluate(
                "text => navigator.clipboard.writeText(text)",
                "Tag\tGiven on\tPieces\nK-07\t2026-08-01\t3\nK-08\t2026-08-02\t5\n");
        keys.press("Control+v");
        assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("Bring in rows")))
                .isVisible();
        assertThat(page.getByLabel("Type of Given on")).hasValue("date");
        assertThat(page.getByLabel("Type of Pieces")).hasValue("whole");
        keys.press("Enter");
        assertThat(page.getByText("Next free row 3")).isVisible();
        assertThat(page.getByLabel("Tag")).isFocused();
    }

    @Test
    void aFileBecomesAFormAndFiveEntriesAreKeyedAndSeen() {
        bring(
                "Ferry counts.csv",
                "site_code,takenOn,At,Water (°C),Wet,Phone\nTS-01,2026-07-01,09:30,11.5,yes,020 7946 0018\nTS-02,2026-07-02,10:15,12,no,020 7946 0019\n");
        assertThat(page.getByLabel("Type of Taken on")).hasValue("date");
        assertThat(page.getByLabel("Type of Phone")).hasValue("text");
        assertThat(page.getByText("looks like phone numbers").or(page.getByText("the heading says so")))
                .isVisible();
        keys.press("Enter");

        seesRow(2, "TS-02", "2026-07-02", "10:15", "12.0", "no", "020 7946 0019");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Enter into Ferry counts"))
                .focus();
        keys.press("Enter");
        assertThat(page.getByText("Next free row 3")).isVisible();
        for (int i = 3; i <= 7; i++) {
            keys.entry("TS-0" + i, "8/" + i + "/26", "9.1" + i, i + ".5", i % 2 == 0 ? "y" : "n", "01234 00" + i)
                    .press("Enter");
            assertThat(page.getByText("Saved in row " + i)).isVisible();
        }
        keys.press("F8");
        seesRow(7, "TS-07", "8/7/2026", "09:17", "7.5", "no", "01234 007");
    }

    @Test
    void ambiguousDatesAndMisfitsAreShownBeforeAnythingIsWritten() {
        var rows = IntStream.range(0, 20).mapToObj(i -> "3/4/2026," + i).collect(Collectors.joining("\n"));
        bring("Odd.csv", "day,count\n" + rows + "\n5/6/2026,many\n");
        var load = page.getByRole(
                AriaRole.BUTTON, new Page.GetByRoleOptions().setName(Pattern.compile("Load, with 1 cell left empty")));
        assertThat(load).isDisabled();
        assertThat(page.getByText("First say below how dates or numbers are written"))
                .isVisible();
        assertThat(page.getByText("line 22")).isVisible();
        page.getByLabel("3/4 is 3 April").focus();
        keys.press("Space");
        assertThat(load).isEnabled();
        load.focus();
        keys.press("Enter");
        seesRow(1, "2026-04-03", "0");
        seesRow(21, "2026-06-05", "");
    }

    @Test
    void aSheetIsChosenAndWhatIsInViewIsTakenAwayAsASpreadsheet() throws IOException {
        var cell =
                "<table:table-cell office:value-type=\"%1$s\" office:%2$s=\"%3$s\"><text:p>%3$s</text:p></table:table-cell>";
        var sheets = "<table:table table:name=\"Notes\"><table:table-row>%s</table:table-row></table:table>"
                        .formatted(cell.formatted("string", "string-value", "Note"))
                + "<table:table table:name=\"Gauges\"><table:table-row>%s%s</table:table-row><table:table-row>%s%s</table:table-row></table:table>"
                        .formatted(
                                cell.formatted("string", "string-value", "Read on"),
                                cell.formatted("string", "string-value", "Depth"),
                                cell.formatted("date", "date-value", "2026-08-01"),
                                cell.formatted("float", "value", "1.234"));
        var out = new ByteArrayOutputStream();
        try (var zip = new ZipOutputStream(out)) {
            zip.putNextEntry(new ZipEntry("content.xml"));
            zip.write(("<d:d xmlns:d=\"urn:d\" xmlns:office=\"urn:oasis:names:tc:opendocument:xmlns:office:1.0\""
                            + " xmlns:table=\"urn:oasis:names:tc:opendocument:xmlns:table:1.0\""
                            + " xmlns:text=\"urn:oasis:names:tc:opendocument:xmlns:text:1.0\">" + sheets + "</d:d>")
                    .getBytes(StandardCharsets.UTF_8));
        }
        bring("Gauge readings.ods", out.toByteArray());
        page.getByLabel("Sheet").selectOption("Gauges");
        assertThat(page.getByText("numbers with a decimal point in every cell")).isVisible();
        page.getByText("Make the table and its form").press("Enter");
        seesRow(1, "2026-08-01", "1.234");
        page.navigate("/d/gauge_readings");
        assertThat(page.getByLabel("Read on").first()).isFocused();
        keys.press("F8");
        var taken = page.waitForDownload(
                () -> page.getByLabel("Export what is in view as a spreadsheet").press("Enter"));
        assertThat(page.getByText("Exported to gauge_readings.ods")).isVisible();
        try (var zip = new ZipFile(taken.path().toFile());
                var content = zip.getInputStream(zip.getEntry("content.xml"))) {
            org.assertj.core.api.Assertions.assertThat(new String(content.readAllBytes(), StandardCharsets.UTF_8))
                    .contains("office:date-value=\"2026-08-01\"", "office:value=\"1.234\"");
        }
    }

    @Test
    void aHundredThousandRowsOfTwelveColumnsLoadThroughThePage() {
        var columns = IntStream.rangeClosed(1, 12).mapToObj(i -> "Reading " + i).collect(Collectors.joining(","));
        var line = "\nQB-03,2026-08-01,09:30,7.4,11.5,yes,3,some words,0042,a remark,1,99";
        bring("Large.csv", columns + line.repeat(100_000));
        assertThat(page.getByText("100,000 rows")).isVisible();
        keys.press("Enter");
        assertThat(page.getByRole(AriaRole.TAB).filter(new Locator.FilterOptions().setHasText("100,000 rows")))
                .isVisible(new LocatorAssertions.IsVisibleOptions().setTimeout(120_000));
        page.getByRole(AriaRole.GRID, new Page.GetByRoleOptions().setName("Rows of Large"))
                .focus();
        keys.press("End");
        seesRow(
                100000,
                List.of(line.strip().split(",")).getFirst(),
                "2026-08-01",
                "09:30",
                "7.4",
                "11.5",
                "yes",
                "3",
                "some words",
                "0042",
                "a remark",
                "1",
                "99");
    }
}
