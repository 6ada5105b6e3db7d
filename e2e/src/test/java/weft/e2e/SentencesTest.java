package weft.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Page.GetByLabelOptions;
import com.microsoft.playwright.Page.GetByRoleOptions;
import com.microsoft.playwright.options.AriaRole;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** How a builder makes rules by typing sentences, without a mouse, and sees what each says of records and of what is typed. */
@ExtendWith(Running.class)
class SentencesTest {

    private static Page page;
    private static Keys keys;

    @BeforeAll
    static void open() {
        page = Running.page();
        keys = new Keys(page);
    }

    private static void bench(String form) {
        page.navigate("/bench/" + form);
        assertThat(page.getByLabel("Add a field")).isFocused();
        keys.press("F4");
        assertThat(line()).isFocused();
    }

    private static Locator line() {
        return page.getByLabel("Add a rule");
    }

    private static Locator field(String label) {
        return page.locator(".canvas").getByLabel(label, new Locator.GetByLabelOptions().setExact(true));
    }

    private static Locator rule(String text) {
        return page.getByRole(AriaRole.BUTTON, new GetByRoleOptions().setName(Pattern.compile("^" + text)));
    }

    @Test
    void aRuleIsTypedCompletedReadBackAndHeldAgainstWhatIsStored() {
        Running.form(
                "spoken",
                "{\"title\":\"Site\"},{\"title\":\"Taken on\",\"type\":\"date\"},{\"title\":\"At\",\"type\":\"time\"},{\"title\":\"pH\",\"type\":\"decimal\"}");
        for (var ph : new String[] {"3.8", "7.1", "9.6"}) {
            Running.api("/api/doors/spoken/records", "{\"values\":{\"site\":\"QB-01\",\"ph\":\"" + ph + "\"}}");
        }
        bench("spoken");
        // What is not understood, or can't be followed, is marked where it stands.
        keys.type("pH belongs to 9 or so");
        assertThat(page.locator("mark")).hasText("belongs");
        keys.press("Control+a").type("pH is six to 9");
        assertThat(page.locator("mark")).hasText("six");
        keys.press("Control+a", "Delete");
        keys.type("p").press("Tab");
        assertThat(line()).hasValue("pH ");
        keys.type("is 6 to 9, e");
        assertThat(page.getByRole(AriaRole.OPTION)).containsText(new String[] {"else stop", "else ask"});
        keys.press("ArrowDown", "ArrowDown", "Enter");
        assertThat(line()).hasValue("pH is 6 to 9, else ask ");
        assertThat(page.getByText("asks unless pH is between 6 and 9 · 2 of 3 stored records break it"))
                .isVisible();
        keys.type("\"A pH of {ph} is rare.\"").press("Enter");

        // The rule is open: its field is lit, and the rows are those that break it, each with the way to put it right.
        assertThat(rule("asks unless pH is between 6 and 9")).hasAttribute("aria-expanded", "true");
        assertThat(page.getByText("2 rows break “pH is between 6 and 9”")).isVisible();
        var rows = page.getByRole(AriaRole.GROUP, new GetByRoleOptions().setName("that break the rule"));
        assertThat(rows).containsText("3.8");
        assertThat(rows).containsText("9.6");
        assertThat(rows).not().containsText("7.1");
        assertThat(rows.getByRole(AriaRole.LINK, new Locator.GetByRoleOptions().setName("3")))
                .hasAttribute("href", "/d/spoken?row=3");

        // It is seen working on what is typed into the form.
        field("pH").fill("7");
        assertThat(rule("asks unless pH")).containsText("holds");
        field("pH").fill("9.4");
        assertThat(rule("asks unless pH")).containsText("asks now");
        field("pH").fill("");
        field("Site").fill("QB-02");
        assertThat(rule("asks unless pH")).containsText("does not apply");

        // A piece is changed in place; what can't be followed is told there, and not kept.
        var to = page.getByLabel("To", new GetByLabelOptions().setExact(true));
        to.fill("nine");
        to.press("Enter");
        assertThat(page.getByText("“nine” is no bound for pH")).isVisible();
        assertThat(rule("asks unless pH is between 6 and 9")).isVisible();
        to.fill("10");
        to.press("Enter");
        assertThat(rule("asks unless pH is between 6 and 10")).isVisible();

        // Step by step back to no rule, and forth again.
        rule("asks unless").focus();
        keys.press("Control+z");
        assertThat(rule("asks unless pH is between 6 and 9")).isVisible();
        rule("asks unless").focus();
        keys.press("Control+z");
        assertThat(page.getByText("No rules yet.")).isVisible();
        page.getByRole(AriaRole.TAB, new GetByRoleOptions().setName("Rules")).focus();
        keys.press("Control+y");
        assertThat(rule("asks unless pH is between 6 and 9")).isVisible();
    }

