package weft.store;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import javax.sql.DataSource;
import org.flywaydb.core.Flyway;
import org.jooq.DSLContext;
import org.jooq.SQLDialect;
import org.jooq.conf.Settings;
import org.jooq.impl.DSL;
import weft.store.event.Changes;

/** An open PostgreSQL database whose schemas are up to date. Closing it closes its connections. */
public final class Database implements AutoCloseable {

    private final HikariDataSource source;
    private final DSLContext sql;
    private final Changes changes;

    private Database(HikariDataSource source) {
        this.source = source;
        this.changes = new Changes(source);
        // What jOOQ would log of a statement holds values of records.
        this.sql = DSL.using(source, SQLDialect.POSTGRES, new Settings().withExecuteLogging(false));
        sql.configuration().set(TableChanged.listener()).set(changes.listener());
    }

    /**
     * Opens the database at a JDBC address and brings its schemas up to date.
     *
     * @param connections how many connections are kept at most
     */
    public static Database open(String url, String user, String password, int connections) {
        var config = new HikariConfig();
        config.setPoolName("weft");
        config.setJdbcUrl(url);
        config.setUsername(user);
        config.setPassword(password);
        config.setMaximumPoolSize(connections);
        config.setConnectionTimeout(10_000);
        config.addDataSourceProperty("ApplicationName", "weft");
        config.addDataSourceProperty("reWriteBatchedInserts", "true");
        config.addDataSourceProperty("prepareThreshold", "2");
        // Compiling a query takes longer than any answer that people wait for.
        config.setConnectionInitSql("set jit = off");
        var source = new HikariDataSource(config);
        Flyway.configure()
                .dataSource(source)
                .schemas("weft")
                .defaultSchema("weft")
                .locations("classpath:db/migration")
                .load()
                .migrate();
        return new Database(source);
    }

    /** For queries and transactions. */
    public DSLContext sql() {
        return sql;
    }

    /** For what jOOQ has no words for: COPY and LISTEN. */
    public DataSource source() {
        return source;
    }

    /** What happens in it, on whichever server. */
    public Changes changes() {
        return changes;
    }

    @Override
    public void close() {
        changes.close();
        source.close();
    }
}
