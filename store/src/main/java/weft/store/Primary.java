package weft.store;

import java.io.PrintWriter;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.SQLFeatureNotSupportedException;
import java.time.Duration;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Properties;
import java.util.WeakHashMap;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.locks.LockSupport;
import java.util.logging.Logger;
import java.util.regex.Pattern;
import javax.sql.DataSource;
import org.postgresql.Driver;
import org.slf4j.LoggerFactory;
import weft.store.local.CannotStart;

/**
 * Connects to whichever of the hosts of an address writes. The one that wrote last is asked first; where it says nothing for
 * a moment, the others are asked beside it. Once another one writes, all connections to the one before are broken off: whoever
 * waited for an answer of a machine that stands still learns at once that none will come.
 */
final class Primary {

    private static final org.slf4j.Logger LOG = LoggerFactory.getLogger(Primary.class);

    private static final Pattern ADDRESS = Pattern.compile("(jdbc:postgresql://)([^/?]*)(.*)");

    /** For so long the one that wrote last is asked alone. */
    private static final Duration AHEAD = Duration.ofMillis(300);

    /** Whoever has not answered within this is not waited for. */
    private static final Duration CONNECTS_WITHIN = Duration.ofSeconds(2);
    /** One connection is looked for so long, again and again, while none of them writes. */
    private static final Duration LOOKED_FOR = Duration.ofSeconds(10);

    private static final Duration PAUSE = Duration.ofMillis(200);

    private final List<String> addresses;
    private final Driver driver = new Driver();

    /** To which of the addresses each open connection goes. */
    private final Map<Connection, String> open = Collections.synchronizedMap(new WeakHashMap<>());

    private volatile String writes;

    /**
     * Of this address.
     *
     * @param url a JDBC address as pgJDBC documents it, with one or several hosts
     * @throws CannotStart when it is none
     */
    Primary(String url) {
        if (!driver.acceptsURL(url)) {
            throw new CannotStart("What names the database is no address of one. It looks like"
                    + " jdbc:postgresql://db/weft?user=weft&password=…");
        }
        var parts = ADDRESS.matcher(url);
        addresses = parts.matches()
                ? Arrays.stream(parts.group(2).split(","))
                        .map(host -> parts.group(1) + host + parts.group(3))
                        .toList()
                : List.of(url);
        writes = addresses.getFirst();
    }

    /** Whether another one can take over. */
    boolean several() {
        return addresses.size() > 1;
    }

    /** Its connections with these properties, of pgJDBC. */
    DataSource source(Properties properties) {
        var all = new Properties();
        all.putAll(properties);
        all.setProperty("targetServerType", "primary");
        all.setProperty("connectTimeout", "" + CONNECTS_WITHIN.toSeconds());
        all.setProperty("loginTimeout", "" + CONNECTS_WITHIN.toSeconds());
        return new Source(this, all);
    }

    private Connection connect(Properties properties) throws SQLException {
        for (long end = System.nanoTime() + LOOKED_FOR.toNanos(); ; ) {
            try {
                return any(properties);
            } catch (SQLException e) {
                if (Outage.of(e).isEmpty() || System.nanoTime() > end) {
                    throw e;
                }
                LockSupport.parkNanos(PAUSE.toNanos());
            }
            if (Thread.interrupted()) {
                Thread.currentThread().interrupt();
                throw new SQLException("Given up.");
            }
        }
    }

    private Connection any(Properties properties) throws SQLException {
        var asking = new Asking(properties);
        try {
            var found = asking.found();
            taken(found);
            return found.connection;
        } catch (ExecutionException e) {
            throw e.getCause() instanceof SQLException said ? said : new SQLException(e.getCause());
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new SQLException("Given up.", e);
        }
    }

    private void taken(PrimaryAt found) {
        open.put(found.connection, found.address);
        if (!found.address.equals(writes)) {
            LOG.warn("database: another host writes now");
            writes = found.address;
            Map.copyOf(open).forEach((connection, address) -> {
                if (!address.equals(found.address)) {
                    breakOff(connection);
                }
            });
        }
    }

    private static void breakOff(Connection connection) {
        try {
            connection.abort(Runnable::run);
        } catch (SQLException e) {
            LOG.debug("database: a connection was broken off already", e);
        }
    }

    private record PrimaryAt(String address, Connection connection) {}

    /** All hosts asked for one connection. */
    private final class Asking {
        private final Properties properties;
        private final String first = writes;
        private final CompletableFuture<PrimaryAt> found = new CompletableFuture<>();
        private final AtomicInteger left = new AtomicInteger(addresses.size());
        private final AtomicBoolean all = new AtomicBoolean();

        Asking(Properties properties) {
            this.properties = properties;
        }

        PrimaryAt found() throws InterruptedException, ExecutionException {
            ask(first);
            try {
                return found.get(AHEAD.toMillis(), TimeUnit.MILLISECONDS);
            } catch (TimeoutException e) {
                askOthers();
                return found.get();
            }
        }

        private void askOthers() {
            if (all.compareAndSet(false, true)) {
                addresses.stream().filter(each -> !each.equals(first)).forEach(this::ask);
            }
        }

        private void ask(String address) {
            Thread.startVirtualThread(() -> {
                try {
                    var connection = driver.connect(address, properties);
                    if (!found.complete(new PrimaryAt(address, connection))) {
                        connection.close();
                    }
                } catch (SQLException | RuntimeException e) {
                    // Where it is not an outage, another host says the same.
                    if (left.decrementAndGet() == 0 || Outage.of(e).isEmpty()) {
                        found.completeExceptionally(e);
                    }
                    askOthers();
                }
            });
        }
    }

    private record Source(Primary primary, Properties properties) implements DataSource {

        @Override
        public Connection getConnection() throws SQLException {
            return primary.connect(properties);
        }

        @Override
        public Connection getConnection(String user, String password) throws SQLException {
            throw new SQLFeatureNotSupportedException();
        }

        @Override
        public PrintWriter getLogWriter() throws SQLException {
            throw new SQLFeatureNotSupportedException();
        }

        @Override
        public void setLogWriter(PrintWriter out) throws SQLException {
            throw new SQLFeatureNotSupportedException();
        }

        /** It is this one's own. */
        @Override
        public void setLoginTimeout(int seconds) {}

        @Override
        public int getLoginTimeout() {
            return Math.toIntExact(LOOKED_FOR.toSeconds());
        }

        @Override
        public Logger getParentLogger() throws SQLFeatureNotSupportedException {
            throw new SQLFeatureNotSupportedException();
        }

        @Override
        public <T> T unwrap(Class<T> type) throws SQLException {
            throw new SQLFeatureNotSupportedException();
        }

        @Override
        public boolean isWrapperFor(Class<?> type) {
            return false;
        }
    }
}
