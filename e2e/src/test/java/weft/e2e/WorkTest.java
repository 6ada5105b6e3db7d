package weft.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Page.GetByRoleOptions;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** What is keyed shows in the figures of the work and of the day, each of which leads to what it speaks of. */
@ExtendWith(Running.class)
class WorkTest {

    private static void said(Page page, String text) {
        assertThat(page.locator(".foot [role=status]")).containsText(text);
    }

    @Test
    void aKeyersStopsAndSecondsAreSeenByTheBuilderAndLeadToTheField() {
        Running.form("watched", "{\"title\":\"Site\"},{\"title\":\"Depth\",\"type\":\"whole\",\"min\":0,\"max\":9}");
        var page = Running.page();
        page.navigate("/d/watched");
        var keys = new Keys(page);
        assertThat(page.getByLabel("Site")).isFocused();
        // What is not needed for the first key is there when its help is.
        keys.press("F1");
        assertThat(page.getByRole(AriaRole.DIALOG)).isVisible();
        keys.press("Escape");
        assertThat(page.getByLabel("Site")).isFocused();
        for (int n = 1; n <= 3; n++) {
            keys.entry("S" + n, n == 2 ? "99" : "5").press("Enter");
            if (n == 2) {
                assertThat(page.getByRole(AriaRole.ALERT)).isVisible();
                keys.press("Alt+b");
                assertThat(page.getByLabel("Depth")).isFocused();
                keys.press("Control+a").type("4").press("Enter");
            }
            said(page, "Saved in row " + n);
        }
        page.navigate("/d/watched/work");
        var card = page.locator(".work-page .card").first();
        assertThat(card).containsText("3");
        assertThat(card).containsText("entries, 1 person");
        // What is drawn stands in a table too, for who does not see it.
        var stumbles = page.getByRole(AriaRole.REGION, new GetByRoleOptions().setName("Where keyers stumble"));
        assertThat(stumbles.getByRole(AriaRole.ROW).filter(new Locator.FilterOptions().setHasText("Depth")))
                .containsText("33.3");
        var seconds = page.getByRole(AriaRole.REGION, new GetByRoleOptions().setName("Seconds in a field"));
        assertThat(seconds.getByRole(AriaRole.ROW).nth(2)).containsText("Depth");
        assertThat(seconds.getByRole(AriaRole.ROW).nth(2)).not().containsText("–");
        var told = Running.api("/api/doors/watched/work");
        assertThat(told.at("/fields/1/stops").asInt()).isEqualTo(1);
        assertThat(told.at("/fields/1/again").asInt()).isEqualTo(1);
        assertThat(told.at("/whole/hindered/times").asInt()).isEqualTo(1);
        // Four keys each, and five more to put the second one right; that of the save is not counted.
        assertThat(told.at("/whole/keys").asInt()).isEqualTo(17);
        assertThat(told.at("/whole/least").asInt()).isEqualTo(12);

        seconds.getByRole(AriaRole.LINK, new Locator.GetByRoleOptions().setName("Depth"))
                .press("Enter");
        assertThat(page.locator("#line-depth")).isFocused();
        assertThat(page.locator("#line-depth")).hasAttribute("aria-pressed", "true");
    }

    @Test
    void figuresOfEntriesLeadToAsManyRecords() {
        var page = Running.page();
        for (var from : List.of(30, 120)) {
            var work = "/d/samples/work?from=" + LocalDate.now().minusDays(from);
            page.navigate(work);
            var bar =
                    page.getByRole(AriaRole.LINK, new GetByRoleOptions().setName(Pattern.compile("^\\d+ \\w+: \\d+$")));
            bar.focus();
            var last = bar.innerText();
            page.keyboard().press("ArrowLeft");
            assertThat(bar).not().hasText(last);
            page.keyboard().press("ArrowLeft");
            opens(page, bar, bar.innerText().replaceAll(".*: ", ""));

            page.navigate(work);
            var entries = page.getByRole(AriaRole.LINK, new GetByRoleOptions().setName("entries"));
            opens(page, entries, entries.locator("b").innerText());

            page.navigate(work + "&person=imre");
            var own = page.getByRole(AriaRole.TABLE)
                    .getByRole(AriaRole.LINK, new Locator.GetByRoleOptions().setName(Pattern.compile("^\\d+$")))
                    .first();
            assertThat(page.getByLabel("Whose work")).hasValue("imre");
            opens(page, own, own.innerText());
        }
    }

