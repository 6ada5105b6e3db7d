package weft.core.formula;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigDecimal;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZonedDateTime;
import java.util.HashMap;
import java.util.Map;
import java.util.OptionalInt;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import weft.core.table.Column;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Reading;
import weft.core.value.ValueReader;

class FormulaTest {

    private static final Moment MOMENT = new Moment(ZonedDateTime.parse("2026-08-05T14:07:30Z"));
    private static final Map<String, Object> KNOWN = new HashMap<>(Map.of(
            "ph",
            new BigDecimal("7.4"),
            "taken_on",
            LocalDate.of(2026, 8, 1),
            "from_at",
            LocalDateTime.of(2026, 8, 1, 9, 0),
            "to_at",
            LocalDateTime.of(2026, 8, 1, 12, 30),
            "site",
            "QB-03",
            "last",
            Map.of("site", "QB-02")));

    static {
        KNOWN.put("remark", null);
    }

    private static Answer answer(String formula) {
        return Formula.of(formula).answer(KNOWN, MOMENT);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "0.1 + 0.2 | 0.3",
                "ph * 3 | 22.2",
                "taken_on + duration(\"P1D\") | Sun 2 Aug 2026",
                "today() | Wed 5 Aug 2026",
                "now() > from_at | yes",
                "now() | Wed 5 Aug 2026, 14:07:30",
                "date(from_at) | Sat 1 Aug 2026",
                "hours(to_at - from_at) | 3.5",
                "last.site | QB-02",
                "if remark = null then \"none\" else remark | none",
                "upper case(site) + \"!\" | QB-03!",
                "matches(site, \"^[A-Z]+-[0-9]+$\") | yes",
                "matches(site, \"(?=Q)\") | The pattern “(?=” can't be read: invalid or unsupported Perl syntax.",
                "replace(site, \"-0*\", \" \") | QB 3",
                "split(site, \"-\")[2] | 03",
                "overlaps([1..5], [5..8]) | yes"
            })
    void formulasAreExactAndKnowTheMoment(String formula, String words) {
        assertThat(answer(formula).words()).isEqualTo(words);
    }

    @Test
    void whatIsAskedOfNothingIsNothingAndWhatCannotBeIsAFault() {
        assertThat(answer("remark + 1")).isEqualTo(Answer.NOTHING);
        assertThat(answer("remark > 3").yes()).isFalse();
        assertThat(answer("remark > 3").no()).isFalse();
        assertThat(answer("site + 1")).isInstanceOf(Answer.Fault.class);
        assertThat(answer("[1, 2]").words()).contains("gives a list");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "1 + | can't be read from character 3 on: “+”",
                "ph >> 3 | can't be read from character",
                "for i in 1..1000000000 return i | can't count through a range",
                "every i in 1..1000000000 satisfies i > 0 | can't count through a range",
                "for i in [1], j in [1] return i | one list at a time",
                "function(a) a | can't define functions",
                "[1][[2][[3][item > 1] > 1] > 1] | lists within lists",
                "for a in [1] return for b in [1] return for c in [1] return 1 | lists within lists",
                "'' | is empty"
            })
    void whatIsNoFormulaIsRefusedInASentence(String formula, String words) {
        assertThatThrownBy(() -> Formula.of(formula))
                .isInstanceOf(Formula.Misread.class)
                .hasMessageContaining(words);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "matches(long, \"(a+)+$\")",
                "matches(long, \"(a|aa)+$\")",
                "replace(long, \"(a*)*b\", \"\")",
                "count(split(long, \"(x+x+)+y\"))",
                "count(for a in LIST return for b in LIST return a + b)",
                "decimal(1, 100000000)",
                "floor(10**100000000)",
                "ceiling(10**-100000000)",
                "round half up(1.5, 500000000)",
                "round down(1.5, -500000000)",
                "string(10**100000000)",
                "modulo(10**100000000, 7)",
                "number(\"1e1000000000\")",
                "number(\"1e1000000000\") + 1",
                "10**999999999",
                "-1 * 10**999999999 > 1",
                "{a: 10**900, b: a*a, c: b*b, d: c*c, e: floor(d*d)}.e",
                "{a: long, b: a+a+a+a+a+a+a+a, c: b+b+b+b+b+b+b, d: c+c+c+c+c+c+c, e: d+d+d+d+d+d+d+d, f: e+e+e+e+e}.f",
                "{a: LIST, b: concatenate(a,a,a,a,a,a), c: concatenate(b,b,b,b,b,b), d: concatenate(c,c,c,c,c,c,c)}.d",
                "matches(long, \"((((a{1000}){1000}){1000}){1000})\")",
                "matches(long, \"(((a{1,1000}){0,1000}b){1000,})\")",
                "split(long, \"\")[1]",
                "string join(split(long, \"\"), long)"
            })
    void everyFormulaEndsInTime(String pattern) {
        var list = "[" + "1,".repeat(150) + "1]";
        var known = Map.<String, Object>of("long", "a".repeat(5_000) + "!", "list", list);
        var formula =
                Formula.of(pattern.replaceFirst("LIST", list).replace("LIST", "[1,2,3,4,5,6,7,8,9,10,11,12,13,14,15]"));
        long before = System.nanoTime();
        assertThat(formula.answer(known, MOMENT)).isNotNull();
        assertThat(Duration.ofNanos(System.nanoTime() - before)).isLessThan(Feel.TIME.multipliedBy(5));
    }

    @Test
    void aTextHoldsFormulasInBraces() {
        var template = Template.of("Site {site} at pH {ph}{remark}.");
        assertThat(template.names()).containsExactlyInAnyOrder("site", "ph", "remark");
        assertThat(template.words(KNOWN, MOMENT)).isEqualTo("Site QB-03 at pH 7.4.");
        assertThatThrownBy(() -> Template.of("Site {site")).hasMessageContaining("not closed");
    }

    /** Brackets, and whatever else calls itself, to any depth: read or refused, in no time. */
    @ParameterizedTest
    @ValueSource(strings = {"(", "[", "not(", "{a:", "-", "if true then 1 else ", "1+", "1**", "ph in (", "x["})
    void noFormulaIsTooDeepToBeRefused(String part) {
        for (int depth : new int[] {5, 20, 40, 150, 600}) {
            var text = part.repeat(depth) + "1"
                    + (part.endsWith("(") ? ")" : part.endsWith("[") ? "]" : part.endsWith(":") ? "}" : "")
                            .repeat(depth);
            if (text.length() > Formula.LONGEST) {
                continue;
            }
            long before = System.nanoTime();
            try {
                assertThat(Formula.of(text).answer(KNOWN, MOMENT)).isNotNull();
            } catch (Formula.Misread refused) {
                assertThat(refused.sentence()).isNotBlank();
            }
            assertThat(Duration.ofNanos(System.nanoTime() - before)).as(text).isLessThan(Feel.TIME.multipliedBy(5));
        }
    }

    /** Whatever is worked out from several values is nothing while any of them is empty, and never a fault. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "a + b",
                "a * b",
                "a ** b",
                "a / b",
                "max(a, b)",
                "min([a, b])",
                "sum(a, b)",
                "mean(a, b)",
                "decimal(a, b)",
                "d.year + a",
                "d.month + b",
                "date(d).year + a",
                "d - d2",
                "days(d - d2)",
                "last.a + b",
                "upper case(s) + t",
                "substring(s, a)",
                "string length(s) + a",
                "contains(s, t)",
                "matches(s, t)",
                "split(s, t)[a]",
                "if a > b then a else b",
                "floor(a) + ceiling(b)",
                "day of week(d) + s",
                "d + duration(s)",
                "number(s) + a",
                "round half up(a, b)",
                "a in [1..b]",
                "abs(a) + b"
            })
    void emptyInEmptyOut(String text) {
        var formula = Formula.of(text);
        var full = new HashMap<String, Object>(Map.of(
                "a",
                new BigDecimal("2"),
                "b",
                new BigDecimal("3"),
                "d",
                LocalDate.of(2026, 8, 1),
                "d2",
                LocalDate.of(2026, 7, 1),
                "s",
                "1",
                "t",
                "1"));
        for (var empty : formula.names()) {
            var known = new HashMap<String, Object>(full);
            known.put("last", new HashMap<String, Object>(full));
            if (empty.equals("last")) {
                var nothing = new HashMap<String, Object>();
                nothing.put("a", null);
                known.put("last", nothing);
            } else {
                known.put(empty, null);
            }
            var answer = formula.answer(known, MOMENT);
            assertThat(answer).as(text + " without " + empty).isNotInstanceOf(Answer.Fault.class);
        }
    }

    @Test
    void resultsAreRoundedHalfToEvenToWhatTheColumnHoldsAndWhatIsTypedNever() {
        var reader = ValueReader.ofStored(Conventions.DEFAULT);
        var decimal = Column.plain("d", "D", ColumnType.DECIMAL);
        assertThat(read(answer("1/3").in(decimal, reader))).isEqualTo("0.333333333333333");
        assertThat(read(answer("2 ** 0.5").in(decimal, reader))).startsWith("1.41421356237309");
        var one = decimal.scaled(OptionalInt.of(1));
        assertThat(read(answer("2.25").in(one, reader))).isEqualTo("2.2");
        assertThat(read(answer("2.35").in(one, reader))).isEqualTo("2.4");
        assertThat(read(answer("5 / 2").in(Column.plain("w", "W", ColumnType.WHOLE), reader)))
                .isEqualTo("2");
        assertThat(reader.read(one.kind(), "2.25")).isInstanceOf(Reading.Refused.class);
        assertThat(answer("10 ** 30").in(decimal, reader)).isInstanceOf(Reading.Refused.class);
    }

    private static String read(Reading reading) {
        return ((Reading.Read) reading).value().plain();
    }
}
