package weft.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.deque.html.axecore.args.AxeRunOptions;
import com.deque.html.axecore.playwright.AxeBuilder;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.PlaywrightException;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import com.microsoft.playwright.options.FilePayload;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * No screen has a finding that keeps somebody out. A state that took a while to reach is looked at in every way before it is
 * left: at its size, in the other theme (for what depends on colours), and a little narrower.
 */
@ExtendWith(Running.class)
class AccessibilityTest {

    /** What depends on colours. */
    private static final List<String> COLOURS = List.of("color-contrast", "link-in-text-block");

    private static final Set<String> OF_ROWS = Set.of(
            "/tables/samples", "rows", "lines", "lines in a form", "a cell in place", "a rule and what breaks it");

    @ParameterizedTest
    @CsvSource({
        "/, Doors",
        "/tables, Tables",
        "/tables/new, Make a table",
        "/tables/adopt, Adopt a table",
        "/tables/adopt/gauges/reading, Adopt",
        "/tables/samples, Samples",
        "/tables/volunteers/alike, Alike in Volunteers",
        "/tables/samples/unusual, Unusual in Samples",
        "/forms, Forms",
        "/bench/new, New form",
        "/bench/samples, Samples",
        "/messages, Messages",
        "/people, People",
        "/forms/site_notes/doors/log-a-note, Doors of Site notes",
        "/forms/site_notes/doors/log-a-note/try, Site notes",
        "/d/samples/sheet, Empty sheet",
        "/d/samples, Samples",
        "/d/habitat_survey, Habitat survey",
        "/d/counts-again/twice, Counts",
        "/d/counts-again/settle, Counts",
        "/d/samples/work, Work on Samples",
        "/day, The day"
    })
    void everyScreenIsOpenToEverybody(String path, String heading) {
        var page = path.startsWith("/d/counts-again")
                ? Running.chromium()
                        .page(
                                Running.url(),
                                ColorScheme.LIGHT,
                                Optional.of(Signed.in(Running.url(), "bram", "river-watch")))
                : Running.page();
        page.navigate(path);
        assertThat(page.getByRole(
                                AriaRole.HEADING,
                                new Page.GetByRoleOptions().setName(heading).setExact(true))
                        .first())
                .isVisible();
        if (path.matches("/d/[a-z_]+")) {
            new Keys(page).entry("zz", "8/x", "").press("Control+s", "F8");
            assertThat(page.locator(".rows-drawer [role=row]").nth(1)).isVisible();
        }
        var figures = path.equals("/day") ? ".day-doors > li" : path.endsWith("/work") ? ".work-grid svg" : "main";
        assertThat(page.locator(figures).first()).isVisible();
        Keys.still(page);
        lookAt(page, path);
    }

    /** Signing in, and a door that anybody may come to, before one is in. */
    @ParameterizedTest
    @CsvSource({"1280, 800", "390, 780"})
    void theWaysInAreOpenToEverybody(int width, int height) {
        var address = Running.api("/api/forms/counts/doors", """
                {"title":"Counts by anybody %d","who":{"link":true},"may":["add"]}
                """.formatted(width))
                .get("id")
                .asString();
        var link = Running.api("/api/forms/counts/doors/" + address + "/link", "")
                .get("address")
                .asString();
        var page = Running.chromium().page(Running.url(), ColorScheme.LIGHT, Optional.empty());
        page.setViewportSize(width, height);
        page.navigate("/");
        assertThat(page.getByText("The demo’s people")).isVisible();
        look(page, "signing in");
        page.navigate(link.substring(link.indexOf("/l/")));
        assertThat(page.getByLabel("Taxon").first()).isVisible();
        look(page, "by the address");
    }

    /** The Desk as it browses, asks, lists, compares, remembers and removes, also on a phone and with text at 200 %. */
    @ParameterizedTest
    @CsvSource({"1280, 800", "390, 780", "640, 400"})
    void theDeskIsOpenToEverybodyInAllItsStates(int width, int height) {
        var page = Running.page();
        var keys = new Keys(page);
        page.setViewportSize(width, height);
        page.navigate("/d/samples");
        assertThat(page.getByLabel("Site").first()).isFocused();
        keys.press("PageUp");
        assertThat(page.getByLabel("Position")).not().hasValue("new");
        keys.type("x");
        look(page, "browsing");
        keys.press("Escape", "F8", "F8");
        assertThat(page.getByRole(AriaRole.GRID, new Page.GetByRoleOptions().setName("Rows of Samples")))
                .isFocused();
        keys.press("Shift+ArrowUp");
        assertThat(page.getByText("2 selected")).isVisible();
        look(page, "rows");
        keys.press("Delete");
        assertThat(page.getByRole(AriaRole.DIALOG)).isVisible();
        look(page, "removing");
        keys.press("Escape");
        assertThat(page.getByRole(AriaRole.GRID, new Page.GetByRoleOptions().setName("Rows of Samples")))
                .isFocused();
        page.getByText("Change them…").press("Enter");
        assertThat(page.getByRole(AriaRole.DIALOG)).containsText("of 2 would change");
        Keys.still(page);
        look(page, "changing many");
        keys.press("Escape");
        assertThat(page.getByRole(AriaRole.DIALOG)).hasCount(0);
        page.getByRole(AriaRole.GRID, new Page.GetByRoleOptions().setName("Rows of Samples"))
                .focus();
        keys.press("Escape", "Alt+h");
        assertThat(page.getByText("History of row").first()).isVisible();
        look(page, "history");
        keys.press("Escape");
        page.getByRole(
                        AriaRole.BUTTON,
                        new Page.GetByRoleOptions().setName("Removed").setExact(true))
                .press("Enter");
        assertThat(page.getByText("Put back").last()).isVisible();
        look(page, "removed");
        page.getByLabel("Site").first().focus();
        keys.press("Control+f").type("qb").press("Tab", "Tab", "Tab").type("soon");
        assertThat(page.getByText("can't be read as a date")).isVisible();
        look(page, "asking");
    }

