package weft.core.formula;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.time.Duration;
import java.time.ZonedDateTime;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/** What the formulas of one request may take, all together. */
class BudgetTest {

    private static final Moment NOW = new Moment(ZonedDateTime.now());
    private static final Formula SHORT = Formula.of("1 + 1");

    static {
        // The first formula of all takes as long as its engine needs to be loaded.
        SHORT.answer(Map.of(), NOW);
    }

    /** Takes longer than a formula may. */
    private static final Formula LONG = Formula.of(longest());

    /** Two lists, each gone through for each of the other, as many as a formula has room for. */
    static String longest() {
        var list = IntStream.range(0, 440).mapToObj(n -> "7").collect(Collectors.joining(",", "[", "]"));
        return "count(for a in %s return count(for b in %s return string(a * b)))".formatted(list, list);
    }

    private static final class Asked implements Budget.Turns {
        private final AtomicInteger turns = new AtomicInteger();
        private final boolean comes;
        private final boolean left;

        Asked(boolean comes, boolean left) {
            this.comes = comes;
            this.left = left;
        }

        @Override
        public boolean take() {
            turns.incrementAndGet();
            return comes;
        }

        @Override
        public boolean left() {
            return left;
        }
    }

    private static Answer answer(Formula formula) {
        return formula.answer(Map.of(), NOW);
    }

    private static Budget.Why over(Duration most, Asked turns, int formulas) {
        return catchThrowableOfType(
                        Budget.Exceeded.class,
                        () -> Budget.of(most, turns, () -> {
                            for (int n = 0; n < formulas; n++) {
                                answer(LONG);
                            }
                            return null;
                        }))
                .why();
    }

    @Test
    void whatIsShortTakesNoTurnHoweverManyThereAre() {
        var turns = new Asked(false, false);
        Budget.of(Duration.ofSeconds(10), turns, () -> assertThat(answer(SHORT)).isNotInstanceOf(Answer.Fault.class));
        assertThat(turns.turns).hasValue(0);
    }

    @Test
    void whatIsLongTakesOneTurnAndEndsWithTheBudget() {
        var turns = new Asked(true, false);
        assertThat(over(Duration.ofMillis(1_500), turns, 9)).isEqualTo(Budget.Why.SPENT);
        assertThat(turns.turns).hasValue(1);
    }

    @Test
    void whatGetsNoTurnOrIsWaitedForByNobodyIsNotWorkedOut() {
        assertThat(over(Duration.ofMinutes(1), new Asked(false, false), 1)).isEqualTo(Budget.Why.BUSY);
        assertThat(over(Duration.ofMinutes(1), new Asked(true, true), 1)).isEqualTo(Budget.Why.LEFT);
    }

    @Test
    void otherThreadsWorkUnderTheSameBudget() {
        var turns = new Asked(false, false);
        Budget.of(Duration.ofMinutes(1), turns, () -> {
            var budget = Budget.now();
            var whys = IntStream.range(0, 3)
                    .parallel()
                    .mapToObj(_ -> catchThrowableOfType(Budget.Exceeded.class, () -> budget.within(() -> answer(LONG))))
                    .map(Budget.Exceeded::why)
                    .toList();
            assertThat(whys).containsOnly(Budget.Why.BUSY);
            return null;
        });
    }
}