    @Test
    void whatIsUnusualIsAskedAboutWithWhereItLies() {
        Running.form("lakes", "{\"title\":\"Lake\"},{\"title\":\"Depth\",\"type\":\"decimal\"}");
        for (int i = 0; i < 24; i++) {
            Running.api(
                    "/api/doors/lakes/records",
                    "{\"values\":{\"lake\":\"%s\",\"depth\":\"%d\"}}"
                            .formatted(i == 23 ? "Tarn" : "Mere", i == 22 ? 60 : 4 + i % 5));
        }
        page.navigate("/tables/lakes/unusual");
        var look = page.getByRole(AriaRole.BUTTON, new GetByRoleOptions().setName("Look over all records"));
        assertThat(look).isFocused();
        keys.press("Enter");
        assertThat(page.getByText("asks unless Depth is as usual")).isVisible();
        assertThat(page.getByText("Depth is 60. Of 24 records, all but 1 are from 4 to 8."))
                .isVisible();
        assertThat(page.getByRole(
                        AriaRole.LINK, new GetByRoleOptions().setName("23").setExact(true)))
                .hasAttribute("href", "/d/lakes?row=23");
        page.getByRole(AriaRole.LINK, new GetByRoleOptions().setName("Ask about it in"))
                .press("Enter");
        assertThat(page.getByText("1 of 24 stored records breaks it")).isVisible();
        // Its one press is one step back.
        rule("asks unless Depth is as usual").focus();
        keys.press("Control+z");
        assertThat(page.getByText("No rules yet.")).isVisible();
        page.getByLabel("Add a rule").focus();
        keys.type("Depth is as usual for Lake, else ask").press("Enter");
        assertThat(page.getByText("1 of 24 stored records breaks it")).isVisible();
        var rows = page.getByRole(AriaRole.GROUP, new GetByRoleOptions().setName("that break the rule"));
        assertThat(rows).containsText("23Mere60");
        page.getByRole(AriaRole.BUTTON, new GetByRoleOptions().setName("Publish"))
                .press("Enter");
        assertThat(page.getByText("Publish Enter")).isVisible();
        keys.press("Enter");
        assertThat(page.getByText(Pattern.compile("published, version \\d"))).isVisible();

        page.navigate("/d/lakes");
        var lake = page.getByLabel("Lake", new GetByLabelOptions().setExact(true));
        assertThat(lake).isFocused();
        keys.type("Mere").press("Tab").type("25").press("Tab");
        assertThat(page.getByRole(AriaRole.IMG, new GetByRoleOptions().setName("Where it lies among 23 records")))
                .isVisible();
        keys.press("Enter");
        var asked = page.getByRole(AriaRole.ALERT, new GetByRoleOptions().setName("Asked about"));
        assertThat(asked).containsText("Depth is 25. Of 23 records with Lake Mere, all but 1 are from 4 to 8.");
        keys.press("Alt+y");
        assertThat(page.getByText("Saved in row 25")).isVisible();
        // A record that is opened later tells it too.
        page.navigate("/d/lakes?row=23");
        assertThat(page.getByRole(AriaRole.IMG, new GetByRoleOptions().setName("Where it lies among 24 records")))
                .isVisible();
    }

