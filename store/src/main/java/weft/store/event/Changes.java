package weft.store.event;

import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Consumer;
import javax.sql.DataSource;
import org.jooq.TransactionListener;
import org.postgresql.PGConnection;
import org.postgresql.PGNotification;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Hears of changes on every server through PostgreSQL's LISTEN, on a thread and a connection of its own. */
public final class Changes implements AutoCloseable {

    private static final Logger LOG = LoggerFactory.getLogger(Changes.class);
    private static final int POLL_MILLIS = 500;
    private static final int RETRY_MILLIS = 1_000;
    /** Polls after which the line is tried: a database that stands still, or is gone without a word, says nothing either. */
    private static final int TRIED_EVERY = 10;

    private static final int ANSWERS_WITHIN_SECONDS = 5;

    private final DataSource source;
    private final List<Consumer<Change>> hearers = new CopyOnWriteArrayList<>();
    private final List<Consumer<Change>> atOnce = new CopyOnWriteArrayList<>();
    private final Thread thread;
    private volatile boolean open = true;

    /** Hears from now on until closed. */
    public Changes(DataSource source) {
        this.source = source;
        this.thread = Thread.ofPlatform().daemon().name("changes").start(this::hear);
    }

    /** Gives the hearer every change from now on, each once. It must not take long. */
    public void listen(Consumer<Change> hearer) {
        hearers.add(hearer);
    }

    /**
     * Does that work, beside whoever hears on, whenever a form is published or a table changes: it brings up to date what the
     * database keeps for the rules and fields of forms.
     *
     * @param name what it is called where it is told of
     */
    public void keepUp(String name, Runnable work) {
        var wanted = new AtomicInteger();
        listen(change -> {
            switch (change) {
                case Change.OfPublished _, Change.OfTable _ -> {
                    if (wanted.getAndIncrement() == 0) {
                        Thread.ofVirtual().name(name).start(() -> keepUp(name, work, wanted));
                    }
                }
                case Change.OfRecord _, Change.OfRecords _, Change.OfWorkingCopy _, Change.Unheard _ -> {
                    // None of them is what it goes by.
                }
            }
        });
    }

    /** Once for all that was wanted before it began, and again for what is wanted meanwhile. */
    private static void keepUp(String name, Runnable work, AtomicInteger wanted) {
        int before;
        do {
            before = wanted.get();
            try {
                work.run();
            } catch (RuntimeException stopping) {
                LOG.info("{}: looked after again at the next start, or the next change", name);
            }
        } while (!wanted.compareAndSet(before, 0));
    }

    /**
     * The same as {@link #listen}, and gives it those told on this server before the call that made them returns as well, so that whoever made
     * a change never meets what was kept from before it.
     */
    public void listenAtOnce(Consumer<Change> hearer) {
        hearers.add(hearer);
        atOnce.add(hearer);
    }

    /** What is to be set on the transactions whose changes are heard at once. */
    public TransactionListener listener() {
        return Telling.passingTo(change -> atOnce.forEach(hearer -> hearer.accept(change)));
    }

    private void pass(Change change) {
        hearers.forEach(hearer -> hearer.accept(change));
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
        pass(new Change.Unheard());
        var postgres = connection.unwrap(PGConnection.class);
        for (int polls = 1; open; polls++) {
            if (polls % TRIED_EVERY == 0 && !connection.isValid(ANSWERS_WITHIN_SECONDS)) {
                throw new SQLException("The line is dead.");
            }
            var heard = postgres.getNotifications(POLL_MILLIS);
            for (var notification : heard == null ? new PGNotification[0] : heard) {
                pass(Telling.read(notification.getParameter()));
            }
        }
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
