package weft.core.form;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;

class QuickLineTest {

    private static final Table SAMPLES = new Table(
            "samples",
            "Samples",
            List.of(
                    Column.plain("ph", "pH", ColumnType.DECIMAL),
                    Column.plain("site_code", "Site", ColumnType.TEXT).once(List.of("place"))),
            Table.Placement.AFTER_LAST);

    private static Optional<Table> table(String name) {
        return Optional.of(SAMPLES).filter(table -> name.equalsIgnoreCase("samples"));
    }

    private static String said(String line) {
        return switch (QuickLine.read(line, SAMPLES, QuickLineTest::table, Conventions.DEFAULT)) {
            case QuickLine.Asked asked -> asked.words();
            case QuickLine.Unclear(var sentence) -> "no: " + sentence;
        };
    }

    private static QuickLine.Asked asked(String line) {
        return (QuickLine.Asked) QuickLine.read(line, SAMPLES, QuickLineTest::table, Conventions.DEFAULT);
    }

    @ParameterizedTest(name = "{0} -> {1}")
    @CsvSource(delimiter = '|', quoteCharacter = '`', textBlock = """
            Remark                                 | new column remark, text
            Sample, link to samples                | new column sample, link to Samples, showing Site
            Sample, links to Samples, required, showing ph and place | new column sample, link to Samples, showing pH and Site, required
            Sample, link to sites                  | no: There is no table “sites” to link to. Name one that there is, such as: Sample, link to samples
            Sample, link to samples, showing depth | no: Samples has no column “depth” of text, numbers or dates to call its records by.
            Sample, text, showing number           | no: Only a link shows columns of its table, such as: Sample, link to samples, showing number
            Quantity, whole 1 to 30, required      | new column quantity, a whole number, 1 to 30, required
            Bank, left or right                    | new column bank, left or right
            Weather, dry or rain or snow, needed   | new column weather, dry or rain or snow, required
            Depth, 1 decimal 0 to 3                | new column depth, a number, 1 decimal, 0 to 3
            Depth, two decimals                    | new column depth, a number, 2 decimals
            Depth, 0.5 to 3                        | new column depth, a number, 0.5 to 3
            Depth, number at most 3                | new column depth, a number, at most 3
            Water, -2 to 35, in °C                 | new column water_c, a number, -2 to 35
            Count, at least 1                      | new column count, a whole number, at least 1
            Taken on, date, required               | new column taken_on, a date, required
            Taken on, from 2015-01-01              | new column taken_on, a date, at least Thu 1 Jan 2015
            At, time 8:00 to 17:00                 | new column at, a time, 08:00 to 17:00
            Wet, yes or no                         | new column wet, yes or no
            Tag, unique                            | new column tag, text, no two alike
            "Depth, mean", whole                   | new column depth_mean, a whole number
            Notes, long text                       | new column notes, long text
            PH                                     | column ph, a number
            Site                                   | column site_code, text
            Place                                  | column site_code, text
            """)
    void a_line_makes_a_field_its_column_and_its_limits(String line, String words) {
        assertThat(said(line)).isEqualTo(words);
    }

    @ParameterizedTest(name = "{0}")
    @CsvSource(delimiter = '|', quoteCharacter = '`', textBlock = """
            , whole                 | Begin with the label
            Wet, yes or no 1 to 3   | Limits are for numbers, dates and times only
            Depth, deepish          | “deepish” is not understood
            Depth, whole 1 to many  | The limit “many” is not understood
            Bank, choice            | A choice needs its list
            Remark, text 1 to 3     | Limits are for numbers, dates and times only
            """)
    void a_line_that_cannot_be_read_says_what_would_be_right(String line, String part) {
        assertThat(said(line)).startsWith("no: ").contains(part);
    }

    @Test
    void what_else_is_said_of_a_field_becomes_its_settings() {
        var field = asked("Water, number -2 to 35, in °C, locked, kept, begins with 7, 6 wide, help of the beck")
                .field();
        assertThat(field.unit()).isEqualTo("°C");
        assertThat(field.label()).isEqualTo("Water");
        assertThat(field.use()).isEqualTo(Field.Use.LOCKED);
        assertThat(field.start()).isEqualTo(new Field.Start("7", true, false));
        assertThat(field.width()).isEqualTo(6);
        assertThat(field.help()).isEqualTo("of the beck");
        assertThat(field.widget()).isEqualTo(Field.Widget.NUMBER);
    }

    @Property
    void any_line_is_read_or_refused_in_a_sentence(@ForAll String line) {
        assertThat(said(line)).isNotBlank();
    }
}
