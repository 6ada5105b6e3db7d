package weft.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Page.GetByRoleOptions;
import com.microsoft.playwright.Route;
import com.microsoft.playwright.options.AriaRole;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Six paper lines at once, and cells copied from elsewhere: by the keyboard alone. */
@ExtendWith(Running.class)
class LinesTest {

    private static final String COLUMNS = """
            {"title":"Sheet","required":true},{"title":"Taxon","required":true},
            {"title":"Stage","type":"choice","choices":["larva","pupa","adult"]},
            {"title":"Count","type":"whole","min":1,"max":500},{"title":"Seen on","type":"date"},
            {"title":"Depth","type":"decimal","scale":1},{"title":"Remark"}""";

    private final Page page = Running.page();
    private final Keys keys = new Keys(page);

    @BeforeAll
    static void given() {
        Running.form("sheets", COLUMNS);
        Running.api("/api/tables/sheets/constraints", """
                {"kind":"unique","columns":["sheet","taxon","stage"],"message":""}""");
        Running.api("/api/forms/sheets/doors", """
                {"id":"sheet-lines","title":"A sheet","who":{"groups":["Builders"]},"may":["add","see"],
                 "lines":"many","same":["sheet"]}""");
    }

    private static List<String> stored(String sheet) {
        var found = new ArrayList<String>();
        Running.api("/api/doors/sheets/records?limit=500&where=sheet:" + sheet)
                .get("records")
                .forEach(record -> found.add(record.get("row").asInt() + " "
                        + record.get("values").properties().stream()
                                .skip(1)
                                .map(each -> each.getValue().isNull()
                                        ? "-"
                                        : each.getValue().asString())
                                .collect(Collectors.joining(" "))));
        return found;
    }

    private void open() {
        page.navigate("/d/sheet-lines");
        assertThat(page.getByLabel("Sheet").first()).isFocused();
    }

    private Locator said() {
        return page.getByRole(AriaRole.STATUS).first();
    }

    private Locator line(int number) {
        return page.getByRole(AriaRole.GRID, new GetByRoleOptions().setName("Lines"))
                .getByRole(AriaRole.ROW)
                .nth(number);
    }

    /** As if copied from another program. */
    private void paste(String text, String html) {
        page.evaluate("""
                ([text, html]) => {
                  const data = new DataTransfer();
                  data.setData('text/plain', text);
                  if (html) data.setData('text/html', html);
                  document.activeElement.dispatchEvent(
                    new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
                }""", List.of(text, html));
    }

    @Test
    void sixLinesOfSixCellsAreKeyedPutRightAndSavedTogether() {
        open();
        keys.type("A-1").press("Enter");
        for (int n = 1; n <= 6; n++) {
            keys.entry("taxon " + (n == 4 ? 1 : n), "l", n == 5 ? "900" : "" + n, "8/" + n + "/26", n + ".5", "r" + n);
            if (n < 6) {
                keys.press("Enter");
            }
        }
        assertThat(page.getByText("Line 1 already has A-1, taxon 1, larva.")).isVisible();
        assertThat(page.getByText("Count must be between 1 and 500. 900 is above it."))
                .isVisible();
        assertThat(line(2)).containsText("8/2/2026");
        keys.press("Control+Enter");
        assertThat(said()).containsText("No line was saved: lines 4 and 5 are in the way.");
        assertThat(stored("A-1")).isEmpty();
        // The cursor is in the first cell that is in the way, of the last of those concerned.
        assertThat(page.getByLabel("Stage, line 4").first()).isFocused();
        keys.press("Control+a").type("adult").press("ArrowDown", "Tab").press("Shift+Tab");
        page.reload();
        assertThat(page.getByLabel("Sheet").first()).isFocused();
        assertThat(page.getByLabel("Sheet").first()).hasValue("A-1");
        assertThat(line(6)).containsText("r6");
        keys.press("Enter", "Enter", "Enter", "Enter", "Enter", "Tab", "Tab")
                .press("Control+a")
                .type("90");
        assertThat(page.getByText("6 ready")).isVisible();
        keys.press("Control+Enter");
        assertThat(said()).containsText("Saved 6 lines in rows");
        assertThat(stored("A-1").stream().map(each -> each.substring(each.indexOf(' ') + 1)))
                .containsExactly(
                        "taxon 1 larva 1 2026-08-01 1.5 r1",
                        "taxon 2 larva 2 2026-08-02 2.5 r2",
                        "taxon 3 larva 3 2026-08-03 3.5 r3",
                        "taxon 1 adult 4 2026-08-04 4.5 r4",
                        "taxon 5 larva 90 2026-08-05 5.5 r5",
                        "taxon 6 larva 6 2026-08-06 6.5 r6");
        var rows = stored("A-1").stream()
                .map(each -> Integer.parseInt(each.split(" ")[0]))
                .toList();
        assertThat(rows)
                .isEqualTo(IntStream.range(rows.getFirst(), rows.getFirst() + 6)
                        .boxed()
                        .toList());
        // The next sheet can be keyed at once.
        assertThat(page.getByLabel("Sheet").first()).isFocused();
    }

