package weft.store;

import java.sql.SQLException;
import java.util.Set;
import org.jooq.ExecuteContext;
import org.jooq.ExecuteListener;
import org.jspecify.annotations.Nullable;

/** What is known here of a table is older than the table: a moment later it is not. Nothing was written. */
public final class TableChanged extends RuntimeException {

    /** Undefined column, undefined table, another type than expected, a plan made for the table as it was. */
    private static final Set<String> STATES = Set.of("42703", "42P01", "42804", "0A000");

    /** As the database says it. */
    private TableChanged(@Nullable Throwable cause) {
        super("A table was changed meanwhile.", cause);
    }

    /** Where nothing was written and the database did not say why: the table is another one than it was. */
    public TableChanged() {
        this(null);
    }

    private static boolean saysSo(@Nullable SQLException e) {
        return e != null && e.getSQLState() != null && STATES.contains(e.getSQLState());
    }

    /** This exception where the database says so, else the other one. */
    public static RuntimeException or(SQLException e, RuntimeException other) {
        return saysSo(e) ? new TableChanged(e) : other;
    }

    /** Turns what the database says so into this exception. */
    static ExecuteListener listener() {
        return new ExecuteListener() {
            @Override
            public void exception(ExecuteContext context) {
                if (saysSo(context.sqlException())) {
                    context.exception(new TableChanged(context.sqlException()));
                }
            }
        };
    }
}