    private static void opens(Page page, Locator link, String figure) {
        link.press("Enter");
        said(page, " of " + figure + " · row");
    }

    @Test
    void theDayLeadsToWhatCameInWasDoneAndWaitsAndBeginsAnewOnceSeen() {
        Running.form("dayed", "{\"title\":\"What\"}");
        Running.api("/api/forms/dayed/doors", """
                {"id":"dayed-look","title":"Dayed","who":{"people":["bram","odile"]},"may":["see","change","remove"]}""");
        var page = Running.chromium()
                .page(Running.url(), ColorScheme.LIGHT, Optional.of(Signed.in(Running.url(), "bram", "river-watch")));
        page.navigate("/");
        page.getByRole(AriaRole.LINK, new GetByRoleOptions().setName("The day")).press("Enter");
        var dayed = page.locator(".day-doors > li").filter(new Locator.FilterOptions().setHasText("Dayed"));
        assertThat(page.getByRole(AriaRole.BUTTON, new GetByRoleOptions().setName("I have seen this")))
                .isFocused();
        page.keyboard().press("Enter");
        assertThat(page.getByText("since you looked,")).isVisible();
        assertThat(dayed).hasCount(0);
        for (var what : List.of("a heron", "an otter", "a reed bed")) {
            Running.api("/api/doors/dayed/records", "{\"values\":{\"what\":\"" + what + "\"}}");
        }
        Running.put("/api/doors/dayed/records/1", "{\"values\":{\"what\":\"two herons\"}}", "\"1\"");
        Running.api("/api/doors/dayed/removals", "{\"records\":[{\"id\":2,\"version\":1}]}");
        Running.put("/api/doors/dayed-look/finds/Reeds", "{\"where\":[],\"any\":\"reed\"}", "");

        leads(page, "came in", "2");
        assertThat(page.getByLabel("What")).hasValue("two herons");
        leads(page, "1 by Odile Marsh", "1");
        assertThat(page.getByLabel("What")).hasValue("two herons");
        leads(page, "Reeds", "1");
        assertThat(page.getByLabel("What")).hasValue("a reed bed");
        leads(page, "removed", "1");
        var removed = page.getByRole(AriaRole.REGION, new GetByRoleOptions().setName("Removed records"));
        assertThat(removed).isFocused();
        assertThat(removed.getByRole(AriaRole.LISTITEM)).hasText(Pattern.compile("2an otterOdile Marsh.*Put back"));
        page.keyboard().press("Tab");
        page.keyboard().press("Enter");
        assertThat(removed).containsText("Nothing is here that was removed since then.");
        page.keyboard().press("Escape");
        assertThat(page.getByLabel("What")).isFocused();
        page.keyboard().press("F8");
        assertThat(removed).isFocused();
        page.navigate("/day");
        assertThat(dayed).containsText("came in3");
        assertThat(dayed).not().containsText("removed");

        // Who may not remove by a door is shown nothing of what was, whatever the address asks.
        page.navigate("/d/all-samples?removed=2026-01-01T00:00:00");
        assertThat(page.getByLabel("Site").first()).isFocused();
        page.keyboard().press("F8");
        assertThat(page.getByRole(AriaRole.GRID, new GetByRoleOptions().setName("Rows of Samples")))
                .isVisible();
        assertThat(page.getByRole(AriaRole.BUTTON, new GetByRoleOptions().setName("Removed")))
                .hasCount(0);
    }

    /** The day tells so many of that, and what it says leads on. */
    private static void leads(Page page, String what, String figure) {
        page.navigate("/day");
        var line = page.locator(".day-doors > li")
                .filter(new Locator.FilterOptions().setHasText("Dayed"))
                .locator("dl > div")
                .filter(new Locator.FilterOptions().setHasText(what));
        assertThat(line.locator("dd").first()).hasText(figure);
        line.getByRole(
                        AriaRole.LINK,
                        new Locator.GetByRoleOptions().setName(what).setExact(true))
                .press("Enter");
    }
}
