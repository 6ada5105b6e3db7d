package weft.core.value;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatNoException;

import java.time.LocalDateTime;
import java.util.Arrays;
import java.util.List;
import java.util.OptionalInt;
import java.util.function.Consumer;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import weft.core.find.CriterionReader;
import weft.core.formula.Formula;
import weft.core.formula.Pattern;
import weft.core.formula.Template;
import weft.core.sentence.Unclear;
import weft.core.table.Column;
import weft.core.table.Faults;

/**
 * Whatever is sent to be read comes to an end: of so many characters, a reader whose time grows faster than the text would
 * take longer than these tests may.
 */
@Timeout(60)
class HostileTextTest {

    private static final int MANY = 100_000;

    private static final LocalDateTime NOW = LocalDateTime.of(2026, 8, 1, 10, 0);

    /** What one or another reader goes back over. */
    private static final List<String> PIECES = List.of(
            " not",
            "t ",
            "1 ",
            "T",
            " ",
            "-",
            "1-",
            "1.",
            "’1",
            "1,234",
            "12:",
            " to ",
            "(",
            "[",
            "\"",
            "\\",
            "*",
            "x or ",
            "e\u0301\u0327",
            "\u0315\u0300\u05ae",
            "\u0345",
            "ſ",
            "İ",
            "\n",
            "\r\n",
            "１",
            "½",
            "😀",
            "`",
            "{",
            "${",
            "a{9}");

    private static void each(Consumer<String> reader) {
        for (var piece : PIECES) {
            var text = piece.repeat(MANY / piece.length());
            reader.accept(text);
            reader.accept("1 " + text);
            reader.accept(text + "1");
        }
    }

    @Test
    void whatIsTypedIsReadInATimeThatGrowsAsTheTextDoes() {
        var reader = new ValueReader(Conventions.DEFAULT, NOW);
        for (var type : ColumnType.values()) {
            var kind = new Kind(type, OptionalInt.empty(), List.of("mayfly", "caddis"));
            each(text -> assertThat(reader.read(kind, text)).isNotNull());
        }
    }

    @Test
    void marksAreKeptInBoundsAndNoLetterIsLost() {
        var marked = "e" + "\u0301\u0316".repeat(200);
        var kept = NormalText.of(marked);
        assertThat(NormalText.of(kept)).isEqualTo(kept);
        assertThat(kept.codePoints().filter(c -> c == 0x0316).count()).isEqualTo(200);
        assertThat(NormalText.of("👩🏽‍🔬".repeat(40))).isEqualTo("👩🏽‍🔬".repeat(40));
        assertThat(NormalText.of("e\u0301")).isEqualTo("é");
    }

    @Test
    void criteriaFormulasPatternsAndMessagesAreRefusedOrRead() {
        var criteria = new CriterionReader(Conventions.DEFAULT, NOW);
        Arrays.stream(ColumnType.values())
                .filter(type -> type != ColumnType.LINK && type != ColumnType.CHOICE)
                .forEach(type -> each(text -> assertThat(criteria.read(Column.plain("c", "C", type), text))
                        .isNotNull()));
        each(text -> refusedOr(() -> Formula.of(text)));
        each(text -> refusedOr(() -> Pattern.of(text)));
        each(text -> refusedOr(() -> Template.of(text)));
        // As long as they may be, and as deep as that goes.
        for (var piece : List.of("-", "not(", "if true then ", "(1)+", "[", "a.", "\"", "x and ", "1 in ")) {
            refusedOr(() -> Formula.of(piece.repeat(Formula.LONGEST / piece.length())));
            refusedOr(() -> Formula.of(piece.repeat(Formula.LONGEST / piece.length() - 1) + "1"));
        }
    }

    private static void refusedOr(Runnable read) {
        assertThatNoException().isThrownBy(() -> {
            try {
                read.run();
            } catch (Formula.Misread | Faults | Unclear said) {
                assertThat(said.getMessage()).isNotBlank();
            }
        });
    }
}
