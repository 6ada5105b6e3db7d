package weft.core.find;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDateTime;
import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.From;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weft.core.table.Column;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.NormalText;
import weft.core.value.Value;

class CriterionReaderTest {

    /** A Monday. */
    private static final LocalDateTime NOW = LocalDateTime.parse("2026-11-23T10:00");

    private final CriterionReader reader = new CriterionReader(Conventions.DEFAULT, NOW);

    private static Column column(ColumnType type, String... choices) {
        return Column.plain("c", "C", type).of(List.of(choices));
    }

    /** The criterion in words, or the refusal's sentence. */
    private String said(Column column, String typed) {
        return switch (reader.read(column, typed)) {
            case Criterion.Read(var criterion) -> criterion.words();
            case Criterion.Refused(var message) -> "no: " + message;
        };
    }

    @ParameterizedTest(name = "{0} -> {1}")
    @CsvSource(delimiter = '|', quoteCharacter = '`', textBlock = """
            tessel                      | has tessel in it
            dead perch                  | has dead perch in it
            wen*                        | begins with wen
            *edge                       | ends with edge
            *wen*                       | has wen in it
            w*ge                        | reads w…ge
            *w*ge                       | reads …w…ge
            "Wet"                       | is “Wet”
            "wet                        | is “wet”
            "salt and pepper"           | is “salt and pepper”
            *"salt and pepper"*         | has salt and pepper in it
            "2*3"*                      | begins with 2*3
            = Wet                       | is “Wet”
            *                           | is filled
            empty                       | is empty
            FILLED                      | is filled
            not empty                   | is filled
            "empty"                     | is “empty”
            not wet                     | does not have wet in it
            not wen*                    | does not begin with wen
            not "wet"                   | is not “wet”
            quill* or tessel            | begins with quill, or has tessel in it
            a and b or not c            | has a in it and has b in it, or does not have c in it
            dry or                      | no: Something is missing beside “or”. To find the word itself, put it in quotes.
            not                         | no: Something is missing after “not”, such as not empty.
            ""                          | no: There is nothing in the quotes. To find what has nothing in it, type empty.
            "                           | no: There is nothing in the quotes. To find what has nothing in it, type empty.
            5" pipe                     | has 5" pipe in it
            5"*                         | begins with 5"
            *"                          | is filled
            "5"" pipe"                  | is “5" pipe”
            = 5" pipe                   | is “5" pipe”
            12" or 5" pipe              | has 12" in it, or has 5" pipe in it
            > 70                        | no: “>” compares numbers, dates and times; this field holds text. Type a part of it, or wen* for how it begins.
            """)
    void reads_criteria_on_text(String typed, String words) {
        assertThat(said(column(ColumnType.TEXT), typed)).isEqualTo(words);
    }

    @ParameterizedTest(name = "{0} -> {1}")
    @CsvSource(delimiter = '|', textBlock = """
            8.5              | is 8.5
            > 8.5            | above 8.5
            >8.5             | above 8.5
            >= 8.5           | at least 8.5
            ≥8.5             | at least 8.5
            < 8.5            | below 8.5
            <= 8.5           | at most 8.5
            above 70         | above 70
            At Least 70      | at least 70
            below -2         | below -2
            at most 70       | at most 70
            1 to 3           | 1 to 3
            -5 to -1.5       | -5 to -1.5
            from 3           | at least 3
            from 3 to 4      | 3 to 4
            to 3             | at most 3
            up to 3          | at most 3
            not 7            | is not 7
            not > 7          | not above 7
            1 or > 7         | is 1, or above 7
            > 1 and < 3      | above 1 and below 3
            not empty and <3 | is filled and below 3
            3 to 1           | no: “3 to 1” goes from the larger to the smaller. Write it like 1 to 3.
            seven            | no: “seven” can't be read as a number. Write it like 70, > 70 or 70 to 80.
            7*               | no: “7*” can't be read as a number. Write it like 70, > 70 or 70 to 80.
            >                | no: Something is missing after “>”, such as > 70.
            1 to             | no: Something is missing after “to”. Write it like 1 to …
            """)
    void reads_criteria_on_numbers(String typed, String words) {
        assertThat(said(column(ColumnType.DECIMAL), typed)).isEqualTo(words);
    }

