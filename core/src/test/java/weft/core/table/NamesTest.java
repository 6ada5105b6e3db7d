package weft.core.table;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashSet;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class NamesTest {

    @ParameterizedTest
    @CsvSource({
        "site_code, Site code",
        "takenOn, Taken on",
        "pH, pH",
        "SiteID, Site ID",
        "Water (°C), Water (°C)",
        "dissolved_oxygen, Dissolved oxygen",
        "QB, QB",
        "river.name, River name",
        "'  two   words ', Two words",
        "'', Column 3",
        "___, Column 3"
    })
    void headingsBecomeTitles(String heading, String title) {
        assertThat(Names.title(heading, 3)).isEqualTo(title);
    }

    @ParameterizedTest
    @CsvSource({
        "Site code, site_code",
        "Order, order_",
        "Größe, grosse",
        "Température (°C), temperature_c",
        "2nd reading, n2nd_reading",
        "水温, column_3",
        "Robert'); drop table x;--, robert_drop_table_x"
    })
    void titlesBecomeSafeNames(String title, String name) {
        assertThat(Names.name(title, 3, new HashSet<>())).isEqualTo(name);
    }

    @Test
    void doubledHeadingsAreToldApart() {
        assertThat(Names.titles(List.of("pH", "PH", "", "ph"))).containsExactly("pH", "PH 2", "Column 3", "Ph 3");
        var taken = new HashSet<String>();
        assertThat(List.of(Names.name("a b", 1, taken), Names.name("a-b", 2, taken)))
                .containsExactly("a_b", "a_b_2");
    }

    @Property
    void anyHeadingsGiveValidDistinctNames(@ForAll List<String> headings) {
        var titles = Names.titles(headings);
        var names = new HashSet<String>();
        for (int i = 0; i < titles.size(); i++) {
            assertThat(titles.get(i)).isNotBlank().hasSizeLessThanOrEqualTo(Names.LONGEST_TITLE + 12);
            assertThat(Names.isName(Names.name(titles.get(i), i + 1, names))).isTrue();
        }
        assertThat(names).hasSameSizeAs(headings);
    }
}
