package weft.e2e.pictures;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import com.microsoft.playwright.options.FilePayload;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import weft.e2e.Chromium;
import weft.e2e.LocalWeft;
import weft.e2e.Signed;

/** Takes a picture of each main view, 1280 by 800 pixels and once as on a phone, into docs/screenshots. */
public final class Pictures {

    private static final Path FOLDER = Path.of("docs/screenshots");

    private final LocalWeft weft;
    private final Chromium chromium;

    private Pictures(LocalWeft weft, Chromium chromium) {
        this.weft = weft;
        this.chromium = chromium;
    }

    /** Takes them all. */
    public static void main(String... args) {
        try (var weft = new LocalWeft(true);
                var chromium = new Chromium()) {
            new Pictures(weft, chromium).all();
        }
    }

    private void all() {
        take(open("/", "Habitat survey", ColorScheme.LIGHT), "home");
        take(halfFilled(ColorScheme.LIGHT), "desk");
        take(adopting(), "adopt");
        take(finding(), "find");
        take(nearlyAlike(), "alike");
        take(madeOne(), "made-one");
        take(notAsUsual(), "usual");
        take(unusual(), "unusual");
        take(open("/forms/site_notes/doors/log-a-note", "records are stored", ColorScheme.LIGHT), "doors");
        take(bench(), "bench");
        take(rules(), "rules");
        take(rehearsing(), "rehearsal");
        take(lines(), "lines");
        take(sheet(), "sheet");
        take(appending(), "append");
        take(open("/d/samples/sheet", "version", ColorScheme.LIGHT), "empty-sheet");
        take(by("bram", "/d/counts-again/settle", "Settle", ColorScheme.DARK), "settle");
        take(
                by("odile", "/d/samples/work?from=" + LocalDate.now().minusDays(75), "Seconds in", ColorScheme.LIGHT),
                "work");
        take(by("bram", "/day", "Open incidents", ColorScheme.DARK), "day");
    }

    /** A table of another program, which leads to one that is adopted already. */
    private Page adopting() {
        var gauges = open("/tables/adopt/gauges/gauge", "Adopt it and make a form", ColorScheme.LIGHT);
        gauges.keyboard().press("Enter");
        gauges.getByText("Enter into Gauge").waitFor();
        gauges.context().close();
        return open("/tables/adopt/gauges/reading", "Adopt it and make a form", ColorScheme.LIGHT);
    }

    private Page by(String person, String path, String shown, ColorScheme scheme) {
        var page = chromium.page(weft.url(), scheme, Optional.of(Signed.in(weft.url(), person, "river-watch")));
        page.navigate(path);
        page.getByText(shown).first().waitFor();
        return page;
    }

    /** A file of samples, one of which is there already. */
    private Page appending() {
        var page = open("/tables/samples/bring", "Choose a file", ColorScheme.DARK);
        var rows = """
                Number,Site,River,Taken on,Taken at,pH,Visit
                S-2026-9001,QB-03,Quill Beck,2026-08-03,09:30,7.4,12
                S-2026-9002,QB-03,Quill Beck,2026-08-03,09:40,,12
                S-2024-0002,QB-03,Quill Beck,2026-08-03,09:50,7.1,12
                S-2026-9003,TS-01,Tessel,2026-08-04,10:00,6.9,13
                """;
        page.locator("input[type=file]")
                .setInputFiles(new FilePayload("more samples.csv", "text/csv", rows.getBytes(StandardCharsets.UTF_8)));
        page.getByText("rows are new").waitFor();
        return page;
    }

    /** A sample with its counts, one of which can't be read. */
    private Page sheet() {
        var page = open("/d/samples", "Next free row", ColorScheme.LIGHT);
        type(page, "QB-03", "t", "930");
        page.getByRole(AriaRole.GRID, new Page.GetByRoleOptions().setName("Counts"))
                .focus();
        var keyboard = page.keyboard();
        for (var line :
                List.of("large mayfly,larva,14", "flat snail,adult,31", "cased caddis,larva,many", "pale shrimp")) {
            for (var cell : line.split(",")) {
                keyboard.type(cell);
                keyboard.press("Tab");
            }
        }
        page.getByText("can't be read as a whole number").waitFor();
        return page;
    }

    /** A sheet of counts, one of which is there twice. */
    private Page lines() {
        var page = chromium.page(
                weft.url(), ColorScheme.LIGHT, Optional.of(Signed.in(weft.url(), "saffi", "river-watch")));
        page.navigate("/d/counts-of-a-sample");
        page.getByLabel("Sample").first().fill("S-2026-0012");
        page.keyboard().press("Enter");
        var cells = List.of(
                "large mayfly,larva,14",
                "flat snail,adult,31",
                "cased caddis,larva,7",
                "large mayfly,larva,2",
                "pale shrimp,adult,3",
                "striped beetle,ad");
        for (var cell : String.join(",\n,", cells).split(",")) {
            if (cell.equals("\n")) {
                page.keyboard().press("Enter");
            } else {
                page.keyboard().type(cell);
                if (!cell.matches("\\d+|ad")) {
                    page.keyboard().press("Tab");
                }
            }
        }
        page.getByText("Line 1 already has").waitFor();
        return page;
    }

