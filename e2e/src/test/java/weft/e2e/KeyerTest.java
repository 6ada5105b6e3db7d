package weft.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.google.gson.JsonObject;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Route;
import com.microsoft.playwright.assertions.LocatorAssertions.ContainsTextOptions;
import com.microsoft.playwright.options.AriaRole;
import java.time.Year;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** A keyer's hands on the keyboard and eyes on the paper. */
@ExtendWith(Running.class)
class KeyerTest {

    static final String SAMPLES = """
            {"title":"Site","required":true},{"title":"Taken on","type":"date"},
            {"title":"pH","type":"decimal","scale":1,"min":0,"max":14},
            {"title":"Flow","type":"choice","choices":["low","normal","high"]}""";

    private final Page page = Running.page();
    private final Keys keys = new Keys(page);

    private void open(String form) {
        page.navigate("/d/" + form);
        assertThat(page.getByLabel("Site").first()).isFocused();
    }

    /** The values of all records of a form, by row. */
    static List<String> rows(String form) {
        var found = new ArrayList<String>();
        Running.api("/api/doors/" + form + "/records?limit=500")
                .get("records")
                .forEach(record -> found.add(record.get("values").toString()));
        return found;
    }

    @Test
    void aHundredRecordsTypedWithoutAPauseHaveEveryCharacterInItsPlace() {
        Running.form(
                "fast",
                "{\"title\":\"Site\"},{\"title\":\"On\",\"type\":\"date\"},{\"title\":\"Level\",\"type\":\"whole\"}");
        open("fast");
        for (int i = 0; i < 100; i++) {
            keys.entry("Q" + i, "8/1", "" + i).press("Enter");
        }
        assertThat(page.getByRole(AriaRole.COMPLEMENTARY))
                .containsText("100 saved", new ContainsTextOptions().setTimeout(30_000));
        assertThat(rows("fast"))
                .isEqualTo(IntStream.range(0, 100)
                        .mapToObj(i ->
                                "{\"site\":\"Q" + i + "\",\"on_\":\"" + Year.now() + "-08-01\",\"level\":" + i + "}")
                        .toList());
    }

    @Test
    void whatIsTypedIsReadBackAndAStopLeavesItAsTyped() {
        Running.form("stops", SAMPLES);
        open("stops");
        keys.entry("", "8/1/26", "74", "nor");
        assertThat(page.getByText("Sat 1 Aug 2026")).isVisible();
        assertThat(page.getByText("pH must be between 0 and 14. 74 is above it; 7.4?"))
                .isVisible();
        keys.press("Enter");
        assertThat(page.getByLabel("Site").first()).isFocused();
        assertThat(page.getByLabel("Site").first()).hasAccessibleDescription("Site is needed. Type it here.");
        assertThat(page.getByLabel("Taken on").first()).hasValue("8/1/26");
        assertThat(page.getByLabel("pH")).hasValue("74");
        keys.type("QB-03").press("Tab", "Tab").type("7.4").press("Control+Enter");
        assertThat(page.getByText("Saved in row 1")).isVisible();
        assertThat(rows("stops"))
                .containsExactly("{\"site\":\"QB-03\",\"taken_on\":\"2026-08-01\",\"ph\":\"7.4\",\"flow\":\"normal\"}");
        keys.press("Enter");
        assertThat(page.getByText("Nothing is typed yet")).isVisible();
    }

    @Test
    void escPutsTheFieldBackThenClearsTheEntry() {
        Running.form("escapes", SAMPLES);
        open("escapes");
        keys.entry("QB-03", "8/1/26").press("Shift+Tab").type("X").press("Escape");
        assertThat(page.getByLabel("Site").first()).hasValue("QB-03");
        keys.press("Escape");
        assertThat(page.getByLabel("Site").first()).hasValue("");
        assertThat(page.getByLabel("Taken on").first()).hasValue("");
        keys.press("Escape");
        assertThat(page.getByLabel("Site").first()).hasValue("");
        keys.press("Alt+b");
        assertThat(page.getByLabel("Site").first()).hasValue("QB-03");
        assertThat(page.getByLabel("Taken on").first()).hasValue("8/1/26");
    }

    @Test
    void lookingUpNeverSavesAndTheHalfEntryComesBack() {
        Running.form("looking", SAMPLES);
        Running.api("/api/doors/looking/records", "{\"values\":{\"site\":\"TS-09\"}}");
        open("looking");
        keys.entry("QB-03", "8/1/26").press("Shift+Tab", "Control+f").type("TS").press("Enter");
        assertThat(page.getByLabel("Site").first()).hasValue("TS-09");
        assertThat(rows("looking")).hasSize(1);
        keys.press("Alt+n");
        assertThat(page.getByLabel("Site").first()).hasValue("QB-03");
        assertThat(page.getByLabel("Taken on").first()).hasValue("8/1/26");
        keys.press("Enter");
        assertThat(page.getByText("Saved in row 2")).isVisible();
        assertThat(rows("looking")).hasSize(2);
    }

