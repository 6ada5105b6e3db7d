package weft.store.backup;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Properties;
import org.postgresql.Driver;
import org.postgresql.ds.PGSimpleDataSource;
import weft.store.local.CannotStart;

/**
 * A database, for Weft and for PostgreSQL's own programs.
 *
 * @param url its JDBC address, which may say user and password itself
 * @param user who connects; empty where the address says it
 * @param password theirs; empty where the address says it
 * @param programs the folder of PostgreSQL's programs
 */
public record Where(String url, String user, String password, Path programs) {

    private Properties properties() {
        var given = new Properties();
        if (!user.isEmpty()) {
            given.setProperty("user", user);
            given.setProperty("password", password);
        }
        given.setProperty("ApplicationName", "weft");
        return given;
    }

    Connection connect() throws SQLException {
        return DriverManager.getConnection(url, properties());
    }

    PGSimpleDataSource source() {
        var source = new PGSimpleDataSource();
        source.setUrl(url);
        if (!user.isEmpty()) {
            source.setUser(user);
            source.setPassword(password);
        }
        return source;
    }

    /** A program of PostgreSQL's that goes to this database, ready to be started. */
    public ProcessBuilder program(String name, List<String> arguments) {
        var parsed = Driver.parseURL(url, properties());
        if (parsed == null) {
            throw new CannotStart(
                    "The address of the database is none that PostgreSQL knows. It begins with jdbc:postgresql://");
        }
        var command = new ArrayList<>(List.of(programs.resolve(name).toString(), "--no-password"));
        command.addAll(arguments);
        var process = new ProcessBuilder(command);
        var environment = process.environment();
        environment.put("PGHOST", parsed.getProperty("PGHOST"));
        environment.put("PGPORT", parsed.getProperty("PGPORT"));
        environment.put("PGDATABASE", parsed.getProperty("PGDBNAME"));
        environment.put("PGUSER", parsed.getProperty("user", ""));
        environment.put("PGPASSWORD", parsed.getProperty("password", ""));
        environment.put("PGAPPNAME", "weft");
        if (parsed.getProperty("sslmode") != null) {
            environment.put("PGSSLMODE", parsed.getProperty("sslmode"));
        }
        return process;
    }

    /** What a database is called in a connection string of PostgreSQL's programs. */
    String name() {
        return Driver.parseURL(url, properties()).getProperty("PGDBNAME");
    }
}
