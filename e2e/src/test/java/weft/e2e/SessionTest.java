package weft.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** What a keyer does with the entries of a session once they are saved, and what becomes of one when the session ends. */
@ExtendWith(Running.class)
class SessionTest {

    private final Page page = Running.page();
    private final Keys keys = new Keys(page);

    private void open(String form) {
        page.navigate("/d/" + form);
        assertThat(page.getByLabel("Site").first()).isFocused();
    }

    @Test
    void anEntryJustSavedIsTakenBackPutBackAndOpened() {
        Running.form("takes", KeyerTest.SAMPLES);
        open("takes");
        keys.entry("QB-01").press("Enter");
        assertThat(page.getByText("Saved in row 1")).isVisible();
        var tray = page.getByRole(AriaRole.COMPLEMENTARY);
        // No Enter that was meant for the form takes an entry back; from every button the keys are the form's again.
        tray.getByText("take back").focus();
        keys.press("Enter");
        assertThat(tray.getByText("taken back")).hasCount(0);
        keys.press("Space");
        assertThat(tray).containsText("taken back");
        assertThat(tray).containsText("0 saved");
        assertThat(page.getByText("Row 1 was taken back")).isVisible();
        assertThat(page.getByLabel("Site").first()).isFocused();
        assertThat(KeyerTest.rows("takes")).isEmpty();
        keys.press("Control+y");
        assertThat(page.getByText("Put back in row 1")).isVisible();
        // While something is typed, the typing is undone.
        keys.type("QB-09").press("Control+z");
        assertThat(page.getByLabel("Site").first()).hasValue("");
        assertThat(page.getByText("Put back in row 1")).isVisible();
        keys.press("Control+z");
        assertThat(page.getByText("Row 1 was taken back. Ctrl+Y puts it back.")).isVisible();
        assertThat(KeyerTest.rows("takes")).isEmpty();
        keys.press("Control+y");
        assertThat(page.getByText("Put back in row 1")).isVisible();
        tray.getByText("QB-01").focus();
        keys.press("Enter");
        assertThat(page.getByLabel("Position")).hasValue("1");
        assertThat(page.getByLabel("Site").first()).hasValue("QB-01");
    }

    @Test
    void theLastSaveIsUndoneAndRedoneWithWhatItDidElsewhereAndAloneWhereOthersWereThere() {
        Running.form("undone_jobs", "{\"name\":\"job\",\"title\":\"Job\"}");
        Running.form("undone", KeyerTest.SAMPLES);
        var form = (ObjectNode) Running.api("/api/forms/undone");
        ((ObjectNode) form.get("rules"))
                .putArray("steps")
                .add(JsonMapper.shared().readTree("""
                {"when":"saved","steps":[{"onlyIf":"","action":{"kind":"add-row","table":"undone_jobs",
                 "values":[{"column":"job","formula":"site"}]}}]}"""));
        Running.put("/api/forms/undone", form.toString(), "\"1\"");
        Running.api("/api/forms/undone/publish", "");
        open("undone");
        keys.entry("QB-01").press("Enter");
        var tray = page.getByRole(AriaRole.COMPLEMENTARY);
        assertThat(tray).containsText("added to undone_jobs, row 1");
        keys.press("Control+z");
        assertThat(page.getByText("Row 1 was taken back, with what it did elsewhere. Ctrl+Y puts it back."))
                .isVisible();
        assertThat(KeyerTest.rows("undone")).isEmpty();
        assertThat(KeyerTest.rows("undone_jobs")).isEmpty();
        keys.press("Control+y");
        assertThat(tray).containsText("added to undone_jobs, row 1");
        assertThat(KeyerTest.rows("undone_jobs")).hasSize(1);
        var job = Running.api("/api/tables/undone_jobs/records").at("/records/0");
        Running.put("/api/doors/undone_jobs/records/" + job.get("id"), "{\"values\":{\"job\":\"done\"}}", "\"3\"");
        keys.press("Control+z");
        var refused = page.getByText("Row 1 of undone_jobs was changed since. Nothing was done.");
        assertThat(refused).containsText("Once more: take back only the entry.");
        assertThat(KeyerTest.rows("undone")).hasSize(1);
        keys.press("Control+z");
        assertThat(tray).containsText("taken back");
        assertThat(KeyerTest.rows("undone")).isEmpty();
        assertThat(KeyerTest.rows("undone_jobs")).hasSize(1);
    }

