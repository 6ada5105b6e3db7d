package weft.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Page.GetByRoleOptions;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import java.util.Optional;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** People are let in, and come in by their doors. */
@ExtendWith(Running.class)
class DoorsTest {

    private static final String PASSWORD = "four dry river stones";

    private static Page nobody() {
        return Running.chromium().page(Running.url(), ColorScheme.LIGHT, Optional.empty());
    }

    private static Page demoPerson(String title) {
        var page = nobody();
        page.navigate("/");
        button(page, title).press("Enter");
        assertThat(button(page, "You are " + title)).isVisible();
        return page;
    }

    private static Locator button(Page page, String name) {
        return page.getByRole(AriaRole.BUTTON, new GetByRoleOptions().setName(name))
                .first();
    }

    private static Locator field(Page page, String label) {
        return page.getByLabel(label)
                .and(page.locator("input, textarea, select"))
                .first();
    }

    private static void said(Page page, String text) {
        assertThat(page.getByRole(AriaRole.STATUS)).containsText(text);
    }

    /** By the keyboard alone, from the invitation to signing out. */
    @Test
    void aKeyerIsInvitedAndLandsInADoorThatOnlyAdds() {
        Running.form(
                "callers",
                "{\"title\":\"Caller\",\"required\":true},{\"title\":\"Said\"},{\"title\":\"Taken by\"},{\"title\":\"Private\"}");
        var admin = Running.page();
        admin.navigate("/people");
        button(admin, "Groups").press("Enter");
        field(admin, "Another group").fill("Desk");
        admin.keyboard().press("Enter");
        assertThat(admin.getByRole(
                        AriaRole.CELL, new GetByRoleOptions().setName("Desk").setExact(true)))
                .isVisible();
        button(admin, "Persons").press("Enter");
        button(admin, "Invite a person").press("Enter");
        new Keys(admin).entry("Vera Holt", "vera", "");
        admin.getByLabel("Desk").press("Space");
        button(admin, "Invite Enter").press("Enter");
        var address = admin.getByRole(AriaRole.REGION, new GetByRoleOptions().setName("Invitation"))
                .locator("code")
                .textContent();

        var builder = Running.page();
        builder.navigate("/forms/callers/doors");
        button(builder, "Another door").press("Enter");
        assertThat(field(builder, "Title")).hasValue("Another door");
        field(builder, "Title").fill("Log a call");
        builder.getByLabel("Add people or groups").selectOption("Desk");
        builder.getByLabel("Leave a field out").selectOption("private");
        builder.getByRole(AriaRole.REGION, new GetByRoleOptions().setName("Already filled in"))
                .getByRole(AriaRole.BUTTON)
                .last()
                .press("Enter");
        builder.getByLabel("Already filled in: column").selectOption("taken_by");
        builder.getByRole(AriaRole.TEXTBOX, new GetByRoleOptions().setName("Already filled in"))
                .fill("person");
        builder.getByLabel("Minutes in which own entries may be taken back").fill("30");
        var link = builder.getByRole(AriaRole.LINK, new GetByRoleOptions().setName("Log a call"));
        assertThat(link).containsText("Desk · add only · no record is shown");
        var picture = builder.getByRole(
                AriaRole.COMPLEMENTARY, new GetByRoleOptions().setName("What people see by this door"));
        assertThat(picture).containsText("Left out: Private");
        assertThat(picture.getByLabel("Taken by")).hasValue("Odile Marsh");

        var keyer = nobody();
        keyer.navigate(address.substring(address.indexOf("/invitation")));
        assertThat(keyer.getByText("Welcome, Vera Holt")).isVisible();
        new Keys(keyer).type(PASSWORD).press("Enter");
        assertThat(field(keyer, "Caller")).isFocused();
        assertThat(field(keyer, "Taken by")).hasValue("Vera Holt");
        assertThat(keyer.getByLabel("Private")).hasCount(0);
        assertThat(keyer.getByRole(AriaRole.NAVIGATION, new GetByRoleOptions().setName("Records")))
                .hasCount(0);
        var keys = new Keys(keyer);
        for (var caller : new String[] {"Ann", "Ben", "Cid"}) {
            keys.entry(caller, "hello").press("Enter");
            said(keyer, "Saved in row");
        }
        var tray = keyer.getByRole(AriaRole.COMPLEMENTARY, new GetByRoleOptions().setName("This session"));
        assertThat(tray).containsText("3 saved");
        tray.getByText("take back").first().press("Space");
        said(keyer, "was taken back");
        assertThat(Running.api("/api/tables/callers").get("rows").asInt()).isEqualTo(2);
        var first = Running.api("/api/doors/callers/place?to=first").get("record");
        assertThat(first.get("values").get("taken_by").asString()).isEqualTo("Vera Holt");

        for (var elsewhere :
                new String[] {"/d/callers", "/tables/callers", "/bench/callers", "/d/samples", "/people"}) {
            keyer.navigate(elsewhere);
            assertThat(keyer.getByRole(AriaRole.ALERT).first()).isVisible();
            assertThat(keyer.getByText("Ann")).hasCount(0);
        }
        button(keyer, "You are Vera Holt").press("Enter");
        button(keyer, "Sign out").press("Enter");
        keyer.waitForURL(Running.url() + "/");
        assertThat(field(keyer, "Password")).isVisible();
        keyer.navigate("/d/callers-door-1");
        assertThat(field(keyer, "Password")).isVisible();
    }

