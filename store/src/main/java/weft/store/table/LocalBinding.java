package weft.store.table;

import java.io.Serial;
import java.sql.SQLException;
import java.sql.Types;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import org.jooq.BindingGetResultSetContext;
import org.jooq.BindingSQLContext;
import org.jooq.BindingSetStatementContext;
import org.jooq.Converter;
import org.jooq.DataType;
import org.jooq.impl.AbstractBinding;
import org.jooq.impl.IdentityConverter;
import org.jooq.impl.SQLDataType;

/**
 * Dates and times without a zone, as JDBC 4.2 takes and gives them. By the older types of {@code java.sql} they would pass
 * through the zone of the server, which has hours that are missing and a calendar that was changed.
 *
 * @param <T> the type of its values
 */
final class LocalBinding<T> extends AbstractBinding<T, T> {

    static final DataType<LocalDate> DATE =
            SQLDataType.LOCALDATE.asConvertedDataType(new LocalBinding<>(LocalDate.class, "date", Types.DATE));
    static final DataType<LocalTime> TIME =
            SQLDataType.LOCALTIME.asConvertedDataType(new LocalBinding<>(LocalTime.class, "time", Types.TIME));
    static final DataType<LocalDateTime> DATETIME = SQLDataType.LOCALDATETIME.asConvertedDataType(
            new LocalBinding<>(LocalDateTime.class, "timestamp", Types.TIMESTAMP));

    /** The year of its era. */
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("yyyy-MM-dd", Locale.ROOT);

    @Serial
    private static final long serialVersionUID = 1;

    private final Class<T> type;
    private final String sqlName;
    private final int sqlType;

    private LocalBinding(Class<T> type, String sqlName, int sqlType) {
        this.type = type;
        this.sqlName = sqlName;
        this.sqlType = sqlType;
    }

    @Override
    public Converter<T, T> converter() {
        return new IdentityConverter<>(type);
    }

    @Override
    protected void sqlInline(BindingSQLContext<T> context) {
        var value = context.value();
        context.render().sql(value == null ? "null::" + sqlName : sqlName + " '" + spelled(value) + "'");
    }

    /** As PostgreSQL spells it: other programs store days before the first year, and no end at all. */
    private static String spelled(Object value) {
        return switch (value) {
            case LocalDate date when date.equals(LocalDate.MAX) -> "infinity";
            case LocalDate date when date.equals(LocalDate.MIN) -> "-infinity";
            case LocalDateTime at when at.equals(LocalDateTime.MAX) -> "infinity";
            case LocalDateTime at when at.equals(LocalDateTime.MIN) -> "-infinity";
            case LocalDate date when date.getYear() < 1 -> DAY.format(date) + " BC";
            case LocalDateTime at when at.getYear() < 1 -> DAY.format(at) + " " + at.toLocalTime() + " BC";
            default -> value.toString().replaceFirst("^\\+", "");
        };
    }

    @Override
    public void set(BindingSetStatementContext<T> context) throws SQLException {
        if (context.value() == null) {
            context.statement().setNull(context.index(), sqlType);
        } else {
            context.statement().setObject(context.index(), context.value());
        }
    }

    @Override
    public void get(BindingGetResultSetContext<T> context) throws SQLException {
        context.value(context.resultSet().getObject(context.index(), type));
    }
}
