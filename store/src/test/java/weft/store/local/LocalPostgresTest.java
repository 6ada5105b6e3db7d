package weft.store.local;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.NoSuchElementException;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import weft.store.Database;

class LocalPostgresTest {

    private Path folder;

    @BeforeEach
    void makeFolder() throws Exception {
        folder = Files.createTempDirectory("weft-local");
        folder.toFile().setExecutable(true, false);
    }

    @AfterEach
    void removeFolder() throws Exception {
        try (var files = Files.walk(folder)) {
            files.sorted(Comparator.reverseOrder())
                    .forEach(file -> file.toFile().delete());
        }
    }

    private LocalPostgres start() {
        return LocalPostgres.start(folder, List.of("fsync=off"));
    }

    private static String ask(LocalPostgres postgres, String question) throws SQLException {
        try (var connection = DriverManager.getConnection(postgres.url(), postgres.user(), postgres.password());
                var statement = connection.createStatement();
                var answer = statement.executeQuery(question)) {
            answer.next();
            return answer.getString(1);
        }
    }

    @Test
    void whatWasWrittenIsThereAtTheNextStart() throws Exception {
        try (var postgres = start()) {
            try (var connection = DriverManager.getConnection(postgres.url(), postgres.user(), postgres.password())) {
                connection.createStatement().execute("create table kept as select 42 as answer");
            }
        }
        try (var postgres = start()) {
            assertThat(ask(postgres, "select answer from kept")).isEqualTo("42");
        }
    }

    @Test
    void itListensOnLoopbackOnlyAndWantsItsPassword() throws Exception {
        try (var postgres = start()) {
            assertThat(ask(postgres, "show listen_addresses")).isEqualTo("127.0.0.1");
            assertThat(ask(postgres, "show unix_socket_directories")).isEmpty();
            assertThatThrownBy(() -> DriverManager.getConnection(postgres.url(), postgres.user(), "guessed"))
                    .isInstanceOf(SQLException.class);
            assertThat(Files.getPosixFilePermissions(folder.resolve("password")))
                    .hasSize(2);
        }
    }

    @Test
    void itsLogHoldsNoValuesOfRecords() throws Exception {
        try (var postgres = start()) {
            assertThatThrownBy(() -> ask(
                            postgres,
                            "with x as (insert into pg_temp.none values ('secret') returning 1) select 1 from x"))
                    .isInstanceOf(SQLException.class);
            try (var connection = DriverManager.getConnection(postgres.url(), postgres.user(), postgres.password());
                    var statement = connection.createStatement()) {
                statement.execute("create table codes (code text unique)");
                statement.execute("insert into codes values ('secret')");
                assertThatThrownBy(() -> statement.execute("insert into codes values ('secret')"))
                        .hasMessageContaining("duplicate key");
                assertThatThrownBy(() -> statement.execute("select cast('99999999999999999999' as bigint)"))
                        .hasMessageContaining("out of range");
            }
            assertThat(Files.readString(folder.resolve("postgres/log")))
                    .contains("ready to accept connections")
                    .doesNotContain("secret", "99999999999999999999");
        }
    }

    @Test
    void twoDoNotShareADataFolder() {
        try (var first = start()) {
            assertThat(first.port()).isPositive();
            assertThatThrownBy(this::start).isInstanceOf(CannotStart.class).hasMessageContaining("already runs on");
        }
    }

    /** What a killed one left behind names a process that is quite another by now. */
    @Test
    void aLeftOverThatNamesAnotherProcessIsNotTakenOver() throws Exception {
        start().close();
        var left = folder.resolve("postgres/data/postmaster.pid");
        Files.writeString(
                left,
                ProcessHandle.current().pid() + "\n" + folder.resolve("postgres/data")
                        + "\n1700000000\n1\n\n127.0.0.1\n");
        try (var postgres = start()) {
            assertThat(postgres.port()).isNotEqualTo(1);
            assertThat(ask(postgres, "select 1")).isEqualTo("1");
        }
    }

    @Test
    void oneThatIsKilledRunsAgainOnItsPort() throws Exception {
        try (var postgres = start()) {
            int port = postgres.port();
            var pid = Files.readAllLines(folder.resolve("postgres/data/postmaster.pid"))
                    .getFirst();
            ProcessHandle.of(Long.parseLong(pid.strip())).orElseThrow().destroyForcibly();
            while (!up(postgres, pid)) {
                Thread.sleep(50);
            }
            assertThat(postgres.port()).isEqualTo(port);
            assertThat(ask(postgres, "select 1")).isEqualTo("1");
        }
    }

    private boolean up(LocalPostgres postgres, String before) throws Exception {
        var left = folder.resolve("postgres/data/postmaster.pid");
        try {
            return Files.exists(left)
                    && !Files.readAllLines(left).getFirst().equals(before)
                    && ask(postgres, "select 1").equals("1");
        } catch (SQLException | NoSuchElementException notYet) {
            return false;
        }
    }

    /** Each brings an empty database up to date, and neither is in the other's way. */
    @Test
    void twoServersThatStartTogetherOnAnEmptyDatabaseBothComeUp() throws Exception {
        try (var postgres = start();
                var pool = Executors.newFixedThreadPool(3)) {
            Callable<Database> open = () -> Database.open(postgres.url(), postgres.user(), postgres.password(), 2);
            var opened = pool.invokeAll(Collections.nCopies(3, open));
            for (var each : opened) {
                try (var database = each.get()) {
                    assertThat(database.writes()).isTrue();
                }
            }
        }
    }
}