    @Test
    void aFieldThatIsFullGoesOnByItself() {
        Running.form("full", "{\"title\":\"Code\"},{\"title\":\"Plot\",\"type\":\"whole\"},{\"title\":\"Note\"}");
        var form = (ObjectNode) Running.api("/api/forms/full");
        var fields = form.get("sections").get(0).get("items");
        ((ObjectNode) fields.get(0)).put("shape", "AB-12").put("capitals", true).put("goesOnAfter", 5);
        ((ObjectNode) fields.get(1)).put("goesOnAfter", 2);
        Running.put("/api/forms/full", form.toString(), "\"1\"");
        Running.api("/api/forms/full/publish", "");
        page.navigate("/d/full");
        assertThat(page.getByLabel("Code").first()).isFocused();
        keys.type("qb0307dry").press("Enter");
        assertThat(page.getByText("Saved in row 1")).isVisible();
        keys.type("qb-x").press("Tab").type("8").press("Tab").type("wet").press("Enter");
        assertThat(page.getByText("Saved in row 2")).isVisible();
        assertThat(rows("full"))
                .containsExactly(
                        "{\"code\":\"QB-03\",\"plot\":7,\"note\":\"dry\"}",
                        "{\"code\":\"QB-X\",\"plot\":8,\"note\":\"wet\"}");
    }

    /** Ten in thirty are asked about, on a line that answers a second late. */
    @Test
    void thirtyEntriesKeyedHeadDownAreAllSavedOrAskedAbout() {
        Running.form("headdown", SAMPLES);
        var form = (ObjectNode) Running.api("/api/forms/headdown");
        var check = "{\"id\":\"flow\",\"asks\":true,\"stays\":false,\"message\":\"\","
                + "\"rule\":{\"kind\":\"complete\",\"columns\":[\"flow\"]}}";
        ((ObjectNode) form.get("rules"))
                .putArray("checks")
                .add(JsonMapper.shared().readTree(check));
        Running.put("/api/forms/headdown", form.toString(), "\"1\"");
        Running.api("/api/forms/headdown/publish", "");
        open("headdown");
        var slow = new JsonObject();
        slow.addProperty("offline", false);
        slow.addProperty("latency", 1_000);
        slow.addProperty("downloadThroughput", -1);
        slow.addProperty("uploadThroughput", -1);
        page.context().newCDPSession(page).send("Network.emulateNetworkConditions", slow);
        for (int i = 1; i <= 30; i++) {
            keys.entry("QB-" + i, "2026-08-01", "7.4", i % 3 == 0 ? "" : "l").press("Enter");
        }
        var tray = page.getByRole(AriaRole.COMPLEMENTARY);
        assertThat(tray).containsText("20 saved", new ContainsTextOptions().setTimeout(60_000));
        // The last one stands in the form yet.
        assertThat(page.getByRole(AriaRole.ALERT))
                .containsText("Flow is empty.", new ContainsTextOptions().setTimeout(60_000));
        keys.press("Alt+Shift+y");
        assertThat(tray).containsText("30 saved", new ContainsTextOptions().setTimeout(60_000));
        assertThat(rows("headdown").stream().sorted().toList())
                .doesNotHaveDuplicates()
                .hasSize(30);
    }

    @Test
    void listsAndCalendarsAreHelpsThatKeysReach() {
        Running.form("helps", SAMPLES);
        open("helps");
        keys.entry("QB-03", "8/1/26");
        assertThat(page.getByText("Sat 1 Aug 2026")).isVisible();
        keys.press("Alt+ArrowDown");
        assertThat(page.getByRole(AriaRole.DIALOG)).isVisible();
        keys.press("ArrowRight", "Enter");
        assertThat(page.getByLabel("Taken on").first()).hasValue("2026-08-02");
        assertThat(page.getByLabel("Taken on").first()).isFocused();
        keys.press("Tab", "Tab").type("h");
        assertThat(page.getByRole(AriaRole.OPTION)).hasText(new String[] {"high"});
        keys.press("ArrowDown", "Enter");
        assertThat(page.getByRole(AriaRole.COMBOBOX)).hasValue("high");
        keys.press("Enter");
        assertThat(page.getByText("Saved in row 1")).isVisible();
        keys.press("F1");
        assertThat(page.getByRole(AriaRole.DIALOG)).containsText("All the keys");
        keys.press("Escape");
        assertThat(page.getByLabel("Site").first()).isFocused();
    }

