package weft.store;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Duration;
import java.util.Arrays;
import java.util.Objects;
import java.util.Properties;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import javax.sql.DataSource;
import org.flywaydb.core.Flyway;
import org.flywaydb.core.api.MigrationInfo;
import org.jooq.DSLContext;
import org.jooq.SQLDialect;
import org.jooq.conf.Settings;
import org.jooq.impl.DSL;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import weft.store.event.Changes;
import weft.store.local.CannotStart;

/**
 * An open PostgreSQL database whose schemas are up to date. Closing it closes its connections. Entries and all that people
 * wait for have connections of their own; what takes long, such as files, goes over others, so that it never takes them.
 */
public final class Database implements AutoCloseable {

    private static final Logger LOG = LoggerFactory.getLogger(Database.class);

    private static final long LOOKS_EVERY_MS = 1_000;
    /** Each of which takes ten seconds. */
    private static final int REACHED_WITHIN_TRIES = 3;

    /** How many do long work at once: three exports, two loads with two connections each, changes of tables, indexes. */
    private static final int LONG_CONNECTIONS = 12;

    /** By this name the triggers of the tables know what Weft writes itself. */
    private static final String NAME = "weft";

    /** A connection is waited for so long. */
    private static final Duration FREE_WITHIN = Duration.ofSeconds(2);
    /** A connection that says nothing for so long is given up. */
    private static final Duration ANSWERS_WITHIN = Duration.ofSeconds(30);

    private static final Duration LONG_ANSWERS_WITHIN = Duration.ofMinutes(10);
    /** Named so nowhere else: whoever holds it is alone in bringing a database up to date, or in filling it. */
    private static final long ALONE = 0x57656674L;

    private final HikariDataSource source;
    private final HikariDataSource longSource;
    private final Changes changes;
    private final DSLContext sql;
    private final DSLContext longSql;

    private final ScheduledExecutorService watch = Executors.newSingleThreadScheduledExecutor(
            Thread.ofPlatform().daemon().name("weft-primary").factory());

    private Database(HikariDataSource source, HikariDataSource longSource, boolean several) {
        this.source = source;
        this.longSource = longSource;
        if (several) {
            var _ = watch.scheduleWithFixedDelay(this::look, LOOKS_EVERY_MS, LOOKS_EVERY_MS, TimeUnit.MILLISECONDS);
        }
        this.changes = new Changes(source);
        this.sql = context(source);
        this.longSql = context(longSource);
    }

    private DSLContext context(DataSource of) {
        // What jOOQ would log of a statement holds values of records.
        var context = DSL.using(of, SQLDialect.POSTGRES, new Settings().withExecuteLogging(false));
        context.configuration().set(TableChanged.listener()).set(changes.listener());
        return context;
    }

    /**
     * Opens the database at a JDBC address and brings its schemas up to date.
     *
     * @param connections how many connections are kept at most for what people wait for
     */
    public static Database open(String url, String user, String password, int connections) {
        var primary = new Primary(url);
        var source = pool("weft", primary, user, password, connections, ANSWERS_WITHIN);
        var longSource = pool("weft-long", primary, user, password, LONG_CONNECTIONS, LONG_ANSWERS_WITHIN);
        try {
            alone(longSource, () -> migrations(longSource).migrate());
        } catch (RuntimeException e) {
            source.close();
            longSource.close();
            throw e;
        }
        return new Database(source, longSource, primary.several());
    }

    /**
     * Waits until the database at a JDBC address answers and can be written to, for half a minute.
     *
     * @throws CannotStart with a sentence for the person at the terminal, when it is no such address or does not answer so
     */
    public static void reach(String url) {
        var hosts = new Primary(url).source(new Properties());
        for (int tries = 1; ; tries++) {
            try (var _ = hosts.getConnection()) {
                return;
            } catch (SQLException e) {
                if (tries == REACHED_WITHIN_TRIES || Outage.of(e).isEmpty()) {
                    throw new CannotStart("Weft can't open its database. What was said: " + e.getMessage());
                }
            }
        }
    }

    private static Flyway migrations(DataSource source) {
        return Flyway.configure()
                .dataSource(source)
                .schemas("weft")
                .defaultSchema("weft")
                .locations("classpath:db/migration")
                .load();
    }

