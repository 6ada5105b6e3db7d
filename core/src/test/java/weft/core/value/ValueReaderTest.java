package weft.core.value;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.OptionalInt;
import java.util.stream.IntStream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.Chars;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Scale;
import net.jqwik.time.api.constraints.DateTimeRange;
import net.jqwik.time.api.constraints.Precision;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import weft.core.value.Conventions.DayOrder;
import weft.core.value.Conventions.DecimalSign;
import weft.core.value.Reading.Read;
import weft.core.value.Reading.Reason;
import weft.core.value.Reading.Refused;

/** What keyers type, and how it is read on Wednesday 5 August 2026 at 14:07. */
class ValueReaderTest {

    private static final LocalDateTime NOW = LocalDateTime.of(2026, 8, 5, 14, 7, 31);
    private static final ValueReader READER = new ValueReader(Conventions.DEFAULT, NOW);
    private static final ValueReader EUROPEAN =
            new ValueReader(new Conventions(DayOrder.DAY_FIRST, DecimalSign.COMMA), NOW);

    private static String read(ValueReader reader, ColumnType type, String typed) {
        return switch (reader.read(Kind.of(type), typed)) {
            case Read(var value, var _) -> value.plain();
            case Refused(var refusal) -> refusal.reason().name();
        };
    }

    @ParameterizedTest
    @CsvSource({
        "t, 2026-08-05", "today, 2026-08-05", "+3, 2026-08-08", "-1, 2026-08-04", "−1, 2026-08-04",
        "wed, 2026-08-05", "mon, 2026-08-03", "Thursday, 2026-07-30", "8/1, 2026-08-01", "8-1, 2026-08-01",
        "14/3, 2026-03-14", "8/1/25, 2025-08-01", "8.1.1999, 1999-08-01", "1/2/47, 1947-01-02",
                "2026-02-28, 2026-02-28",
        "20260228, 2026-02-28", "1 aug, 2026-08-01", "1 August 2025, 2025-08-01", "Aug 3 2025, 2025-08-03",
                "3rd aug, 2026-08-03",
        "2/30, UNREADABLE", "8/x, UNREADABLE", "13/13, UNREADABLE", "32, UNREADABLE", "2026-13-01, UNREADABLE",
        "0000-01-01, UNREADABLE", "2/29/2023, UNREADABLE"
    })
    void datesAreReadAsPeopleTypeThem(String typed, String date) {
        assertThat(read(READER, ColumnType.DATE, typed)).isEqualTo(date);
    }

    @ParameterizedTest
    @CsvSource({
        "9, 09:00:00",
        "930, 09:30:00",
        "9.30, 09:30:00",
        "9:30, 09:30:00",
        "2130, 21:30:00",
        "9pm, 21:00:00",
        "12am, 00:00:00",
        "12:15 pm, 12:15:00",
        "9:30:15, 09:30:15",
        "9 p.m., 21:00:00",
        "9:30 A.M., 09:30:00",
        "noon, 12:00:00",
        "midnight, 00:00:00",
        "now, 14:07:00",
        "24, UNREADABLE",
        "975, UNREADABLE",
        "13pm, UNREADABLE",
        "nine, UNREADABLE"
    })
    void timesAreReadAsPeopleTypeThem(String typed, String time) {
        assertThat(read(READER, ColumnType.TIME, typed)).isEqualTo(time);
    }

