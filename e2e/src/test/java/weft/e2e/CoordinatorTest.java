package weft.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.KeyboardModifier;
import java.io.IOException;
import java.nio.file.Files;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.node.ObjectNode;

/** A coordinator looks records up, corrects them and clears out; no mouse is touched. */
@ExtendWith(Running.class)
class CoordinatorTest {

    private static final String SAMPLES = """
            {"title":"Site","required":true},{"title":"River"},{"title":"Taken on","type":"date"},
            {"title":"pH","type":"decimal","scale":1,"min":0,"max":14},{"title":"Remark","type":"longtext"}""";

    private final Page page = Running.page();
    private final Keys keys = new Keys(page);

    /** Twelve samples of two rivers, and a Desk open on them. */
    private void open(String form) {
        Running.form(form, SAMPLES);
        for (int i = 1; i <= 12; i++) {
            Running.api(
                    "/api/forms/" + form + "/records",
                    "{\"values\":{\"site\":\"%s-%02d\",\"river\":\"%s\",\"taken_on\":\"2026-%02d-10\",\"ph\":\"%s\"}}"
                            .formatted(
                                    i % 3 == 0 ? "TS" : "QB",
                                    i,
                                    i % 3 == 0 ? "Tessel" : "Quill Beck",
                                    i,
                                    6 + i % 4 + ".5"));
        }
        page.navigate("/desk/" + form);
        assertThat(site()).isFocused();
    }

    private Locator site() {
        return page.getByLabel("Site").first();
    }

    private Locator position() {
        return page.getByLabel("Position");
    }

    private void says(String text) {
        assertThat(page.getByRole(AriaRole.STATUS)).containsText(text);
    }

