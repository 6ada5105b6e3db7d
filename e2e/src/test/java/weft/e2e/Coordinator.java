package weft.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;

/** A coordinator before a Desk with twelve samples; no mouse is touched. */
abstract class Coordinator {

    static final String SAMPLES = """
            {"title":"Site","required":true},{"title":"River"},{"title":"Taken on","type":"date"},
            {"title":"pH","type":"decimal","scale":1,"min":0,"max":14},{"title":"Remark","type":"longtext"}""";

    protected final Page page = Running.page();
    protected final Keys keys = new Keys(page);

    /** Twelve samples of two rivers, and a Desk open on them. */
    protected void open(String form) {
        Running.form(form, SAMPLES);
        for (int i = 1; i <= 12; i++) {
            Running.api(
                    "/api/doors/" + form + "/records",
                    "{\"values\":{\"site\":\"%s-%02d\",\"river\":\"%s\",\"taken_on\":\"2026-%02d-10\",\"ph\":\"%s\"}}"
                            .formatted(
                                    i % 3 == 0 ? "TS" : "QB",
                                    i,
                                    i % 3 == 0 ? "Tessel" : "Quill Beck",
                                    i,
                                    6 + i % 4 + ".5"));
        }
        page.navigate("/d/" + form);
        assertThat(site()).isFocused();
    }

    protected Locator site() {
        return page.getByLabel("Site").first();
    }

    protected Locator position() {
        return page.getByLabel("Position");
    }

    protected void says(String text) {
        assertThat(page.getByRole(AriaRole.STATUS)).containsText(text);
    }

    protected Locator button(String name) {
        return page.getByRole(
                AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
    }
}
