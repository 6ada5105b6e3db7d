package weft.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Mouse;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Route;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.BoundingBox;
import com.microsoft.playwright.options.KeyboardModifier;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** A builder at the Bench: by keyboard, with the mouse, and beside another builder. */
@ExtendWith(Running.class)
class BuilderTest {

    private final Page page = Running.page();
    private final Keys keys = new Keys(page);
    private int presses;

    private static Locator button(Page page, String name) {
        return page.getByRole(
                AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
    }

    private static Locator line(Page page, String id) {
        return page.locator("#line-" + id);
    }

    private Locator field(String label) {
        return page.locator(".canvas, .mid").getByLabel(Pattern.compile("^" + label + "( \\*)?$"));
    }

    private void open(String form) {
        page.navigate("/bench/" + form);
        assertThat(page.getByLabel("Title of the form")).isVisible();
    }

    private static void saved(Page page, String state) {
        assertThat(page.getByText(state).first()).isVisible();
    }

    private void press(String key) {
        presses++;
        keys.press(key);
    }

    private void click(Locator locator) {
        presses++;
        locator.click();
    }

    private BoundingBox box(String label) {
        return field(label).boundingBox();
    }

    /** They stand in one line, once the form is drawn anew. */
    private void inLine(List<String> labels) {
        page.waitForCondition(() -> {
            var tops = labels.stream()
                    .map(this::box)
                    .map(box -> box == null ? -1.0 : box.y)
                    .collect(Collectors.toSet());
            return tops.size() == 1 && !tops.contains(-1.0);
        });
    }

    @Test
    void aFormOfFiveFieldsAndTwoButtonsIsBuiltFromNothingWithFifteenPressesBesidesItsLabels() {
        page.navigate("/forms");
        var labels = List.of("Site", "Taken on", "Water", "Weather", "Remark");
        click(page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Make a form")));
        assertThat(page.getByLabel("Add a field")).isFocused();
        for (int i = 0; i < labels.size(); i++) {
            keys.type(labels.get(i));
            press("Enter");
            assertThat(page.getByLabel("Outline").getByRole(AriaRole.LISTITEM)).hasCount(i + 1);
            assertThat(page.getByLabel("Add a field")).isFocused();
            assertThat(page.getByLabel("Add a field")).hasValue("");
        }
        click(button(page, "Save"));
        click(button(page, "Clear"));
        click(button(page, "Publish"));
        press("Enter");
        saved(page, "published, version 1");
        click(page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Open at the Desk")));
        assertThat(page.getByText("Next free row 1")).isVisible();
        keys.entry("QB-03", "1 Aug", "11.5", "dry", "clear");
        assertThat(presses).isEqualTo(11);
        keys.press("Enter");
        assertThat(page.getByText("Saved in row 1")).isVisible();
    }

    @Test
    void eightFieldsAreSetToOneWidthAndStandInLineAfterThreePresses() {
        var names = IntStream.rangeClosed(1, 8).mapToObj(i -> "F" + i).toList();
        Running.form(
                "eight",
                names.stream().map(name -> "{\"title\":\"" + name + "\"}").collect(Collectors.joining(",")));
        open("eight");
        click(line(page, "f1"));
        presses++;
        line(page, "f8").click(new Locator.ClickOptions().setModifiers(List.of(KeyboardModifier.SHIFT)));
        click(button(page, "Width 3"));
        assertThat(presses).isEqualTo(3);
        assertThat(page.getByText("8 selected")).isVisible();
        inLine(names.subList(0, 4));
        inLine(names.subList(4, 8));
        for (int i = 0; i < 4; i++) {
            assertThat(box("F" + (i + 5)).x).isEqualTo(box("F" + (i + 1)).x);
            assertThat(box("F" + (i + 5)).width).isEqualTo(box("F1").width);
        }
    }

    @Test
    void theSamplesFormIsBuiltWithTheKeyboardFromAnEmptyTable() {
        Running.form("built", "{\"title\":\"Site\",\"name\":\"site\",\"required\":true}");
        open("built");
        page.getByLabel("Add a field").focus();
        for (var line : List.of(
                "Taken on, date, required",
                "Number, text, unique",
                "Water, -2 to 35, in °C",
                "pH, 1 decimal 0 to 14",
                "Oxygen, number at least 0",
                "Turbidity, number at least 0",
                "Flow, low or normal or high",
                "Weather, dry or rain")) {
            keys.type(line).press("Enter");
            assertThat(page.getByText(line.split(",")[0] + " is added.")).isVisible();
        }
        // Six fields get one width: select them, then one press.
        line(page, "water_c").focus();
        keys.press("Shift+ArrowDown", "Shift+ArrowDown", "Shift+ArrowDown", "Shift+ArrowDown", "Shift+ArrowDown");
        assertThat(page.getByText("6 selected")).isVisible();
        button(page, "Width 4").press("Enter");
        inLine(List.of("Water", "pH", "Oxygen"));
        inLine(List.of("Turbidity", "Flow", "Weather"));
        assertThat(box("Turbidity").x).isEqualTo(box("Water").x);

        // A section, begun with the first of them; a locked number; the number goes to the top of the tab order.
        line(page, "water_c").focus();
        keys.press("Home", "ArrowDown", "ArrowDown");
        assertThat(line(page, "number")).isFocused();
        keys.press("Alt+ArrowUp", "Alt+ArrowUp");
        assertThat(line(page, "number")).containsText("1");
        keys.press("Space");
        page.getByRole(AriaRole.TAB, new Page.GetByRoleOptions().setName("Entry"))
                .press("Enter");
        page.getByLabel("Use").selectOption("locked");
        page.getByLabel("Begins with").fill("S-1");
        line(page, "water_c").focus();
        keys.press("Enter");
        assertThat(page.getByLabel("Add a field").nth(1)).isFocused();
        keys.press("Escape");
        line(page, "water_c").click();
        button(page, "Section").press("Enter");
        page.getByLabel("Title of section 2").fill("Readings");
        assertThat(page.getByRole(AriaRole.GROUP, new Page.GetByRoleOptions().setName("Readings")))
                .isVisible();
        button(page, "Save").press("Enter");
        button(page, "Clear").press("Enter");
        assertThat(page.getByText("no frays")).isVisible();

        // Alive: it reads and checks as the Desk would, and writes nothing.
        field("Taken on").fill("8/1/26");
        assertThat(page.getByText("Sat 1 Aug 2026")).isVisible();
        field("pH").fill("74");
        field("pH").press("Enter");
        assertThat(page.getByText("pH must be between 0 and 14").first()).isVisible();
        assertThat(page.getByRole(AriaRole.ROW).last()).containsText("2026-08-01");
        assertThat(Running.api("/api/tables/built").get("rows").asInt()).isZero();

        button(page, "Publish").press("Enter");
        assertThat(page.getByText("Number is added")).isVisible();
        keys.press("Enter");
        saved(page, "published, version 2");
        page.navigate("/d/built");
        assertThat(field("Site")).isFocused();
        keys.entry("QB-03", "8/1/26", "11.5", "7.4", "9", "2", "low", "dry").press("Enter");
        assertThat(page.getByText("Saved in row 1")).isVisible();
        assertThat(Running.api("/api/tables/built/records")
                        .get("records")
                        .get(0)
                        .get("values")
                        .get("number")
                        .asString())
                .isEqualTo("S-1");
    }

    @Test
    void withTheMouseFieldsAreMovedWidenedReThreadedAndMended() {
        Running.form(
                "moused",
                "{\"title\":\"Site\",\"required\":true},{\"title\":\"Alpha\"},{\"title\":\"Beta\"},{\"title\":\"Depth\",\"type\":\"whole\"}");
        open("moused");
        // Dragged before another one.
        drag(page.locator("[data-piece=depth] .grip"), page.locator("[data-piece=alpha]"), 10);
        assertThat(line(page, "depth")).containsText("2");
        // Wider by its handle.
        page.locator("[data-piece=beta] input").click();
        double before = page.locator("[data-piece=beta]").boundingBox().width;
        drag(page.getByLabel("Width of Beta"), null, -140);
        page.waitForCondition(() -> page.locator("[data-piece=beta]").boundingBox().width < before - 60);
        // Another column: the thread's end is dragged there, and two fields on one column are a fray.
        var end = page.getByLabel("End of the thread to beta");
        drag(end, page.locator("[data-column=alpha]"), 0);
        assertThat(line(page, "beta")).containsText("alpha");
        var frays = page.getByText("1 fray");
        frays.click();
        assertThat(page.getByText("are both threaded to Alpha")).isVisible();
        button(page, "Take the second off the form").click();
        assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("No frays")))
                .isVisible();
        keys.press("Escape");
        // The loose end becomes a field again, then both go back, step by step, also after a reload.
        page.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("Loose ends"))
                .getByText("beta")
                .click();
        assertThat(line(page, "beta")).isVisible();
        // All of it came back as it was published, but for the place of one field.
        saved(page, "1 change not published");
        page.reload();
        button(page, "Undo").click();
        assertThat(line(page, "beta")).hasCount(0);
        button(page, "Redo").click();
        assertThat(line(page, "beta")).isVisible();

        // The column itself: its stored values are looked at first.
        Running.api("/api/doors/moused/records", "{\"values\":{\"site\":\"QB-03\",\"alpha\":\"many\"}}");
        page.getByLabel("Change the column alpha").click();
        page.getByLabel("Type").selectOption("whole");
        assertThat(page.getByText("1 record does not fit:")).isVisible();
        assertThat(button(page, "Change the column")).isDisabled();
        page.getByLabel("Type").selectOption("longtext");
        page.getByLabel("Name in SQL").fill("omega");
        assertThat(page.getByText("Every stored value fits.")).isVisible();
        button(page, "Change the column").click();
        assertThat(page.locator("[data-column=omega]")).isVisible();
        assertThat(line(page, "alpha")).containsText("omega");
    }

