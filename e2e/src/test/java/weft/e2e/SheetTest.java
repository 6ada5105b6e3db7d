package weft.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Page.GetByLabelOptions;
import com.microsoft.playwright.Page.GetByRoleOptions;
import com.microsoft.playwright.Route;
import com.microsoft.playwright.options.AriaRole;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** A sample and its counts on one sheet, and links followed and made on the way: by the keyboard alone. */
@ExtendWith(Running.class)
class SheetTest {

    private final Page page = Running.page();
    private final Keys keys = new Keys(page);

    /** Nets with their catches as lines. */
    @BeforeAll
    static void given() {
        Running.form("nets", """
                {"title":"Mesh","unique":true,"required":true},{"title":"Spot"},{"title":"Total","type":"whole"}""");
        Running.form("catches", """
                {"title":"Net","type":"link","to":"nets","shown":["mesh","spot"],"required":true},
                {"title":"Taxon","required":true},{"title":"Count","type":"whole","min":1,"max":500}""");
        Running.api("/api/tables/catches/constraints", """
                {"kind":"unique","columns":["net","taxon"],"message":""}""");
        var form = (ObjectNode) Running.api("/api/forms/nets");
        var lines = (ObjectNode) Running.api("/api/forms/nets/bench/lines").get(0);
        ((ArrayNode) form.at("/sections/0/items")).add(lines.put("label", "Catches"));
        ((ArrayNode) form.at("/rules/formulas")).add(JsonMapper.shared().readTree("""
                {"target":"total","what":"calculated","formula":"sum(catches.count)"}"""));
        Running.put("/api/forms/nets", form.toString(), "\"1\"");
        Running.api("/api/forms/nets/publish", "");
    }

    private static List<String> caught(String net) {
        var found = new ArrayList<String>();
        Running.api("/api/doors/catches/records?limit=500&where=net:%22" + net + "%22")
                .get("records")
                .forEach(record -> found.add(record.at("/values/taxon").asString() + " "
                        + record.at("/values/count").asString()));
        return found;
    }

    private Locator said() {
        return page.getByRole(AriaRole.STATUS).first();
    }

    private Locator line(int number) {
        return page.getByRole(AriaRole.GRID, new GetByRoleOptions().setName("Catches"))
                .getByRole(AriaRole.ROW)
                .nth(number);
    }

    private void open(String door) {
        page.navigate("/d/" + door);
        assertThat(page.getByLabel(door.equals("nets") ? "Mesh" : "Net").first())
                .isFocused();
    }

    /** From the number to the first cell of the lines. */
    private void intoLines() {
        keys.press("Tab", "Tab");
        assertThat(page.getByLabel("Taxon, line 1").first()).isFocused();
    }

    @Test
    void eightCountsAreKeyedUnderANewSampleAndSavedWithIt() {
        open("nets");
        keys.type("N-1");
        intoLines();
        for (int n = 1; n <= 8; n++) {
            keys.entry("taxon " + (n == 5 ? 2 : n), "" + n);
            if (n < 8) {
                keys.press("Enter");
            }
        }
        assertThat(page.getByText("Line 2 already has taxon 2.")).isVisible();
        keys.press("Control+Enter");
        assertThat(said()).containsText("Line 2 already has taxon 2.");
        keys.press("Alt+b");
        assertThat(page.getByLabel("Taxon, line 5").first()).isFocused();
        assertThat(caught("N-1")).isEmpty();
        // What is typed comes back after a reload, its lines too.
        page.reload();
        assertThat(page.getByLabel("Mesh").first()).isFocused();
        keys.press("Alt+b");
        assertThat(page.getByLabel("Mesh").first()).hasValue("N-1");
        assertThat(line(8)).containsText("taxon 8");
        intoLines();
        keys.press("Enter", "Enter", "Enter", "Enter", "Control+a").type("taxon 5");
        keys.press("Control+Enter");
        assertThat(said()).containsText("Saved in row");
        assertThat(caught("N-1"))
                .isEqualTo(IntStream.rangeClosed(1, 8)
                        .mapToObj(n -> "taxon " + n + " " + n)
                        .toList());
        // The form is clear for the next sheet.
        assertThat(page.getByLabel("Mesh").first()).isFocused();
        assertThat(line(1)).not().containsText("taxon");
        keys.press("PageUp");
        assertThat(page.getByLabel("Total").first()).hasValue("36");
        assertThat(line(3)).containsText("taxon 3");
        intoLines();
        keys.press("Tab", "Control+a").type("10").press("Enter", "Control+Delete", "ArrowDown", "ArrowDown");
        keys.press("Control+Enter");
        assertThat(said()).containsText("Changed in row");
        assertThat(caught("N-1").stream().limit(3).collect(Collectors.joining(", ")))
                .isEqualTo("taxon 1 10, taxon 3 3, taxon 4 4");
    }