    @Test
    void aCoordinatorSeesTheRecordsOfOneRiver() {
        var page = demoPerson("Bram Tolley");
        page.navigate("/d/quill-beck-incidents");
        assertThat(page.getByLabel("Position")).hasValue("1");
        var keys = new Keys(page);
        for (int step = 0; step < 5; step++) {
            assertThat(field(page, "Site")).hasValue(Pattern.compile("^QB-.*"));
            keys.press("PageDown");
            said(page, "Row");
        }
        assertThat(page.getByLabel("Cost")).hasCount(0);
        assertThat(button(page, "New")).isDisabled();
        keys.press("F8");
        var rows = page.getByRole(AriaRole.GRID);
        assertThat(rows).isVisible();
        assertThat(rows.getByText("MB-")).hasCount(0);
        assertThat(rows.getByText("Cost")).hasCount(0);
    }

    /** What is typed when a session ends is there once one has signed in again, and goes on. */
    @Test
    void aSessionThatEndsInTheMiddleOfAnEntryLosesNothing() {
        Running.form("ended", "{\"title\":\"Site\"},{\"title\":\"Note\"}");
        Running.api(
                "/api/people",
                "{\"name\":\"edda\",\"title\":\"Edda Rule\",\"groups\":[\"Builders\"],\"password\":\"" + PASSWORD
                        + "\"}");
        var page = Running.chromium()
                .page(Running.url(), ColorScheme.LIGHT, Optional.of(Signed.in(Running.url(), "edda", PASSWORD)));
        page.navigate("/d/ended");
        assertThat(field(page, "Site")).isFocused();
        var keys = new Keys(page);
        keys.entry("QB-01", "half a");
        Running.api("/api/sessions")
                .valueStream()
                .filter(each -> each.get("name").asString().equals("edda"))
                .forEach(
                        each -> Running.delete("/api/sessions/" + each.get("id").asString()));
        keys.type(" note").press("Enter");
        assertThat(page.getByText("Your session has ended.")).isVisible();
        assertThat(field(page, "Password")).isFocused();
        keys.type(PASSWORD).press("Enter");
        said(page, "Saved in row 1");
        var stored =
                Running.api("/api/doors/ended/place?to=first").get("record").get("values");
        assertThat(stored.get("note").asString()).isEqualTo("half a note");
    }

    /** On a page as wide as a phone, by an address that anybody may have; nothing of an entry stays behind. */
    @Test
    void anybodyWithTheAddressAddsAndLeavesNothingBehind() {
        var address = Running.api("/api/forms/incidents/doors/report-a-sighting/link", "")
                .get("address")
                .asString();
        var page = nobody();
        page.setViewportSize(390, 800);
        page.navigate(address.substring(address.indexOf("/l/")));
        assertThat(field(page, "What")).isVisible();
        assertThat(page.getByLabel("Cost")).hasCount(0);
        page.getByLabel("Site").first().fill("QB-03");
        field(page, "What").fill("Two otters and a heron");
        page.keyboard().press("Control+s");
        said(page, "Saved in row");
        assertThat(field(page, "What")).hasValue("");
        assertThat(page.getByText("Two otters")).hasCount(0);
        assertThat((String) page.evaluate("() => JSON.stringify(localStorage) + JSON.stringify(sessionStorage)"))
                .doesNotContain("otters");
        page.reload();
        assertThat(field(page, "What")).hasValue("");
        var last = Running.api("/api/doors/incidents/place?to=last").get("record");
        assertThat(last.get("values").get("what").asString()).isEqualTo("Two otters and a heron");
        assertThat(last.get("values").get("status").asString()).isEqualTo("open");
        var history =
                Running.api("/api/doors/incidents/records/" + last.get("id").asLong() + "/history");
        assertThat(history.get(0).get("by").asString()).contains("report-a-sighting");
        Running.api("/api/forms/incidents/doors/report-a-sighting/link", "");
        page.reload();
        assertThat(page.getByText("This address leads nowhere")).isVisible();
    }
}
