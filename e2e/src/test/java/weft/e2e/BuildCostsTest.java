package weft.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Page.GetByRoleOptions;
import com.microsoft.playwright.Route;
import com.microsoft.playwright.options.AriaRole;
import java.util.ArrayList;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** What it takes a builder to make forms that people otherwise write macros for. The counts stand in the documents. */
@ExtendWith(Running.class)
class BuildCostsTest {

    private static Page page;

    @BeforeAll
    static void open() {
        page = Running.page();
        Running.form(
                "cost_kit",
                "{\"title\":\"Tag\"},{\"title\":\"Kind\"},{\"title\":\"Day charge\",\"type\":\"decimal\"},{\"title\":\"Shelf\"}");
        Running.api(
                "/api/doors/cost_kit/records",
                "{\"values\":{\"tag\":\"K-07\",\"kind\":\"net\",\"day_charge\":\"2\",\"shelf\":\"B\"}}");
        Running.form("cost_reports", "{\"title\":\"What\"},{\"title\":\"Seen by\"}");
    }

    private static Locator field() {
        return page.getByLabel("Add a field");
    }

    private static Locator live(String label) {
        return page.locator(".canvas").getByLabel(label, new Locator.GetByLabelOptions().setExact(true));
    }

    private static Locator rule() {
        return page.getByLabel("Add a rule");
    }

    private static Locator button(String name) {
        return page.getByRole(
                AriaRole.BUTTON, new GetByRoleOptions().setName(name).setExact(true));
    }

    /** Begins a form from nothing with its first field. */
    private static Effort begun(String first) {
        page.navigate("/bench/new");
        assertThat(field()).isFocused();
        var effort = new Effort(page).line(first);
        assertThat(page.getByRole(AriaRole.TAB, new GetByRoleOptions().setName("Fields 1")))
                .isVisible();
        assertThat(field()).isFocused();
        return effort;
    }

    private static void fields(Effort effort, String... lines) {
        for (var line : lines) {
            effort.line(line);
            assertThat(field()).hasValue("");
        }
    }

    private static void rules(Effort effort, String... lines) {
        effort.press("F4");
        assertThat(rule()).isFocused();
        for (var line : lines) {
            effort.line(line);
            assertThat(rule()).hasValue("");
        }
    }

    private static void published(Effort effort, String what, double goal) {
        effort.think().click(button("Publish"));
        assertThat(page.getByText("Publish Enter")).isVisible();
        effort.press("Enter");
        assertThat(page.getByText(Pattern.compile("published, version \\d"))).isVisible();
        System.out.println(what + ": " + effort.told());
        assertThat(effort.seconds()).as(what).isLessThanOrEqualTo(goal);
    }

    private static void reads(String sentence) {
        assertThat(page.getByLabel("Rules of the form")).containsText(sentence);
    }

    @Test
    void anEntryFormOfThreeFieldsThatAsksWhenIncomplete() {
        var effort = begun("Site, required");
        fields(effort, "Taken on", "pH, 0 to 14");
        rules(effort, "everything is filled");
        reads("asks unless everything is filled");
        published(effort, "three fields, asks when incomplete", 60);
    }

    @Test
    void whoeverTypesOnWithoutWaitingLosesNoKey() {
        page.navigate("/bench/new");
        assertThat(field()).isFocused();
        // What is wrong is answered only when the next line is typed already.
        var late = new ArrayList<Route>();
        var holding = new AtomicBoolean(true);
        page.route("**/lines/read", route -> {
            if (holding.get() && route.request().postData().contains("Depth")) {
                late.add(route);
            } else {
                route.resume();
            }
        });
        var effort = new Effort(page);
        effort.line("Site, required")
                .line("From, date and time")
                .line("Depth, what")
                .line("pH, 0 to 14");
        effort.line("Remark, long text").type("Half a");
        page.waitForCondition(() -> !late.isEmpty());
        holding.set(false);
        late.forEach(Route::resume);
        var left = page.getByLabel("Lines that were not understood");
        assertThat(left).containsText("Depth, what");
        assertThat(page.locator(".outline-pane .lines .line .name"))
                .hasText(new String[] {"Site", "From", "pH", "Remark"});
        assertThat(field()).hasValue("Half a");
        left.getByRole(AriaRole.BUTTON).click();
        assertThat(field()).hasValue("Depth, what");
        page.keyboard().press("F4");
        assertThat(rule()).isFocused();
        effort.line("pH needs Site").line("Site has at most 9 characters");
        assertThat(rule()).hasValue("");
        reads("pH needs Site");
        reads("Site has 0 to 9 characters");
        page.unroute("**/lines/read");
    }

