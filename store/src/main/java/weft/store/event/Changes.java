package weft.store.event;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.function.Consumer;
import javax.sql.DataSource;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.postgresql.PGConnection;
import org.postgresql.PGNotification;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import weft.store.table.StoredTable;

/**
 * Tells of changes through PostgreSQL's NOTIFY, within the transaction that makes them, and hears of them through
 * LISTEN. A message carries identities and row numbers, never values.
 */
public final class Changes implements AutoCloseable {

    private static final Logger LOG = LoggerFactory.getLogger(Changes.class);
    private static final String DEFINITIONS = "definitions";
    private static final int POLL_MILLIS = 500;
    private static final int RETRY_MILLIS = 1_000;

    private final DataSource source;
    private final Consumer<Change> hearer;
    private final Thread thread;
    private volatile boolean open = true;

    /** Hears from now on, on a thread and a connection of its own, until closed. */
    public Changes(DataSource source, Consumer<Change> hearer) {
        this.source = source;
        this.hearer = hearer;
        this.thread = Thread.ofPlatform().daemon().name("changes").start(this::hear);
    }

    /** Tells that a record changed, once the transaction is kept. */
    public static void recordChanged(DSLContext within, StoredTable table, String kind, long id, long row) {
        send(within, table.id() + " " + kind + " " + id + " " + row);
    }

    /** Tells that tables or forms changed, once the transaction is kept. */
    public static void definitionsChanged(DSLContext within) {
        send(within, DEFINITIONS);
    }

    private static void send(DSLContext within, String message) {
        within.fetch("select pg_notify('weft', {0})", DSL.val(message));
    }

    private void hear() {
        while (open) {
            try (var connection = source.getConnection()) {
                listen(connection);
            } catch (SQLException e) {
                if (open) {
                    LOG.warn("changes: connection lost, trying again");
                    pause();
                }
            }
        }
    }

    private void listen(Connection connection) throws SQLException {
        try (var statement = connection.createStatement()) {
            statement.execute("listen weft");
        }
        hearer.accept(new Change.Unheard());
        var postgres = connection.unwrap(PGConnection.class);
        while (open) {
            var heard = postgres.getNotifications(POLL_MILLIS);
            for (var notification : heard == null ? new PGNotification[0] : heard) {
                hearer.accept(parse(notification.getParameter()));
            }
        }
    }

    private static Change parse(String message) {
        if (message.equals(DEFINITIONS)) {
            return new Change.OfDefinitions();
        }
        var part = message.split(" ");
        return new Change.OfRecord(Long.parseLong(part[0]), part[1], Long.parseLong(part[2]), Long.parseLong(part[3]));
    }

    private static void pause() {
        try {
            Thread.sleep(RETRY_MILLIS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    @Override
    public void close() {
        open = false;
        try {
            thread.join(2L * POLL_MILLIS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
