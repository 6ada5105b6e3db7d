package weft.e2e;

import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.options.ColorScheme;
import com.microsoft.playwright.options.Cookie;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Debian's Chromium, headless, with no connections of its own. */
public final class Chromium implements AutoCloseable {

    private static final List<String> FLAGS = List.of(
            "--no-sandbox",
            "--disable-gpu",
            "--disable-quic",
            "--no-first-run",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync");

    private final Playwright playwright =
            Playwright.create(new Playwright.CreateOptions().setEnv(Map.of("PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD", "1")));
    private final Browser browser = playwright
            .chromium()
            .launch(new BrowserType.LaunchOptions()
                    .setExecutablePath(Path.of("/usr/bin/chromium"))
                    .setArgs(FLAGS));

    /** A new page of 1280 by 800 pixels, remembering nothing of any other. */
    public Page page(String url, ColorScheme scheme) {
        return page(url, scheme, Optional.of(Signed.session(url)));
    }

    /** The same for whoever has that session; for nobody, where there is none. */
    public Page page(String url, ColorScheme scheme, Optional<String> session) {
        var context = browser.newContext(new Browser.NewContextOptions()
                .setViewportSize(1280, 800)
                .setColorScheme(scheme)
                .setLocale("en-GB")
                .setBaseURL(url));
        session.ifPresent(each -> context.addCookies(List.of(
                new Cookie("SESSION", each).setUrl(url).setHttpOnly(true), new Cookie("XSRF-TOKEN", "x").setUrl(url))));
        return context.newPage();
    }

    /** How many are open that were not closed since, with all they remember. */
    public int open() {
        return browser.contexts().size();
    }

    /**
     * Closes all but the first so many. Their routes end before: a page may ask for something while it is being closed,
     * and whoever lets that pass then would meet a page that is gone.
     */
    public void closeAllBut(int first) {
        var open = browser.contexts();
        for (var context : List.copyOf(open.subList(first, open.size()))) {
            context.pages().forEach(Page::unrouteAll);
            context.close();
        }
    }

    /** The same in the light theme. */
    public Page page(String url) {
        return page(url, ColorScheme.LIGHT);
    }

    @Override
    public void close() {
        playwright.close();
    }
}
