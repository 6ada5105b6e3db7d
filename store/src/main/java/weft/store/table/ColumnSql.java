package weft.store.table;

import static org.jooq.impl.DSL.cast;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.inline;
import static org.jooq.impl.DSL.name;
import static org.jooq.impl.DSL.val;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.Objects;
import java.util.UUID;
import org.jooq.DataType;
import org.jooq.Field;
import org.jooq.JSONB;
import org.jooq.impl.SQLDataType;
import org.jspecify.annotations.Nullable;
import weft.core.table.Column;
import weft.core.value.ColumnType;
import weft.core.value.Value;

/** How columns and their values look to SQL. */
public final class ColumnSql {

    /** Digits before the decimal sign that a decimal column with a scale has room for. */
    private static final int WHOLE_DIGITS = 20;

    private ColumnSql() {}

    /** The SQL type of a column. */
    public static DataType<?> type(Column column) {
        return switch (column.type()) {
            case TEXT, LONGTEXT, CHOICE -> SQLDataType.CLOB;
            case WHOLE -> SQLDataType.BIGINT;
            case DECIMAL ->
                column.scale().isPresent()
                        ? SQLDataType.NUMERIC(
                                WHOLE_DIGITS + column.scale().getAsInt(),
                                column.scale().getAsInt())
                        : SQLDataType.NUMERIC;
            case YESNO -> SQLDataType.BOOLEAN;
            case DATE -> LocalBinding.DATE;
            case TIME -> LocalBinding.TIME;
            case DATETIME -> LocalBinding.DATETIME;
            case PICTURE -> SQLDataType.UUID;
            case LINK -> SQLDataType.BIGINT;
        };
    }

    /** The column as a field of a query. */
    public static Field<?> of(Column column) {
        return field(name(column.name()), type(column));
    }

    /** What is selected of a column to be read by {@link #value}: of a link, what its record is called as well. */
    public static Field<?> read(Column column) {
        return column.link().<Field<?>>map(link -> LinkSql.read(column, link)).orElseGet(() -> of(column));
    }

    /** The value as text that PostgreSQL casts to the column's type; null for nothing. */
    public static @Nullable String spelled(Value value) {
        return switch (value) {
            case Value.Empty() -> null;
            case Value.Link(long id, long _, var _) -> Long.toString(id);
            default -> value.plain();
        };
    }

    /** The value as JDBC takes it; null for nothing. */
    public static @Nullable Object jdbc(Value value) {
        return switch (value) {
            case Value.Empty() -> null;
            case Value.Text(var text) -> text;
            case Value.Whole(var number) -> number;
            case Value.Decimal(var number) -> number;
            case Value.YesNo(var yes) -> yes;
            case Value.Day(var date) -> date;
            case Value.Hour(var time) -> time;
            case Value.Moment(var at) -> at;
            case Value.Image(var id) -> id;
            case Value.Link(long id, long _, var _) -> id;
        };
    }

    /** The same of a value that is not empty. */
    public static Object filled(Value value) {
        return Objects.requireNonNull(jdbc(value), "empty");
    }

    /** The value as a literal of a definition, such as a check. */
    static Field<?> literal(Value value) {
        return switch (value) {
            case Value.Day(var date) -> inline(date, LocalBinding.DATE);
            case Value.Hour(var time) -> inline(time, LocalBinding.TIME);
            case Value.Moment(var at) -> inline(at, LocalBinding.DATETIME);
            default -> inline(jdbc(value));
        };
    }

    /** The value of what a query fetched of a column; null is nothing. */
    public static Value value(@Nullable Object fetched) {
        return switch (fetched) {
            case null -> Value.EMPTY;
            case String text -> new Value.Text(text);
            case Long number -> new Value.Whole(number);
            case BigDecimal number -> new Value.Decimal(number);
            case Boolean yes -> new Value.YesNo(yes);
            case LocalDate date -> new Value.Day(date);
            case LocalTime time -> new Value.Hour(time);
            case LocalDateTime at -> new Value.Moment(at);
            case UUID id -> new Value.Image(id);
            case JSONB link -> LinkSql.value(link);
            default -> throw new IllegalArgumentException(fetched.getClass().getName());
        };
    }

    /** The value as a bound parameter of the column's own type, so that an empty one is typed too. */
    public static Field<?> bound(Column column, Value value) {
        return column.type() == ColumnType.DECIMAL
                ? cast(val(jdbc(value)), type(column))
                : val(jdbc(value), type(column));
    }
}