    @Test
    void fromNothingToTheFirstSavedEntryOfFiveHeadings() {
        page.navigate("/tables/new");
        assertThat(page.getByLabel("A heading")).isFocused();
        var effort = new Effort(page);
        for (var heading : new String[] {"Name", "Born on", "E-mail", "Score, 0 to 100", "Paid"}) {
            effort.line(heading);
        }
        assertThat(page.getByLabel("Headings")).containsText("“Paid” tells yes or no");
        effort.think().press("Enter");
        assertThat(page.getByText("Next free row 1")).isVisible();
        assertThat(page.getByLabel("Name")).isFocused();
        effort.think()
                .type("Ada")
                .press("Tab")
                .type("8/1/99")
                .press("Tab")
                .type("a@b.example")
                .press("Tab");
        effort.type("93").press("Tab").type("y").press("Enter");
        assertThat(page.getByText("Saved in row 1")).isVisible();
        System.out.println("from nothing to the first entry: " + effort.told());
        assertThat(effort.seconds()).isLessThanOrEqualTo(60);
    }

    @Test
    void aBookingThatNeverOverlapsAndConfirmsOnlyWhenAsked() {
        var effort = begun("Tag, required");
        fields(effort, "From, date and time", "To, date and time", "Day", "At", "E-mail");
        rules(
                effort,
                "no overlap from From to To for one Tag",
                "At needs Day",
                "From is 1/1/2015 0:00 to 12/31/2100 23:59",
                "once saved: ask \"Confirm?\" yes, no or cancel, usually no",
                "once saved: send to {e_mail} \"Booked\"");
        reads("no overlap from From to To for one Tag");
        reads("stops unless From is between 1/1/2015 0:00 and 12/31/2100 23:59");
        reads("usually no");
        published(effort, "booking", 110);
    }

    @Test
    void aTypedTagBringsInThreeColumns() {
        Running.form(
                "cost_loans",
                "{\"title\":\"Tag\"},{\"title\":\"Kind\"},{\"title\":\"Day charge\",\"type\":\"decimal\"},{\"title\":\"Shelf\"}");
        page.navigate("/bench/cost_loans");
        assertThat(field()).isFocused();
        var effort = new Effort(page);
        rules(effort, "Tag brings Kind, Day charge, Shelf from cost_kit, else stop");
        reads("Tag brings Kind, Day charge, Shelf from cost_kit by tag, else stop");
        // It acts in the form beside at once.
        live("Tag").fill("k-07");
        assertThat(live("Shelf")).hasValue("B");
        published(effort, "a tag that brings in three columns", 45);
    }

    @Test
    void aRowOfAChecklistIsHandedOnToAReport() {
        var effort = begun("What, required");
        fields(effort, "Done", "Seen by", "Bad?");
        rules(effort, "once saved, if bad: add to cost_reports with what = what, seen_by = seen_by");
        reads("once saved, if bad: add to cost_reports with what = what, seen_by = seen_by");
        published(effort, "a checklist row handed on to a report", 90);
    }

    @Test
    void aLogOfNotesWithAListAStampedDateAndANote() {
        var effort = begun("Kind, one of call, visit, letter");
        fields(effort, "Noted on", "Note, long text");
        rules(effort, "Noted on begins as today()");
        reads("Noted on begins as today()");
        published(effort, "a log of notes", 75);
    }

    @Test
    void aFormThatSomebodyElseBrokeIsPutRight() {
        Running.form(
                "cost_broken",
                "{\"title\":\"Site\",\"required\":true},{\"title\":\"Depth\",\"type\":\"whole\"},{\"title\":\"Width\",\"type\":\"whole\"},{\"title\":\"Bank\"}");
        var form = (ObjectNode) Running.api("/api/forms/cost_broken");
        var items = (ArrayNode) form.at("/sections/0/items");
        items.remove(0);
        ((ObjectNode) items.get(2)).put("column", "gone");
        form.withObject("/rules").withArray("checks").add(JsonMapper.shared().readTree("""
                        {"id":"c","asks":false,"stays":false,"message":"",
                         "rule":{"kind":"range","column":"width","from":"","to":"50"}}"""));
        Running.put("/api/forms/cost_broken", form.toString(), "\"1\"");
        page.navigate("/bench/cost_broken");
        assertThat(page.getByText("2 frays")).isVisible();

        var effort = new Effort(page).think().click(page.getByText("2 frays"));
        var frays = page.getByRole(AriaRole.COMPLEMENTARY, new GetByRoleOptions().setName("Frays"));
        effort.click(frays.getByText("Make its field"));
        assertThat(frays.getByRole(AriaRole.HEADING)).containsText("1 fray");
        effort.think().click(frays.getByText("Thread it to Bank"));
        assertThat(frays.getByRole(AriaRole.HEADING)).containsText("No frays");
        effort.press("Escape").think().press("F4");
        effort.click(page.getByText("stops unless Width is at most 50")).press("F2");
        effort.press("Control+a").type("Depth is at most 50").press("Enter");
        reads("stops unless Depth is at most 50");
        published(effort, "a broken form put right", 40);
    }
}