    @Test
    void theRulesOfAFormArePastedIntoAnotherAndWhatHasNoCounterpartIsListed() {
        Running.form(
                "giving",
                "{\"title\":\"Site\"},{\"title\":\"Taken on\",\"type\":\"date\"},{\"title\":\"At\",\"type\":\"time\"},{\"title\":\"Depth\",\"type\":\"whole\"}");
        Running.form(
                "taking",
                "{\"title\":\"Site\"},{\"title\":\"Taken on\",\"type\":\"date\"},{\"title\":\"At\",\"type\":\"time\"}");
        bench("giving");
        page.context().grantPermissions(java.util.List.of("clipboard-read", "clipboard-write"));
        var typed = "At needs Taken on\nTaken on begins as today()\nDepth is at most 50\n"
                + "once saved: ask \"Send it?\" yes, no or cancel, usually no\nno two alike in Site, Taken on, At";
        paste(typed);
        keys.press("Enter");
        assertThat(page.getByText("5 rules are made.")).isVisible();
        assertThat(page.getByText("kept by the table")).isVisible();
        rule("stops unless At needs Taken on").focus();
        keys.press("Control+c");
        assertThat(page.getByText("All 5 rules are copied.")).isVisible();

        bench("taking");
        keys.press("Control+v");
        assertThat(line()).hasValue(Pattern.compile("stops unless Depth is at most 50"));
        keys.press("Enter");
        assertThat(page.getByText("4 rules are made.")).isVisible();
        var left = page.getByLabel("What could not be made a rule");
        assertThat(left).containsText("stops unless Depth is at most 50");
        assertThat(left).containsText("“Depth");
        assertThat(line()).hasValue("");
        left.getByRole(AriaRole.BUTTON).click();
        assertThat(line()).hasValue("stops unless Depth is at most 50");
        assertThat(left).hasCount(0);

        // One is changed by its sentence, one is taken away, all by key.
        rule("stops unless At needs").focus();
        keys.press("F2");
        var sentence = page.getByLabel("The sentence of the rule");
        assertThat(sentence).hasValue("stops unless At needs Taken on");
        sentence.fill("Taken on needs At, else ask");
        keys.press("Enter");
        assertThat(rule("asks unless Taken on needs At")).isFocused();
        keys.press("Delete");
        assertThat(rule("asks unless Taken on needs At")).hasCount(0);
        assertThat(page.getByRole(AriaRole.TAB, new GetByRoleOptions().setName("Rules 3")))
                .isVisible();
    }

    private static void paste(String text) {
        page.evaluate("text => navigator.clipboard.writeText(text)", text);
        keys.press("Control+v");
    }

    @Test
    void theFormAtTheDeskIsChangedAndOneComesBackToTheRecord() {
        Running.form("changed", "{\"title\":\"Site\"}");
        for (int i = 1; i <= 9; i++) {
            Running.api("/api/doors/changed/records", "{\"values\":{\"site\":\"QB-0" + i + "\"}}");
        }
        page.navigate("/d/changed?row=4");
        var site = page.getByLabel("Site", new GetByLabelOptions().setExact(true));
        assertThat(site).hasValue("QB-04");
        page.getByLabel("Change this form").press("Enter");
        assertThat(page.getByLabel("Add a field")).isFocused();
        // The rows below the form are made taller and lower by key.
        var rows = page.getByRole(AriaRole.GROUP, new GetByRoleOptions().setName("Last rows of"));
        assertThat(rows).not().containsText("QB-05");
        keys.press("Alt+PageUp", "Alt+PageUp", "Alt+PageUp");
        assertThat(rows).containsText("QB-05");
        keys.press("Alt+PageDown", "Alt+PageDown", "Alt+PageDown");
        assertThat(rows).not().containsText("QB-05");
        page.getByText("Back to the Desk").press("Enter");
        page.waitForURL(Pattern.compile("/d/changed"));
        assertThat(site).hasValue("QB-04");
    }
}
