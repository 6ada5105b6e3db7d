package weft.store.record;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.table.Table.Placement;
import weft.core.value.ColumnType;
import weft.core.value.Value;

/** What history holds are values: whatever becomes of a column, each comes back as it was, or is refused. */
class ValuesJsonTest {

    private static final List<Value> VALUES = List.of(
            Value.EMPTY,
            new Value.Text(" two  blanks "),
            new Value.Text("1.234,5"),
            new Value.Text("now"),
            new Value.Text("03/04/2026"),
            new Value.Text("true"),
            new Value.Whole(Long.MAX_VALUE),
            new Value.Whole(Long.MIN_VALUE),
            new Value.Whole(9_007_199_254_740_993L),
            new Value.Decimal(new BigDecimal("1234.5")),
            new Value.Decimal(new BigDecimal("0.1000")),
            new Value.Decimal(new BigDecimal("123456789012345678901234567890.123456789012345678901234567890")),
            new Value.YesNo(true),
            new Value.YesNo(false),
            new Value.Day(LocalDate.of(900, 2, 28)),
            new Value.Day(LocalDate.of(1582, 10, 10)),
            new Value.Day(LocalDate.of(2026, 4, 3)),
            new Value.Hour(LocalTime.of(0, 0)),
            new Value.Hour(LocalTime.of(9, 30, 0, 1_000)),
            new Value.Moment(LocalDateTime.of(2026, 3, 8, 2, 30)),
            new Value.Moment(LocalDateTime.of(2026, 8, 1, 10, 0, 0, 123_456_000)),
            new Value.Image(UUID.fromString("6f0c1e6e-6a9c-4f7b-9e0e-0a6a8d1f2b3c")),
            new Value.Link(9_007_199_254_740_993L, 7, "QB-03"));

    private static ColumnType typeOf(Value value) {
        return switch (value) {
            case Value.Empty _, Value.Text _ -> ColumnType.TEXT;
            case Value.Whole _ -> ColumnType.WHOLE;
            case Value.Decimal _ -> ColumnType.DECIMAL;
            case Value.YesNo _ -> ColumnType.YESNO;
            case Value.Day _ -> ColumnType.DATE;
            case Value.Hour _ -> ColumnType.TIME;
            case Value.Moment _ -> ColumnType.DATETIME;
            case Value.Image _ -> ColumnType.PICTURE;
            case Value.Link _ -> ColumnType.LINK;
        };
    }

    private static Table table(Column column) {
        return new Table("t", "T", List.of(column), Placement.AFTER_LAST);
    }

    private static Value again(Value value, Column column) {
        var json = ValuesJson.write(Map.of("c", value));
        var table = table(column);
        return ValuesJson.values(ValuesJson.read(json, table), table).get("c");
    }

    @Test
    void everyValueComesBackInItsOwnColumn() {
        for (var value : VALUES) {
            assertThat(again(value, Column.plain("c", "C", typeOf(value)))).isEqualTo(value);
        }
    }

    @Test
    void inAColumnOfAnotherTypeItSaysTheSameOrIsRefused() {
        for (var value : VALUES) {
            for (var type : ColumnType.values()) {
                var column = Column.plain("c", "C", type);
                try {
                    var back = again(value, column);
                    assertThat(back.plain()).as("%s as %s", value, type).isEqualTo(value.plain());
                } catch (ValuesJson.Inexact refused) {
                    assertThat(type).as("%s", value).isNotEqualTo(typeOf(value));
                    assertThat(refused.sentence()).contains("“C” was ", "Nothing was put back.");
                }
            }
        }
    }

    @Test
    void whatAColumnOfFewerDecimalsCannotHoldIsRefusedAndNotRounded() {
        var two = Column.plain("c", "C", ColumnType.DECIMAL).scaled(OptionalInt.of(2));
        assertThat(again(new Value.Decimal(new BigDecimal("7.4")), two))
                .isEqualTo(new Value.Decimal(new BigDecimal("7.40")));
        assertThat(catchThrowableOfType(
                                ValuesJson.Inexact.class, () -> again(new Value.Decimal(new BigDecimal("7.405")), two))
                        .sentence())
                .isEqualTo("“C” was 7.405 then, which it cannot hold any more. Nothing was put back.");
    }
}
