package weft.core.entry.check;

import java.math.BigDecimal;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import weft.core.entry.draft.Cause;
import weft.core.entry.draft.Draft;
import weft.core.entry.draft.Finding;
import weft.core.entry.plan.Node;
import weft.core.record.StoredRows;
import weft.core.table.Column;
import weft.core.value.Value;

/** The checks that a column's own definition makes. */
public final class ColumnChecks {

    /** The most characters of what no two records may share. */
    private static final int MOST_UNIQUE = 500;

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
            return required ? Optional.of(Finding.stop(column.name(), missing(column, label))) : Optional.empty();
        }
        return outOfRange(column, label, value)
                .or(() -> tooLong(column, label, value))
                .or(() -> taken(column, label, value, draft, stored))
                .map(cause -> Finding.stop(column.name(), cause));
    }

    private static Cause missing(Column column, String label) {
        return new Cause.Missing(
                label,
                column.type(),
                column.link().flatMap(link -> link.shown().stream().findFirst()).map(Column::title));
    }

    private static Optional<Cause> outOfRange(Column column, String label, Value value) {
        return column.outOf(value)
                .map(side -> new Cause.OutOfRange(
                        label, column.min(), column.max(), value, side, pointForgotten(column, value)));
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

    /**
     * Characters are counted as PostgreSQL counts them, by code points. What must be unique is indexed, and an index entry
     * has a largest size.
     */
    private static Optional<Cause> tooLong(Column column, String label, Value value) {
        if (!(value instanceof Value.Text(var text))) {
            return Optional.empty();
        }
        int length = text.codePointCount(0, text.length());
        int most = column.longest().orElse(Integer.MAX_VALUE);
        if (length > most) {
            return Optional.of(new Cause.TooLong(label, most, length, false));
        }
        return column.unique() && text.length() > MOST_UNIQUE
                ? Optional.of(new Cause.TooLong(label, MOST_UNIQUE, length, true))
                : Optional.empty();
    }

    private static Optional<Cause> taken(Column column, String label, Value value, Draft draft, StoredRows stored) {
        return column.unique()
                ? stored.with(Map.of(column.name(), value), draft.record())
                        .map(row -> new Cause.Taken(label, Optional.of(row.called()), value))
                : Optional.empty();
    }
}