    private Page bench() {
        var page = open("/bench/samples", "published, version", ColorScheme.LIGHT);
        type(page, "#field-site_code", "QB-03");
        type(page, "#field-taken_on", "8/1");
        type(page, "#field-water_c", "11.5");
        type(page, "#field-ph", "7.4");
        page.locator("#line-ph").click();
        page.keyboard().press("Space");
        page.getByText("Sat 1 Aug 2026").waitFor();
        return page;
    }

    private static void type(Page page, String field, String text) {
        page.locator(field).click();
        page.keyboard().type(text);
    }

    private Page open(String path, String shows, ColorScheme scheme) {
        var page = chromium.page(weft.url(), scheme);
        page.navigate(path);
        page.getByText(shows).first().waitFor();
        return page;
    }

    private void take(Page page, String name) {
        page.evaluate("() => document.fonts.ready");
        page.waitForTimeout(400);
        page.screenshot(new Page.ScreenshotOptions().setPath(FOLDER.resolve(name + ".png")));
        page.context().close();
    }

    private Page halfFilled(ColorScheme scheme) {
        var page = open("/d/samples", "Next free row", scheme);
        int minute = scheme == ColorScheme.LIGHT ? 1 : 2;
        enter(page, "QB-01", "8/1", "85" + minute, "odile marsh", "10.5", "7.4", "9.1", "", "low");
        enter(page, "QB-02", "8/1", "91" + minute, "odile marsh", "11", "7.2", "9.4", "", "normal");
        type(page, "QB-03", "8/1", "93" + minute, "odile marsh", "11.5", "74", "9.2");
        page.getByText("pH must be between 0 and 14").waitFor();
        return page;
    }

    private static void enter(Page page, String... fields) {
        type(page, fields);
        page.keyboard().press("Enter");
        page.getByText("Saved in row").waitFor();
    }

    private static void type(Page page, String... fields) {
        for (int i = 0; i < fields.length; i++) {
            if (i > 0) {
                page.keyboard().press("Tab");
            }
            page.keyboard().type(fields[i]);
        }
    }

    private Page finding() {
        var page = open("/d/samples", "Next free row", ColorScheme.LIGHT);
        page.keyboard().press("Control+f");
        page.getByLabel("River").fill("quill* or tessel");
        page.getByLabel("Taken on").fill("2026 or 2025");
        page.locator("#field-ph").fill("> 7.8");
        page.getByText("Finding: ").waitFor();
        page.keyboard().press("F8");
        page.locator(".rows mark").first().waitFor();
        return page;
    }

    /** A volunteer who is there already in another spelling. */
    private Page nearlyAlike() {
        var page = open("/d/volunteers", "Next free row", ColorScheme.LIGHT);
        type(page, "Wena Sedge", "01632 960", "wenna@");
        page.getByText("one letter apart").first().waitFor();
        return page;
    }

    /** Two records of one volunteer, field by field. */
    private Page madeOne() {
        var page = open("/tables/volunteers/alike", "Look over all records", ColorScheme.DARK);
        press(page, "Name");
        press(page, "Look over all records");
        press(page, "Make them one…");
        page.getByText("is removed").waitFor();
        return page;
    }

    private static void press(Page page, String name) {
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name))
                .first()
                .click();
    }

    /** A sample with the water of July in November. */
    private Page notAsUsual() {
        var page = open("/d/samples", "Next free row", ColorScheme.LIGHT);
        enter(page, "QB-01", "11/2/2025", "805", "odile marsh", "7.5", "7.4", "11.1", "", "low");
        type(page, "QB-03", "11/2/2025", "845", "odile marsh", "17.5", "7.3", "10.9", "", "low", "");
        page.waitForFunction(
                "() => [...document.querySelectorAll('input')].some((each) => each.value === 'Quill Beck')");
        page.keyboard().press("Enter");
        page.getByText("Save it so").first().waitFor();
        return page;
    }

    /** What is unusual among the samples, found without a rule. */
    private Page unusual() {
        var page = open("/tables/samples/unusual", "Look over all records", ColorScheme.LIGHT);
        press(page, "Look over all records");
        page.getByText("Look over all records again").waitFor(new Locator.WaitForOptions().setTimeout(60_000));
        return page;
    }

    /** A rule that is open, the records that break it, and what each rule says of what is typed. */
    private Page rules() {
        var page = open("/bench/samples", "published, version", ColorScheme.LIGHT);
        page.keyboard().press("F4");
        page.getByText("asks unless pH").click();
        page.getByText("rows break").waitFor();
        var form = page.locator(".canvas");
        form.locator("#field-site_code").fill("QB-03");
        form.locator("#field-ph").fill("9.4");
        page.getByText("asks now").first().waitFor();
        return page;
    }

    private Page rehearsing() {
        var page = open("/bench/samples", "published, version", ColorScheme.LIGHT);
        page.keyboard().press("F9");
        page.getByText("Run sheet").waitFor();
        type(page, "QB-03", "8/2", "9:35", "odile marsh", "11.5", "7.4", "9.2", "", "low", "", "y");
        page.getByText("handed on", new Page.GetByTextOptions().setExact(false))
                .first()
                .waitFor();
        return page;
    }
}