    private void drag(Locator from, Locator to, double dx) {
        from.hover(); // Once it stands still.
        var start = from.boundingBox();
        double x = start.x + start.width / 2;
        double y = start.y + start.height / 2;
        page.mouse().move(x, y);
        page.mouse().down();
        if (to == null) {
            page.mouse().move(x + dx / 2, y, new Mouse.MoveOptions().setSteps(4));
            page.mouse().move(x + dx, y, new Mouse.MoveOptions().setSteps(4));
        } else {
            var target = to.boundingBox();
            double at = dx > 0 ? target.x + dx : target.x + target.width / 2;
            page.mouse().move(at, target.y + target.height / 2, new Mouse.MoveOptions().setSteps(12));
            assertThat(page.locator(".target").first()).isVisible();
        }
        page.mouse().up();
    }

    @Test
    void twoBuildersSeeEachOtherAndKeepBothTheirChanges() {
        Running.form("shared", "{\"title\":\"Site\"},{\"title\":\"Depth\"}");
        open("shared");
        var other = Running.page();
        other.navigate("/bench/shared");
        assertThat(other.getByText("is here too")).isVisible();
        line(page, "site").click();
        line(other, "depth").click();
        keys.press("Space");
        other.keyboard().press("Space");
        page.getByLabel("Help line").fill("on the sheet's head");
        other.getByLabel("Help line").fill("in metres");
        assertThat(page.locator("[data-piece=depth]")).containsText("in metres");
        assertThat(other.locator("[data-piece=site]")).containsText("on the sheet's head");
        var kept = Running.api("/api/forms/shared").toString();
        assertThat(kept).contains("in metres", "on the sheet's head");
    }

