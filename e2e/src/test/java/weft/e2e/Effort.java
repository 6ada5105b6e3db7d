package weft.e2e;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;

/**
 * What something takes a person, counted as the keystroke-level model does (Card, Moran and Newell 1980): 0.28 s a key, 1.1 s to
 * point and press, 1.35 s of thought before each unit of work.
 */
final class Effort {

    private static final double KEY = 0.28;
    private static final double POINT = 1.1;
    private static final double THOUGHT = 1.35;

    private final Page page;
    private int keys;
    private int points;
    private int thoughts;

    Effort(Page page) {
        this.page = page;
    }

    /** A unit of work begins. */
    Effort think() {
        thoughts++;
        return this;
    }

    /** Types a text as one unit of work and ends it with Enter. */
    Effort line(String text) {
        return think().type(text).press("Enter");
    }

    Effort type(String text) {
        page.keyboard().type(text);
        keys += text.length();
        return this;
    }

    /** Each key counts once, with what is held down beside it. */
    Effort press(String... pressed) {
        for (var key : pressed) {
            page.keyboard().press(key);
            keys += key.contains("+") && key.length() > 1 ? 2 : 1;
        }
        return this;
    }

    Effort click(Locator what) {
        what.click();
        points++;
        return this;
    }

    double seconds() {
        return keys * KEY + points * POINT + thoughts * THOUGHT;
    }

    /** As it is kept in the documents. */
    String told() {
        return "%d keys, %d clicks, %.0f s".formatted(keys, points, seconds());
    }
}
