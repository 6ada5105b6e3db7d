package weft.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.Route;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.nio.file.Files;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** A coordinator corrects records and clears out, with others at work and lines that break. */
@ExtendWith(Running.class)
class CorrectionTest extends Coordinator {

    @Test
    void whatAnotherProgramWritesIsSeenAtOnceAndNeverOverwritten() throws SQLException {
        open("written_by_others");
        keys.press("PageUp");
        assertThat(position()).hasValue("12");
        page.getByLabel("pH").focus();
        keys.press("Control+a").type("7.1");
        try (var program = Running.program("nightly_load");
                var statement = program.createStatement()) {
            statement.execute(
                    "insert into records.written_by_others (site, river, ph) values ('TS-13', 'Tessel', 6.6)");
            assertThat(page.getByText("of 13", new Page.GetByTextOptions().setExact(true)))
                    .isVisible();
            statement.execute("update records.written_by_others set ph = 9.9 where site = 'TS-12'");
        }
        keys.press("Control+s");
        var dialog = page.getByRole(AriaRole.DIALOG);
        assertThat(dialog).containsText("Somebody else changed row 12 while you did");
        assertThat(dialog).containsText("9.9");
        keys.press("Escape", "Escape");
        keys.press("PageDown");
        assertThat(site()).hasValue("TS-13");
        page.getByText("History", new Page.GetByTextOptions().setExact(true))
                .first()
                .click();
        assertThat(page.getByRole(AriaRole.DIALOG)).containsText("weft (nightly_load)");
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
        other.navigate("/d/corrects");
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
    void aThousandRemovedTogetherShowTheirProgressAndCanBeGivenUp() {
        Running.form("clears", "{\"title\":\"Site\"}");
        IntStream.range(0, 350)
                .forEach(i -> Running.api("/api/doors/clears/records", "{\"values\":{\"site\":\"S" + i + "\"}}"));
        page.navigate("/d/clears");
        assertThat(site()).isFocused();
        // The second lot is held until the removal has been given up.
        var held = new ArrayList<Route>();
        var first = new AtomicBoolean(true);
        Interception.begins(page);
        page.route("**/removals", route -> {
            if (first.getAndSet(false)) route.resume();
            else held.add(route);
        });
        keys.press("F8", "F8", "Control+a");
        assertThat(page.getByText("350 selected")).isVisible();
        keys.press("Delete", "Tab", "Enter");
        page.waitForCondition(() -> !held.isEmpty());
        button("Cancel").press("Enter");
        held.forEach(Route::resume);
        says("removed.");
        assertThat(Running.api("/api/tables/clears").get("rows").asInt()).isBetween(1, 349);
    }

    @Test
    void aChangeOutlivesALostConnectionAndAReload() {
        open("outlives");
        keys.press("PageUp");
        assertThat(position()).hasValue("12");
        keys.press("Tab").type("Marrow Burn");
        Interception.begins(page);
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
        Running.put("/api/doors/lively/seats/aaaaaaaaaa", "", "");
        page.reload();
        assertThat(page.getByText("Odile Marsh is here too")).isVisible();
        keys.press("Control+Shift+f").type("quill").press("Enter");
        says("Match 1 of 8");
        keys.press("PageDown");
        says("Match 2 of 8 · row 2");
        page.getByLabel("pH").focus();
        keys.press("Control+a").type("8.");
        Running.api("/api/doors/lively/removals", "{\"records\":[{\"id\":" + id("lively", 1) + ",\"version\":1}]}");
        Running.api("/api/doors/lively/records", "{\"values\":{\"site\":\"QB-99\",\"river\":\"Quill Beck\"}}");
        Running.api("/api/doors/lively/records", "{\"values\":{\"site\":\"QB-98\",\"river\":\"Quill Beck\"}}");
        assertThat(position()).hasValue("1");
        assertThat(page.getByText("of 9")).isVisible();
        assertThat(page.getByText("Next free row 15")).isVisible();
        assertThat(page.getByLabel("pH")).hasValue("8.");
        assertThat(page.getByLabel("pH")).isFocused();
        assertThat(site()).hasValue("QB-02");
    }

    private static long id(String form, int row) {
        return Running.api("/api/doors/" + form + "/place?to=row:" + row)
                .get("record")
                .get("id")
                .asLong();
    }

    /** All that are found, seen first, changed in one press and taken back in another: by the keyboard. */
    @Test
    void fiftyAreCorrectedAtOnceAndTakenBack() {
        Running.form(
                "many_at_once",
                "{\"title\":\"Site\"},{\"title\":\"River\"},{\"title\":\"pH\",\"type\":\"decimal\",\"max\":14}");
        Running.api(
                "/api/doors/many_at_once/batches",
                IntStream.rangeClosed(1, 60)
                        .mapToObj(n -> "{\"values\":{\"site\":\"S%d\",\"river\":\"%s\",\"ph\":\"%d\"}}"
                                .formatted(n, n <= 50 ? "Tesel" : "Quill", n == 7 ? 1 : 13))
                        .collect(Collectors.joining(",", "{\"lines\":[", "]}")));
        page.navigate("/d/many_at_once");
        assertThat(site()).isFocused();
        keys.press("Control+f").press("Tab").type("Tesel").press("Enter", "F8");
        var drawer = page.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("Rows"));
        assertThat(drawer).containsText("50 of 60");
        drawer.getByText("Change all…").press("Enter");
        var dialog = page.getByRole(AriaRole.DIALOG);
        assertThat(dialog.getByLabel("Value")).isFocused();
        dialog.getByLabel("Field").selectOption("river");
        dialog.getByLabel("Value").focus();
        keys.type("Tessel");
        assertThat(dialog).containsText("50 of 50 would change.");
        assertThat(dialog).containsText("River: Tesel → Tessel");
        keys.press("Enter");
        assertThat(drawer).containsText("50 changed");
        assertThat(rivers()).isEqualTo(50);
        drawer.getByText("Take 50 changes back").press("Enter");
        assertThat(drawer).containsText("50 records are again as before");
        assertThat(rivers()).isZero();
        drawer.getByText("Change all…").press("Enter");
        dialog.getByLabel("Field").selectOption("ph");
        dialog.getByLabel("How").selectOption("is worked out as");
        dialog.getByLabel("Formula").focus();
        keys.type("ph * 2");
        assertThat(dialog)
                .containsText("1 of 50 would change; 49 would stay as they are, since something is in the way.");
        assertThat(dialog).containsText("pH must be at most 14");
        keys.press("Escape");
        assertThat(dialog).hasCount(0);
    }

