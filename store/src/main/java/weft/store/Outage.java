package weft.store;

import java.sql.SQLException;
import java.sql.SQLTransientConnectionException;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * Why the database answers nothing now; whether what was asked of it is done may not be known. The classes of states are
 * those of SQL:2023 and of PostgreSQL's Appendix A.
 */
public enum Outage {
    /** It cannot be reached, or ended the connection. */
    GONE("The database can't be reached now. Try again in a moment."),
    /** It only reads, as one that waits for another one to fail, or that was one and is not yet told. */
    READING("The database only reads just now, as while another one takes over. Try again in a moment."),
    /** Its disk is full. */
    FULL("The disk of the database is full. Nothing can be written until there is room.");

    /** What PostgreSQL says where nothing can be written. */
    private static final String READ_ONLY = "25006";

    /** What HikariCP says of a connection that was given up under the one who used it. */
    private static final String CLOSED = "Connection is closed";

    private final String sentence;

    Outage(String sentence) {
        this.sentence = sentence;
    }

    /** What is wrong, for people. */
    public String sentence() {
        return sentence;
    }

    /** Whether that is what PostgreSQL said of this one; known of {@link #READING} only. */
    boolean is(SQLException e) {
        return this == READING && READ_ONLY.equals(e.getSQLState());
    }

    /** The outage that an exception comes from, or empty when it comes from something else. */
    public static Optional<Outage> of(@Nullable Throwable e) {
        for (var cause = e; cause != null; cause = cause.getCause()) {
            boolean closed = cause instanceof SQLException lost
                    && lost.getSQLState() == null
                    && CLOSED.equals(lost.getMessage());
            if (closed || cause instanceof SQLTransientConnectionException) {
                return Optional.of(GONE);
            }
            if (cause instanceof SQLException sql && sql.getSQLState() != null) {
                var state = sql.getSQLState();
                if (READING.is(sql)) {
                    return Optional.of(READING);
                }
                if (state.equals("53100")) {
                    return Optional.of(FULL);
                }
                if (state.startsWith("08") || state.startsWith("57P") || state.startsWith("53")) {
                    return Optional.of(GONE);
                }
            }
        }
        return Optional.empty();
    }
}
