package weft.core.find;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDateTime;
import java.util.List;
import java.util.Optional;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.From;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Conventions.DayOrder;
import weft.core.value.Conventions.DecimalSign;
import weft.core.value.Respelling;

class RespelledWhereTest {

    private static final LocalDateTime NOW = LocalDateTime.parse("2026-11-23T10:00");
    private static final Table TABLE = new Table(
            "samples",
            "Samples",
            List.of(
                    Column.plain("site", "Site", ColumnType.TEXT),
                    Column.plain("ph", "pH", ColumnType.DECIMAL),
                    Column.plain("count", "Count", ColumnType.WHOLE),
                    Column.plain("day", "Day", ColumnType.DATE),
                    Column.plain("at", "At", ColumnType.DATETIME)),
            Table.Placement.AFTER_LAST);

    @Provide
    Arbitrary<Conventions> conventions() {
        return Combinators.combine(Arbitraries.of(DayOrder.values()), Arbitraries.of(DecimalSign.values()))
                .as(Conventions::new);
    }

    /** What people type for a number, a day or a moment, in any order and with any sign. */
    @Provide
    Arbitrary<String> operand() {
        var part = Arbitraries.integers().between(0, 32).map(String::valueOf);
        var between = Arbitraries.of("/", ".", "-", " ", ",");
        var digits = Combinators.combine(part, between, part).as((first, sign, second) -> first + sign + second);
        var dated = Combinators.combine(digits, Arbitraries.of("/2026", "/26", ".2001", "-1999", " 85", ""))
                .as(String::concat);
        var timed = Combinators.combine(dated, Arbitraries.of(" 9:30", " 17:05", " 8pm"))
                .as(String::concat);
        var words = Arbitraries.of("t", "today", "+3", "mon", "1 May", "May 2026", "last month", "2026-08-01", "12");
        return Arbitraries.frequencyOf(
                net.jqwik.api.Tuple.of(4, dated),
                net.jqwik.api.Tuple.of(2, timed),
                net.jqwik.api.Tuple.of(2, digits),
                net.jqwik.api.Tuple.of(1, words));
    }

    @Provide
    Arbitrary<String> criterion() {
        var one = Combinators.combine(
                        Arbitraries.of("", "> ", ">=", "not ", "at least ", "from ", "up to ", "= "), operand())
                .as(String::concat);
        var range = Combinators.combine(operand(), operand()).as((first, last) -> first + " to " + last);
        var single = Arbitraries.oneOf(one, range);
        return Arbitraries.oneOf(
                single,
                Combinators.combine(single, Arbitraries.of(" or ", " and "), single)
                        .as((first, word, second) -> first + word + second));
    }

    @Property(tries = 4_000)
    void whatIsAskedIsAskedStill(
            @ForAll @From("conventions") Conventions from,
            @ForAll @From("conventions") Conventions to,
            @ForAll @From("criterion") String typed) {
        for (var column : TABLE.columns()) {
            var meant = new CriterionReader(from, NOW).read(column, typed);
            var respelled = new RespelledWhere(TABLE, from, to, NOW).of(List.of(column.name() + ":" + typed));
            if (meant instanceof Criterion.Read) {
                assertThat(new CriterionReader(to, NOW)
                                .read(column, Where.of(respelled.getFirst()).typed()))
                        .describedAs("%s, respelled %s", typed, respelled)
                        .isEqualTo(meant);
            }
        }
    }

    @Property(tries = 2_000)
    void whatIsTypedMeansTheSameStill(
            @ForAll @From("conventions") Conventions from,
            @ForAll @From("conventions") Conventions to,
            @ForAll boolean stored,
            @ForAll @From("operand") String typed) {
        var now = stored ? Optional.<LocalDateTime>empty() : Optional.of(NOW);
        for (var column : TABLE.columns()) {
            var meant = Respelling.meant(from, column.kind(), typed, now);
            var spelled = new Respelling(from, to, now).of(column.kind(), typed);
            if (meant.isPresent()) {
                assertThat(Respelling.meant(to, column.kind(), spelled, now))
                        .describedAs("%s, respelled %s", typed, spelled)
                        .isEqualTo(meant);
            }
        }
    }

    @ParameterizedTest(name = "{0} to {1}: {2} -> {3}")
    @CsvSource(delimiter = '|', textBlock = """
            DAY_FIRST   | MONTH_FIRST | day:1/8/2026 to 12/9/2026        | day:8/1/2026 to 9/12/2026
            DAY_FIRST   | YEAR_FIRST  | at:> 1/8/2026 9:30 or last month | at:> 2026-08-01 09:30 or last month
            MONTH_FIRST | DAY_FIRST   | day:not 1/8                      | day:not 8/1
            MONTH_FIRST | MONTH_FIRST | ph:6.5 to 9                      | ph:6,5 to 9
            DAY_FIRST   | MONTH_FIRST | site:1/8/2026                    | site:1/8/2026
            """)
    void itIsWrittenAsTheFormIsTyped(DayOrder from, DayOrder to, String written, String respelled) {
        var where = new RespelledWhere(
                TABLE, new Conventions(from, DecimalSign.POINT), new Conventions(to, DecimalSign.COMMA), NOW);
        assertThat(where.of(List.of(written))).containsExactly(respelled);
    }
}
