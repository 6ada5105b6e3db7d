package weft.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Page.GetByRoleOptions;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import java.util.Optional;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Twenty papers, keyed by one person and again by another, and settled by a third: by the keyboard alone. */
@ExtendWith(Running.class)
class TwiceTest {

    private static final int PAPERS = 20;
    /** The papers that were keyed wrongly first, and those that are second. */
    private static final int FIRST_SLIPS = 7;

    private static final int SECOND_SLIPS = 4;

    private static Page of(String person) {
        return Running.chromium()
                .page(Running.url(), ColorScheme.LIGHT, Optional.of(Signed.in(Running.url(), person, "river-watch")));
    }

    private static void door(String table, String way) {
        Running.form(
                table,
                "{\"title\":\"Number\",\"required\":true},{\"title\":\"Taxon\"},{\"title\":\"Count\",\"type\":\"whole\"},{\"title\":\"Remark\"}");
        Running.api("/api/forms/" + table + "/doors", """
                {"id":"%1$s-again","title":"Papers %2$s","who":{"people":["saffi","bram","odile"]},"may":["add","see","change"],
                 "twice":{"way":"%2$s","paper":["number"],"leftOut":["remark"]}}""".formatted(table, way));
    }

    private static String count(int paper) {
        return Integer.toString(10 + paper * 3);
    }

    /** Keys all papers for the first time, one of them wrongly. */
    private static void first(String table) {
        var page = of("saffi");
        page.navigate("/d/" + table + "-again");
        assertThat(field(page, "Number")).isFocused();
        for (int n = 1; n <= PAPERS; n++) {
            var keyed = n == FIRST_SLIPS ? "1" + count(n) : count(n);
            new Keys(page).entry("P-" + n, "mayfly", keyed, "clear");
            page.keyboard().press("Enter");
            said(page, "Saved in row " + n);
        }
        page.close();
    }

    /** The same without a keyboard, where it is not what is tried. */
    private static void stored(String table) {
        var saffi = Signed.in(Running.url(), "saffi", "river-watch");
        for (int n = 1; n <= PAPERS; n++) {
            var keyed = n == FIRST_SLIPS ? "1" + count(n) : count(n);
            Running.as(saffi, "/api/doors/" + table + "-again/records", """
                    {"values":{"number":"P-%d","taxon":"mayfly","count":"%s","remark":"clear"}}""".formatted(n, keyed));
        }
    }

    private static void said(Page page, String text) {
        assertThat(page.locator(".foot [role=status]")).containsText(text);
    }

    private static Locator field(Page page, String label) {
        return page.locator(".form").getByLabel(Pattern.compile("^" + label + "( \\*)?$"));
    }

    private static Page second(String table) {
        var page = of("bram");
        page.navigate("/d/" + table + "-again/twice");
        assertThat(page.getByText("Number P-1", new Page.GetByTextOptions().setExact(true)))
                .isVisible();
        assertThat(field(page, "Taxon")).isFocused();
        // What is not compared is not keyed again.
        assertThat(field(page, "Remark")).hasCount(0);
        return page;
    }

    private static void keyed(Page page, int n, String count) {
        assertThat(page.getByText("Number P-" + n, new Page.GetByTextOptions().setExact(true)))
                .isVisible();
        assertThat(field(page, "Taxon")).isFocused();
        page.keyboard().type("mayfly");
        page.keyboard().press("Tab");
        assertThat(field(page, "Count")).isFocused();
        page.keyboard().type(count);
    }

    @Test
    void atOnceAFieldThatDiffersSaysSoAndIsKeyedAgain() {
        door("once_papers", "at once");
        stored("once_papers");
        var page = second("once_papers");
        for (int n = 1; n <= PAPERS; n++) {
            if (n == SECOND_SLIPS) {
                // A slip of the second keyer: said as the field is left, and keyed again.
                keyed(page, n, "9");
                page.keyboard().press("Shift+Tab");
                assertThat(page.getByText("“9” differs from the first keying")).isVisible();
                assertThat(field(page, "Count")).isFocused();
                assertThat(field(page, "Count")).hasValue("");
                page.keyboard().type(count(n));
            } else if (n == FIRST_SLIPS) {
                // A slip of the first keyer: nothing is shown before it was keyed so twice.
                keyed(page, n, count(n));
                page.keyboard().press("Enter");
                assertThat(page.getByText("“" + count(n) + "” differs from the first keying"))
                        .isVisible();
                assertThat(page.locator("main")).not().containsText("1" + count(n));
                assertThat(field(page, "Count")).isFocused();
                page.keyboard().type(count(n));
                page.keyboard().press("Enter");
                assertThat(page.getByText("Look at the paper: which one holds?"))
                        .isVisible();
                assertThat(page.getByRole(AriaRole.BUTTON, new GetByRoleOptions().setName("First keying 1" + count(n))))
                        .isFocused();
                page.keyboard().press("2");
                assertThat(field(page, "Count")).isFocused();
            } else {
                keyed(page, n, count(n));
            }
            page.keyboard().press("Enter");
            said(page, "Number P-" + n + " is settled.");
        }
        assertThat(page.getByText("No paper waits for you here.")).isVisible();
        assertThat(page.getByText(PAPERS + " keyed in this session")).isVisible();
        assertThat(Running.api("/api/doors/once_papers/records?where=_keyed:settled&where=number:P-7")
                        .at("/records/0/values/count")
                        .asString())
                .isEqualTo(count(FIRST_SLIPS));
    }

