package weft.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.deque.html.axecore.args.AxeRunOptions;
import com.deque.html.axecore.playwright.AxeBuilder;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** No screen has a finding that keeps somebody out, in either theme. */
@ExtendWith(Running.class)
class AccessibilityTest {

    @ParameterizedTest
    @CsvSource({
        "/, Doors",
        "/tables, Tables",
        "/tables/new, Make a table",
        "/tables/samples, Samples",
        "/forms, Forms",
        "/bench/new, New form",
        "/bench/samples, Samples",
        "/messages, Messages",
        "/people, People",
        "/forms/site_notes/doors/log-a-note, Doors of Site notes",
        "/forms/site_notes/doors/log-a-note/try, Site notes",
        "/d/samples, Samples",
        "/d/habitat_survey, Habitat survey"
    })
    void everyScreenIsOpenToEverybody(String path, String heading) {
        for (var scheme : ColorScheme.values()) {
            if (scheme == ColorScheme.NO_PREFERENCE) {
                continue;
            }
            var page = Running.chromium().page(Running.url(), scheme);
            page.navigate(path);
            assertThat(page.getByRole(
                                    AriaRole.HEADING,
                                    new Page.GetByRoleOptions().setName(heading).setExact(true))
                            .first())
                    .isVisible();
            if (path.startsWith("/d/")) {
                new Keys(page).entry("zz", "8/x", "").press("Control+s", "F8");
                assertThat(page.locator(".rows-drawer [role=row]").nth(1)).isVisible();
                Keys.still(page);
            }
            assertThat(severe(page)).as(path + " " + scheme).isEmpty();
            page.context().close();
        }
    }

    /** Signing in, and a door that anybody may come to, before one is in. */
    @ParameterizedTest
    @CsvSource({"1280, 800, LIGHT", "1280, 800, DARK", "390, 780, LIGHT"})
    void theWaysInAreOpenToEverybody(int width, int height, ColorScheme scheme) {
        var address = Running.api("/api/forms/counts/doors", """
                {"title":"Counts by anybody %s %d","who":{"link":true},"may":["add"]}
                """.formatted(scheme, width))
                .get("id")
                .asString();
        var link = Running.api("/api/forms/counts/doors/" + address + "/link", "")
                .get("address")
                .asString();
        var page = Running.chromium().page(Running.url(), scheme, Optional.empty());
        page.setViewportSize(width, height);
        page.navigate("/");
        assertThat(page.getByText("The demo’s people")).isVisible();
        look(page, "signing in", width);
        page.navigate(link.substring(link.indexOf("/l/")));
        assertThat(page.getByLabel("Taxon").first()).isVisible();
        look(page, "by the address", width);
        page.context().close();
    }

    private static List<String> severe(Page page) {
        // Run in the page itself and without a list of all that passes: the same findings, sooner.
        var options = new AxeRunOptions();
        options.setResultTypes(List.of("violations"));
        return new AxeBuilder(page)
                .setLegacyMode(true).options(options).analyze().getViolations().stream()
                        .filter(violation -> Set.of("serious", "critical").contains(violation.getImpact()))
                        .map(violation -> violation.getId() + ": "
                                + violation.getNodes().getFirst().getHtml())
                        .toList();
    }