    @Test
    void copiedCellsSpreadByTheirHeadingsAreShownAsTheyWillBeStoredAndSavedOnce() {
        open();
        keys.type("B-1").press("Enter");
        assertThat(page.getByLabel("Taxon, line 1").first()).isFocused();
        var cells = new StringBuilder("Count\tTaxon\tseen on\tWeather\n");
        for (int n = 1; n <= 6; n++) {
            cells.append("%d\tgroup %d\t8/%d/26\twet\n".formatted(n, n, n));
        }
        paste(cells.toString(), "");
        assertThat(said())
                .containsText("6 lines were pasted. No field is called “Weather”; what stood there was left out.");
        assertThat(line(6)).containsText("8/6/2026");
        // The answer to the save is lost on its way back; it is sent again, and saved once.
        var lost = new ArrayList<Route>();
        Interception.begins(page);
        page.route(
                "**/batches",
                route -> {
                    route.fetch();
                    lost.add(route);
                    route.abort();
                },
                new Page.RouteOptions().setTimes(1));
        keys.press("Control+Enter");
        assertThat(said()).containsText("Saved 6 lines in rows");
        assertThat(lost).hasSize(1);
        assertThat(stored("B-1")).hasSize(6);

        keys.press("Control+a").type("B-2").press("Enter");
        paste("", "<table><tr><td>one</td><td>pupa</td></tr><tr><td>two</td><td>adult</td></tr></table>");
        assertThat(line(2)).containsText("two");
        // A line between, as the line above; then out again.
        keys.press("ArrowDown", "Alt+i").press("Alt+Shift+ArrowUp");
        assertThat(line(2)).containsText("pupa");
        assertThat(page.getByText("Line 1 already has B-2, one, pupa.")).isVisible();
        keys.press("Control+Delete");
        assertThat(page.getByText("Line 1 already has B-2, one, pupa.")).isHidden();
        keys.press("Control+s");
        assertThat(said()).containsText("Saved 2 lines in rows");
        assertThat(stored("B-2")).hasSize(2);
    }

    @Test
    void aRowOfCellsPastedIntoThePlainFormIsOfferedToBeSpread() {
        page.navigate("/d/sheets");
        assertThat(page.getByLabel("Sheet").first()).isFocused();
        paste("C-1\tmayfly\tlarva\t12\n", "");
        assertThat(page.getByText("Spread 4 cells over the fields?")).isVisible();
        keys.press("Enter");
        assertThat(page.getByLabel("Taxon").first()).hasValue("mayfly");
        assertThat(page.getByLabel("Count").first()).hasValue("12");
        assertThat(page.getByLabel("Count").first()).isFocused();
        keys.press("Control+Enter");
        assertThat(said()).containsText("Saved in row");
        // From the form to the lines and back, without the mouse.
        keys.press("Alt+l");
        assertThat(page.getByRole(AriaRole.GRID, new GetByRoleOptions().setName("Lines")))
                .isVisible();
        assertThat(page.getByLabel("Sheet, line 1").first()).isFocused();
        keys.press("Alt+l");
        assertThat(page.getByLabel("Sheet").first()).isFocused();
    }
}
