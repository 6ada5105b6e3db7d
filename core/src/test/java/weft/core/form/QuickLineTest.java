package weft.core.form;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weft.core.rule.Check;
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
            case QuickLine.QuickField asked -> asked.words();
            case QuickLine.Unclear(var sentence) -> "no: " + sentence;
        };
    }

    private static QuickLine.QuickField asked(String line) {
        return (QuickLine.QuickField) QuickLine.read(line, SAMPLES, QuickLineTest::table, Conventions.DEFAULT);
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
            Cost, decimal, 2 places                | new column cost, a number, 2 decimals
            Cost, 2 decimal places                 | new column cost, a number, 2 decimals
            Cost, money, max 30                    | new column cost, a number, 2 decimals, at most 30
            Score, between 0 and 500               | new column score, a whole number, 0 to 500
            Score, whole 0 to 100                  | new column score, a whole number, 0 to 100
            Score, 0-500                           | new column score, a whole number, 0 to 500
            Score, -5 - 5                          | new column score, a whole number, -5 to 5
            Score, integer, min 3, mandatory       | new column score, a whole number, at least 3, required
            Score, <= 3, not empty                 | new column score, a whole number, at most 3, required
            Paid, Yes/No                           | new column paid, yes or no
            Side, one of left, right, both         | new column side, left or right or both
            Side, one of left, right or both, required | new column side, left or right or both, required
            Side, one of left and right, 3 wide    | new column side, left or right
            E-mail, email, required                | new column e_mail, text, required, checked to look like an e-mail address
            Call, phone                            | new column call, text, checked to look like a phone number
            Bank, help Write left, right or both   | new column bank, text
            PH, 6 to 9                             | column ph, a number, checked to be 6 to 9
            PH, number, max 9                      | column ph, a number, checked to be at most 9
            Site, one of QB-01, QB-02              | column site_code, text, checked to be QB-01 or QB-02
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
            Score, 30 to 1          | Nothing lies between 30 and 1. Write the smaller one first: 1 to 30
            Depth, 20 decimals      | “20 decimals” is too many: a number has 15 decimals at most
            PH, date                | pH is there already and holds a number. Leave that out
            PH, 2 decimals          | pH is there already and holds a number
            Site, unique            | Site is there already, and two records may be alike in it
            Site, 1 to 3            | Limits are for numbers, dates and times only
            PH, 9 to 6              | Nothing lies between 9 and 6
            Depth, deepish          | These would do: Quantity, whole 1 to 30, required or Bank, left or right.
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

    @Test
    void a_decimal_comma_is_no_comma_between_parts() {
        var comma = new Conventions(Conventions.DayOrder.DAY_FIRST, Conventions.DecimalSign.COMMA);
        var asked = (QuickLine.QuickField)
                QuickLine.read("Depth, 0,5 to 3,25, required", SAMPLES, QuickLineTest::table, comma);
        assertThat(asked.words()).isEqualTo("new column depth, a number, 0.5 to 3.25, required");
        assertThat(asked("Bank, help Write left, right or both").field().help()).isEqualTo("Write left, right or both");
    }

    @Test
    void what_is_said_of_a_column_that_is_there_the_form_checks() {
        assertThat(asked("PH, at most 9").checks()).containsExactly(new Check.Range("ph", "", "9"));
        assertThat(asked("Place, email").checks())
                .containsExactly(new Check.Matches("site_code", "[^@\\s]+@[^@\\s]+\\.[^@\\s]+"));
        assertThat(asked("PH").checks()).isEmpty();
    }

    @Property
    void any_line_is_read_or_refused_in_a_sentence(@ForAll String line) {
        assertThat(said(line)).isNotBlank();
    }
}
