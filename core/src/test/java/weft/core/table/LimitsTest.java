package weft.core.table;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigDecimal;
import java.util.Optional;
import net.jqwik.api.Example;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import weft.core.table.Limits.Side;
import weft.core.value.ColumnType;
import weft.core.value.Reading;
import weft.core.value.Value;

class LimitsTest {

    @Property
    void aValueIsWithinBelowOrAboveAndNeverTwoOfThese(@ForAll short least, @ForAll short most, @ForAll short value) {
        var limits = new Limits(whole(least), whole(most));
        var expected = value < least
                ? Optional.of(Side.BELOW)
                : value > most ? Optional.of(Side.ABOVE) : Optional.<Side>empty();
        assertThat(limits.outOf(new Value.Decimal(BigDecimal.valueOf(value)))).isEqualTo(expected);
        assertThat(new Limits(whole(least), Optional.empty()).outOf(new Value.Whole(value)))
                .isEqualTo(value < least ? Optional.of(Side.BELOW) : Optional.empty());
        assertThat(Limits.NONE.outOf(new Value.Whole(value))).isEmpty();
    }

    @Property
    void aColumnAndWhatLooksAtStoredValuesAgree(@ForAll short value) {
        var column = Column.plain("depth", "Depth", ColumnType.WHOLE).within(whole((short) -100), whole((short) 100));
        var out = column.outOf(new Value.Whole(value));
        assertThat(new Fit(column, Optional.empty()).of(new Value.Whole(value)) instanceof Reading.Refused)
                .isEqualTo(out.isPresent());
    }

    private static Optional<Value> whole(short number) {
        return Optional.of(new Value.Whole(number));
    }

    @Example
    void aBoundIsThereOnTheSideThatAValueIsOutOn() {
        var limits = new Limits(whole((short) 1), Optional.empty());
        assertThat(limits.bound(Side.BELOW)).isEqualTo(new Value.Whole(1));
        assertThat(Side.ABOVE.word()).isEqualTo("above");
        assertThatThrownBy(() -> limits.outOf(new Value.Text("x"))).isInstanceOf(IllegalArgumentException.class);
    }
}