    private Locator button(String name) {
        return page.getByRole(
                AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
    }

    @Test
    void oneStepsThroughTheRecordsAndTheNumberNeverParts() {
        open("steps");
        assertThat(position()).hasValue("new");
        assertThat(button("Next")).isDisabled();
        keys.press("PageUp");
        assertThat(position()).hasValue("12");
        assertThat(site()).hasValue("TS-12");
        keys.press("Alt+PageUp");
        assertThat(position()).hasValue("1");
        assertThat(button("Previous")).isDisabled();
        keys.press("PageUp");
        assertThat(site()).hasValue("QB-01");
        // Holding the key: whenever one looks, the values are those of the number.
        for (int i = 0; i < 30; i++) {
            page.keyboard().down("PageDown");
            var seen = (String)
                    page.evaluate(
                            "() => document.querySelector('[aria-label^=Position]').value + ' ' + document.getElementById('field-site').value");
            assertThat(seen).matches(Pattern.compile("new |(\\d+) (QB|TS)-0?\\1"));
        }
        page.keyboard().up("PageDown");
        assertThat(position()).hasValue("new");
        position().focus();
        keys.type("7").press("Enter");
        assertThat(site()).hasValue("QB-07");
        assertThat(site()).isFocused();
        keys.press("Alt+n");
        assertThat(position()).hasValue("new");
        assertThat(site()).hasValue("");
    }

    @Test
    void aFindIsReadBackCountedSteppedThroughKeptAndBroughtBack() {
        open("finds");
        keys.press("Control+f")
                .type("qb")
                .press("Tab", "Tab")
                .type("after 2026-05")
                .press("Tab")
                .type("> 6,x");
        assertThat(page.getByText("can't be read as a number")).isVisible();
        keys.press("Control+a").type("> 6.5");
        assertThat(page.getByText("Site has qb in it, and Taken on after Sun 31 May 2026, and pH above 6.5"))
                .isVisible();
        assertThat(page.getByText("Finding: 3 matches")).isVisible();
        keys.press("Enter");
        says("Match 1 of 3 · row 7");
        keys.press("F3");
        says("Match 2 of 3");
        keys.press("PageDown");
        says("Match 3 of 3");
        keys.press("Shift+F3");
        says("Match 2 of 3");
        keys.press("Alt+PageDown");
        says("Match 3 of 3");
        keys.press("F3");
        says("That was the last match.");
        keys.press("F8");
        assertThat(page.getByText("3 of 12")).isVisible();
        button("Keep this find…").focus();
        keys.press("Enter").type("Late and high").press("Enter");
        says("Kept as “Late and high”");
        site().focus();
        keys.press("Escape");
        assertThat(position()).hasValue("11");
        assertThat(page.getByText("of 12", new Page.GetByTextOptions().setExact(true)))
                .isVisible();
        keys.press("Control+f", "Control+f");
        assertThat(page.getByText("Finding: 3 matches")).isVisible();
        keys.press("Escape", "Control+Shift+f").type("tessel").press("Enter");
        says("Match 1 of 4 · row 3");
        keys.press("Control+f");
        page.getByLabel("Kept finds").selectOption("Late and high");
        says("Match 1 of 3 · row 7");
    }

    @Test
    void aCorrectionShowsWhatItChangesAndTwoPeopleNeverOverwriteEachOther() {
        open("corrects");
        keys.press("PageUp");
        assertThat(position()).hasValue("12");
        keys.press("Tab").type("x").press("Shift+Tab").type("?");
        assertThat(page.getByText("was TS-12")).isVisible();
        keys.press("Escape");
        assertThat(site()).hasValue("TS-12");
        assertThat(page.getByText("was Tessel")).isVisible();
        keys.press("Escape");
        assertThat(page.getByText("was Tessel")).isHidden();
        // A stop holds one back, and Esc lets go.
        site().focus();
        keys.press("Control+a", "Delete", "PageUp");
        says("Site is needed");
        assertThat(position()).hasValue("12");
        keys.press("Escape");
        assertThat(site()).hasValue("TS-12");
        keys.press("PageUp");
        assertThat(position()).hasValue("11");
        // Moving on saves.
        keys.press("Control+a").type("QB-11b").press("PageUp");
        assertThat(site()).hasValue("QB-10");
        keys.press("PageDown");
        assertThat(site()).hasValue("QB-11b");

        var other = Running.page();
        var theirs = new Keys(other);
        other.navigate("/desk/corrects");
        assertThat(other.getByLabel("Site").first()).isFocused();
        theirs.press("PageUp");
        assertThat(other.getByLabel("Position")).hasValue("12");
        theirs.press("PageUp");
        assertThat(other.getByLabel("Position")).hasValue("11");
        other.getByLabel("pH").focus();
        theirs.press("Control+a").type("7.7").press("Tab").type("theirs");
        page.getByLabel("pH").focus();
        keys.press("Control+a")
                .type("8.8")
                .press("Shift+Tab", "Control+a")
                .type("2026-11-12")
                .press("Control+s");
        says("Changed in row 11");
        theirs.press("Control+s");
        var dialog = other.getByRole(AriaRole.DIALOG);
        assertThat(dialog).containsText("Somebody else changed row 11 while you did");
        var save = dialog.getByText("Save what is chosen");
        assertThat(save).isDisabled();
        assertThat(dialog.getByRole(AriaRole.RADIOGROUP)).hasCount(3);
        theirs.press("Space");
        assertThat(save).isEnabled();
        save.focus();
        theirs.press("Enter");
        // What stands here and is not being changed follows what others save.
        assertThat(page.getByLabel("pH")).hasValue("7.7");
        assertThat(page.getByLabel("Remark")).hasValue("theirs");
        assertThat(page.getByLabel("Taken on").first()).hasValue("2026-11-12");

        keys.press("Alt+h");
        var history = page.getByRole(AriaRole.DIALOG);
        assertThat(history.getByRole(AriaRole.LISTITEM)).hasCount(4);
        history.getByText("Put this state back").last().focus();
        keys.press("Enter");
        assertThat(site()).hasValue("QB-11");
        assertThat(page.getByLabel("pH")).hasValue("9.5");
    }

    @Test
    void recordsAreRemovedOneAndManyPutBackAndTakenAway() throws IOException {
        open("removes");
        keys.press("PageUp");
        assertThat(position()).hasValue("12");
        keys.press("Alt+Delete");
        assertThat(page.getByRole(AriaRole.DIALOG)).containsText("Remove row 12?");
        keys.press("Enter");
        assertThat(page.getByRole(AriaRole.DIALOG)).isHidden();
        assertThat(site()).hasValue("TS-12");
        keys.press("Alt+Delete", "Tab", "Enter");
        says("Row 12 was removed");
        assertThat(position()).hasValue("11");

        keys.press("Control+Shift+f").type("tessel").press("Enter");
        says("Match 1 of 3");
        keys.press("F8", "F8");
        var grid = page.getByRole(AriaRole.GRID);
        assertThat(grid).isFocused();
        assertThat(grid.getByRole(AriaRole.ROW)).hasCount(4);
        keys.press("Control+a");
        assertThat(page.getByText("3 selected")).isVisible();
        keys.press("Delete");
        assertThat(page.getByRole(AriaRole.DIALOG)).containsText("Remove 3 records?");
        keys.press("Tab", "Enter");
        says("3 removed");
        assertThat(position()).hasValue("new");
        assertThat(site()).isFocused();

        button("Removed").focus();
        keys.press("Enter");
        var removed = page.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("Removed records"));
        assertThat(removed.getByRole(AriaRole.LISTITEM)).hasCount(4);
        removed.getByText("Put back").first().focus();
        keys.press("Enter");
        says("Put back in row");
        assertThat(removed.getByRole(AriaRole.LISTITEM)).hasCount(3);
        button("Rows in view").focus();
        keys.press("Enter");
        assertThat(grid.getByRole(AriaRole.ROW)).hasCount(2);

        site().focus();
        keys.press("Escape");
        var csv = page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("as CSV"));
        csv.focus();
        var file = page.waitForDownload(() -> keys.press("Enter"));
        assertThat(Files.readAllLines(file.path()))
                .hasSize(10)
                .startsWith("Row,Site,River,Taken on,pH,Remark", "1,QB-01,Quill Beck,2026-01-10,7.5,");
    }

    @Test
    void rowsAreSortedByHeadingsAndOpenedFromTheGrid() {
        open("sorts");
        keys.press("F8");
        page.getByRole(AriaRole.COLUMNHEADER, new Page.GetByRoleOptions().setName("River"))
                .getByRole(AriaRole.BUTTON)
                .click();
        page.getByRole(AriaRole.COLUMNHEADER, new Page.GetByRoleOptions().setName("pH"))
                .getByRole(AriaRole.BUTTON)
                .click(new Locator.ClickOptions().setModifiers(List.of(KeyboardModifier.SHIFT)));
        assertThat(page.getByText("Sorted by River; then pH")).isVisible();
        button("Sorted by River; then pH").focus();
        keys.press("Enter");
        page.getByLabel("downwards").first().focus();
        keys.press("Space", "Escape");
        assertThat(page.getByText("Sorted by River, Z to A; then pH")).isVisible();
        site().focus();
        keys.press("F8", "Home", "Enter");
        assertThat(site()).hasValue("TS-12");
        assertThat(site()).isFocused();
        assertThat(position()).hasValue("1");
        keys.press("Alt+PageDown");
        assertThat(site()).hasValue("QB-11");
    }

    @Test
    void aThousandRemovedTogetherShowTheirProgressAndCanBeGivenUp() {
        Running.form("clears", "{\"title\":\"Site\"}");
        IntStream.range(0, 350)
                .forEach(i -> Running.api("/api/forms/clears/records", "{\"values\":{\"site\":\"S" + i + "\"}}"));
        page.navigate("/desk/clears");
        assertThat(site()).isFocused();
        page.route("**/removals", route -> {
            page.waitForTimeout(300);
            route.resume();
        });
        keys.press("F8", "F8", "Control+a");
        assertThat(page.getByText("350 selected")).isVisible();
        keys.press("Delete", "Tab", "Enter");
        button("Give up").focus();
        keys.press("Enter");
        says("removed.");
        assertThat(Running.api("/api/tables/clears").get("rows").asInt()).isBetween(1, 349);
    }

    @Test
    void aFormMayAskBeforeOneMovesOnAndComesInTheOrderItsBuilderGave() {
        open("asks");
        var form = (ObjectNode) Running.api("/api/forms/asks");
        form.put("leaving", "asks")
                .putArray("order")
                .addObject()
                .put("column", "ph")
                .put("down", true);
        Running.put("/api/forms/asks", form.toString(), "\"1\"");
        Running.api("/api/forms/asks/publish", "");
        page.reload();
        assertThat(site()).isFocused();
        keys.press("Alt+PageUp");
        assertThat(site()).hasValue("QB-11");
        keys.press("Control+a").type("QB-11c").press("PageDown");
        var dialog = page.getByRole(AriaRole.DIALOG);
        assertThat(dialog).containsText("Save what you changed in row 11?");
        keys.press("Escape");
        assertThat(dialog).isHidden();
        assertThat(site()).hasValue("QB-11c");
        site().focus();
        keys.press("PageDown", "Tab", "Enter");
        assertThat(site()).hasValue("QB-07");
        keys.press("PageUp");
        assertThat(site()).hasValue("QB-11");
        site().focus();
        keys.press("Control+a").type("QB-11d").press("PageDown");
        assertThat(dialog).isVisible();
        keys.press("Enter");
        assertThat(site()).hasValue("QB-07");
        assertThat(Running.api("/api/forms/asks/place?to=row:11")
                        .get("record")
                        .get("values")
                        .get("site")
                        .asString())
                .isEqualTo("QB-11d");
    }

    @Test
    void aChangeOutlivesALostConnectionAndAReload() {
        open("outlives");
        keys.press("PageUp");
        assertThat(position()).hasValue("12");
        keys.press("Tab").type("Marrow Burn");
        page.route("**/records/*", route -> route.abort());
        keys.press("Enter");
        says("No connection. Your change stays here");
        keys.press("PageUp");
        says("No connection.");
        assertThat(position()).hasValue("12");
        page.reload();
        assertThat(site()).isFocused();
        assertThat(page.getByText("changes in row 12: Marrow Burn")).isVisible();
        page.unroute("**/records/*");
        keys.press("Alt+b");
        assertThat(position()).hasValue("12");
        assertThat(page.getByLabel("River").first()).hasValue("Marrow Burn");
        assertThat(page.getByText("was Tessel")).isVisible();
        keys.press("Control+s");
        says("Changed in row 12");
        page.reload();
        assertThat(site()).isFocused();
        assertThat(page.getByText("Not saved, from")).isHidden();
    }

    @Test
    void whatOthersDoShowsWithinASecondAndMovesNothingThatOneReads() {
        open("lively");
        keys.press("PageUp", "F8");
        assertThat(position()).hasValue("12");
        Running.put("/api/forms/lively/seats/aaaaaaaaaa", "", "");
        page.reload();
        assertThat(page.getByText("Somebody else is here too")).isVisible();
        keys.press("Control+Shift+f").type("quill").press("Enter");
        says("Match 1 of 8");
        keys.press("PageDown");
        says("Match 2 of 8 · row 2");
        page.getByLabel("pH").focus();
        keys.press("Control+a").type("8.");
        Running.api("/api/forms/lively/removals", "{\"records\":[{\"id\":" + id("lively", 1) + ",\"version\":1}]}");
        Running.api("/api/forms/lively/records", "{\"values\":{\"site\":\"QB-99\",\"river\":\"Quill Beck\"}}");
        Running.api("/api/forms/lively/records", "{\"values\":{\"site\":\"QB-98\",\"river\":\"Quill Beck\"}}");
        assertThat(position()).hasValue("1");
        assertThat(page.getByText("of 9")).isVisible();
        assertThat(page.getByText("Next free row 15")).isVisible();
        assertThat(page.getByLabel("pH")).hasValue("8.");
        assertThat(page.getByLabel("pH")).isFocused();
        assertThat(site()).hasValue("QB-02");
    }

    private static long id(String form, int row) {
        return Running.api("/api/forms/" + form + "/place?to=row:" + row)
                .get("record")
                .get("id")
                .asLong();
    }

    @Test
    void anExportCanBeGivenUp() {
        open("exports");
        page.route("**/export?**", route -> {
            page.waitForTimeout(800);
            route.resume();
        });
        keys.press("F8");
        var csv = page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("as CSV"));
        csv.focus();
        keys.press("Enter");
        button("Give up").press("Enter");
        says("The export was given up.");
        assertThat(csv).isVisible();
    }
}