    /** The form is asked for anew since its table changed; it comes as it was before a change that is being saved meanwhile. */
    @Test
    void aLateAnswerUndoesNoChange() {
        Running.form("late", "{\"title\":\"Site\"},{\"title\":\"Depth\"}");
        open("late");
        line(page, "site").click();
        line(page, "site").press("Shift+ArrowDown");
        assertThat(page.getByText("2 selected")).isVisible();
        var asked = new ArrayList<Route>();
        var saves = new ArrayList<Route>();
        Interception.begins(page);
        page.route(Pattern.compile("/api/forms/late$"), route -> {
            var held = route.request().method().equals("PUT") ? saves : asked;
            if (held.isEmpty()) {
                held.add(route);
            } else {
                route.resume();
            }
        });
        Running.api("/api/tables/late/columns", "{\"title\":\"Bank\"}");
        page.waitForCondition(() -> !asked.isEmpty());
        button(page, "Width 12").press("Enter");
        page.waitForCondition(() -> !saves.isEmpty());
        page.waitForResponse(response -> response.url().endsWith("/api/forms/late"), asked.getFirst()::resume);
        Keys.drawn(page);
        saves.getFirst().resume();
        line(page, "depth").click();
        line(page, "depth").press("Alt+ArrowUp");
        page.waitForCondition(() -> {
            var items = Running.api("/api/forms/late").at("/sections/0/items");
            return items.get(0).get("id").asString().equals("depth")
                    && items.get(0).get("width").asInt() == 12;
        });
    }

