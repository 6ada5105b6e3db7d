package weft.e2e;

import com.microsoft.playwright.Page;

/** A keyer's hands: every key by the keyboard, as fast as it goes. */
record Keys(Page page) {

    /** Types into one field after another, with Tab in between. */
    Keys entry(String... fields) {
        for (int i = 0; i < fields.length; i++) {
            if (i > 0) {
                page.keyboard().press("Tab");
            }
            page.keyboard().type(fields[i]);
        }
        return this;
    }

    Keys press(String... keys) {
        for (var key : keys) {
            page.keyboard().press(key);
        }
        return this;
    }

    Keys type(String text) {
        page.keyboard().type(text);
        return this;
    }

    /** Waits until what the page has taken in is drawn. */
    static void drawn(Page page) {
        page.evaluate("() => new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn)))");
    }

    /** Waits until nothing moves or fades any more. */
    static void still(Page page) {
        page.waitForFunction("() => document.getAnimations().every((each) => each.playState !== 'running')");
    }
}