    /** A cell is gone to by the arrows, corrected and kept by Enter, under the checks and on the version that was seen. */
    /** Each choice by one key, and back again in one press. */
    @Test
    void twoRecordsAreMadeOneAndTakenBack() {
        open("made_one");
        keys.press("PageUp");
        assertThat(position()).hasValue("12");
        keys.press("F8", "F8");
        assertThat(page.getByRole(AriaRole.GRID)).isFocused();
        keys.press("Shift+ArrowUp");
        assertThat(page.getByText("2 selected")).isVisible();
        page.getByText("Make them one…").press("Enter");
        var dialog = page.getByRole(AriaRole.DIALOG);
        assertThat(dialog).containsText("Make rows 11 and 12 one");
        keys.press("2", "Enter");
        assertThat(page.getByText("They are one now, row 11")).isVisible();
        assertThat(page.getByRole(AriaRole.GRID)).isFocused();
        var records = Running.api("/api/doors/made_one/records?sort=-row&limit=2");
        assertThat(records.at("/total/count").asInt()).isEqualTo(11);
        assertThat(records.at("/records/0/values/site").asString()).isEqualTo("TS-12");
        page.getByText("Take it back").press("Enter");
        assertThat(page.getByText("They are records of their own again")).isVisible();
        records = Running.api("/api/doors/made_one/records?sort=-row&limit=2");
        assertThat(records.at("/total/count").asInt()).isEqualTo(12);
        assertThat(records.at("/records/1/values/site").asString()).isEqualTo("QB-11");
    }

