package weft.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.sql.SQLException;
import java.util.regex.Pattern;
import org.assertj.core.api.Assertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** A table of another program is adopted, keyed into beside that program, and let go. */
@ExtendWith(Running.class)
class AdoptionTest {

    private final Page page = Running.page();
    private final Keys keys = new Keys(page);

    @Test
    void aTableOfAnotherProgramIsKeyedIntoBesideIt() throws SQLException {
        try (var program = Running.program("logger");
                var statement = program.createStatement()) {
            statement.execute(
                    "create schema levels; set search_path = levels;"
                            + " create table post (code varchar(6) primary key, place text);"
                            + " create table level (id int generated always as identity primary key,"
                            + "   post varchar(6) not null references post, height numeric(5,2) not null check (height < 20),"
                            + "   seen timestamptz not null default now());"
                            + " insert into post values ('A1', 'Mill'), ('B2', 'Ford'); insert into level (post, height) values ('A1', 1.5)");
            adopt("levels.post");
            adopt("levels.level");
            page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Enter into Level"))
                    .click();
            // The number is the database's to give, and is not stopped at.
            assertThat(page.getByLabel("Post").first()).isFocused();
            keys.type("b2").press("Tab").type("25").press("Control+s");
            assertThat(page.getByRole(AriaRole.ALERT)).containsText("Height must be between -999.99 and 19.99");
            keys.press("Alt+b", "Control+a").type("2.25").press("Control+s");
            assertThat(page.getByText("Next free row 3").first()).isVisible();
            statement.execute("insert into level (post, height) values ('A1', 3)");
            assertThat(page.getByText("Next free row 4").first()).isVisible();
            keys.press("PageUp");
            assertThat(page.getByLabel("Post").first()).hasValue("A1");
            keys.press("PageUp");
            assertThat(page.getByLabel("Post").first()).hasValue("B2");
            assertThat(page.getByLabel("Id").first()).hasValue("2");
            try (var kept = statement.executeQuery("select post, height, _row, _entered_by from level where id = 2")) {
                Assertions.assertThat(kept.next()).isTrue();
                Assertions.assertThat(kept.getString(1) + kept.getString(2) + kept.getString(3) + kept.getString(4))
                        .isEqualTo("B22.252odile");
            }
            letGo("level", "Level");
            letGo("post", "Post");
            try (var kept = statement.executeQuery("select * from level")) {
                Assertions.assertThat(kept.getMetaData().getColumnCount()).isEqualTo(4);
            }
            statement.execute("drop schema levels cascade");
        }
    }

    private void adopt(String name) {
        page.navigate("/tables");
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Adopt a table"))
                .click();
        page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName(name)).click();
        assertThat(page.getByText("in which no program can read or write it")).isVisible();
        assertThat(page.getByLabel("Name of the table here")).isFocused();
        keys.press("Enter");
        assertThat(page).hasURL(Pattern.compile("/tables/" + name.substring(name.indexOf('.') + 1)));
    }

    private void letGo(String table, String title) {
        page.navigate("/tables/" + table);
        page.getByRole(AriaRole.TAB, new Page.GetByRoleOptions().setName("columns"))
                .click();
        page.getByText("Let it go…").click();
        assertThat(page.getByRole(AriaRole.DIALOG)).containsText("stay in place");
        keys.type(title).press("Enter");
        assertThat(page).hasURL(Pattern.compile("/tables$"));
    }
}