    /** The Bench with settings, several selected, frays, publishing, versions, a column, rules, steps and a rehearsal. */
    @Test
    void theBenchIsOpenToEverybodyInAllItsStates() {
        var page = Running.page();
        var keys = new Keys(page);
        page.navigate("/bench/habitat_survey");
        var first = page.getByLabel("Outline").getByRole(AriaRole.LISTITEM).first();
        first.getByRole(AriaRole.BUTTON).focus();
        keys.press("Home", "Space");
        assertThat(page.getByLabel("Help line")).isVisible();
        look(page, "settings");
        keys.press("Space", "Shift+ArrowDown", "Shift+ArrowDown");
        assertThat(page.getByText("3 selected")).isVisible();
        look(page, "several");
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
                var there = page.getByLabel(over.equals("Settings of the form") ? "Settings of" : over)
                        .and(page.locator("aside, [role=dialog]"));
                assertThat(there).isVisible();
                Keys.still(page);
                look(page, over);
                keys.press("Escape");
                assertThat(there).hasCount(0);
            }
        }
        page.getByLabel(Pattern.compile("Change the column")).first().press("Enter");
        assertThat(page.getByText("Every stored value fits.")).isVisible();
        look(page, "column");
        page.navigate("/bench/samples");
        assertThat(page.getByText("published, version")).isVisible();
        keys.press("F4").type("Water is -2 to 20, e");
        assertThat(page.getByLabel("What could come next")).containsText("else ask");
        look(page, "a sentence with what could follow");
        page.getByText("asks unless pH").click();
        assertThat(page.getByText(Pattern.compile("rows? breaks? “pH"))).isVisible();
        page.getByLabel("Site", new Page.GetByLabelOptions().setExact(true))
                .first()
                .fill("QB-03");
        assertThat(page.getByText("brings in", new Page.GetByTextOptions().setExact(true)))
                .isVisible();
        look(page, "a rule and what breaks it");
        page.getByText("add to").click();
        page.getByText("Only if").waitFor();
        look(page, "a step");
        keys.press("F9");
        page.getByText("would be stopped").waitFor();
        look(page, "rehearsal");
    }

    /** Many lines, with findings under them, what asks, their keys, and cells that are offered to be spread. */
    @ParameterizedTest
    @CsvSource({"1280, 800", "390, 780"})
    void manyLinesAreOpenToEverybody(int width, int height) {
        var page = Running.page();
        var keys = new Keys(page);
        page.setViewportSize(width, height);
        page.navigate("/d/counts");
        assertThat(page.getByLabel("Sample").first()).isFocused();
        keys.press("Alt+l");
        assertThat(page.getByRole(AriaRole.GRID)).isVisible();
        assertThat(page.getByLabel("Sample").first()).isFocused();
        keys.type("S-2026-0012")
                .press("Enter")
                .entry("large mayfly", "pupa", "900")
                .press("Enter");
        assertThat(page.getByText("is a great many")).isVisible();
        keys.entry("none of them", "egg", "x").press("Enter");
        assertThat(page.getByText("can't be read as a whole number")).isVisible();
        look(page, "lines");
        keys.press("ArrowUp", "Control+Delete", "Control+Enter");
        assertThat(page.getByRole(AriaRole.ALERT)).isVisible();
        Keys.still(page);
        look(page, "what asks on lines");
        keys.press("Alt+b", "F1");
        assertThat(page.getByRole(AriaRole.DIALOG)).containsText("All the keys");
        Keys.still(page);
        look(page, "the keys of lines");
    }

    /** What a file comes to in a table that exists, with cells that do not fit and rows that are there already. */
    @Test
    void bringingRowsInIsOpenToEverybody() {
        var page = Running.page();
        page.navigate("/tables/site_notes/bring");
        assertThat(page.getByText("Choose a file")).isVisible();
        lookAt(page, "which file");
        page.locator("input[type=file]")
                .setInputFiles(new FilePayload(
                        "notes.csv",
                        "text/csv",
                        "Site,Noted on,Note,More\nQB-03,2026-05-06,low water,x\nQB-03,soon,high water,y\n"
                                .getBytes(StandardCharsets.UTF_8)));
        assertThat(page.getByText("First mend the cells that do not fit.")).isVisible();
        lookAt(page, "cells that do not fit");
    }

    /** Lines in a form with a finding under one, and a cell of the rows that is corrected in place. */
    @Test
    void linesInAFormAndCellsInPlaceAreOpenToEverybody() {
        var page = Running.page();
        var keys = new Keys(page);
        page.navigate("/d/samples");
        assertThat(page.getByLabel("Site").first()).isFocused();
        page.getByRole(AriaRole.GRID, new Page.GetByRoleOptions().setName("Counts"))
                .focus();
        assertThat(page.getByLabel("Taxon, line 1").first()).isFocused();
        keys.entry("large mayfly", "larva", "many").press("Enter");
        assertThat(page.getByText("can't be read as a whole number")).isVisible();
        look(page, "lines in a form");
        keys.press("F8", "F8");
        assertThat(page.getByRole(AriaRole.GRID).last()).isFocused();
        keys.press("Home", "ArrowRight", "Enter")
                .press("Control+a")
                .type("ZZ-99")
                .press("Enter");
        assertThat(page.getByRole(AriaRole.ALERT)).isVisible();
        look(page, "a cell in place");
    }

    /**
     * Marks what came to a page, or is otherwise, since it was looked at before: all that is said of the rest was said then. Nothing is
     * marked the first time, when the whole is looked at.
     */
    private static final String CAME = """
            () => {
              document.querySelectorAll('[data-came]').forEach((each) => each.removeAttribute('data-came'));
              if (window.cameSince) {
                for (const each of window.cameSince) if (each.isConnected) each.setAttribute('data-came', '');
                window.cameSince.clear();
              } else {
                const came = new Set();
                const add = (node) => { const of = node.nodeType === 1 ? node : node.parentElement; if (of) came.add(of); };
                new MutationObserver((all) => all.forEach((each) => (each.addedNodes.length ? [...each.addedNodes] : [each.target]).forEach(add)))
                  .observe(document.body, { subtree: true, childList: true, characterData: true, attributes: true,
                    attributeFilter: ['class', 'style', 'role', 'hidden', 'disabled', 'tabindex', 'placeholder',
                      'aria-label', 'aria-selected', 'aria-expanded', 'aria-describedby', 'aria-labelledby', 'aria-invalid'] });
                window.cameSince = came;
              }
              return document.querySelector('[data-came]') !== null;
            }""";

    /** No finding, nothing cut off sideways, and it can be seen where the keys go. */
    private static void look(Page page, String state) {
        comes(page, "focus when " + state, "() => document.activeElement !== document.body");
        lookAt(page, state);
    }

    private static void lookAt(Page page, String state) {
        var size = page.viewportSize();
        boolean came = (boolean) page.evaluate(CAME);
        assertThat(findings(axe(page, state, came))).as(state).isEmpty();
        fits(page, state);
        if (size.width < 1024) {
            return;
        }
        page.setViewportSize(1024, 700);
        Keys.drawn(page);
        fits(page, state);
        page.setViewportSize(size.width, size.height);
        Keys.drawn(page);
        theme(page, "lamplight");
        assertThat(findings(axe(page, state, came).withRules(COLOURS)))
                .as(state + " in the dark")
                .isEmpty();
        theme(page, "linen");
    }

    private static void fits(Page page, String state) {
        comes(
                page,
                state + " fits " + page.viewportSize().width,
                "() => document.documentElement.scrollWidth <= window.innerWidth");
    }

    /** It may take a moment until a page has settled after a press, or at another size. */
    private static void comes(Page page, String what, String condition) {
        try {
            page.waitForFunction(condition);
        } catch (PlaywrightException never) {
            throw new AssertionError(what, never);
        }
    }

    private static void theme(Page page, String theme) {
        page.evaluate("(theme) => { document.documentElement.dataset.theme = theme; }", theme);
        Keys.still(page);
    }

    /**
     * Run in the page itself and without a list of all that passes: the same findings, sooner. Rows are alike and take
     * longest to look at, cell by cell: all of them are looked at where a state is of rows.
     */
    private static AxeBuilder axe(Page page, String state, boolean came) {
        var options = new AxeRunOptions();
        options.setResultTypes(List.of("violations"));
        var axe = new AxeBuilder(page).setLegacyMode(true).options(options);
        if (came) {
            axe.include("[data-came]");
        }
        return OF_ROWS.contains(state) ? axe : axe.exclude("[role=grid] [role=row]:nth-child(n + 4)");
    }

    private static List<String> findings(AxeBuilder axe) {
        return axe.analyze().getViolations().stream()
                .filter(violation -> Set.of("serious", "critical").contains(violation.getImpact()))
                .map(violation -> violation.getId() + ": "
                        + violation.getNodes().getFirst().getHtml())
                .toList();
    }
}
