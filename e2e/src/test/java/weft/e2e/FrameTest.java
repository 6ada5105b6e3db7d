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
