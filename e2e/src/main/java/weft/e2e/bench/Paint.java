package weft.e2e.bench;

import com.microsoft.playwright.Keyboard;
import com.microsoft.playwright.Page;
import java.util.List;
import weft.e2e.Chromium;

/** How long a page takes from a key to its paint, as the page itself sees it. */
final class Paint {

    /** Between two keys, so that each is painted before the next comes: some 25 keys a second, faster than any hand. */
    static final Keyboard.TypeOptions PACE = new Keyboard.TypeOptions().setDelay(40);

    /** Takes the time from each key to the end of the frame that paints it. */
    private static final String WATCH = """
            () => { window.keys = []; addEventListener("keydown", (e) => { if (!e.isTrusted) return; const at = e.timeStamp;
              requestAnimationFrame(() => { const c = new MessageChannel();
                c.port1.onmessage = () => window.keys.push(performance.now() - at); c.port2.postMessage(0); }); }, true); }""";

    private Paint() {}

    /** From now on, every key on the page is timed. */
    static void watch(Page page) {
        page.evaluate(WATCH);
    }

    /** The reference: a bare text field on an empty page. Says and answers its p95. */
    static double reference(Chromium chromium, String url) {
        Figures.line("%-42s %8s %8s %12s", "", "p50", "p95", "p95 to bare");
        var bare = chromium.page(url);
        bare.setContent("<input autofocus>");
        bare.locator("input").focus();
        watch(bare);
        bare.keyboard().type("QB-03 stepping stones ".repeat(15), PACE);
        return print("key to paint, bare text field", figures(bare, "keys"), 0);
    }

    /** What the page took down under that name. */
    static double[] figures(Page page, String name) {
        page.waitForTimeout(200);
        var all = (List<?>) page.evaluate("() => window." + name);
        return all.stream().mapToDouble(each -> ((Number) each).doubleValue()).toArray();
    }

    /** Says p50 and p95, and how often the reference the latter is, when there is one; answers p95. */
    static double print(String what, double[] figures, double reference) {
        double p95 = Figures.percentile(figures, 95);
        Figures.line(
                "%-42s %8.1f %8.1f %12s",
                what, Figures.percentile(figures, 50), p95, reference == 0 ? "" : "%.2f".formatted(p95 / reference));
        return p95;
    }
}
