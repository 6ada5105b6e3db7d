package weft.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.sql.SQLException;
import java.util.List;
import java.util.Properties;
import java.util.concurrent.CopyOnWriteArrayList;
import javax.sql.DataSource;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.store.local.CannotStart;

/** Hosts that stand still, are away or have come back, before the one that writes. */
@ExtendWith(TestDatabase.class)
class PrimaryTest {

    private final List<Door> doors = new CopyOnWriteArrayList<>();

    @AfterEach
    void close() throws IOException {
        for (var door : doors) {
            door.close();
        }
    }

    private Door door(boolean still) throws IOException {
        var door = new Door();
        door.still(still);
        doors.add(door);
        return door;
    }

    private static DataSource source(String... hosts) {
        return TestDatabase.by(new Primary("jdbc:postgresql://" + String.join(",", hosts) + "/postgres"));
    }

    @Test
    void whoeverWaitsForAHostThatStandsStillLearnsSoOnceAnotherOneWrites() throws Exception {
        var first = door(false);
        var second = door(true);
        var source = source(first.host(), second.host());
        try (var waits = source.getConnection();
                var statement = waits.createStatement()) {
            first.still(true);
            var said = new CopyOnWriteArrayList<String>();
            var answer = Thread.ofVirtual().start(() -> {
                try {
                    statement.execute("select 1");
                } catch (SQLException e) {
                    said.add(e.getSQLState());
                }
            });
            second.still(false);
            try (var found = source.getConnection()) {
                assertThat(found.isValid(1)).isTrue();
            }
            answer.join();
            assertThat(said).singleElement().asString().startsWith("08");
            // The one before is back; nothing goes to it as long as the other one answers.
            first.still(false);
            int before = first.taken();
            source.getConnection().close();
            assertThat(first.taken()).isEqualTo(before);
        }
    }

    @Test
    void hostsThatAreAwayOrOnlyReadAreNotWaitedFor() throws Exception {
        var away = door(false);
        away.close();
        try (var found =
                source(away.host(), door(true).host(), door(false).host()).getConnection()) {
            assertThat(found.isValid(1)).isTrue();
        }
    }

    @Test
    void whatIsNoOutageIsSaidAtOnce() throws Exception {
        var properties = new Properties();
        properties.setProperty("user", "nobody");
        properties.setProperty("password", "wrong");
        var source = new Primary("jdbc:postgresql://" + door(true).host() + ","
                        + door(false).host() + "/postgres")
                .source(properties);
        assertThatThrownBy(source::getConnection)
                .isInstanceOfSatisfying(
                        SQLException.class, e -> assertThat(e.getSQLState()).startsWith("28"));
    }

    @Test
    void anAddressThatCannotBeOpenedIsSaidInASentence() throws Exception {
        assertThatThrownBy(() -> Database.reach("db/weft"))
                .isInstanceOf(CannotStart.class)
                .hasMessageStartingWith(
                        "What names the database is no address of one. It looks like jdbc:postgresql://");
        var address = "jdbc:postgresql://" + door(false).host() + "/postgres?user=nobody&password=wrong";
        assertThatThrownBy(() -> Database.reach(address))
                .isInstanceOf(CannotStart.class)
                .hasMessageStartingWith("Weft can't open its database. What was said: FATAL: password");
    }
}