    /** Sign for sign by the keyboard: one key opens the record that it is, another says that it is a new one. */
    @Test
    void whatIsNearlyTheSameStandsBesideTheFieldWhileItIsTyped() {
        Running.form(
                "alike_names",
                "{\"name\":\"name\",\"title\":\"Name\",\"required\":true},{\"name\":\"phone\",\"title\":\"Phone\"}");
        var form = (ObjectNode) Running.api("/api/forms/alike_names");
        ((ObjectNode) form.get("rules"))
                .putArray("checks")
                .add(JsonMapper.shared().readTree("""
                {"id":"double","asks":true,"stays":false,"message":"",
                 "rule":{"kind":"alike","columns":["name"],"sound":false}}"""));
        Running.put("/api/forms/alike_names", form.toString(), "\"1\"");
        Running.api("/api/forms/alike_names/publish", "");
        page.navigate("/d/alike_names");
        assertThat(page.getByLabel("Name").first()).isFocused();
        keys.type("Wenna Sedge").press("Enter");
        assertThat(page.getByText("Saved in row 1")).isVisible();
        var likes = page.getByRole(AriaRole.GROUP, new Page.GetByRoleOptions().setName("Is it one of these?"));
        keys.type("Sedge, Wenna");
        assertThat(likes).containsText("Name in another order");
        keys.press("Alt+1");
        assertThat(page.getByLabel("Position")).hasValue("1");
        // What was typed is there again.
        keys.press("Alt+n", "Alt+b");
        assertThat(page.getByLabel("Name").first()).hasValue("Sedge, Wenna");
        assertThat(likes).isVisible();
        keys.press("Alt+0");
        assertThat(likes).hasCount(0);
        keys.press("Tab").type("01632").press("Enter");
        assertThat(page.getByText("Saved in row 2")).isVisible();
        // Who does not look up is asked at the save, and loses nothing.
        keys.type("Wena Sedge").press("Enter");
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("Row 1 is nearly the same: Wenna Sedge");
        keys.press("Alt+y");
        assertThat(page.getByText("Saved in row 3")).isVisible();
    }

    @Test
    void whoIsSignedOutInTheMidstOfAnEntrySignsInOverItAndGoesOn() {
        Running.form("signed_out", KeyerTest.SAMPLES);
        Running.api("/api/forms/signed_out/doors", """
                {"id":"signed-out","title":"Bram","who":{"people":["bram"]},"may":["add","see","change"]}""");
        var coordinator = Running.chromium()
                .page(Running.url(), ColorScheme.LIGHT, Optional.of(Signed.in(Running.url(), "bram", "river-watch")));
        coordinator.navigate("/d/signed-out");
        assertThat(coordinator.getByLabel("Site").first()).isFocused();
        var theirs = new Keys(coordinator);
        theirs.entry("QB-01", "2026-08-01", "7.4", "l");
        for (var session : Running.api("/api/sessions")) {
            if (session.get("name").asString().equals("bram")) {
                Running.delete("/api/sessions/" + session.get("id").asString());
            }
        }
        theirs.press("Enter");
        assertThat(coordinator.getByText("You are signed out. The entry is kept here"))
                .isVisible();
        assertThat(coordinator.getByRole(AriaRole.DIALOG)).containsText("Sign in again");
        assertThat(coordinator.getByLabel("Password")).isFocused();
        theirs.type("river-watch").press("Enter");
        assertThat(coordinator.getByText("Saved in row 1")).isVisible();
        assertThat(coordinator.getByRole(AriaRole.DIALOG)).hasCount(0);
        theirs.entry("QB-02").press("Enter");
        assertThat(coordinator.getByText("Saved in row 2")).isVisible();
        assertThat(KeyerTest.rows("signed_out")).hasSize(2);
    }

    @Test
    void aRecordIsCopiedAndAFieldIsGoneToByItsLabel() {
        Running.form("copies", KeyerTest.SAMPLES);
        open("copies");
        keys.entry("QB-01", "2026-08-01", "7.4", "l").press("Enter");
        assertThat(page.getByText("Saved in row 1")).isVisible();
        keys.press("PageUp");
        assertThat(page.getByLabel("Position")).hasValue("1");
        keys.press("Alt+c");
        assertThat(page.getByText("A copy of row 1.")).isVisible();
        assertThat(page.getByLabel("Position")).hasValue("new");
        keys.press("Alt+j").type("fl").press("Enter");
        assertThat(page.getByLabel("Flow").first()).isFocused();
        keys.press("Control+a").type("h").press("Tab", "Control+Enter");
        assertThat(page.getByText("Saved in row 2")).isVisible();
        assertThat(KeyerTest.rows("copies"))
                .hasSize(2)
                .last()
                .asString()
                .contains("\"site\":\"QB-01\"", "\"ph\":\"7.4\"", "\"flow\":\"high\"");
    }
}
