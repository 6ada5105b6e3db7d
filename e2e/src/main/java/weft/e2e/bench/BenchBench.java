package weft.e2e.bench;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;
import weft.e2e.Chromium;
import weft.e2e.LocalWeft;

/** What a builder waits for at the Bench, with a form of 120 fields on it; a bare text field is the reference. */
final class BenchBench {

    private static final int FIELDS = 120;

    private static final int RULES = 60;

    private BenchBench() {}

    /** A check of each of the first fields. */
    private static void ruled(LocalWeft weft) throws Exception {
        var http = Http.to(weft.url());
        var document = (ObjectNode) http.get("/api/forms/wide");
        var checks = ((ObjectNode) document.get("rules")).withArray("checks");
        for (int i = 1; i <= RULES; i++) {
            checks.add(JsonMapper.shared()
                    .readTree(("{\"id\":\"c%d\",\"asks\":true,\"stays\":false,\"message\":\"\","
                                    + "\"rule\":{\"kind\":\"length\",\"column\":\"reading_%d\",\"from\":1,\"to\":40}}")
                            .formatted(i, i)));
        }
        http.put(
                "/api/forms/wide",
                document.toString(),
                http.get("/api/forms/wide/bench").get("revision").asInt());
    }

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
        // What was changed is saved when the page is left.
        page.navigate("/forms");
        page.waitForTimeout(1_500);
        ruled(weft);
        page.navigate("/bench/wide");
        page.getByRole(AriaRole.TAB, new Page.GetByRoleOptions().setName("Rules " + RULES))
                .click();
        page.getByText("Reading 1 has").first().waitFor();
        page.locator("#field-reading_60").click();
        page.waitForTimeout(1_000);
        page.evaluate("() => { window.keys = []; }");
        Paint.watch(page);
        page.keyboard().type("kingfisher, upstream ".repeat(10), Paint.PACE);
        Paint.print("key to paint, typing beside %d rules".formatted(RULES), Paint.figures(page, "keys"), reference);

        page.getByLabel("Add a rule").click();
        page.evaluate("() => { window.keys = []; }");
        page.keyboard().type("Reading 7 has 3 to 30 characters, else ask \"Rare: {reading_7}\" ".repeat(3), Paint.PACE);
        Paint.print("key to paint, typing a rule", Paint.figures(page, "keys"), reference);
        Figures.line("Goal: p95 under 50 ms.");
        LookBench.run(weft);
    }
}
