package weft.core.value;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDateTime;
import java.util.List;
import java.util.OptionalInt;
import java.util.Random;
import java.util.regex.Pattern;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import weft.core.value.Conventions.DayOrder;
import weft.core.value.Conventions.DecimalSign;
import weft.core.value.Reading.Refused;

class UnreadableTest {

    private static final LocalDateTime NOW = LocalDateTime.of(2026, 8, 1, 10, 0);
    private static final List<String> WORDS = List.of(
            "",
            "t",
            "today",
            "now",
            "noon",
            "midnight",
            "monday",
            "Sun",
            "tue",
            "9",
            "930",
            "9pm",
            "+3",
            "-",
            "1 Aug",
            "aug",
            ",",
            ".",
            "7,4",
            "x",
            "wet",
            "é",
            "ß",
            "１",
            "٣",
            "\u200b",
            " ",
            "½",
            "Ⅷ",
            "e",
            "1e5",
            "yesterday",
            "tomorrow",
            "am");

    private static Pattern pattern(String readable) {
        return Pattern.compile(readable, Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE);
    }

    /** Of short words every one, and of longer texts some hundred thousand. */
    @ParameterizedTest
    @EnumSource
    void nothingThatCanBeReadIsTakenForUnreadable(ColumnType type) {
        for (var order : DayOrder.values()) {
            for (var sign : DecimalSign.values()) {
                var conventions = new Conventions(order, sign);
                var kind = new Kind(type, OptionalInt.empty(), List.of("low", "high"));
                var known = Unreadable.of(kind, conventions, NOW);
                if (known.isEmpty()) {
                    continue;
                }
                var readable = pattern(known.get().readable());
                var reader = new ValueReader(conventions, NOW);
                texts().filter(text -> !readable.matcher(text).find())
                        .forEach(text -> assertThat(reader.read(kind, text))
                                .as(text)
                                .isInstanceOfSatisfying(
                                        Refused.class,
                                        refused -> assertThat(refused.refusal().words())
                                                .isEqualTo(
                                                        known.get().words().replace("{typed}", NormalText.of(text)))));
            }
        }
    }

    private static Stream<String> texts() {
        var random = new Random(11);
        var words = IntStream.range(0, 26 * 26 * 26)
                .mapToObj(n -> "" + (char) ('a' + n / 676) + (char) ('a' + n / 26 % 26) + (char) ('a' + n % 26));
        var mixed = IntStream.range(0, 20_000)
                .mapToObj(_ -> IntStream.rangeClosed(0, random.nextInt(3))
                        .mapToObj(_ -> WORDS.get(random.nextInt(WORDS.size())))
                        .reduce("", (text, word) -> text + (random.nextBoolean() ? " " : "") + word));
        return Stream.of(words, mixed, WORDS.stream()).flatMap(each -> each);
    }

    @Test
    void lettersAreNoNumberAndNoDay() {
        var number = Unreadable.of(new Kind(ColumnType.WHOLE, OptionalInt.empty(), List.of()), Conventions.DEFAULT, NOW)
                .orElseThrow();
        assertThat(pattern(number.readable()).matcher("many").find()).isFalse();
        assertThat(number.words()).isEqualTo("“{typed}” can't be read as a whole number. Use digits only, such as 42.");
        var day = Unreadable.of(new Kind(ColumnType.DATE, OptionalInt.empty(), List.of()), Conventions.DEFAULT, NOW)
                .orElseThrow();
        assertThat(pattern(day.readable()).matcher("quill").find()).isFalse();
    }
}
