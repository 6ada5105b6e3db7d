package weft.core.guess;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.text.DecimalFormat;
import java.text.DecimalFormatSymbols;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.function.Consumer;
import java.util.regex.Pattern;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.From;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.constraints.BigRange;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.NotEmpty;
import net.jqwik.api.constraints.Scale;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Conventions.DayOrder;
import weft.core.value.Conventions.DecimalSign;
import weft.core.value.Kind;
import weft.core.value.Reading;
import weft.core.value.ValueReader;

class ColumnGuesserTest {

    private static final Pattern SOME_CELLS = Pattern.compile("([0-9]+) of ([0-9]+) cells");

    private static Guess guess(String... cells) {
        var guesser = new ColumnGuesser("Heading", false);
        List.of(cells).forEach(guesser::accept);
        return guesser.guess();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "1 ; 22 ; -3 | WHOLE",
                "1 ; ; 3 | WHOLE",
                "1.5 ; 22 ; -0.25 | DECIMAL",
                "1,5 ; 22 ; 0,25 | DECIMAL",
                "1,234.50 ; 12.00 | DECIMAL",
                "yes ; no ; Yes | YESNO",
                "y ; n | YESNO",
                "2026-01-31 ; 2025-12-01 | DATE",
                "31/01/2026 ; 02/03/2026 | DATE",
                "1 Aug 2026 ; 12 Sep 2026 | DATE",
                "Aug 1, 2026 | DATE",
                "9:30 ; 17:05 | TIME",
                "9:30 pm ; 10:00 AM | TIME",
                "2026-01-31 09:30 ; 2026-01-31T10:15:00 | DATETIME",
                "31.01.2026 9:30 | DATETIME",
                "007 ; 123 ; 042 | TEXT",
                "+44 20 7946 0018 ; 020 7946 0018 | TEXT",
                "0123456789 | TEXT",
                "12 ; dry ; 1 Aug 2026 | TEXT",
                "1 ; 2 ; three ; four | TEXT",
                "01.10 ; 01.20 ; 1.30 | TEXT",
                "1,200 ; 3,450 ; 950 ; 999.50 | DECIMAL",
                "1.200 ; 3.450 ; 950 ; 999,50 | DECIMAL",
                "1,234 ; 5,678,901 | WHOLE",
                "12 345 ; 1 234 567 | WHOLE",
                "12 345 ; 020 7946 | TEXT",
                "12 mars 2024 ; 12 mar 2024 | TEXT",
                "9:30 a.m. ; 5 p.m. ; 10:00 AM | TEXT",
                "9:30 a.m. ; 10:00 p.m. | TIME",
                "8/1/2026, 9:30:00 AM ; 8/13/2026, 10:00 PM | DATETIME",
                "x | TEXT"
            })
    void typesAreGuessedFromTheCells(String cells, ColumnType type) {
        var guess = guess(cells.split(";", -1));
        assertThat(guess.type()).as(guess.reason()).isEqualTo(type);
        assertThat(guess.reason()).isNotBlank();
    }

    @Test
    void dayAndMonthAreAskedAboutWhenTheyCouldBeEitherWayRound() {
        var open = guess("03/04/2026", "05/06/2026");
        assertThat(open.type()).isEqualTo(ColumnType.DATE);
        assertThat(open.askDayOrder()).isTrue();
        assertThat(open.dayOrder()).isEmpty();
        assertThat(guess("03/04/2026", "25/06/2026").dayOrder()).contains(DayOrder.DAY_FIRST);
        assertThat(guess("03/04/2026", "06/25/2026").dayOrder()).contains(DayOrder.MONTH_FIRST);
        assertThat(guess("04/04/2026", "2026-03-02").askDayOrder()).isFalse();
        assertThat(guess("2026-03-02").dayOrder()).isEqualTo(Optional.empty());
    }

    @Test
    void whatGroupsThousandsMayStandBeforeDecimalsAndIsAskedAboutUnlessACellDecides() {
        for (var cells : List.of(List.of("1,200", "950"), List.of("1.200", "12.345"), List.of("1,200", "3.450"))) {
            var open = guess(cells.toArray(String[]::new));
            assertThat(open.type()).isEqualTo(ColumnType.DECIMAL);
            assertThat(open.signs().ask()).as(cells.toString()).isTrue();
            assertThat(open.reason()).contains("could group thousands");
        }
        assertThat(guess("1,200", "950").signs().said(DecimalSign.POINT).scale())
                .isZero();
        assertThat(guess("1,200", "950").signs().said(DecimalSign.COMMA).scale())
                .isEqualTo(3);
        assertThat(guess("1,200", "3.5").signs()).isEqualTo(new Signs(DecimalSign.POINT, false, 1, 3));
        assertThat(guess("1,200", "3,5").signs().sign()).isEqualTo(DecimalSign.COMMA);
    }

    @Test
    void twoDigitYearsMayComeFirst() {
        assertThat(guess("26-08-01", "25-12-31").askDayOrder()).isTrue();
        assertThat(guess("26-08-01", "99-12-31").dayOrder()).contains(DayOrder.YEAR_FIRST);
        assertThat(guess("26-08-01", "31-12-99").dayOrder()).contains(DayOrder.DAY_FIRST);
        assertThat(guess("26/08/01", "25/12/31").dayOrder()).contains(DayOrder.DAY_FIRST);
    }

    private static ValueReader reader(Guess guess, DecimalSign sign) {
        return ValueReader.ofGrouped(new Conventions(guess.dayOrder().orElse(guess.assumed()), sign));
    }

    /** However a column of numbers is written, it is read as those numbers, or somebody is asked how it is. */
    @Property
    void numbersComeBackAsTheyWereHoweverTheyAreWritten(
            @ForAll @Size(min = 1, max = 12)
                    List<@BigRange(min = "-9999999", max = "9999999") @Scale(4) BigDecimal> numbers,
            @ForAll boolean point,
            @ForAll @IntRange(max = 2) int grouping) {
        var sign = point ? DecimalSign.POINT : DecimalSign.COMMA;
        var symbols = new DecimalFormatSymbols(Locale.ROOT);
        symbols.setDecimalSeparator(sign.sign());
        symbols.setGroupingSeparator(grouping == 2 ? '\u00A0' : point ? ',' : '.');
        var format = new DecimalFormat(grouping == 0 ? "0.####" : "#,##0.####", symbols);
        var cells = numbers.stream().map(format::format).toList();
        var guess = guess(cells.toArray(String[]::new));
        if (guess.type() == ColumnType.TEXT) {
            return;
        }
        var signs = guess.signs().ask() ? guess.signs().said(sign) : guess.signs();
        var kind = new Kind(ColumnType.DECIMAL, OptionalInt.of(signs.scale()), List.of());
        for (int i = 0; i < cells.size(); i++) {
            assertThat(reader(guess, signs.sign()).read(kind, cells.get(i)))
                    .as(cells + " " + guess)
                    .isInstanceOfSatisfying(Reading.Read.class, number(numbers.get(i)));
        }
    }

    private static Consumer<Reading.Read> number(BigDecimal number) {
        return read -> assertThat(new BigDecimal(read.value().plain())).isEqualByComparingTo(number);
    }

    @Test
    void aFewStrayCellsDoNotChangeTheGuess() {
        var cells = new ArrayList<>(Collections.nCopies(18, "12"));
        cells.add("n/a");
        assertThat(guess(cells.toArray(String[]::new)).type()).isEqualTo(ColumnType.WHOLE);
        cells.addAll(List.of("?", "?", "?"));
        assertThat(guess(cells.toArray(String[]::new)).type()).isEqualTo(ColumnType.TEXT);
    }

    @Test
    void decimalsAndSignAreFound() {
        var guess = guess("1,5", "2,25", "1.234,5");
        assertThat(guess.signs().sign()).isEqualTo(DecimalSign.COMMA);
        assertThat(guess.scale()).hasValue(2);
    }

    @Test
    void longTextIsToldByLineBreaksAndLength() {
        assertThat(guess("one\ntwo").type()).isEqualTo(ColumnType.LONGTEXT);
        assertThat(guess("x".repeat(121)).type()).isEqualTo(ColumnType.LONGTEXT);
        assertThat(guess().reason()).isEqualTo("every cell is empty");
    }

    @Test
    void aHeadingThatSpeaksOfPhonesKeepsNumbersAsText() {
        var guesser = new ColumnGuesser("mobile_phone", false);
        guesser.accept("4155550123");
        assertThat(guesser.guess().type()).isEqualTo(ColumnType.TEXT);
    }

    /** What the reason claims to hold is counted by the reading itself. */
    @Property
    void asManyCellsAsTheReasonSaysCanBeReadAsTheGuessedType(@ForAll @NotEmpty List<@From("cells") String> cells) {
        var guess = guess(cells.toArray(String[]::new));
        var kind = new Kind(guess.type(), guess.scale(), List.of());
        long filled = cells.stream().filter(cell -> !cell.isBlank()).count();
        long read = cells.stream()
                .filter(cell -> !cell.isBlank())
                .filter(cell -> reader(guess, guess.signs().sign()).read(kind, cell) instanceof Reading.Read)
                .count();
        assertThat(read * 10).isGreaterThanOrEqualTo(filled * 9);
        var some = SOME_CELLS.matcher(guess.reason());
        if (some.find()) {
            assertThat(some.group(1) + " of " + some.group(2)).isEqualTo(read + " of " + filled);
        } else if (guess.reason().contains("every")) {
            assertThat(read).as(cells + guess.reason()).isEqualTo(filled);
        }
    }

    @Provide
    Arbitrary<String> cells() {
        return Arbitraries.of(
                "",
                "7",
                "12",
                "007",
                "1.5",
                "1,5",
                "1,234",
                "1,234.5",
                "1.234",
                "yes",
                "no",
                "2026-01-31",
                "3/4/2026",
                "25/4/2026",
                "4/25/2026",
                "26-08-01",
                "31/02/2026",
                "12 mars 2024",
                "9:30 a.m.",
                "8/1/2026, 9:30:00 AM",
                "12 345",
                "01.10",
                "12345678901234567890123.5",
                "1 Aug 2026",
                "9:30",
                "9:30 pm",
                "2026-01-31 9:30",
                "+44 20 7946 0018",
                "dry",
                "a\nb",
                "-0.50");
    }
}
