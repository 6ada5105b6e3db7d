package weft.core.usual;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;
import weft.core.entry.plan.EntryPlan;
import weft.core.form.FormMaking;
import weft.core.rule.Check;
import weft.core.rule.Check.For;
import weft.core.rule.Rules;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.table.Table.Placement;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Value;

class CountsTest {

    private static final Column WATER = Column.plain("water", "Water", ColumnType.DECIMAL);
    private static final Column RIVER = Column.plain("river", "River", ColumnType.CHOICE);
    private static final Column TAKEN = Column.plain("taken", "Taken on", ColumnType.DATE);
    private static final Column AT = Column.plain("at", "At", ColumnType.TIME);

    private static Counts counts(List<Integer> amounts) {
        var times = new HashMap<String, Long>();
        amounts.forEach(amount -> times.merge("" + amount, 1L, Long::sum));
        return new Counts(0, times);
    }

    /** By a list that is sorted and asked for its places. */
    @Property
    void anAmountIsHeldAgainstTheQuartiles(
            @ForAll @Size(min = 1, max = 60) List<@IntRange(min = -50, max = 50) Integer> amounts,
            @ForAll @IntRange(min = -400, max = 400) int amount) {
        var sorted = amounts.stream().sorted().toList();
        double first = sorted.get((sorted.size() + 3) / 4 - 1);
        double third = sorted.get((3 * sorted.size() + 3) / 4 - 1);
        double low = first == third ? sorted.getFirst() : first - 2.2 * (third - first);
        double high = first == third ? sorted.getLast() : third + 2.2 * (third - first);
        var usual = sorted.stream().filter(each -> each >= low && each <= high).toList();
        var beyond = counts(amounts).beyond("" + amount);
        assertThat(beyond.isPresent()).isEqualTo(amount < low || amount > high);
        beyond.ifPresent(found -> {
            assertThat(found.least()).isEqualByComparingTo("" + usual.getFirst());
            assertThat(found.most()).isEqualByComparingTo("" + usual.getLast());
            assertThat(found.beyond()).isEqualTo(sorted.size() - usual.size());
            assertThat(found.plot().ticks().stream()
                            .mapToLong(Unusual.Tick::records)
                            .sum())
                    .isEqualTo(sorted.size());
            assertThat(List.of(
                            found.plot().at(),
                            found.plot().least(),
                            found.plot().most()))
                    .allMatch(place -> place >= 0 && place <= 1);
        });
    }

    @Test
    void fewSayNothingAndAWordIsRareOfMany() {
        assertThat(counts(IntStream.range(0, 19).boxed().toList()).speaks(true)).isFalse();
        assertThat(counts(IntStream.range(0, 20).boxed().toList()).speaks(true)).isTrue();
        assertThat(new Counts(0, Map.of("a", 99L)).speaks(false)).isFalse();
        var many = new Counts(0, Map.of("a", 398L, "b", 2L, "c", 1L));
        assertThat(many.speaks(false)).isTrue();
        assertThat(many.rare("b")).contains(2L);
        assertThat(many.rare("d")).contains(0L);
        assertThat(new Counts(0, Map.of("a", 398L, "b", 2L)).rare("b")).isEmpty();
    }

    @Test
    void aRecordIsCountedInTheGroupsThatItIsOfTheNarrowestFirst() {
        var grouping = new Grouping(
                WATER, List.of(new Grouping.Part(RIVER, For.Of.VALUE), new Grouping.Part(TAKEN, For.Of.MONTH)), false);
        var values = new HashMap<Column, Value>(Map.of(
                WATER, new Value.Decimal(new BigDecimal("1013.250")),
                RIVER, new Value.Text("Wen"),
                TAKEN, new Value.Day(LocalDate.of(2026, 11, 3))));
        assertThat(grouping.place(values::get))
                .contains(new Grouping.Place("1013", List.of("2\u001fWen\u001f11", "1\u001fWen", "0")));
        values.put(TAKEN, Value.EMPTY);
        assertThat(grouping.place(values::get)).isEmpty();
        values.put(AT, new Value.Hour(LocalTime.of(9, 30, 59)));
        var hours = new Grouping(AT, List.of(new Grouping.Part(AT, For.Of.HOUR)), false);
        assertThat(hours.place(values::get)).contains(new Grouping.Place("570", List.of("1\u001f9", "0")));
    }

    private static List<String> faults(boolean adopted, For... by) {
        var table = new Table("t", "Samples", List.of(WATER, RIVER, TAKEN), Placement.AFTER_LAST, List.of(), adopted);
        var check = new Check("c", new Check.Usual("water", List.of(by), false), true, false, "");
        var form = FormMaking.from(table, "t", Conventions.DEFAULT).ruled(Rules.of(check));
        return EntryPlan.of(form, table).faults().stream()
                .map(EntryPlan.PlanFault::sentence)
                .toList();
    }

    @Test
    void aRuleThatWouldNeverAskIsAFault() {
        var river = new For("river", For.Of.VALUE);
        assertThat(faults(false, river, new For("taken", For.Of.MONTH))).isEmpty();
        assertThat(faults(true, river))
                .containsExactly("Samples was not made by Weft, and what is usual is not counted in such a table.");
        assertThat(faults(false, river, river))
                .containsExactly("Say each field that parts the records once, and another than Water itself.");
        assertThat(faults(false, new For("taken", For.Of.VALUE)))
                .containsExactly("Records can't be parted by the value of Taken on, which holds a date.");
        assertThat(faults(false, new For("river", For.Of.HOUR)))
                .containsExactly("Records can't be parted by the hour of River, which holds one of a list.");
    }
}
