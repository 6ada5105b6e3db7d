package weft.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.FilePayload;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Rows of a file go into a table that has records: seen beforehand, mended, brought in by the keyboard, and taken back. */
@ExtendWith(Running.class)
class BringingTest {

    private final Page page = Running.page();
    private final Keys keys = new Keys(page);

    private static List<String> stored() {
        var stored = new ArrayList<String>();
        Running.api("/api/tables/bottles/records?limit=50")
                .get("records")
                .forEach(record -> stored.add(record.get("row").asInt() + " " + record.get("values")));
        return stored;
    }

    private Locator region(String name) {
        return page.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName(name));
    }

    private void bring(String file) {
        page.navigate("/tables/bottles");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Bring rows in"))
                .press("Enter");
        page.locator("input[type=file]")
                .setInputFiles(new FilePayload("bottles.csv", "text/csv", file.getBytes(StandardCharsets.UTF_8)));
        assertThat(region("What it comes to")).isVisible();
    }

    @Test
    void rowsAreSeenMendedBroughtInAndTakenBack() {
        Running.form(
                "bottles",
                "{\"title\":\"Bottle\",\"required\":true},{\"title\":\"Site\"},{\"title\":\"Volume\",\"type\":\"whole\"}");
        for (var each : List.of("\"B-1\",\"site\":\"QB-03\",\"volume\":5", "\"B-2\",\"site\":\"TS-01\",\"volume\":7")) {
            Running.api("/api/doors/bottles/records", "{\"values\":{\"bottle\":" + each + "}}");
        }
        var before = stored();

        bring("Bottle,Site,Volume\nB-2,TS-09,7\nB-3,QB-03,a few\n");
        assertThat(page.getByText("First mend the cells that do not fit.")).isVisible();
        assertThat(page.getByText("a few").first()).isVisible();

        bring("Bottle,Site,Volume\nB-2,TS-09,7\nB-3,QB-03,9\nB-4,QB-03,\n");
        assertThat(region("What it comes to")).containsText("3 rows are new of 3");
        // It is by the bottle that a row is known; then the record says what the file says.
        var there = region("Rows that are there already");
        there.getByLabel("Bottle").focus();
        keys.press("Space");
        assertThat(region("What it comes to")).containsText("2 rows are new of 3");
        assertThat(region("What it comes to")).containsText("1 row is there already, and left out.");
        there.getByLabel("Then it is").selectOption("replace the record");
        var go = page.getByRole(
                AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Bring in 2 rows and change 1 record"));
        go.press("Enter");
        assertThat(region("Brought in")).containsText("2 rows were brought into bottles, and 1 record was changed.");
        assertThat(stored())
                .containsExactly(
                        before.getFirst(),
                        "2 {\"bottle\":\"B-2\",\"site\":\"TS-09\",\"volume\":7}",
                        "3 {\"bottle\":\"B-3\",\"site\":\"QB-03\",\"volume\":9}",
                        "4 {\"bottle\":\"B-4\",\"site\":\"QB-03\",\"volume\":null}");
        page.getByText("Take it back").press("Enter");
        assertThat(page.getByText("Taken back: bottles is as it was before.")).isVisible();
        assertThat(stored()).isEqualTo(before);
    }
}
