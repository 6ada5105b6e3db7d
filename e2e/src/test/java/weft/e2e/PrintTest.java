package weft.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.Media;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What is printed: an empty sheet of a form for those who write on paper, and a record. */
@ExtendWith(Running.class)
class PrintTest {

    private static final String COLUMNS =
            "{\"title\":\"Site\",\"required\":true},{\"title\":\"Taken on\",\"type\":\"date\"},{\"title\":\"Wet\",\"type\":\"yesno\"},"
                    + "{\"title\":\"Bank\",\"type\":\"choice\",\"choices\":[\"left\",\"right\"]},{\"title\":\"Remark\",\"type\":\"longtext\"}";

    @ParameterizedTest
    @ValueSource(strings = {"A4", "Letter"})
    void theEmptySheetHasEveryFieldInTheOrderOfTabWithItsWidthAndTheDoorToKeyItAt(String paper) {
        var page = Running.page();
        var table = "sheet_" + paper.toLowerCase();
        Running.form(table, COLUMNS);
        page.navigate("/d/" + table + "/sheet");
        var sheet = page.getByRole(AriaRole.ARTICLE);
        assertThat(sheet.locator(".paper-label")).hasText(new String[] {"Site *", "Taken on", "Wet", "Bank", "Remark"});
        assertThat(sheet.locator(".paper-ticks")).hasText(new String[] {"yes no", "left right"});
        assertThat(sheet).containsText(table + ", version 1");
        assertThat(sheet).containsText("month / day / year");
        assertThat(sheet.getByRole(
                        AriaRole.IMG,
                        new Locator.GetByRoleOptions()
                                .setName("The door where it is keyed: " + Running.url() + "/d/" + table)))
                .isVisible();

        page.emulateMedia(new Page.EmulateMediaOptions().setMedia(Media.PRINT));
        assertThat(page.getByRole(AriaRole.NAVIGATION)).hasCount(0);
        assertThat(page.getByText("Back to the Desk")).isHidden();
        var grid = sheet.locator(".paper-grid").boundingBox();
        var tracks = Running.api("/api/forms/" + table)
                .at("/sections/0/items")
                .valueStream()
                .map(item -> item.get("width").asInt())
                .toList();
        for (int i = 0; i < tracks.size(); i++) {
            var box = sheet.locator(".paper-field").nth(i).boundingBox();
            assertThat(box.width / grid.width).isCloseTo(tracks.get(i) / 12.0, within(0.03));
        }
        var pdf = page.pdf(new Page.PdfOptions().setFormat(paper));
        assertThat(new String(pdf, StandardCharsets.ISO_8859_1))
                .startsWith("%PDF")
                .contains("/Count 1");
    }

    @Test
    void aRecordIsPrintedWithoutWhatStandsAroundIt() {
        var page = Running.page();
        Running.form("printed", COLUMNS);
        Running.api("/api/doors/printed/records", "{\"values\":{\"site\":\"QB-03\",\"remark\":\"Two dead perch.\"}}");
        page.navigate("/d/printed?row=1");
        assertThat(page.getByLabel("Site")).hasValue("QB-03");
        page.emulateMedia(new Page.EmulateMediaOptions().setMedia(Media.PRINT));
        for (var around : List.of(".strip", ".rail", ".tray", ".acts", ".desk > .foot")) {
            assertThat(page.locator(around).first()).isHidden();
        }
        assertThat(page.getByLabel("Remark")).isVisible();
        assertThat(page.getByText(Pattern.compile("row 1 · printed \\d+ \\w+ \\d{4} \\d\\d:\\d\\d.* · ")))
                .isVisible();
        // Nothing that is only there for keying.
        assertThat(page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Calendar of Taken on")))
                .hasCount(0);
        assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("printed")))
                .isVisible();
    }
}
