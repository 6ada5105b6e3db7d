package weft.e2e.bench;

import com.microsoft.playwright.Page;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import weft.e2e.Chromium;
import weft.e2e.LocalWeft;

/**
 * What a keyer waits for: from a key to its paint, and from Enter to a clear form that takes the next key; on the demo's
 * samples form and on its widest. The reference for a key is a bare text field on an empty page, in the same browser.
 */
final class DeskBench {

    private static final int ENTRIES = 30;
    private static final String WATCH_SAVES = """
            () => { window.saves = []; addEventListener("keydown", (e) => { if (e.key !== "Enter") return; const at = e.timeStamp;
              const first = document.querySelector(".form input"); const full = first.value;
              const look = () => { if (first.value === "" && document.activeElement === first && full) window.saves.push(performance.now() - at);
                else setTimeout(look, 1); }; look(); }, true); }""";

    private static final String WATCH_STEPS = """
            () => { window.steps = []; addEventListener("keydown", (e) => { if (e.key !== "PageDown") return; const at = e.timeStamp;
              const number = document.querySelector("[aria-label^=Position]"); const before = number.value;
              const look = () => { if (number.value !== before) window.steps.push(performance.now() - at); else setTimeout(look, 1); };
              look(); }, true); }""";

    private static final int STEPS = 50;
    private static final String[] ENTRY = {"QB-03", "Stepping stones", "quill", "2026-08-01", "930", "odile marsh"};

    private DeskBench() {}

    static void run(LocalWeft weft, Chromium chromium) throws Exception {
        Figures.heading("The Desk in the browser, milliseconds");
        double reference = Paint.reference(chromium, weft.url());
        sheet(weft);
        var sheet = open(weft, chromium, "sheet");
        Paint.watch(sheet);
        sheet.evaluate(WATCH_SAVES);
        for (int i = 0; i < ENTRIES; i++) {
            type(sheet, ENTRY);
            sheet.keyboard().press("Enter");
            sheet.waitForFunction("n => window.saves.length > n", i);
        }
        Paint.print("key to paint, a sheet of 15 fields", Paint.figures(sheet, "keys"), reference);
        Paint.print("save to ready, the same", Paint.figures(sheet, "saves"), 0);
        // The least is every character, a move between two fields, and the save.
        double least = Stream.of(ENTRY).mapToInt(String::length).sum() + ENTRY.length;
        double pressed = (double) Paint.figures(sheet, "keys").length / ENTRIES;
        Figures.line(
                "key presses per entry: %.1f; the least possible: %.1f; ratio %.2f", pressed, least, pressed / least);
        var samples = open(weft, chromium, "samples");
        Paint.watch(samples);
        type(samples, "QB-03", "2026-08-01", "930", "odile marsh");
        samples.keyboard().type("clear to the bottom ".repeat(8), Paint.PACE);
        Paint.print("key to paint, samples with their rules", Paint.figures(samples, "keys"), reference);
        steps(open(weft, chromium, "samples"));

        var survey = open(weft, chromium, "habitat_survey");
        Paint.watch(survey);
        type(survey, "R-151", "2026-08-01", "930");
        survey.keyboard().type("Odile Marsh ".repeat(20), Paint.PACE);
        Paint.print("key to paint, habitat survey (44 fields)", Paint.figures(survey, "keys"), reference);
    }

    /** The columns of the samples in a table and a form of their own, without rules. */
    private static void sheet(LocalWeft weft) throws Exception {
        var http = Http.to(weft.url());
        var columns = IntStream.rangeClosed(7, 15)
                .mapToObj("{\"title\":\"Reading %d\",\"type\":\"decimal\"}"::formatted)
                .collect(Collectors.joining(","));
        http.post("/api/tables", """
                {"name":"sheet","title":"Sheet","columns":[{"title":"Site"},{"title":"Site name"},
                 {"title":"River","type":"choice","choices":["Quill Beck","Marrow Burn","Tessel"]},
                 {"title":"Taken on","type":"date"},{"title":"At","type":"time"},{"title":"Taken by"},%s]}""".formatted(columns));
        http.post("/api/forms", "{\"table\":\"sheet\"}");
    }

    /** From the key that steps to the next record standing in the form with its number. */
    private static void steps(Page samples) {
        samples.keyboard().press("Alt+PageUp");
        samples.waitForFunction("() => document.querySelector('[aria-label^=Position]').value === '1'");
        samples.evaluate(WATCH_STEPS);
        for (int i = 0; i < STEPS; i++) {
            samples.keyboard().press("PageDown");
            samples.waitForFunction("n => window.steps.length > n", i);
        }
        Paint.print("step to the next record, samples", Paint.figures(samples, "steps"), 0);
    }

    private static Page open(LocalWeft weft, Chromium chromium, String form) {
        var page = chromium.page(weft.url());
        page.navigate("/d/" + form);
        page.waitForFunction("() => document.activeElement?.id?.startsWith('field-')");
        return page;
    }

    private static void type(Page page, String... fields) {
        for (int i = 0; i < fields.length; i++) {
            if (i > 0) {
                page.keyboard().press("Tab");
            }
            page.keyboard().type(fields[i], Paint.PACE);
        }
    }
}