    @Test
    void withoutAConnectionEntriesAreKeptThroughAReloadAndSentOnce() {
        Running.form("offline", SAMPLES);
        open("offline");
        // The first answer is lost on its way back: the entry is written, but the page can't know.
        var written = new AtomicBoolean();
        Interception.begins(page);
        page.route("**/records", route -> {
            if (!written.getAndSet(true)) route.fetch();
            route.abort();
        });
        var tray = page.getByRole(AriaRole.COMPLEMENTARY);
        var waiting = tray.getByText("waiting", new Locator.GetByTextOptions().setExact(true));
        keys.entry("QB-01").press("Enter");
        assertThat(waiting).hasCount(1);
        assertThat(page.getByLabel("Site").first()).isFocused();
        keys.entry("QB-02").press("Enter");
        assertThat(waiting).hasCount(2);
        page.reload();
        assertThat(waiting).hasCount(2);
        page.unroute("**/records");
        assertThat(tray).containsText("2 saved", new ContainsTextOptions().setTimeout(15_000));
        assertThat(rows("offline")).hasSize(2).first().asString().contains("QB-01");
    }

    @Test
    void anEntryStoppedWhileTheNextIsTypedWaitsUntilItIsAskedFor() {
        Running.form("later", SAMPLES);
        open("later");
        var held = new ArrayList<Route>();
        Interception.begins(page);
        page.route("**/records", held::add, new Page.RouteOptions().setTimes(1));
        keys.entry("QB-01", "", "99").press("Enter").entry("QB-02", "", "7.1");
        page.waitForCondition(() -> !held.isEmpty());
        held.getFirst().resume();
        assertThat(page.getByRole(AriaRole.COMPLEMENTARY)).containsText("not saved");
        assertThat(page.getByLabel("pH")).hasValue("7.1");
        keys.press("Enter");
        assertThat(page.getByText("Saved in row 1")).isVisible();
        assertThat(page.getByLabel("Site").first()).hasValue("");
        keys.press("Alt+b");
        assertThat(page.getByText("pH must be between 0 and 14. 99 is above it; 9.9?")
                        .first())
                .isVisible();
        assertThat(page.getByLabel("pH")).isFocused();
        assertThat(page.getByLabel("Site").first()).hasValue("QB-01");
        keys.press("Control+a").type("9.9").press("Enter");
        assertThat(page.getByText("Saved in row 2")).isVisible();
        assertThat(rows("later")).hasSize(2);
    }

    @Test
    void anothersSaveMovesTheNextFreeRowAndShowsInTheRows() {
        Running.form("others", SAMPLES);
        open("others");
        keys.press("F8").type("QB-0");
        Running.api("/api/doors/others/records", "{\"values\":{\"site\":\"TS-09\"}}");
        assertThat(page.getByText("Next free row 2")).isVisible();
        assertThat(page.getByRole(AriaRole.GRIDCELL).filter(new Locator.FilterOptions().setHasText("TS-09")))
                .isVisible();
        assertThat(page.getByLabel("Site").first()).hasValue("QB-0");
        assertThat(page.getByLabel("Site").first()).isFocused();
    }

    @Test
    void aDaysFiftyEntriesWithAStopAndAReloadInTheMiddle() {
        Running.form("day", SAMPLES);
        open("day");
        for (int i = 1; i <= 50; i++) {
            keys.entry("QB-" + i, "2026-08-01", i == 20 ? "74" : "7.4", "l");
            if (i == 30) {
                assertThat(page.getByRole(AriaRole.COMPLEMENTARY)).containsText("29 saved");
                page.reload();
                assertThat(page.getByLabel("Site").first()).isFocused();
                assertThat(page.getByText("Not saved, from today")).isVisible();
                keys.press("Alt+b");
                assertThat(page.getByLabel("pH")).hasValue("7.4");
                assertThat(page.getByText("Not saved, from today")).isHidden();
            }
            keys.press("Enter");
            if (i == 20) {
                assertThat(page.getByRole(AriaRole.ALERT)).containsText("pH must be between 0 and 14.");
                keys.press("Alt+b");
                assertThat(page.getByLabel("pH")).isFocused();
                keys.press("Control+a").type("7.4").press("Enter");
                assertThat(page.getByText("Saved in row 20")).isVisible();
            }
        }
        assertThat(page.getByText("Saved in row 50")).isVisible();
        assertThat(rows("day"))
                .hasSize(50)
                .allSatisfy(values -> assertThat(values).contains("\"ph\":\"7.4\",\"flow\":\"low\""));
    }
}