    @ParameterizedTest
    @CsvSource({
        "8/1 930, 2026-08-01T09:30:00", "t 9pm, 2026-08-05T21:00:00", "2026-08-01T09:30, 2026-08-01T09:30:00",
        "1 Aug 2025 9:30, 2025-08-01T09:30:00", "now, 2026-08-05T14:07:00", "mon 12:15 pm, 2026-08-03T12:15:00",
        "8/1, UNREADABLE", "9:30, UNREADABLE"
    })
    void aDateAndATimeTogether(String typed, String moment) {
        assertThat(read(READER, ColumnType.DATETIME, typed)).isEqualTo(moment);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "7.4 | 7.4",
                "  7.40 | 7.4",
                ".5 | 0.5",
                "-2 | -2",
                "−2.5 | -2.5",
                "1 234.5 | 1234.5",
                "1,234,567 | 1234567",
                "1,234.5 | 1234.5",
                "1,234 | UNREADABLE",
                "7,4 | UNREADABLE",
                "1\u00A0234.5 | 1234.5",
                "1\u202F234 | 1234",
                "\uFEFF7.4\u200B | 7.4",
                "1e5 | UNREADABLE",
                "7.4.1 | UNREADABLE",
                "seven | UNREADABLE",
                "123456789012345678901 | RANGE"
            })
    void numbersWithADecimalPoint(String typed, String number) {
        assertThat(read(READER, ColumnType.DECIMAL, typed)).isEqualTo(number);
    }

    @Test
    void aFormsConventionsDecide() {
        assertThat(read(EUROPEAN, ColumnType.DECIMAL, "1.234,5")).isEqualTo("1234.5");
        assertThat(read(EUROPEAN, ColumnType.DECIMAL, "7.4")).isEqualTo("UNREADABLE");
        assertThat(read(EUROPEAN, ColumnType.DATE, "8/1")).isEqualTo("2026-01-08");
    }

    @ParameterizedTest
    @CsvSource({
        "42, 42",
        "+42, 42",
        "4 200, 4200",
        "7.0, 7",
        "4.2, UNREADABLE",
        "9223372036854775808, RANGE",
        "x, UNREADABLE"
    })
    void wholeNumbers(String typed, String number) {
        assertThat(read(READER, ColumnType.WHOLE, typed)).isEqualTo(number);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "DECIMAL | 7,4 | “7,4” can't be read as a number. Write it like 7.4.",
                "DECIMAL | 1e3 | “1e3” can't be read as a number. Write it like 1000.",
                "DECIMAL | ½ | “½” can't be read as a number. Write it like 0.5.",
                "DECIMAL | about 12 | “about 12” can't be read as a number. Write it like 12 or 7.4.",
                "DECIMAL | 1,234 | “1,234” could be 1234 or 1.234. Write it so that it can be only one.",
                "WHOLE | 12.000 | “12.000” could be 12000 or 12.000. Write it so that it can be only one.",
                "WHOLE | 1e3 | “1e3” can't be read as a whole number. Write it like 1000.",
                "WHOLE | ½ | “½” can't be read as a whole number. Use digits only, such as 42."
            })
    void aRefusalAdvisesOnlyWhatMeansTheSame(ColumnType type, String typed, String message) {
        assertThat(READER.read(Kind.of(type), typed)).isInstanceOfSatisfying(Refused.class, refused -> {
            assertThat(refused.refusal().words()).isEqualTo(message);
            assertThat(refused.refusal().reason()).isEqualTo(Reason.UNREADABLE);
        });
    }

    /** Any blank, and what has no width, around and within: one value, and nothing when that is all. */
    @Property
    void textsThatLookAlikeAreOneValue(
            @ForAll @Chars({' ', '\t', '\u00A0', '\u2007', '\u202F', '\u3000', '\u200B', '\uFEFF', '\u2060'})
                    String blank) {
        assertThat(READER.read(Kind.of(ColumnType.TEXT), blank)).isEqualTo(Reading.EMPTY);
        for (var word : List.of("Be\u0301al", "B\u00E9al")) {
            assertThat(read(READER, ColumnType.TEXT, blank + word + blank)).isEqualTo("B\u00E9al");
        }
        assertThat(read(READER, ColumnType.TEXT, "Quill\u00A0Beck")).isEqualTo("Quill Beck");
        assertThat(read(READER, ColumnType.DATE, blank + "8/1" + blank)).isEqualTo("2026-08-01");
    }

    /** What is read back to a keyer can be typed. */
    @Property
    void whatWeftWritesItReads(
            @ForAll
                    @DateTimeRange(min = "1950-01-01T00:00:00", max = "2040-12-31T23:59:00")
                    @Precision(ChronoUnit.MINUTES)
                    LocalDateTime at,
            @ForAll boolean european) {
        var reader = european ? EUROPEAN : READER;
        assertThat(read(reader, ColumnType.DATETIME, new Value.Moment(at).spoken()))
                .isEqualTo(new Value.Moment(at).plain());
        assertThat(read(reader, ColumnType.DATE, new Value.Day(at.toLocalDate()).spoken()))
                .isEqualTo(at.toLocalDate().toString());
        assertThat(read(reader, ColumnType.TIME, new Value.Hour(at.toLocalTime()).spoken()))
                .isEqualTo(new Value.Hour(at.toLocalTime()).plain());
        for (var offset : List.of("Z", "+02:00", "-0530", ".000Z")) {
            assertThat(read(reader, ColumnType.DATETIME, new Value.Moment(at).plain() + offset))
                    .isEqualTo(new Value.Moment(at).plain());
        }
    }

    @Property
    void whatIsGuardedFromSpreadsheetsIsItselfAgain(
            @ForAll @Chars({'\'', '=', '+', '-', '@', 'a', '1', '\t', '\r', '\n'}) String text) {
        var guarded = SpreadsheetGuard.guarded(text);
        assertThat(SpreadsheetGuard.bare(guarded)).isEqualTo(text);
        assertThat(guarded.isEmpty() || "=+-@\t\r".indexOf(guarded.charAt(0)) < 0)
                .isTrue();
    }

    @Test
    void inStoredTextTheOrderHoldsAndAYearMayComeFirst() {
        var days = ValueReader.ofStored(new Conventions(DayOrder.DAY_FIRST, DecimalSign.POINT));
        assertThat(read(days, ColumnType.DATE, "25/12/2026")).isEqualTo("2026-12-25");
        assertThat(read(days, ColumnType.DATE, "12/25/2026")).isEqualTo("UNREADABLE");
        var years = ValueReader.ofStored(new Conventions(DayOrder.YEAR_FIRST, DecimalSign.POINT));
        assertThat(read(years, ColumnType.DATE, "26-08-01")).isEqualTo("2026-08-01");
        assertThat(read(years, ColumnType.DATE, "Mon 1 Aug 2026")).isEqualTo("UNREADABLE");
    }

    @ParameterizedTest
    @CsvSource({"y, true", "YES, true", "n, false", "No, false", "maybe, UNREADABLE"})
    void yesAndNo(String typed, String yes) {
        assertThat(read(READER, ColumnType.YESNO, typed)).isEqualTo(yes);
    }

    @Test
    void aChoiceIsFoundByItsBeginningWhateverTheCase() {
        var flow = new Kind(ColumnType.CHOICE, OptionalInt.empty(), List.of("low", "normal", "high", "höchst"));
        assertThat(READER.read(flow, "NOR")).isEqualTo(new Read(new Value.Text("normal"), "normal"));
        assertThat(READER.read(flow, "hoc")).isEqualTo(new Read(new Value.Text("höchst"), "höchst"));
        var blank = new Kind(ColumnType.CHOICE, OptionalInt.empty(), List.of("Quill\u00A0Beck", "Be\u0301al"));
        assertThat(READER.read(blank, "quill beck"))
                .isInstanceOfSatisfying(
                        Read.class, read -> assertThat(read.value()).isEqualTo(new Value.Text("Quill\u00A0Beck")));
        assertThat(READER.read(blank, "B\u00E9al")).isInstanceOf(Read.class);
        assertThat(READER.read(flow, "h")).isInstanceOf(Refused.class);
        assertThat(READER.read(flow, "dry"))
                .isEqualTo(new Refused(new Refusal.NotListed("dry", List.of("low", "normal", "high", "höchst"), 0)));
    }

    @Test
    void aRefusalDoesNotGrowWithWhatWasTypedOrWithTheList() {
        var many = IntStream.range(0, 900).mapToObj(n -> "choice " + n).toList();
        for (var type : ColumnType.values()) {
            var kind = new Kind(type, OptionalInt.empty(), many);
            for (var typed : List.of("x".repeat(60_000), "9".repeat(60_000), "1 Aug 2026 ".repeat(5_000))) {
                if (READER.read(kind, typed) instanceof Refused(var refusal)) {
                    assertThat(refusal.toString()).as(type.name()).hasSizeLessThan(300);
                }
            }
        }
    }

    @Test
    void moreDecimalsThanTheColumnTakesAreNotRoundedAway() {
        var oneDecimal = new Kind(ColumnType.DECIMAL, OptionalInt.of(1), List.of());
        assertThat(READER.read(oneDecimal, "7.45")).isEqualTo(new Refused(new Refusal.TooManyDecimals("7.45", 1)));
        assertThat(READER.read(oneDecimal, "7.40")).isEqualTo(new Read(new Value.Decimal(new BigDecimal("7.4")), ""));
    }

    @Test
    void textIsTrimmedAndKeptOnOneLineUnlessItIsLong() {
        assertThat(read(READER, ColumnType.TEXT, "  two\r\nlines ")).isEqualTo("two lines");
        assertThat(read(READER, ColumnType.LONGTEXT, " two\nlines\n")).isEqualTo("two\nlines");
        assertThat(read(READER, ColumnType.TEXT, "x".repeat(1_001))).isEqualTo("LENGTH");
        assertThat(read(READER, ColumnType.TEXT, "a\0b")).isEqualTo("UNREADABLE");
        assertThat(read(READER, ColumnType.TEXT, "half a pair \uD83D")).isEqualTo("UNREADABLE");
        assertThat(read(READER, ColumnType.TEXT, "whole \uD83D\uDC1F")).isEqualTo("whole \uD83D\uDC1F");
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "   ", "\t\n"})
    void nothingIsNothingInEveryType(String typed) {
        for (var type : ColumnType.values()) {
            assertThat(READER.read(Kind.of(type), typed)).isEqualTo(Reading.EMPTY);
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"t", "+3", "mon", "8/1", "1 Aug"})
    void inStoredTextNothingCountsFromToday(String typed) {
        assertThat(read(ValueReader.ofStored(Conventions.DEFAULT), ColumnType.DATE, typed))
                .isEqualTo("UNREADABLE");
    }

    @Test
    void jsonOfTheRightKindIsTakenAndOfTheWrongKindRefused() {
        var seven = new Typed.Given(new Value.Whole(7));
        assertThat(EUROPEAN.read(Kind.of(ColumnType.DECIMAL), seven))
                .isEqualTo(new Read(new Value.Decimal(new BigDecimal("7")), ""));
        assertThat(READER.read(Kind.of(ColumnType.TEXT), seven)).isInstanceOf(Refused.class);
        assertThat(READER.read(Kind.of(ColumnType.TEXT), new Typed.Foreign("a list")))
                .isEqualTo(new Refused(new Refusal.Foreign(ColumnType.TEXT, "a list")));
    }

    @Property
    void readingNeverFailsWhateverIsTyped(@ForAll String typed) {
        for (var type : ColumnType.values()) {
            assertThat(READER.read(Kind.of(type), typed)).isNotNull();
        }
    }

    @Property
    void whatIsStoredReadsBackAsItself(
            @ForAll @IntRange(min = -700_000, max = 2_900_000) int day, @ForAll @Scale(6) BigDecimal number) {
        var date = LocalDate.ofEpochDay(day);
        if (date.getYear() >= 1 && date.getYear() <= 9999) {
            assertThat(read(EUROPEAN, ColumnType.DATE, date.toString())).isEqualTo(date.toString());
        }
        var value = new Value.Decimal(number.stripTrailingZeros());
        if (READER.read(Kind.of(ColumnType.DECIMAL), value.plain()) instanceof Read(Value.Decimal(var again), var _)) {
            assertThat(again).isEqualByComparingTo(number);
        }
    }
}
