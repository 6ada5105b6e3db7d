package weft.store.find;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.Arrays;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weft.core.table.Column;
import weft.core.table.Faults;
import weft.core.value.ColumnType;

class CursorTest {

    private static Column column(ColumnType type) {
        return Column.plain("c", "C", type);
    }

    @Test
    void keys_of_every_type_come_back_as_they_were() {
        var columns = Arrays.stream(ColumnType.values()).map(CursorTest::column).toList();
        var keys = Arrays.<Object>asList(
                "tab\t\"quote\" 水 ",
                "two\nlines",
                Long.MIN_VALUE,
                new BigDecimal("-0.10"),
                false,
                LocalDate.of(1, 1, 1),
                LocalTime.of(23, 59, 59),
                LocalDateTime.of(9999, 12, 31, 0, 0),
                "",
                UUID.fromString("0b6c7d3e-1f20-4a4b-9c5d-8e7f60718293"),
                "s-1, stepping stones");
        for (var cursor : List.of(
                new Cursor(keys, 7, false),
                new Cursor(keys, Long.MAX_VALUE, true),
                new Cursor(Arrays.asList(new Object[columns.size()]), 1, false))) {
            assertThat(cursor.wire()).matches("[A-Za-z0-9_-]+");
            assertThat(Cursor.read(cursor.wire(), columns)).isEqualTo(cursor);
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "*",
                "bm9uZQ",
                "WzEsMF0",
                "W10",
                "e30",
                "WzEsMCwiMjAyNi0xMy0wMSJd",
                "WyJ4IiwwLCIyMDI2LTAxLTAxIl0"
            })
    void whatever_else_is_sent_is_refused_in_a_sentence(String wire) {
        assertThatThrownBy(() -> Cursor.read(wire, List.of(column(ColumnType.DATE))))
                .isInstanceOf(Faults.class)
                .hasMessageStartingWith("This place in the list belongs to another order.");
    }
}
