package weft.core.guess;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.From;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.constraints.NotEmpty;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weft.core.value.ColumnType;
import weft.core.value.Conventions.DayOrder;
import weft.core.value.Conventions.DecimalSign;
import weft.core.value.Kind;
import weft.core.value.Reading;
import weft.core.value.ValueReader;

class ColumnGuesserTest {

    private static Guess guess(String... cells) {
        var guesser = new ColumnGuesser("Heading");
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
                "1,234 ; 5,678 | TEXT",
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
        assertThat(guess.decimalSign()).isEqualTo(DecimalSign.COMMA);
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
        var guesser = new ColumnGuesser("mobile_phone");
        guesser.accept("4155550123");
        assertThat(guesser.guess().type()).isEqualTo(ColumnType.TEXT);
    }

    @Property
    void nineCellsInTenCanBeReadAsTheGuessedType(@ForAll @NotEmpty List<@From("cells") String> cells) {
        var guess = guess(cells.toArray(String[]::new));
        var reader = ValueReader.ofStored(guess.conventions());
        var kind = new Kind(guess.type(), guess.scale(), List.of());
        long read = cells.stream()
                .filter(cell -> reader.read(kind, cell) instanceof Reading.Read)
                .count();
        assertThat(read * 10).isGreaterThanOrEqualTo(cells.size() * 9L);
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
