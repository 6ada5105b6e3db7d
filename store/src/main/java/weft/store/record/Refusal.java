package weft.store.record;

import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.postgresql.util.PSQLException;
import weft.core.table.Column;
import weft.core.table.Constraint;
import weft.store.table.Constraints;
import weft.store.table.StoredTable;
import weft.store.table.TableSql;

/** Reads what the database's own constraints say. */
final class Refusal {

    private Refusal() {}

    /** What was refused, or empty when the failure is of another kind. */
    static Optional<NotSaved> of(StoredTable table, @Nullable Throwable e) {
        if (!(e instanceof PSQLException cause) || cause.getServerErrorMessage() == null) {
            return Optional.empty();
        }
        var message = cause.getServerErrorMessage();
        var column = Optional.ofNullable(message.getColumn())
                .or(() -> Optional.ofNullable(message.getConstraint())
                        .flatMap(constraint -> TableSql.columnOf(table, constraint))
                        .map(Column::name));
        var constraint = Optional.ofNullable(message.getConstraint())
                .flatMap(named -> Constraints.of(table, named))
                .map(Constraint::id);
        if (constraint.isPresent()) {
            return Optional.of(new NotSaved(NotSaved.Reason.NOT_ALONE, constraint));
        }
        if (Optional.ofNullable(message.getConstraint())
                .filter(TableSql::holdsLink)
                .isPresent()) {
            return Optional.of(new NotSaved(NotSaved.Reason.GONE, column));
        }
        return switch (cause.getSQLState()) {
            case "23505" -> Optional.of(new NotSaved(NotSaved.Reason.NOT_UNIQUE, column));
            case "23502" -> Optional.of(new NotSaved(NotSaved.Reason.EMPTY, column));
            case "23514", "22003", "23503" -> Optional.of(new NotSaved(NotSaved.Reason.OUT_OF_RANGE, column));
            default -> Optional.empty();
        };
    }
}