    @Test
    void aCellOfTheRowsIsCorrectedInPlace() {
        Running.form(
                "in_place",
                "{\"title\":\"Site\",\"required\":true},{\"title\":\"Bank\",\"type\":\"choice\",\"choices\":[\"left\",\"right\"]},"
                        + "{\"title\":\"pH\",\"type\":\"decimal\",\"max\":14}");
        for (int n = 1; n <= 3; n++) {
            Running.api(
                    "/api/doors/in_place/records",
                    "{\"values\":{\"site\":\"S%d\",\"bank\":\"left\",\"ph\":\"7\"}}".formatted(n));
        }
        page.navigate("/d/in_place");
        assertThat(site()).isFocused();
        keys.press("F8", "F8");
        var grid = page.getByRole(AriaRole.GRID, new Page.GetByRoleOptions().setName("Rows of in_place"));
        assertThat(grid).isFocused();
        assertThat(grid).containsText("S3");
        keys.press("Home", "ArrowRight", "Enter");
        assertThat(page.getByLabel("Site, row 1")).isFocused();
        keys.press("Control+a").type("QB-09").press("Enter");
        assertThat(grid).isFocused();
        assertThat(grid).containsText("QB-09");
        keys.press("ArrowRight", "Enter");
        assertThat(page.getByLabel("Bank, row 1").first()).isFocused();
        keys.press("Control+a").type("ri").press("ArrowDown", "Enter", "Enter");
        assertThat(grid).containsText("right");
        keys.press("ArrowRight", "Enter").press("Control+a").type("99").press("Enter");
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("pH must be at most 14. 99 is above it");
        assertThat(page.getByLabel("pH, row 1")).isFocused();
        keys.press("Escape");
        assertThat(grid).isFocused();
        keys.press("ArrowDown", "Enter").press("Control+a").type("8");
        Running.put("/api/doors/in_place/records/2", "{\"values\":{\"site\":\"Theirs\"}}", "\"1\"");
        keys.press("Enter");
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("Somebody else changed this record meanwhile.");
        keys.press("Escape");
        assertThat(Running.api("/api/doors/in_place/records/1").get("values").toString())
                .isEqualTo("{\"site\":\"QB-09\",\"bank\":\"right\",\"ph\":\"7\"}");
        assertThat(grid).containsText("Theirs");
    }

    @Test
    void whatIsKeyedForACellWhoseRowIsStillOnItsWayIsNotLost() {
        Running.form("ahead", "{\"title\":\"Site\"}");
        Running.api("/api/doors/ahead/records", "{\"values\":{\"site\":\"S1\"}}");
        page.navigate("/d/ahead");
        assertThat(site()).isFocused();
        var held = new ArrayList<Route>();
        Interception.begins(page);
        page.route("**/api/doors/ahead/records?*", held::add);
        keys.press("F8", "F8");
        var grid = page.getByRole(AriaRole.GRID, new Page.GetByRoleOptions().setName("Rows of ahead"));
        assertThat(grid).isFocused();
        keys.press("Home", "ArrowRight", "Enter", "Control+a").type("QB-09").press("Enter");
        page.waitForCondition(() -> !held.isEmpty());
        page.unroute("**/api/doors/ahead/records?*");
        held.forEach(Route::resume);
        assertThat(page.getByText("Changed in row 1")).isVisible();
        assertThat(grid).containsText("QB-09");
        assertThat(grid).isFocused();
        assertThat(Running.api("/api/doors/ahead/records/1").at("/values/site").asString())
                .isEqualTo("QB-09");
    }

    private static int rivers() {
        return Running.api("/api/doors/many_at_once/find?where=river:Tessel")
                .at("/total/count")
                .asInt();
    }
}
