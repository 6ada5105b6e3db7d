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
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

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
                "count(for a in LIST return for b in LIST return for c in LIST return for d in LIST return for e in LIST return a)"
            })
    void everyFormulaEndsInTime(String pattern) {
        var list = "[" + "1,".repeat(150) + "1]";
        var known = Map.<String, Object>of("long", "a".repeat(5_000) + "!", "list", list);
        var formula =
                Formula.of(pattern.replaceFirst("LIST", list).replace("LIST", "[1,2,3,4,5,6,7,8,9,10,11,12,13,14,15]"));
        long before = System.nanoTime();
        formula.answer(known, MOMENT);
        assertThat(Duration.ofNanos(System.nanoTime() - before)).isLessThan(Feel.TIME.multipliedBy(5));
    }

    @Test
    void aTextHoldsFormulasInBraces() {
        var template = Template.of("Site {site} at pH {ph}{remark}.");
        assertThat(template.names()).containsExactlyInAnyOrder("site", "ph", "remark");
        assertThat(template.words(KNOWN, MOMENT)).isEqualTo("Site QB-03 at pH 7.4.");
        assertThatThrownBy(() -> Template.of("Site {site")).hasMessageContaining("not closed");
    }
}
