package weft.core.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import weft.core.work.Suggestions.Field;
import weft.core.work.Suggestions.Habit;
import weft.core.work.Suggestions.Rule;
import weft.core.work.Suggestions.Suggestion;

class WorkTest {

    @Test
    void quantilesOfClassesAreWithinATwentiethOfThoseOfWhatWasMeasured() {
        var random = new Random(8);
        for (int n : new int[] {1, 2, 3, 10, 99, 5_000}) {
            var measured = new ArrayList<Double>();
            var times = new HashMap<Integer, Long>();
            for (int i = 0; i < n; i++) {
                double seconds = Math.min(1_500, Math.max(0.11, Math.exp(1.5 + 1.2 * random.nextGaussian())));
                measured.add(seconds);
                times.merge(Classes.of(seconds), 1L, Long::sum);
            }
            measured.sort(null);
            for (double share : new double[] {0.01, 0.5, 0.9, 1}) {
                double exact = measured.get(Math.max(0, (int) Math.ceil(share * n) - 1));
                assertThat(Classes.quantile(times, share).orElseThrow())
                        .as("%s of %d", share, n)
                        .isCloseTo(exact, within(exact * 0.05));
            }
        }
        assertThat(Classes.quantile(Map.of(), 0.5)).isEmpty();
        assertThat(Classes.of(0)).isZero();
        assertThat(Classes.of(1e9)).isEqualTo(Classes.LAST);
    }

    @Test
    void theIntervalOfAShareIsWilsons() {
        // 10 of 100, as in Newcombe (1998).
        var tenth = new Share(10, 100);
        assertThat(tenth.low()).isCloseTo(0.0552, within(0.0001));
        assertThat(tenth.high()).isCloseTo(0.1744, within(0.0001));
        // 0 of 20, likewise.
        assertThat(new Share(0, 20).low()).isZero();
        assertThat(new Share(0, 20).high()).isCloseTo(0.1611, within(0.0001));
        assertThat(new Share(20, 20).low()).isCloseTo(0.8389, within(0.0001));
        assertThat(new Share(20, 20).high()).isEqualTo(1);
        assertThat(Share.NONE.low()).isZero();
        assertThat(Share.NONE.high()).isEqualTo(1);
    }

    /** It holds the true share in about 95 of a hundred samples. */
    @Test
    void theIntervalHoldsTheTrueShareAsOftenAsItSays() {
        var random = new Random(5);
        int held = 0;
        int samples = 4_000;
        for (int i = 0; i < samples; i++) {
            int hits = 0;
            for (int n = 0; n < 300; n++) {
                hits += random.nextDouble() < 0.04 ? 1 : 0;
            }
            var share = new Share(hits, 300);
            held += share.low() <= 0.04 && share.high() >= 0.04 ? 1 : 0;
        }
        assertThat((double) held / samples).isBetween(0.93, 0.98);
    }

    /** A field about which nothing is to be said. */
    private static final Field PLAIN = new Field("ph", "pH", false, false, 0, 1_000, 900, "7.2", 60, 40, 1_000, 10, 20);

    @Test
    void eachSuggestionIsMadeOfWhatShowsItAndNoOther() {
        assertThat(Suggestions.of(List.of(new Rule("rare", "pH is rare", 37, 30)), List.of(PLAIN)))
                .isEmpty();
        assertThat(of(new Rule("rare", "A pH of {ph} is rare here", 37, 35)))
                .containsExactly(
                        new Suggestion(
                                Habit.WAVED_THROUGH,
                                "rare",
                                "“A pH of {ph} is rare here” was answered save all the same 35 of 37 times. Does it ask too often?"));
        assertThat(of(field(0, 0, 0, 0, 0, 0))).containsExactly(Habit.UNFILLED);
        assertThat(of(field(990, 960, 0, 9, 0, 0))).containsExactly(Habit.SAME);
        assertThat(of(field(900, 400, 12, 3, 0, 0))).containsExactly(Habit.FEW_CHOICES);
        assertThat(of(field(900, 60, 0, 40, 80, 0))).containsExactly(Habit.TYPED_AGAIN);
        assertThat(of(field(900, 60, 0, 40, 0, 150))).containsExactly(Habit.GONE_BACK);
        assertThat(of(field(900, 400, 6, 3, 0, 0))).as("a short list").isEmpty();
        assertThat(of(field(900, 400, 12, 4, 0, 0))).as("four of them used").isEmpty();
        assertThat(of(field(900, 60, 0, 40, 49, 99))).as("now and then").isEmpty();
    }

    @Test
    void ofTooLittleNothingIsSaid() {
        var few = new Field("ph", "pH", false, false, 12, 49, 0, "", 0, 1, 49, 40, 40);
        assertThat(Suggestions.of(List.of(new Rule("rare", "rare", 20, 20)), List.of(few)))
                .isEmpty();
        var kept = new Field("ph", "pH", true, false, 0, 1_000, 1_000, "7", 1_000, 1, 1_000, 0, 0);
        assertThat(Suggestions.of(List.of(), List.of(kept)))
                .as("it stays already")
                .isEmpty();
        var needed = new Field("ph", "pH", false, true, 0, 1_000, 0, "", 0, 0, 1_000, 0, 0);
        assertThat(Suggestions.of(List.of(), List.of(needed)))
                .as("it must be filled")
                .isEmpty();
    }

    private static List<Suggestion> of(Rule rule) {
        return Suggestions.of(List.of(rule), List.of(PLAIN));
    }

    private static List<Habit> of(Field field) {
        return Suggestions.of(List.of(), List.of(field)).stream()
                .map(Suggestion::kind)
                .toList();
    }

    private static Field field(long filled, long usually, int list, int used, long again, long back) {
        return new Field("ph", "pH", false, false, list, 1_000, filled, "7", usually, used, 1_000, again, back);
    }
}
