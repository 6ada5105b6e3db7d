package weft.e2e.pictures;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import com.microsoft.playwright.options.FilePayload;
import com.microsoft.playwright.options.KeyboardModifier;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import weft.e2e.Chromium;
import weft.e2e.LocalWeft;

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
        var dark = halfFilled(ColorScheme.DARK);
        dark.keyboard().press("F8");
        dark.getByText("next free row", new Page.GetByTextOptions().setExact(true))
                .waitFor();
        take(dark, "desk-dark");
        take(open("/desk/habitat_survey", "Next free row", ColorScheme.LIGHT), "habitat-survey");
        take(open("/tables/samples", "S-2024-0002", ColorScheme.LIGHT), "table");
        take(browsing(), "browse");
        take(finding(), "find");
        take(rows(), "rows");
        take(conflict(), "conflict");
        take(removed(), "removed");
        take(phone(), "phone");
        take(brought(), "import");
        take(headings(), "new-table");
        take(bench(), "bench");
        take(several(), "bench-several");
        var frayed = changed();
        frayed.getByText("1 fray").click();
        frayed.getByText("nobody can type in it").waitFor();
        take(frayed, "frays");
        var publishing = changed();
        publishing
                .getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Publish"))
                .click();
        publishing.getByText("Once published").waitFor();
        take(publishing, "publish");
        var versions = changed();
        versions.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Versions"))
                .click();
        versions.getByText("In the working copy since").waitFor();
        take(versions, "versions");
    }

    private Page bench() {
        var page = open("/bench/samples", "published, version", ColorScheme.LIGHT);
        type(page, "#field-site_code", "QB-03");
        type(page, "#field-site_name", "Stepping stones");
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

    private Page several() {
        var page = open("/bench/samples", "published, version", ColorScheme.DARK);
        page.locator("#line-water_c").click();
        page.locator("#line-turbidity_ntu")
                .click(new Locator.ClickOptions().setModifiers(List.of(KeyboardModifier.SHIFT)));
        page.getByLabel("Add a field").fill("Depth, 2 decimals, at least 0");
        page.getByText("new column depth").waitFor();
        return page;
    }

    /** The samples form with changes that are not published, one of them a fray; once made, they stay. */
    private Page changed() {
        var page = open("/bench/samples", "published", ColorScheme.LIGHT);
        page.getByText(Pattern.compile("[0-9no]+ frays?")).waitFor();
        if (page.getByText("1 fray").count() == 0) {
            page.locator("#line-site_name").click();
            page.keyboard().press("Space");
            page.getByRole(AriaRole.TAB, new Page.GetByRoleOptions().setName("Entry"))
                    .click();
            page.getByLabel("Use").selectOption("locked");
            page.getByLabel("Required").check();
            page.locator("#line-weather").click();
            page.keyboard().press("Alt+ArrowUp");
            page.getByText("1 fray").waitFor();
        }
        return page;
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
        var page = open("/desk/samples", "Next free row", scheme);
        enter(page, "QB-01", "Mill tail", "quill", "8/1", "850", "odile", "", "10.5", "7.4");
        enter(page, "QB-02", "Long weir", "quill", "8/1", "910", "odile", "", "11", "7.2");
        type(page, "QB-03", "Stepping stones", "quill", "8/1", "930", "odile", "", "11.5", "74", "9.2");
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

    private Page at(String number) {
        var page = open("/desk/samples", "Next free row", ColorScheme.LIGHT);
        page.getByLabel("Position").fill("row " + number);
        page.keyboard().press("Enter");
        page.getByText("Row " + number).first().waitFor();
        return page;
    }

    private Page browsing() {
        var page = at("1418");
        page.getByLabel("Oxygen").fill("9.2");
        page.getByLabel("Remark").fill("Foam below the weir; meter read twice.");
        page.getByLabel("pH").focus();
        return page;
    }

    private Page finding() {
        var page = open("/desk/samples", "Next free row", ColorScheme.LIGHT);
        page.keyboard().press("Control+f");
        page.getByLabel("River").fill("quill* or tessel");
        page.getByLabel("Taken on").fill("2026 or 2025");
        page.getByLabel("pH").fill("> 7.8");
        page.getByText("Finding: ").waitFor();
        page.keyboard().press("F8");
        page.locator(".rows mark").first().waitFor();
        return page;
    }

    private Page rows() {
        var page = at("2031");
        page.keyboard().press("F8");
        page.getByText("Taken on", new Page.GetByTextOptions().setExact(true))
                .last()
                .click();
        page.getByText("Sorted by Taken on").waitFor();
        page.getByRole(AriaRole.GRID).focus();
        page.keyboard().press("Shift+ArrowDown");
        page.keyboard().press("Shift+ArrowDown");
        page.getByText("3 selected").waitFor();
        return page;
    }

    private Page conflict() {
        var page = at("1502");
        page.route("**/events", route -> route.abort());
        page.getByLabel("pH").fill("7.6");
        page.getByLabel("Remark").fill("Kingfisher, upstream side.");
        page.evaluate("""
                async () => {
                  const found = await (await fetch('/api/forms/samples/place?to=row:1502')).json();
                  const { id, version, values } = found.record;
                  await fetch('/api/forms/samples/records/' + id, {
                    method: 'PUT',
                    headers: { 'Content-Type': 'application/json', 'If-Match': '"' + version + '"', 'Weft-Person': 'Bram Tolley' },
                    body: JSON.stringify({ values: { ...values, ph: '7.1', water_c: '12.5' } })
                  });
                }
                """);
        page.keyboard().press("Control+s");
        page.getByText("Somebody else changed").waitFor();
        return page;
    }

    private Page removed() {
        var page = open("/desk/samples", "Next free row", ColorScheme.LIGHT);
        page.keyboard().press("F8");
        page.getByRole(
                        AriaRole.BUTTON,
                        new Page.GetByRoleOptions().setName("Removed").setExact(true))
                .click();
        page.getByText("Put back").first().waitFor();
        return page;
    }

    private Page phone() {
        var page = open("/desk/samples", "Next free row", ColorScheme.LIGHT);
        page.setViewportSize(390, 800);
        page.keyboard().press("PageUp");
        page.getByText("Save row 24").waitFor();
        return page;
    }

    private Page brought() {
        var page = open("/tables/new", "Choose a file", ColorScheme.LIGHT);
        var rows = IntStream.rangeClosed(1, 40)
                .mapToObj(i -> "%02d,Heron pool,%d/%d/2026,%d:15,%s,%s,01632 %06d,%s"
                        .formatted(
                                i,
                                1 + i % 9,
                                1 + i % 7,
                                8 + i % 9,
                                i == 17 ? "about 9" : "%d.5".formatted(6 + i % 9),
                                i % 3 == 0 ? "yes" : "no",
                                7_777 * i,
                                i % 5 == 0 ? "otter prints" : ""))
                .collect(Collectors.joining("\n"));
        var file = "code,place_name,seen_on,At,Water (°C),Young seen,phone,note\n" + rows + "\n";
        var choose = page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Choose a file"));
        page.waitForFileChooser(choose::click)
                .setFiles(new FilePayload("Otter sightings.csv", "text/csv", file.getBytes(StandardCharsets.UTF_8)));
        page.getByText("One cell does not fit").waitFor();
        return page;
    }

    private Page headings() {
        var page = open("/tables/new", "Choose a file", ColorScheme.LIGHT);
        page.getByLabel("Name of the table").fill("Water levels");
        page.getByLabel("Headings").fill("Site\nRead on\nAt\nLevel (cm)\nRead by");
        page.getByLabel("Type of Read on").selectOption("date");
        page.getByLabel("Type of At").selectOption("time");
        page.getByLabel("Type of Level (cm)").selectOption("whole");
        return page;
    }
}
