package weft.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.deque.html.axecore.playwright.AxeBuilder;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import java.util.Set;
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
        "/desk/samples, Samples",
        "/desk/habitat_survey, Habitat survey"
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
            if (path.startsWith("/desk")) {
                new Keys(page).entry("zz", "8/x", "").press("Control+s", "F8");
                page.waitForTimeout(400);
            }
            var severe = new AxeBuilder(page)
                    .analyze().getViolations().stream()
                            .filter(violation -> Set.of("serious", "critical").contains(violation.getImpact()))
                            .map(violation -> violation.getId() + ": "
                                    + violation.getNodes().getFirst().getHtml())
                            .toList();
            assertThat(severe).as(path + " " + scheme).isEmpty();
            page.context().close();
        }
    }
}
