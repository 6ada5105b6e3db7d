package weft.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.sql.SQLException;
import java.util.List;
import java.util.Properties;
import java.util.concurrent.CopyOnWriteArrayList;
import javax.sql.DataSource;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

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

    /** A host that leads to the database, until it stands still: it takes connections then and says nothing. */
    private final class Door implements AutoCloseable {
        private final ServerSocket listens;
        private final List<Socket> sockets = new CopyOnWriteArrayList<>();
        private volatile boolean still;

        Door(boolean still) throws IOException {
            this.still = still;
            listens = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
            doors.add(this);
            Thread.startVirtualThread(this::take);
        }

        private void take() {
            try {
                while (true) {
                    var from = listens.accept();
                    sockets.add(from);
                    var to = new Socket("127.0.0.1", TestDatabase.port());
                    sockets.add(to);
                    Thread.startVirtualThread(() -> carry(from, to));
                    Thread.startVirtualThread(() -> carry(to, from));
                }
            } catch (IOException closed) {
                // It was told to end.
            }
        }

        private void carry(Socket from, Socket to) {
            var buffer = new byte[8192];
            try {
                for (int read; (read = from.getInputStream().read(buffer)) > 0; ) {
                    if (!still) {
                        to.getOutputStream().write(buffer, 0, read);
                    }
                }
            } catch (IOException closed) {
                // Either end has gone.
            }
        }

        String host() {
            return "127.0.0.1:" + listens.getLocalPort();
        }

        @Override
        public void close() throws IOException {
            listens.close();
            for (var socket : sockets) {
                socket.close();
            }
        }
    }

    private static DataSource source(String... hosts) {
        return TestDatabase.by(new Primary("jdbc:postgresql://" + String.join(",", hosts) + "/postgres"));
    }

    @Test
    void whoeverWaitsForAHostThatStandsStillLearnsSoOnceAnotherOneWrites() throws Exception {
        var first = new Door(false);
        var second = new Door(true);
        var source = source(first.host(), second.host());
        try (var waits = source.getConnection();
                var statement = waits.createStatement()) {
            first.still = true;
            var said = new CopyOnWriteArrayList<String>();
            var answer = Thread.ofVirtual().start(() -> {
                try {
                    statement.execute("select 1");
                } catch (SQLException e) {
                    said.add(e.getSQLState());
                }
            });
            second.still = false;
            try (var found = source.getConnection()) {
                assertThat(found.isValid(1)).isTrue();
            }
            answer.join();
            assertThat(said).singleElement().asString().startsWith("08");
            // The one before is back; nothing goes to it as long as the other one answers.
            first.still = false;
            int before = first.sockets.size();
            source.getConnection().close();
            assertThat(first.sockets).hasSize(before);
        }
    }

    @Test
    void hostsThatAreAwayOrOnlyReadAreNotWaitedFor() throws Exception {
        var away = new Door(false);
        away.close();
        try (var found = source(away.host(), new Door(true).host(), new Door(false).host())
                .getConnection()) {
            assertThat(found.isValid(1)).isTrue();
        }
    }

    @Test
    void whatIsNoOutageIsSaidAtOnce() throws Exception {
        var properties = new Properties();
        properties.setProperty("user", "nobody");
        properties.setProperty("password", "wrong");
        var source = new Primary(
                        "jdbc:postgresql://" + new Door(true).host() + "," + new Door(false).host() + "/postgres")
                .source(properties);
        assertThatThrownBy(source::getConnection)
                .isInstanceOfSatisfying(
                        SQLException.class, e -> assertThat(e.getSQLState()).startsWith("28"));
    }
}
