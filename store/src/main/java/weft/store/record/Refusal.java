package weft.store.record;

import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.jooq.exception.DataAccessException;
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

    /** The failure as it is told: as {@link NotSaved} where it is the table's own, else as it is. */
    static RuntimeException told(StoredTable table, DataAccessException e) {
        return of(table, e.getCause()).<RuntimeException>map(each -> each).orElse(e);
    }

    /** The same of another table than the entry's own, told as that table's. */
    static RuntimeException elsewhere(StoredTable table, DataAccessException e) {
        return of(table, e.getCause())
                .<RuntimeException>map(each -> each.in(table.definition().title()))
                .orElse(e);
    }

    /** What was refused, or empty when the failure is of another kind. */
    static Optional<NotSaved> of(StoredTable table, @Nullable Throwable e) {
        if (!(e instanceof PSQLException cause) || cause.getServerErrorMessage() == null) {
            return Optional.empty();
        }
        var message = cause.getServerErrorMessage();
        var column = Optional.ofNullable(message.getColumn())
                .map(named -> table.adopted()
                        .map(adopted -> adopted.columns().getOrDefault(named, named))
                        .orElse(named))
                .or(() -> Optional.ofNullable(message.getConstraint())
                        .flatMap(constraint -> TableSql.columnOf(table, constraint))
                        .map(Column::name))
                .or(() -> table.adopted()
                        .map(adopted -> adopted.constraints()
                                .getOrDefault(Objects.requireNonNullElse(message.getConstraint(), ""), List.of()))
                        .flatMap(columns -> columns.stream().findFirst()));
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
        if (table.adopted().isPresent()) {
            switch (cause.getSQLState()) {
                case "23514" -> {
                    return Optional.of(NotSaved.broken(
                            column, Objects.requireNonNullElse(message.getConstraint(), "a rule of its own")));
                }
                case "23503" -> {
                    return Optional.of(new NotSaved(NotSaved.Reason.NOWHERE, column));
                }
                // What a trigger of the table itself says.
                case "P0001" -> {
                    return Optional.of(NotSaved.said(Objects.requireNonNullElse(message.getMessage(), "")));
                }
                default -> {
                    // As of any table.
                }
            }
        }
        return switch (cause.getSQLState()) {
            case "23505" -> Optional.of(new NotSaved(NotSaved.Reason.NOT_UNIQUE, column));
            case "23502" -> Optional.of(new NotSaved(NotSaved.Reason.EMPTY, column));
            case "55000" -> Optional.of(new NotSaved(NotSaved.Reason.SHOWN_ONLY, Optional.empty()));
            case "23514", "22001", "22003", "23503" -> Optional.of(new NotSaved(NotSaved.Reason.OUT_OF_RANGE, column));
            default -> Optional.empty();
        };
    }
}
