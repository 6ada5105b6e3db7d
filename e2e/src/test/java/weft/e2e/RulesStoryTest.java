package weft.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Route;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.FilePayload;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.regex.Pattern;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** What rules do for those who key, and how a builder sets and rehearses them. */
@ExtendWith(Running.class)
class RulesStoryTest {

    private final Page page = Running.page();
    private final Keys keys = new Keys(page);

    private void open(String form, String field) {
        page.navigate("/d/" + form);
        assertThat(field(field)).isFocused();
    }

    private Locator field(String label) {
        // A field that is needed has a star behind its label.
        return page.getByLabel(Pattern.compile("^" + label + "( \\*)?$")).first();
    }

    private Locator button(String name) {
        return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name));
    }

    /** What is in the way of a save. */
    private Locator asked() {
        return page.getByRole(AriaRole.ALERT);
    }

    private Locator said() {
        return page.getByRole(AriaRole.STATUS).last();
    }

    /** Fields that are filled in or worked out are skipped by Tab, so that only what is known is typed. */
    private void book(String from, String to, String borrower, String email) {
        keys.entry("K-11", from, to, borrower, email);
    }

    @Test
    void aTypedTagBringsInTheRestAndADoubleBookingIsRefused() {
        open("bookings", "Kit tag");
        // The cursor stays in a field that cannot be right.
        keys.entry("K-11", "2014-03-01 9:00").press("Tab");
        assertThat(page.getByText("Bookings are from 2015 to 2100; 2014 is not.")
                        .first())
                .isVisible();
        assertThat(field("From")).isFocused();
        keys.press("Escape", "Escape");
        assertThat(field("Kit tag")).hasValue("");
        field("Kit tag").focus();
        book("2031-03-01 9:00", "2031-03-03 17:00", "Imre Castell", "imre@quillbeck.example");
        assertThat(field("Kind")).hasValue("Turbidity tube");
        assertThat(field("Days")).hasValue("3");
        // What is known of the borrower was filled in, and is typed over.
        assertThat(page.getByText("stored as imre.castell@quillbeck.example")).isVisible();
        keys.press("Enter");
        assertThat(asked()).containsText("Send Imre Castell a confirmation?");
        keys.press("Alt+y");
        assertThat(page.getByRole(AriaRole.COMPLEMENTARY)).containsText("1 saved");
        assertThat(field("Kit tag")).hasValue("");
        assertThat(field("Kit tag")).isFocused();

        assertThat(Running.api("/api/doors/volunteers/records?where=name:%22Imre%20Castell%22")
                        .toString())
                .contains("imre@quillbeck.example");

        book("2031-03-03 9:00", "2031-03-04 17:00", "Nan Visitor", "");
        keys.press("Enter");
        assertThat(page.getByText("already has K-11 from Sat 1 Mar 2031, 09:00 to Mon 3 Mar 2031, 17:00.")
                        .first())
                .isVisible();
        keys.press("Alt+b");
        assertThat(field("To")).isFocused();
        // Moved to when it is free: back to back is no overlap. Without an address nothing is offered.
        keys.press("Shift+Tab", "Control+a").type("2031-03-03 17:00").press("Enter");
        assertThat(page.getByRole(AriaRole.COMPLEMENTARY)).containsText("2 saved");

        page.navigate("/messages");
        var sent = page.getByRole(AriaRole.ROW).filter(new Locator.FilterOptions().setHasText("Turbidity tube K-11"));
        assertThat(sent).hasCount(1);
        assertThat(sent).containsText("sent");
    }

    /** Head down, a filled value may come when the cursor is in its field already: the first key still takes its place. */
    @Test
    void whatIsFilledInLateGivesWayToTheFirstKey() {
        open("bookings", "Kit tag");
        book("2032-03-01 9:00", "2032-03-03 17:00", "Imre Castel", "");
        assertThat(field("E-mail")).isFocused();
        assertThat(field("E-mail")).hasValue("");
        var held = new ConcurrentLinkedQueue<Route>();
        page.route("**/api/doors/bookings/assess", held::add);
        keys.press("Shift+Tab", "End").type("l").press("Tab");
        page.waitForCondition(() -> !held.isEmpty());
        page.unroute("**/api/doors/bookings/assess");
        assertThat(field("E-mail")).isFocused();
        assertThat(field("E-mail")).hasValue("");
        held.forEach(Route::resume);
        assertThat(field("E-mail")).not().hasValue("");
        keys.type("imre@mill.example");
        assertThat(field("E-mail")).hasValue("imre@mill.example");
    }

    private static byte[] photo() {
        try {
            var image = new BufferedImage(60, 40, BufferedImage.TYPE_INT_RGB);
            image.getGraphics().fillRect(0, 0, 60, 40);
            var bytes = new ByteArrayOutputStream();
            ImageIO.write(image, "png", bytes);
            return bytes.toByteArray();
        } catch (IOException e) {
            throw new IllegalStateException(e);
        }
    }

    @Test
    void aSampleIsAskedAboutAndHandedOnAsAnIncidentWithItsPicture() {
        open("samples", "Site");
        keys.entry("qb-07").press("Control+a").type("QB-07");
        keys.press("Tab").type("2031-05-02").press("Tab").type("9:30");
        assertThat(field("Site name")).hasValue("Tannery");
        field("pH").focus();
        keys.type("9.4");
        page.locator("#field-photo")
                .locator("xpath=..")
                .locator("input[type=file]")
                .setInputFiles(new FilePayload("outfall.png", "image/png", photo()));
        assertThat(page.getByAltText("Photo")).isVisible();
        field("Needs follow-up").focus();
        keys.type("y").press("Enter");
        assertThat(asked()).containsText("A pH of 9.4 is rare in these rivers.");
        assertThat(asked()).containsText("Water, Oxygen and Flow are empty.");
        // Back is to the first field of what is asked about.
        keys.press("Alt+b");
        assertThat(asked()).isHidden();
        assertThat(field("Water")).isFocused();
        keys.type("11.5").press("Enter");
        assertThat(asked()).containsText("Oxygen and Flow are empty.");
        keys.press("Alt+y");
        assertThat(said()).containsText("was handed on to the incidents.");
        var incident =
                Running.api("/api/doors/incidents/place?to=last").get("record").get("values");
        assertThat(incident.get("site_code").asString()).isEqualTo("QB-07");
        assertThat(incident.at("/sample/shown").asString()).matches("S-2\\d{3}-\\d{4}, .*");
        assertThat(incident.get("photo").isNull()).isFalse();
        page.navigate("/d/incidents");
        assertThat(field("Site")).isFocused();
        keys.press("PageUp");
        assertThat(page.getByAltText("Photo")).isVisible();
    }

    @Test
    void aPictureIsPastedOrDroppedAndOneDroppedBesideItsFieldLosesNothing() {
        Running.form("photos", "{\"title\":\"Site\"},{\"title\":\"Photo\",\"type\":\"picture\"}");
        open("photos", "Site");
        keys.type("QB-03");
        page.context().grantPermissions(List.of("clipboard-read", "clipboard-write"));
        page.evaluate(
                "async bytes => navigator.clipboard.write([new ClipboardItem({'image/png':"
                        + " new Blob([Uint8Array.from(atob(bytes), c => c.charCodeAt(0))], {type: 'image/png'})})])",
                Base64.getEncoder().encodeToString(photo()));
        keys.press("Tab", "Control+v");
        assertThat(page.getByAltText("Photo")).isVisible();
        keys.press("Control+s");
        assertThat(page.getByText("Saved in row 1")).isVisible();
        assertThat(page.getByAltText("Photo")).hasCount(0);

        keys.type("QB-04");
        drop(page.locator("main"));
        assertThat(field("Site")).hasValue("QB-04");
        drop(page.locator("#field-photo"));
        assertThat(page.getByAltText("Photo")).isVisible();
        keys.press("Control+s");
        assertThat(page.getByText("Saved in row 2")).isVisible();
        var stored = Running.api("/api/doors/photos/records").get("records");
        assertThat(stored)
                .hasSize(2)
                .allSatisfy(each ->
                        assertThat(each.get("values").get("photo").isNull()).isFalse());
        // Taken out again by a key.
        keys.press("PageUp");
        assertThat(page.getByAltText("Photo")).isVisible();
        page.locator("#field-photo").focus();
        keys.press("Delete");
        assertThat(page.getByAltText("Photo")).hasCount(0);
    }

    private void drop(Locator place) {
        var carried = page.evaluateHandle(
                "bytes => { const carried = new DataTransfer(); carried.items.add(new File([Uint8Array.from(atob(bytes),"
                        + " c => c.charCodeAt(0))], 'beck.png', {type: 'image/png'})); return carried; }",
                Base64.getEncoder().encodeToString(photo()));
        place.dispatchEvent("dragover", Map.of("dataTransfer", carried));
        place.dispatchEvent("drop", Map.of("dataTransfer", carried));
    }

    @Test
    void aNoteIsOpenedUnderItsSiteAndAButtonClosesAnIncident() {
        open("sites", "Code");
        keys.press("Alt+PageUp");
        assertThat(field("Code")).hasValue("QB-01");
        button("Add a note").click();
        assertThat(field("Note")).isFocused();
        assertThat(field("Site")).hasValue("QB-01");
        assertThat(field("Site name")).hasValue("Mill tail");
        keys.type("Ice along the edge.").press("Control+Enter");
        assertThat(page.getByText("Saved in row 401")).isVisible();
        assertThat(field("Site")).hasValue("QB-01");

        Running.api(
                "/api/doors/incidents/records",
                "{\"values\":{\"site_code\":\"QB-02\",\"what\":\"Fence down\",\"severity\":\"at once\"}}");
        assertThat(Running.api("/api/doors/sites/records?where=code:QB-02").toString())
                .contains("Take care: Fence down");
        page.navigate("/d/incidents");
        assertThat(field("Site")).isFocused();
        assertThat(field("Cost")).hasCount(0);
        keys.press("PageUp");
        // A new entry is open as well: it is the record that is to be done.
        assertThat(page.getByLabel("Position")).not().hasValue("new");
        assertThat(field("Status")).hasValue("open");
        button("Done, next").click();
        assertThat(page.getByLabel("Position")).hasValue("new");
        assertThat(Running.api("/api/doors/incidents/place?to=last")
                        .get("record")
                        .get("values")
                        .get("status")
                        .asString())
                .isEqualTo("done");
    }

    @Test
    void aBuilderSetsRulesRehearsesThemAndKeepsAPracticeEntry() {
        Running.form(
                "ruled",
                "{\"title\":\"Site\"},{\"title\":\"Depth\",\"type\":\"whole\"},{\"title\":\"Double\",\"type\":\"whole\"}");
        Running.api("/api/doors/ruled/records", "{\"values\":{\"site\":\"QB-01\",\"depth\":\"90\"}}");
        page.navigate("/bench/ruled");
        assertThat(page.getByLabel("Add a field")).isFocused();
        keys.press("F4").type("Depth is at most 50");
        assertThat(page.getByText("stops unless Depth is at most 50 · 1 of 1 stored records breaks it"))
                .isVisible();
        keys.press("Enter").type("Double = depth * 2").press("Enter");
        assertThat(page.getByLabel("Rules of the form")).containsText("Double = depth * 2");
        field("Depth").fill("21");
        assertThat(field("Double")).hasValue("42");

        keys.press("F9");
        var sheet = page.getByRole(AriaRole.COMPLEMENTARY, new Page.GetByRoleOptions().setName("Run sheet"));
        assertThat(sheet).containsText("would be saved");
        assertThat(sheet).containsText("Double comes to 42: depth * 2.");
        assertThat(sheet).containsText("ruled, row 2");
        field("Depth").fill("60");
        assertThat(sheet).containsText("would be stopped");
        assertThat(sheet).containsText("Depth is 60, above 50.");
        // What would be written is shown all the same, and the check is a press away.
        assertThat(sheet).containsText("Write, if it were let through");
        assertThat(sheet).containsText("ruled, row 2");
        sheet.getByText("Go to the check").click();
        assertThat(page.getByLabel("To", new Page.GetByLabelOptions().setExact(true)))
                .hasValue("50");
        keys.press("F9");
        assertThat(sheet).containsText("would be stopped");
        button("Save as practice entry").click();
        keys.type("Too deep").press("Enter");
        assertThat(sheet).containsText("Practice entries: 1 of 1 come out as expected");
        keys.press("Escape");
        page.getByLabel("To", new Page.GetByLabelOptions().setExact(true)).fill("70");
        keys.press("Enter");
        assertThat(page.getByText("stops unless Depth is at most 70")).isVisible();
        button("Publish").click();
        assertThat(page.getByText("A practice entry comes out otherwise than expected:"))
                .isVisible();
        assertThat(page.getByText("Expected to be stopped, but it is saved.")).isVisible();
        button("Publish Enter").click();
        assertThat(page.getByText("Published as version 2")).isVisible();
        assertThat(Running.api("/api/doors/ruled/records", "{\"values\":{\"depth\":\"71\"}}")
                        .toString())
                .contains("above 70");
    }
}
