package weft.e2e.pictures;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import com.microsoft.playwright.options.FilePayload;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import weft.e2e.Chromium;
import weft.e2e.LocalWeft;

/** Takes a picture of each main view, 1280 by 800 pixels, into docs/screenshots. */
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
        take(open("/desk/samples", "Next free row 2413", ColorScheme.LIGHT), "desk-empty");
        take(halfFilled(ColorScheme.LIGHT), "desk");
        var dark = halfFilled(ColorScheme.DARK);
        dark.keyboard().press("F8");
        dark.getByText("next free row", new Page.GetByTextOptions().setExact(true))
                .waitFor();
        take(dark, "desk-dark");
        take(open("/desk/habitat_survey", "Next free row", ColorScheme.LIGHT), "habitat-survey");
        take(open("/tables/samples", "S-2024-0002", ColorScheme.LIGHT), "table");
        take(open("/tables/samples", "S-2024-0002", ColorScheme.DARK), "table-dark");
        take(brought(), "import");
        take(headings(), "new-table");
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
