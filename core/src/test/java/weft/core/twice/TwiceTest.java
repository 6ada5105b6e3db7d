package weft.core.twice;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import weft.core.find.Criterion;
import weft.core.find.CriterionReader;
import weft.core.twice.Twice.Texts;
import weft.core.value.Conventions;
import weft.core.value.Value;

class TwiceTest {

    private static final Texts LAX = new Texts(false, false);

    @Test
    void aShareIsDrawnFairlyAndIndependentlyOfWhatWasDrawnBefore() {
        var random = new Random(4);
        for (double share : new double[] {0.5, 5, 20, 50, 99, 100}) {
            var twice = new Twice(share, Twice.Way.BLIND, List.of(), Set.of(), Texts.EXACT, Set.of());
            int entries = 40_000;
            int drawn = 0;
            int pairs = 0;
            boolean before = false;
            for (int n = 0; n < entries; n++) {
                boolean now = twice.draws(random);
                drawn += now ? 1 : 0;
                pairs += now && before ? 1 : 0;
                before = now;
            }
            double p = share / 100;
            // Five standard deviations of a binomial.
            assertThat((double) drawn)
                    .isBetween(
                            entries * p - 5 * Math.sqrt(entries * p * (1 - p)),
                            entries * p + 5 * Math.sqrt(entries * p * (1 - p)));
            double both = p * p;
            assertThat((double) pairs)
                    .isBetween(
                            entries * both - 8 * Math.sqrt(entries * both) - 1,
                            entries * both + 8 * Math.sqrt(entries * both) + 1);
        }
    }

    @Test
    void valuesAreComparedAsTheyAreStored() {
        assertThat(same("May fly", "May fly", Texts.EXACT)).isTrue();
        assertThat(same("May fly", "may fly", Texts.EXACT)).isFalse();
        assertThat(same("May fly", "May  fly", Texts.EXACT)).isFalse();
        assertThat(same("May fly", "MAY \n fly ", LAX)).isTrue();
        assertThat(same("Straße", "STRASSE", LAX)).isTrue();
        assertThat(same("Mayfly", "May fly", LAX)).isFalse();
        assertThat(same("café", "cafe", LAX)).isFalse();
        assertThat(same("May fly", "may fly", new Texts(true, false))).isTrue();
        assertThat(same("May fly", "May  fly", new Texts(false, true))).isTrue();
        assertThat(same(decimal("2.50"), decimal("2.5"))).isTrue();
        assertThat(same(decimal("2"), new Value.Whole(2))).isTrue();
        assertThat(same(decimal("2.5"), decimal("2.51"))).isFalse();
        assertThat(same(new Value.Text("2"), new Value.Whole(2))).isFalse();
        assertThat(same(Value.EMPTY, Value.EMPTY)).isTrue();
        assertThat(same(Value.EMPTY, new Value.Whole(0))).isFalse();
        assertThat(same(new Value.Day(LocalDate.of(2026, 8, 1)), new Value.Day(LocalDate.of(2026, 8, 1))))
                .isTrue();
        assertThat(same(new Value.Link(4, 9, "QB-03"), new Value.Link(4, 0, "")))
                .isTrue();
    }

    private static boolean same(String one, String other, Texts texts) {
        return Comparison.same(new Value.Text(one), new Value.Text(other), texts);
    }

    private static boolean same(Value one, Value other) {
        return Comparison.same(one, other, Texts.EXACT) && Comparison.same(other, one, Texts.EXACT);
    }

    private static Value decimal(String number) {
        return new Value.Decimal(new BigDecimal(number));
    }

    @Test
    void bothAreShownOnlyWhenTheSameWasKeyedTwice() {
        var first = decimal("2.5");
        assertThat(AtOnce.of(first, Optional.empty(), decimal("2.50"), Texts.EXACT))
                .isEqualTo(AtOnce.SAME);
        assertThat(AtOnce.of(first, Optional.empty(), decimal("25"), Texts.EXACT))
                .isEqualTo(AtOnce.DIFFERS);
        assertThat(AtOnce.of(first, Optional.of(decimal("24")), decimal("25"), Texts.EXACT))
                .isEqualTo(AtOnce.DIFFERS);
        assertThat(AtOnce.of(first, Optional.of(decimal("25.0")), decimal("25"), Texts.EXACT))
                .isEqualTo(AtOnce.CHOOSE);
        assertThat(AtOnce.of(first, Optional.of(decimal("25")), decimal("2.5"), Texts.EXACT))
                .isEqualTo(AtOnce.SAME);
    }

    @Test
    void whatIsAskedOfTheStandingIsHeldAgainstEachOfThem() {
        assertThat(asked("waiting")).isEqualTo(EnumSet.of(Standing.WAITING));
        assertThat(asked("not waiting")).isEqualTo(EnumSet.complementOf(EnumSet.of(Standing.WAITING)));
        assertThat(asked("w* or d*")).isEqualTo(EnumSet.of(Standing.WAITING, Standing.DIFFERING));
        assertThat(asked("not once and not settled")).isEqualTo(EnumSet.of(Standing.WAITING, Standing.DIFFERING));
        assertThat(asked("empty")).isEmpty();
        assertThat(asked("filled")).isEqualTo(EnumSet.allOf(Standing.class));
    }

    private static Set<Standing> asked(String typed) {
        var read = new CriterionReader(
                        Conventions.DEFAULT, LocalDate.of(2026, 8, 1).atStartOfDay())
                .read(Standing.COLUMN, typed);
        assertThat(read).isInstanceOf(Criterion.Read.class);
        return Standing.matching(((Criterion.Read) read).criterion());
    }
}
