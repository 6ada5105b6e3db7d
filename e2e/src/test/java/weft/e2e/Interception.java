package weft.e2e;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.Route;

/**
 * Requests of a page that a story answers in the server's stead. Chromium takes interception up a moment after it is
 * asked to, and what the page sends until then slips through.
 */
final class Interception {

    private static final String PROBE = "/api/intercepted";

    private Interception() {}

    /** Waits until whatever this page asks for passes its routes, those to come as well. */
    static void begins(Page page) {
        page.route("**" + PROBE, route -> route.fulfill(new Route.FulfillOptions().setStatus(299)));
        page.waitForFunction("async (probe) => (await fetch(probe)).status === 299", PROBE);
    }
}