    /** Whoever keys faster than papers come and go keys on: each paper gets what was keyed for it. */
    @Test
    void whatIsKeyedBetweenTwoPapersIsKeyedIntoTheNext() {
        door("quick_papers", "blind");
        stored("quick_papers");
        var page = second("quick_papers");
        for (int n = 1; n <= PAPERS; n++) {
            page.keyboard().type("mayfly");
            page.keyboard().press("Tab");
            page.keyboard().type(count(n));
            page.keyboard().press("Enter");
            if (n % 5 == 0) {
                page.keyboard().press("Enter");
            }
        }
        assertThat(page.getByText(PAPERS + " keyed in this session")).isVisible();
        assertThat(Running.api("/api/doors/quick_papers/records?where=_keyed:settled")
                        .at("/total/count")
                        .asInt())
                .isEqualTo(PAPERS - 1);
    }

    @Test
    void blindBothAreWholeAndAThirdPersonSettles() {
        door("blind_papers", "blind");
        first("blind_papers");
        var page = second("blind_papers");
        for (int n = 1; n <= PAPERS; n++) {
            keyed(page, n, n == SECOND_SLIPS ? "9" : count(n));
            page.keyboard().press("Enter");
            said(
                    page,
                    "Number P-" + n
                            + (n == SECOND_SLIPS || n == FIRST_SLIPS
                                    ? " is keyed. The keyings differ"
                                    : " is settled."));
        }
        page.close();

        var third = of("odile");
        third.navigate("/d/blind_papers-again/settle");
        assertThat(third.getByText("2 to settle")).isVisible();
        var firstHolds = third.getByLabel("Count: first keying " + count(SECOND_SLIPS));
        assertThat(firstHolds).isFocused();
        // Nothing is settled before each field is.
        third.keyboard().press("Enter");
        assertThat(third.getByText("Choose which keying holds.")).isVisible();
        third.keyboard().press("1");
        assertThat(firstHolds).isChecked();
        third.keyboard().press("Enter");
        said(third, "Number P-" + SECOND_SLIPS + " is settled.");
        assertThat(third.getByLabel("Count: first keying 1" + count(FIRST_SLIPS)))
                .isFocused();
        third.keyboard().press("Tab");
        third.keyboard().type(count(FIRST_SLIPS));
        assertThat(third.getByLabel("Count: neither, but")).hasValue(count(FIRST_SLIPS));
        third.keyboard().press("Enter");
        said(third, "Number P-" + FIRST_SLIPS + " is settled.");
        assertThat(third.getByText("Nothing is to settle for you here.")).isVisible();

        // At the Desk: found by how they stand, shown in rows, and said in the history.
        third.navigate("/d/blind_papers?row=" + FIRST_SLIPS);
        assertThat(field(third, "Count")).hasValue(count(FIRST_SLIPS));
        third.keyboard().press("Alt+h");
        assertThat(third.getByRole(AriaRole.DIALOG)).containsText("settled it, keyed twice");
        third.keyboard().press("Escape");
        third.keyboard().press("Control+f");
        third.getByLabel("Keyed").selectOption("settled");
        assertThat(third.getByText("Finding: 20 matches")).isVisible();
        third.keyboard().press("F8");
        assertThat(third.getByRole(AriaRole.GRIDCELL, new GetByRoleOptions().setName("settled"))
                        .first())
                .isVisible();
        assertThat(Running.api("/api/doors/blind_papers/records?where=_keyed:settled&where=count:" + count(FIRST_SLIPS))
                        .get("records"))
                .hasSize(1);
    }
}
