package weft.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.KeyboardModifier;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.node.ObjectNode;

/** A coordinator looks records up, steps through them, sorts and exports them. */
@ExtendWith(Running.class)
class CoordinatorTest extends Coordinator {

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
        for (int i = 0; i < 300 && !position().inputValue().equals("new"); i++) {
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
        button("Save this find…").focus();
        keys.press("Enter").type("Late and high").press("Enter");
        says("Saved as “Late and high”");
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
        page.getByLabel("Saved finds").selectOption("Late and high");
        says("Match 1 of 3 · row 7");
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
        assertThat(Running.api("/api/doors/asks/place?to=row:11")
                        .get("record")
                        .get("values")
                        .get("site")
                        .asString())
                .isEqualTo("QB-11d");
    }

    @Test
    void anExportCanBeGivenUp() {
        open("exports");
        Interception.begins(page);
        page.route("**/export?**", route -> {
            // Never answered: an export as long as one likes.
        });
        keys.press("F8");
        var csv = page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("as CSV"));
        csv.focus();
        keys.press("Enter");
        button("Cancel").press("Enter");
        says("The export was cancelled.");
        assertThat(csv).isVisible();
    }
}