    /** The Desk as it browses, asks, lists, compares, remembers and removes, in both themes, on a phone and with text at 200 %. */
    @ParameterizedTest
    @CsvSource({"1280, 800, LIGHT", "1280, 800, DARK", "390, 780, LIGHT", "640, 400, DARK"})
    void theDeskIsOpenToEverybodyInAllItsStates(int width, int height, ColorScheme scheme) {
        var page = Running.chromium().page(Running.url(), scheme);
        var keys = new Keys(page);
        page.setViewportSize(width, height);
        page.navigate("/d/samples");
        assertThat(page.getByLabel("Site").first()).isFocused();
        keys.press("PageUp");
        assertThat(page.getByLabel("Position")).not().hasValue("new");
        keys.type("x");
        look(page, "browsing", width);
        keys.press("Escape", "F8", "F8");
        assertThat(page.getByRole(AriaRole.GRID)).isFocused();
        keys.press("Shift+ArrowUp");
        assertThat(page.getByText("2 selected")).isVisible();
        look(page, "rows", width);
        keys.press("Delete");
        assertThat(page.getByRole(AriaRole.DIALOG)).isVisible();
        look(page, "removing", width);
        keys.press("Escape");
        assertThat(page.getByRole(AriaRole.GRID)).isFocused();
        keys.press("Escape", "Alt+h");
        assertThat(page.getByText("History of row").first()).isVisible();
        look(page, "history", width);
        keys.press("Escape");
        page.getByRole(
                        AriaRole.BUTTON,
                        new Page.GetByRoleOptions().setName("Removed").setExact(true))
                .press("Enter");
        assertThat(page.getByText("Put back").last()).isVisible();
        look(page, "removed", width);
        page.getByLabel("Site").first().focus();
        keys.press("Control+f").type("qb").press("Tab", "Tab", "Tab").type("soon");
        assertThat(page.getByText("can't be read as a date")).isVisible();
        look(page, "asking", width);
        page.context().close();
    }

    /** The Bench with settings, several selected, frays, publishing, versions and a column, in both themes and down to 1024 × 700. */
    @ParameterizedTest
    @CsvSource({"1280, 800, LIGHT", "1024, 700, DARK"})
    void theBenchIsOpenToEverybodyInAllItsStates(int width, int height, ColorScheme scheme) {
        var page = Running.chromium().page(Running.url(), scheme);
        var keys = new Keys(page);
        page.setViewportSize(width, height);
        page.navigate("/bench/habitat_survey");
        var first = page.getByLabel("Outline").getByRole(AriaRole.LISTITEM).first();
        first.getByRole(AriaRole.BUTTON).focus();
        keys.press("Home", "Space");
        assertThat(page.getByLabel("Help line")).isVisible();
        look(page, "settings", width);
        keys.press("Space", "Shift+ArrowDown", "Shift+ArrowDown");
        assertThat(page.getByText("3 selected")).isVisible();
        look(page, "several", width);
        keys.press("Delete", "Control+z");
        page.getByText("no frays")
                .or(page.getByText(Pattern.compile("[0-9]+ frays?")))
                .first()
                .waitFor();
        for (var over : List.of("Versions", "Settings of the form", "Publish")) {
            var opens = page.getByRole(
                    AriaRole.BUTTON, new Page.GetByRoleOptions().setName(over).setExact(true));
            if (opens.isEnabled()) {
                opens.press("Enter");
                assertThat(page.getByRole(AriaRole.DIALOG)).isVisible();
                Keys.still(page);
                look(page, over, width);
                keys.press("Escape");
                assertThat(page.getByRole(AriaRole.DIALOG)).hasCount(0);
            }
        }
        page.getByLabel(Pattern.compile("Change the column")).first().press("Enter");
        assertThat(page.getByText("Every stored value fits.")).isVisible();
        look(page, "column", width);
        page.navigate("/bench/samples");
        page.getByRole(
                        AriaRole.BUTTON,
                        new Page.GetByRoleOptions().setName("Rules").setExact(true))
                .press("Enter");
        look(page, "rules", width);
        page.getByText("After a new entry is saved").press("Enter");
        page.getByText("add a row to incidents").click();
        page.getByLabel("Only if, step 1").waitFor();
        look(page, "steps", width);
        keys.press("Escape", "F9");
        page.getByText("would be stopped").waitFor();
        look(page, "rehearsal", width);
        page.context().close();
    }

    /** No finding, nothing cut off sideways, and it can be seen where the keys go. */
    private static void look(Page page, String state, int width) {
        assertThat(severe(page)).as(state + " at " + width).isEmpty();
        assertThat((Boolean) page.evaluate("() => document.documentElement.scrollWidth <= window.innerWidth"))
                .as(state + " fits " + width)
                .isTrue();
        assertThat((Boolean) page.evaluate("() => document.activeElement !== document.body"))
                .as("focus when " + state)
                .isTrue();
    }
}