    @ParameterizedTest(name = "{0} -> {1}")
    @CsvSource(delimiter = '|', textBlock = """
            2026                   | 1 Jan to 31 Dec 2026
            2026-05                | 1 May to 31 May 2026
            5/2026                 | 1 May to 31 May 2026
            May 2026               | 1 May to 31 May 2026
            feb                    | 1 Feb to 28 Feb 2026
            today                  | is Mon 23 Nov 2026
            t                      | is Mon 23 Nov 2026
            yesterday              | is Sun 22 Nov 2026
            this week              | 23 Nov to 29 Nov 2026
            last week              | 16 Nov to 22 Nov 2026
            last month             | 1 Oct to 31 Oct 2026
            next year              | 1 Jan to 31 Dec 2027
            8/1                    | is Sat 1 Aug 2026
            2025-05 to 2026-04     | 1 May 2025 to 30 Apr 2026
            after 2026-05          | after Sun 31 May 2026
            before 2026            | before Thu 1 Jan 2026
            at least 2026          | from Thu 1 Jan 2026 on
            to last month          | up to Sat 31 Oct 2026
            not 2026               | not 1 Jan to 31 Dec 2026
            2025 or this month     | 1 Jan to 31 Dec 2025, or 1 Nov to 30 Nov 2026
            2026-13                | no: “2026-13” can't be read as a date. Write it like 2026-05-01, > 2026-05-01 or 2026-05-01 to 2026-05-31. May 2026 and last month are understood too.
            """)
    void reads_criteria_on_dates(String typed, String words) {
        assertThat(said(column(ColumnType.DATE), typed)).isEqualTo(words);
    }

    @ParameterizedTest(name = "{0}: {1} -> {2}")
    @CsvSource(delimiter = '|', textBlock = """
            DATETIME | 2026-05                       | 1 May to 31 May 2026
            DATETIME | today                         | is Mon 23 Nov 2026
            DATETIME | after 2026-05-01 9:30         | after Fri 1 May 2026, 09:30
            DATETIME | after 2026-05-01              | from Sat 2 May 2026, 00:00 on
            TIME     | 9 to 1730                     | 09:00 to 17:30
            TIME     | before 9pm                    | before 21:00
            YESNO    | y                             | is yes
            YESNO    | not yes                       | is not yes
            YESNO    | maybe                         | no: Type y, n, empty or filled.
            WHOLE    | > 7.5                         | above 7
            WHOLE    | 7.5                           | no: “7.5” has decimals; this field holds whole numbers.
            WHOLE    | > 99999999999999999999        | no: “99999999999999999999” is larger than any number here.
            CHOICE   | wet                           | is “Wet”
            CHOICE   | rain                          | is “Light rain” or “Heavy rain”
            CHOICE   | l*                            | is “Light rain”
            CHOICE   | not wet or empty              | is not “Wet”, or is empty
            WHOLE    | "                             | no: There is nothing in the quotes. To find what has nothing in it, type empty.
            WHOLE    | > ""                          | no: There is nothing in the quotes. To find what has nothing in it, type empty.
            DATE     | from "                        | no: There is nothing in the quotes. To find what has nothing in it, type empty.
            YESNO    | "                             | no: There is nothing in the quotes. To find what has nothing in it, type empty.
            CHOICE   | snow                          | no: “snow” is not on the list. There is Wet, Light rain, Heavy rain.
            """)
    void reads_criteria_on_other_types(ColumnType type, String typed, String words) {
        var column = column(
                type, type == ColumnType.CHOICE ? new String[] {"Wet", "Light rain", "Heavy rain"} : new String[0]);
        assertThat(said(column, typed)).isEqualTo(words);
    }