    /** The number of the last migration there is: what this Weft makes of a database, whatever that one is like now. */
    public static int newestSchema(DataSource source) {
        return Arrays.stream(migrations(source).info().all())
                .map(MigrationInfo::getVersion)
                // What made the schema itself has none.
                .filter(Objects::nonNull)
                .mapToInt(version -> version.getMajor().intValueExact())
                .max()
                .orElseThrow();
    }

    private static HikariDataSource pool(
            String name, Primary primary, String user, String password, int connections, Duration answersWithin) {
        var properties = new Properties();
        properties.setProperty("user", user);
        properties.setProperty("password", password);
        properties.setProperty("reWriteBatchedInserts", "true");
        properties.setProperty("prepareThreshold", "2");
        properties.setProperty("socketTimeout", "" + answersWithin.toSeconds());
        properties.setProperty("tcpKeepAlive", "true");
        var config = new HikariConfig();
        config.setPoolName(name);
        config.setDataSource(primary.source(properties));
        config.setMaximumPoolSize(connections);
        config.setMinimumIdle(Math.min(connections, name.equals("weft") ? connections : 1));
        config.setConnectionTimeout(FREE_WITHIN.toMillis());
        config.setValidationTimeout(1_000);
        config.setInitializationFailTimeout(30_000);
        config.setExceptionOverrideClassName(ReadOnlyLetGo.class.getName());
        // Said here, so that no address can say another name. Compiling a query takes longer than any answer people
        // wait for.
        config.setConnectionInitSql("set application_name = '" + NAME + "'; set jit = off");
        return new HikariDataSource(config);
    }

    /** For queries and transactions that people wait for. */
    public DSLContext sql() {
        return sql;
    }

    /** For what may take long: files, and changes of whole tables. */
    public DSLContext longSql() {
        return longSql;
    }

    /**
     * Where somebody waits for a connection, all of them may wait for a host that stands still. One that is made beside them
     * finds out whether another host writes by now, and frees them then.
     */
    private void look() {
        if (wanted() > 0) {
            try {
                source.getDataSource().getConnection().close();
            } catch (SQLException e) {
                LOG.debug("database: no host writes now", e);
            }
        }
    }

    /** Lets go of every connection that people wait for, as soon as it is not in use: new ones find whoever writes now. */
    public void letGo() {
        source.getHikariPoolMXBean().softEvictConnections();
    }

    /** Runs a script of SQL as it is: what looks like a parameter in it is none. */
    public static void run(DSLContext within, String script) {
        within.connection(connection -> {
            try (var statement = connection.createStatement()) {
                statement.execute(script);
            }
        });
    }

    /** Does the work while no other server does work so. */
    public void alone(Runnable work) {
        alone(longSource, work);
    }

    private static void alone(DataSource source, Runnable work) {
        try (var connection = source.getConnection()) {
            lock(connection, "select pg_advisory_lock(" + ALONE + ")");
            try {
                work.run();
            } finally {
                lock(connection, "select pg_advisory_unlock(" + ALONE + ")");
            }
        } catch (SQLException e) {
            throw new IllegalStateException(e);
        }
    }

    private static void lock(Connection connection, String how) throws SQLException {
        try (var statement = connection.createStatement()) {
            statement.execute(how);
        }
    }

    /** Whether it answers now and can be written to, found out within seconds. */
    public boolean writes() {
        try (var connection = source.getConnection();
                var statement = connection.createStatement()) {
            if (!connection.isValid(1)) {
                return false;
            }
            try (var only = statement.executeQuery("show transaction_read_only")) {
                return only.next() && only.getString(1).equals("off");
            }
        } catch (SQLException e) {
            return false;
        }
    }

    /** How many of the connections for what people wait for are in use. */
    public int used() {
        return source.getHikariPoolMXBean().getActiveConnections();
    }

    /** How many wait for one of them. */
    public int wanted() {
        return source.getHikariPoolMXBean().getThreadsAwaitingConnection();
    }

    /** For what jOOQ has no words for: COPY and LISTEN. */
    public DataSource source() {
        return source;
    }

    /** The same for what may take long. */
    public DataSource longSource() {
        return longSource;
    }

    /** What happens in it, on whichever server. */
    public Changes changes() {
        return changes;
    }

    @Override
    public void close() {
        watch.shutdownNow();
        changes.close();
        source.close();
        longSource.close();
    }
}
