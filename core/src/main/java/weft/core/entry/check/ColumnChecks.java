package weft.core.entry.check;

import java.math.BigDecimal;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import weft.core.entry.draft.Draft;
import weft.core.entry.draft.Finding;
import weft.core.entry.plan.Node;
import weft.core.record.StoredRows;
import weft.core.table.Column;
import weft.core.value.Value;

/** The checks that a column's own definition makes. */
public final class ColumnChecks {

    private ColumnChecks() {}

    /**
     * The first check that the value fails.
     *
     * @param required whether the field must be filled now
     */
    public static Optional<Finding> of(Node node, boolean required, Value value, Draft draft, StoredRows stored) {
        var column = node.column();
        var label = node.field().label();
        if (value.isEmpty()) {
            return required
                    ? Optional.of(
                            Finding.stop(column.name(), Finding.Code.REQUIRED, label + " is needed. " + wanted(column)))
                    : Optional.empty();
        }
        return outOfRange(column, value)
                .map(message -> Finding.stop(column.name(), Finding.Code.RANGE, label + message))
                .or(() -> tooLong(column, value)
                        .map(message -> Finding.stop(column.name(), Finding.Code.LENGTH, label + message)))
                .or(() -> tooLongForUnique(column, value)
                        .map(message -> Finding.stop(column.name(), Finding.Code.LENGTH, label + message)))
                .or(() -> taken(column, value, draft, stored)
                        .map(message -> Finding.stop(column.name(), Finding.Code.UNIQUE, message)));
    }

    private static String wanted(Column column) {
        return switch (column.type()) {
            case CHOICE -> "Choose one of the list.";
            case YESNO -> "Type y or n.";
            case DATE -> "Type a date; t is today.";
            case TIME -> "Type a time, such as 930.";
            case DATETIME -> "Type a date and a time.";
            case WHOLE, DECIMAL -> "Type a number.";
            case TEXT, LONGTEXT -> "Type it here.";
            case PICTURE -> "Drop one here, paste it or choose a file.";
            case LINK ->
                column.link()
                        .flatMap(link -> link.shown().stream().findFirst())
                        .map(shown -> "Type its %s, or choose it from the list.".formatted(lowered(shown.title())))
                        .orElse("Choose it from the list.");
        };
    }

    private static String lowered(String title) {
        boolean word = title.length() > 1 && Character.isLowerCase(title.charAt(1));
        return word ? title.substring(0, 1).toLowerCase(Locale.ROOT) + title.substring(1) : title;
    }

    private static Optional<String> outOfRange(Column column, Value value) {
        return column.outOf(value).map(side -> {
            var slip = pointForgotten(column, value)
                    .map(meant -> "; " + meant + "?")
                    .orElse(".");
            return "%s. %s is %s it%s".formatted(range(column), value.spoken(), side.word(), slip);
        });
    }

    private static String range(Column column) {
        var least = column.min().map(Value::spoken);
        var most = column.max().map(Value::spoken);
        return least.isPresent() && most.isPresent()
                ? " must be between " + least.get() + " and " + most.get()
                : least.map(min -> " must be at least " + min)
                        .orElseGet(() -> " must be at most " + most.orElseThrow());
    }

    /** The number that lies in the range once the decimal point, left out by slip, is put back. */
    private static Optional<String> pointForgotten(Column column, Value value) {
        if (!(value instanceof Value.Decimal(var number))
                || number.stripTrailingZeros().scale() > 0) {
            return Optional.empty();
        }
        return Stream.of(1, 2)
                .filter(places ->
                        column.scale().isEmpty() || places <= column.scale().getAsInt())
                .map(places -> number.stripTrailingZeros().movePointLeft(places))
                .filter(meant -> meant.abs().compareTo(BigDecimal.ONE) >= 0)
                .filter(meant -> column.outOf(new Value.Decimal(meant)).isEmpty())
                .findFirst()
                .map(BigDecimal::toPlainString);
    }

    /** Characters are counted as PostgreSQL counts them, by code points. */
    private static Optional<String> tooLong(Column column, Value value) {
        int most = column.longest().orElse(Integer.MAX_VALUE);
        return value instanceof Value.Text(var text) && text.codePointCount(0, text.length()) > most
                ? Optional.of(" may have %,d characters at most. This has %,d."
                        .formatted(most, text.codePointCount(0, text.length())))
                : Optional.empty();
    }

    /** What must be unique is indexed, and an index entry has a largest size. */
    private static Optional<String> tooLongForUnique(Column column, Value value) {
        return column.unique() && value instanceof Value.Text(var text) && text.length() > 500
                ? Optional.of(" may have 500 characters at most, since no two records may share it. Shorten it.")
                : Optional.empty();
    }

    private static Optional<String> taken(Column column, Value value, Draft draft, StoredRows stored) {
        if (!column.unique()) {
            return Optional.empty();
        }
        return stored.with(Map.of(column.name(), value), draft.record())
                .map(row -> row.called() + " already has " + value.spoken() + ". No two records may share it.");
    }
}
