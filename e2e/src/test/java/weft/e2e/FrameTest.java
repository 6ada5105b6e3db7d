package weft.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.Route;
import com.microsoft.playwright.options.AriaRole;
import java.util.ArrayList;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** What lies around every place. */
@ExtendWith(Running.class)
class FrameTest {

    private final Page page = Running.page();
    private final Keys keys = new Keys(page);

    @Test
    void theCommandBarReachesAFormByNameFromAnywhere() {
        page.navigate("/tables");
        assertThat(page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Sites")))
                .isVisible();
        keys.press("Control+k");
        assertThat(page.getByRole(AriaRole.DIALOG)).isVisible();
        keys.type("habitat");
        assertThat(page.getByRole(AriaRole.OPTION).first()).containsText("Habitat survey");
        keys.press("Enter");
        assertThat(page.getByLabel("Reach code")).isFocused();
    }

    /** Keys are faster than answers: what Enter means is settled when all is there that one could have meant. */
    @Test
    void theCommandBarKeepsEnterUntilItsListsAreHere() {
        var held = new ArrayList<Route>();
        page.navigate("/tables");
        Interception.begins(page);
        page.route(Pattern.compile("/api/doors$"), held::add);
        page.reload();
        assertThat(page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Sites")))
                .isVisible();
        keys.press("Control+k");
        assertThat(page.getByRole(AriaRole.DIALOG)).isVisible();
        keys.type("habitat").press("Enter");
        assertThat(page.getByText("One moment")).isVisible();
        held.forEach(Route::resume);
        assertThat(page.getByLabel("Reach code")).isFocused();
    }

    @Test
    void ofFortyDoorsTwentyStandInViewAndOneIsFoundByTyping() {
        page.route(Pattern.compile("/api/doors$"), route -> {
            var doors = (ArrayNode) JsonMapper.shared().readTree(route.fetch().text());
            for (int n = 10; n < 50; n++) {
                doors.add(((ObjectNode) doors.get(0).deepCopy())
                        .put("id", "many_" + n)
                        .put("form", "many_" + n)
                        .put("formTitle", "Reach " + n));
            }
            route.fulfill(new Route.FulfillOptions()
                    .setContentType("application/json")
                    .setBody(doors.toString()));
        });
        page.navigate("/");
        var line = page.getByLabel("Find a door");
        assertThat(line).isFocused();
        assertThat(page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Reach 49")))
                .hasCount(2);
        var seen = page.evaluate(
                "() => [...document.querySelectorAll('.door')].filter((e) => e.getBoundingClientRect().bottom <= innerHeight).length");
        assertThat(((Number) seen).intValue()).isGreaterThanOrEqualTo(20);
        keys.type("site n").press("Enter");
        page.waitForURL("**/d/site_notes");
        assertThat(page.getByRole(AriaRole.COMPLEMENTARY)).containsText("This session");
        page.navigate("/");
        assertThat(line).isFocused();
        var last = page.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("Where you were last"));
        assertThat(last.getByRole(AriaRole.LINK).first()).hasText("Site notes");
        keys.press("ArrowDown", "Enter");
        page.waitForURL("**/d/site_notes");
    }

    @Test
    void aColumnOfTheRowsIsAsWideAsWhatIsInItOrAsOneDrewIt() {
        page.navigate("/tables/sites");
        var grid = page.getByRole(AriaRole.GRID);
        var heading = page.getByRole(
                AriaRole.COLUMNHEADER,
                new Page.GetByRoleOptions().setName("Code").setExact(true));
        assertThat(page.getByRole(AriaRole.ROWHEADER).first()).isVisible();
        var cut = page.evaluate(
                "() => [...document.querySelectorAll('.rows [role=gridcell]')].filter((e) => e.clientWidth < 300 && e.scrollWidth > e.clientWidth).length");
        assertThat(((Number) cut).intValue()).isZero();
        double before = heading.boundingBox().width;
        grid.focus();
        keys.press("ArrowRight", "Shift+Alt+ArrowRight", "Shift+Alt+ArrowRight");
        page.reload();
        assertThat(page.getByRole(AriaRole.ROWHEADER).first()).isVisible();
        assertThat(heading.boundingBox().width).isEqualTo(before + 32);
        heading.locator(".edge").dblclick();
        assertThat(heading.boundingBox().width).isEqualTo(before);
    }

    @Test
    void theThemeChosenStaysChosen() {
        page.navigate("/");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Dark"))
                .press("Enter");
        assertThat(page.locator("html")).hasAttribute("data-theme", "lamplight");
        page.reload();
        assertThat(page.locator("html")).hasAttribute("data-theme", "lamplight");
    }

    @Test
    void theWidestFormNeedsNoSidewaysScrollingOnAnyScreen() {
        for (int width : new int[] {1280, 1024, 390}) {
            page.setViewportSize(width, 800);
            page.navigate("/d/habitat_survey");
            assertThat(page.getByLabel("Reach code")).isFocused();
            var scrolls = page.evaluate("""
                    () => [document.documentElement, ...document.querySelectorAll('.mid, .form')]
                      .some((e) => e.scrollWidth > e.clientWidth + 1)""");
            assertThat(scrolls).as("at " + width).isEqualTo(false);
            var narrowest = ((Number) page.evaluate(
                            "() => Math.min(...[...document.querySelectorAll('.form .f')].map((f) => f.clientWidth))"))
                    .intValue();
            assertThat(narrowest).as("at " + width).isGreaterThan(140);
        }
    }

    @Test
    void anAddressThatLeadsNowhereSaysSo() {
        page.navigate("/nowhere");
        assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("Nothing here")))
                .isVisible();
        page.navigate("/d/none");
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("There is no door “none” for you.");
    }
}
