package weft.e2e.bench;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import weft.e2e.Chromium;
import weft.e2e.LocalWeft;

/** What a builder waits for at the Bench, with a form of 120 fields on it; a bare text field is the reference. */
final class BenchBench {

    private static final int FIELDS = 120;

    private BenchBench() {}

    static void run(LocalWeft weft, Chromium chromium) throws Exception {
        Figures.heading("The Bench with %d fields, milliseconds".formatted(FIELDS));
        double reference = Paint.reference(chromium, weft.url());
        var columns = IntStream.rangeClosed(1, FIELDS)
                .mapToObj(i -> "{\"title\":\"Reading %d\"}".formatted(i))
                .collect(Collectors.joining(","));
        Http.to(weft.url()).post("/api/tables", "{\"name\":\"wide\",\"title\":\"Wide\",\"columns\":[" + columns + "]}");
        Http.to(weft.url()).post("/api/forms", "{\"table\":\"wide\"}");
        var page = chromium.page(weft.url());
        page.navigate("/bench/wide");
        page.locator("#field-reading_60").click();
        page.waitForTimeout(1_000);
        Paint.watch(page);
        page.keyboard().type("kingfisher, upstream ".repeat(10), Paint.PACE);
        Paint.print("key to paint, typing into the form", Paint.figures(page, "keys"), reference);

        page.evaluate("() => { window.keys = []; }");
        page.locator("#line-reading_60").focus();
        for (int i = 0; i < 60; i++) {
            page.keyboard().press(i % 2 == 0 ? "Alt+ArrowDown" : "Alt+ArrowUp");
            page.waitForTimeout(60);
        }
        Paint.print("key to paint, moving a field", Paint.figures(page, "keys"), reference);

        page.locator("#line-reading_60").click();
        page.keyboard().press("Space");
        page.getByRole(
                        AriaRole.TEXTBOX,
                        new Page.GetByRoleOptions().setName("Label").setExact(true))
                .click();
        page.evaluate("() => { window.keys = []; }");
        page.keyboard().type(" of the upper reach ".repeat(4), Paint.PACE);
        Paint.print("key to paint, naming a field", Paint.figures(page, "keys"), reference);
        Figures.line("Goal: p95 under 50 ms.");
    }
}