    @ParameterizedTest(name = "{0} -> {1}")
    @CsvSource(delimiter = '|', quoteCharacter = '`', textBlock = """
            wet                      | is “Wet” or “Wet or damp” or “Not wet”
            "wet"                    | is “Wet”
            = wet                    | is “Wet”
            Wet or damp              | is “Wet or damp”
            wet or damp or sand      | is “Wet or damp” or “Sand and gravel”
            not Wet or damp          | is not “Wet or damp”
            Not applicable           | is “Not applicable”
            = Not applicable         | is “Not applicable”
            not not applicable       | is not “Not applicable”
            Sand and gravel          | is “Sand and gravel”
            not wet                  | is “Not wet”
            Empty                    | is “Empty”
            not filled               | is empty
            not "empty"              | is not “Empty”
            """)
    void the_words_of_a_list_win_over_the_language(String typed, String words) {
        var list = column(
                ColumnType.CHOICE, "Wet", "Wet or damp", "Not wet", "Not applicable", "Sand and gravel", "Empty");
        assertThat(said(list, typed)).isEqualTo(words);
    }

    /** Whatever a text is, there is a way to write it that finds it; as it stands, unless it is words of the language. */
    @Property
    void every_text_can_be_found_by_writing_it_in_quotes(@ForAll @From("texts") String text) {
        var column = column(ColumnType.TEXT);
        var quoted = "\"" + text.replace("\"", "\"\"") + "\"";
        assertThat(reader.read(column, quoted)).isEqualTo(new Criterion.Read(new Criterion.Is(new Value.Text(text))));
        if (!text.startsWith("\"")
                && !text.contains(" \"")
                && !text.matches("(?i)(empty|filled|.*\\b(and|or|not)\\b.*)")) {
            assertThat(reader.read(column, text)).isEqualTo(new Criterion.Read(Criterion.Like.having(text)));
        }
    }

    @Provide
    Arbitrary<String> texts() {
        return Arbitraries.strings()
                .withChars('a', 'B', '5', '"', '\'', ' ', '-', ',')
                .ofMinLength(1)
                .ofMaxLength(12)
                .map(NormalText::of)
                .map(text -> text.replaceAll(" +", " "))
                .filter(text -> !text.isEmpty());
    }

    /** Everybody's typing on the way to a criterion is read or explained, in every type, at once and in any field. */
    @Property
    void every_beginning_is_read_or_explained(@ForAll @From("typings") String typed, @ForAll ColumnType type) {
        var column = column(type, "Wet or damp", "Not applicable");
        for (int end = 1; end <= typed.length(); end++) {
            var part = typed.substring(0, end);
            if (!part.isBlank()) {
                assertThat(said(column, part)).isNotBlank();
                assertThat(reader.anywhere(column, part)).isNotNull();
            }
        }
    }

    @Provide
    Arbitrary<String> typings() {
        return Arbitraries.of(
                        "\"",
                        "\"\"",
                        ">",
                        "< ",
                        ">=",
                        "=",
                        "not ",
                        " or ",
                        " and ",
                        "to ",
                        "from ",
                        "empty",
                        "*",
                        "wet",
                        "7",
                        "-83",
                        "1e400",
                        "8/1",
                        "9:30",
                        "2026-05",
                        "last month",
                        "up to ",
                        "½",
                        "\u00A0",
                        "9999999999999999999999")
                .list()
                .ofMinSize(1)
                .ofMaxSize(6)
                .map(parts -> String.join("", parts));
    }

    @Test
    void a_number_in_any_field_is_no_count_of_days() {
        assertThat(reader.anywhere(column(ColumnType.DATE), "-83")).isEmpty();
        assertThat(reader.anywhere(column(ColumnType.DATETIME), "+3")).isEmpty();
        assertThat(reader.anywhere(column(ColumnType.WHOLE), "-83")).isPresent();
    }

    @Property
    void whatever_is_typed_is_read_or_explained(@ForAll String typed, @ForAll ColumnType type) {
        if (!typed.isBlank()) {
            assertThat(said(column(type, "a", "b"), typed)).isNotBlank();
        }
    }

    @Property
    void a_range_reads_the_same_in_signs_and_in_words(@ForAll int low, @ForAll int high) {
        var whole = column(ColumnType.WHOLE);
        assertThat(reader.read(whole, "at least " + low)).isEqualTo(reader.read(whole, ">=" + low));
        assertThat(reader.read(whole, Math.min(low, high) + " to " + Math.max(low, high)))
                .isEqualTo(reader.read(whole, "from " + Math.min(low, high) + " to " + Math.max(low, high)));
    }
}