    @Test
    void aCheckOfEachLineIsMadeOnTheBenchAndAsksAtTheDesk() {
        Running.api("/api/doors/nets/records", """
                {"values":{"mesh":"N-3"},"lines":{"catches":[{"values":{"taxon":"worm","count":450}}]}}""");
        page.navigate("/bench/nets");
        page.locator("#line-catches").click();
        keys.press("Space");
        page.getByRole(AriaRole.BUTTON, new GetByRoleOptions().setName("Change them"))
                .press("Enter");
        assertThat(page.getByLabel("Rules of", new GetByLabelOptions().setExact(true)))
                .hasValue("catches");
        var line = page.getByLabel("Add a rule");
        line.fill("Count is at most 400, else ask");
        assertThat(page.getByText(Pattern.compile("asks unless Count is at most 400 · .* stored records breaks? it")))
                .isVisible();
        line.press("Enter");
        assertThat(page.getByLabel("Before it is saved")).containsText("asks unless Count is at most 400");
        page.getByRole(
                        AriaRole.BUTTON,
                        new GetByRoleOptions().setName("Publish").setExact(true))
                .press("Enter");
        keys.press("Enter");
        assertThat(page.getByText("published, version 3")).isVisible();
        open("nets");
        keys.type("N-4");
        intoLines();
        keys.entry("leech", "401").press("Control+Enter");
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("Line 1: Count is 401, above 400.");
        assertThat(caught("N-4")).isEmpty();
        keys.press("Alt+y");
        assertThat(said()).containsText("Saved in row");
        assertThat(caught("N-4")).containsExactly("leech 401");
    }

    @Test
    void whoKeysOnFromTheLastLineKeysTheNextSheet() {
        open("nets");
        keys.type("N-8");
        intoLines();
        keys.entry("leech", "2");
        var held = new ArrayList<Route>();
        Interception.begins(page);
        page.route("**/records", held::add, new Page.RouteOptions().setTimes(1));
        // The answer is late, and the cursor stands in a line yet.
        keys.press("Control+Enter").type("N-9").press("Tab").type("Ford");
        page.waitForCondition(() -> !held.isEmpty());
        held.getFirst().resume();
        assertThat(page.getByRole(AriaRole.COMPLEMENTARY)).containsText("1 saved");
        assertThat(page.getByLabel("Mesh").first()).hasValue("N-9");
        assertThat(page.getByLabel("Spot").first()).hasValue("Ford");
        assertThat(line(1)).not().containsText("N-9");
        assertThat(caught("N-8")).containsExactly("leech 2");
    }

    @Test
    void aLineThatSomebodyElseChangedSaysSoAndNothingTypedIsLost() {
        var net = Running.api("/api/doors/nets/records", """
                {"values":{"mesh":"N-2"},"lines":{"catches":[{"values":{"taxon":"worm","count":1}},
                 {"values":{"taxon":"leech","count":2}}]}}""");
        open("nets");
        keys.press("PageUp");
        assertThat(line(2)).containsText("leech");
        intoLines();
        keys.press("Enter", "Tab", "Control+a").type("20");
        var leech = net.at("/lines/catches/1");
        Running.put("/api/doors/catches/records/" + leech.get("id").asLong(), """
                {"values":{"net":"N-2","taxon":"leech","count":5}}""", "\"1\"");
        keys.press("Control+Enter");
        assertThat(page.getByText("Somebody else changed this line meanwhile: it holds leech, 5 now."))
                .isVisible();
        assertThat(caught("N-2")).containsExactly("worm 1", "leech 5");
        keys.press("Control+Enter");
        assertThat(said()).containsText("Changed in row");
        assertThat(caught("N-2")).containsExactly("worm 1", "leech 20");
    }

    @Test
    void aLinkIsTypedByItsWordsReadBackAndFollowedThereAndBack() {
        Running.api("/api/doors/nets/records", "{\"values\":{\"mesh\":\"N-30\",\"spot\":\"Stepping stones\"}}");
        open("catches");
        keys.type("n-30");
        assertThat(page.getByText("N-30, Stepping stones")).isVisible();
        keys.press("Tab").type("mayfly").press("Shift+Tab");
        assertThat(page.getByText("Open it")).isVisible();
        keys.press("Alt+o");
        assertThat(page.getByLabel("Spot").first()).hasValue("Stepping stones");
        keys.press("Alt+Backspace");
        assertThat(page.getByLabel("Taxon").first()).hasValue("mayfly");
        assertThat(page.getByLabel("Net").first()).hasValue("n-30");
        assertThat(page.getByLabel("Net").first()).isFocused();
        // A new one is made on the way, and is chosen when one is back.
        keys.press("Control+a").type("N-31");
        assertThat(page.getByText("Make a new one")).isVisible();
        keys.press("Escape", "Alt+o");
        assertThat(page.getByLabel("Mesh").first()).isFocused();
        keys.type("N-31").press("Enter");
        assertThat(page.getByLabel("Net").first()).hasValue("N-31");
        assertThat(page.getByLabel("Taxon").first()).hasValue("mayfly");
        keys.press("Control+Enter");
        assertThat(said()).containsText("Saved in row");
        assertThat(caught("N-31")).containsExactly("mayfly ");
        // Found by its words, and shown by them.
        keys.press("Control+f").type("n-31");
        assertThat(page.getByText("1 match").first()).isVisible();
        keys.press("Enter");
        assertThat(page.getByLabel("Taxon").first()).hasValue("mayfly");
        assertThat(page.getByLabel("Net").first()).hasValue("N-31");
    }
}
