package weft.store.table;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.List;
import java.util.TimeZone;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weft.core.table.Column;
import weft.core.value.ColumnType;
import weft.core.value.Value;
import weft.store.TestDatabase;

/** Dates and times are what was typed, in whatever zone the server stands: no hour is missing, and no day of any calendar. */
@ExtendWith(TestDatabase.class)
class LocalBindingTest {

    private static final TimeZone HERE = TimeZone.getDefault();

    private static final List<Value> VALUES = List.of(
            new Value.Day(LocalDate.of(1, 1, 1)),
            new Value.Day(LocalDate.of(900, 2, 28)),
            new Value.Day(LocalDate.of(1582, 10, 10)),
            new Value.Day(LocalDate.of(2026, 4, 24)),
            new Value.Day(LocalDate.of(9999, 12, 31)),
            new Value.Day(LocalDate.of(12026, 8, 1)),
            new Value.Day(LocalDate.of(-43, 3, 15)),
            new Value.Day(LocalDate.MAX),
            new Value.Moment(LocalDateTime.of(-43, 3, 15, 11, 0, 1)),
            new Value.Moment(LocalDateTime.MIN),
            new Value.Hour(LocalTime.of(2, 30)),
            new Value.Hour(LocalTime.of(23, 59, 59, 999_999_000)),
            new Value.Moment(LocalDateTime.of(1582, 10, 10, 0, 0)),
            new Value.Moment(LocalDateTime.of(2026, 3, 8, 2, 30)),
            new Value.Moment(LocalDateTime.of(2026, 3, 29, 2, 30, 1, 123_456_000)),
            new Value.Moment(LocalDateTime.of(2026, 4, 24, 0, 0)));

    @AfterEach
    void stay() {
        TimeZone.setDefault(HERE);
    }

    private static Column column(Value value) {
        return Column.plain(
                "c",
                "C",
                switch (value) {
                    case Value.Day _ -> ColumnType.DATE;
                    case Value.Hour _ -> ColumnType.TIME;
                    default -> ColumnType.DATETIME;
                });
    }

    private static Value back(Field<?> field) {
        return ColumnSql.value(
                TestDatabase.get().sql().select(field).fetchSingle().get(0));
    }

    @ParameterizedTest
    @ValueSource(strings = {"America/New_York", "Africa/Cairo", "Europe/Berlin", "UTC"})
    void everyMomentComesBackBoundAndWrittenOut(String zone) {
        TimeZone.setDefault(TimeZone.getTimeZone(zone));
        for (var value : VALUES) {
            var type = ColumnSql.type(column(value));
            assertThat(back(ColumnSql.bound(column(value), value))).isEqualTo(value);
            assertThat(back(DSL.field("{0}", type, ColumnSql.literal(value)))).isEqualTo(value);
            if (value.plain().matches("[-+].*")) {
                // PostgreSQL spells it otherwise than ISO 8601.
                continue;
            }
            var spelled = TestDatabase.get()
                    .sql()
                    .fetchSingle("select replace(({0})::text, ' ', 'T')", ColumnSql.bound(column(value), value))
                    .get(0, String.class);
            assertThat(value.plain()).startsWith(spelled.replaceFirst("(:\\d\\d):00$", "$1"));
        }
    }

    @Test
    void nothingIsNothing() {
        assertThat(back(ColumnSql.bound(Column.plain("c", "C", ColumnType.DATETIME), Value.EMPTY)))
                .isEqualTo(Value.EMPTY);
    }
}
