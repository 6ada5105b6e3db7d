package weft.store.local;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.Comparator;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

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
            }
            assertThat(Files.readString(folder.resolve("postgres/log")))
                    .contains("duplicate key")
                    .doesNotContain("secret");
        }
    }

    @Test
    void twoDoNotShareADataFolder() {
        try (var first = start()) {
            assertThat(first.port()).isPositive();
            assertThatThrownBy(this::start).isInstanceOf(CannotStart.class).hasMessageContaining("already runs on");
        }
    }
}