    @Test
    void aDeskGoesOverToANewVersionBetweenEntriesAndNeverInTheMiddleOfOne() {
        Running.form("switched", "{\"title\":\"Site\"},{\"title\":\"Depth\"}");
        page.navigate("/d/switched");
        assertThat(field("Site")).isFocused();
        keys.entry("QB-03", "1");
        var document =
                Running.api("/api/forms/switched").toString().replace("\"label\":\"Depth\"", "\"label\":\"Deep\"");
        Running.put("/api/forms/switched", document, "\"1\"");
        page.evaluate("""
                () => new Promise((ready) => {
                  const line = new EventSource("/api/tables/switched/events");
                  line.addEventListener("published", () => { window.heard = true; });
                  line.addEventListener("ready", ready);
                })""");
        Running.api("/api/forms/switched/publish", "");
        page.waitForFunction("() => window.heard");
        Keys.drawn(page);
        assertThat(field("Depth")).hasValue("1");
        keys.type("2").press("Enter");
        assertThat(page.getByText("Saved in row 1")).isVisible();
        assertThat(field("Deep")).isVisible();
        assertThat(field("Depth")).hasCount(0);
        keys.entry("QB-04", "3").press("Enter");
        assertThat(page.getByText("Saved in row 2")).isVisible();
        assertThat(Running.api("/api/tables/switched/records").toString())
                .contains("\"depth\":\"12\"", "\"depth\":\"3\"");
    }

    @Test
    void fieldsAreCopiedFromOneFormToAnotherAndPastedLinesBecomeFields() {
        Running.form("copied", "{\"title\":\"Site\"},{\"title\":\"Depth\"}");
        Running.form("pasted", "{\"title\":\"Site\"}");
        page.context().grantPermissions(List.of("clipboard-read", "clipboard-write"));
        open("copied");
        line(page, "depth").click();
        keys.press("Control+c");
        assertThat(page.getByText("Copied.")).isVisible();
        open("pasted");
        line(page, "site").click();
        keys.press("Control+v");
        assertThat(line(page, "depth")).containsText("depth");
        assertThat(page.getByText("1 fray")).isVisible();
        page.evaluate("() => navigator.clipboard.writeText('Bank, left or right\\nWet, yes or no\\nRemark')");
        page.getByLabel("Add a field").focus();
        keys.press("Control+v");
        assertThat(page.getByText("3 fields are added.")).isVisible();
        assertThat(page.getByLabel("Outline")
                        .getByRole(AriaRole.LISTITEM)
                        .filter(new Locator.FilterOptions().setHasText(Pattern.compile("bank|wet|remark"))))
                .hasCount(3);
    }
}
