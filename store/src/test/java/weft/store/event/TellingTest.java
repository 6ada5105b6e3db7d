package weft.store.event;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.store.Database;
import weft.store.TestDatabase;

@ExtendWith(TestDatabase.class)
class TellingTest {

    private static final List<Change> ALL = List.of(
            new Change.OfRecord(4_001, Change.Kind.SAVED, 7, 12),
            new Change.OfRecord(4_001, Change.Kind.DELETED, 7, 12),
            new Change.OfRecords(4_001),
            new Change.OfWorkingCopy(4_001, "a form-2"),
            new Change.OfPublished(4_001, "samples"),
            new Change.OfTable(4_001));

    private final Database database = TestDatabase.get();
    private final Changes line = new Changes(database.source());
    private final BlockingQueue<Change> heard = new LinkedBlockingQueue<>();

    @BeforeEach
    void listening() throws InterruptedException {
        line.listen(change -> {
            if (ALL.contains(change) || change.equals(new Change.OfTable(-1))) {
                heard.add(change);
            }
        });
        // Until the line is up, nothing is heard.
        do {
            database.sql().transaction(inner -> Telling.tell(inner.dsl(), new Change.OfTable(-1)));
        } while (heard.poll(100, TimeUnit.MILLISECONDS) == null);
        heard.clear();
    }

    @AfterEach
    void over() {
        line.close();
    }

    /** However many tables are made at once, what keeps up with them never does so several times beside itself. */
    @Test
    void whatKeepsUpIsDoneOnceAtATimeAndOnceMoreForWhatCameMeanwhile() throws InterruptedException {
        var begun = new LinkedBlockingQueue<Integer>();
        var goesOn = new Semaphore(0);
        var beside = new AtomicInteger();
        line.keepUp("tried", () -> {
            begun.add(beside.incrementAndGet());
            goesOn.acquireUninterruptibly();
            beside.decrementAndGet();
        });
        database.sql().transaction(inner -> Telling.tell(inner.dsl(), new Change.OfTable(4_001)));
        assertThat(begun.poll(20, TimeUnit.SECONDS)).isEqualTo(1);
        for (int i = 0; i < 50; i++) {
            int table = 5_000 + i;
            database.sql().transaction(inner -> Telling.tell(inner.dsl(), new Change.OfTable(table)));
        }
        database.sql().transaction(inner -> Telling.tell(inner.dsl(), new Change.OfTable(-1)));
        Change last;
        do {
            last = heard.poll(20, TimeUnit.SECONDS);
        } while (!new Change.OfTable(-1).equals(last));
        assertThat(begun).isEmpty();
        goesOn.release(2);
        assertThat(begun.poll(20, TimeUnit.SECONDS)).isEqualTo(1);
        // And none of the fifty is left over.
        database.sql().transaction(inner -> Telling.tell(inner.dsl(), new Change.OfTable(4_001)));
        goesOn.release(50);
        assertThat(begun.poll(20, TimeUnit.SECONDS)).isEqualTo(1);
        assertThat(begun.size()).isLessThan(2);
    }

    @Test
    void everyKindOfChangeIsHeardAsItWasToldOnceAndInOrder() throws InterruptedException {
        for (var change : ALL) {
            database.sql().transaction(inner -> Telling.tell(inner.dsl(), change));
        }
        for (var change : ALL) {
            Change next;
            do {
                next = heard.poll(20, TimeUnit.SECONDS);
            } while (new Change.OfTable(-1).equals(next));
            assertThat(next).isEqualTo(change);
        }
    }

    @Test
    void whoListensAtOnceHasHeardBeforeTheCallReturnsAndNothingOfWhatWasGivenUp() {
        var atOnce = new CopyOnWriteArrayList<Change>();
        database.changes().listenAtOnce(atOnce::add);
        database.sql().transaction(inner -> {
            Telling.tell(inner.dsl(), ALL.get(2));
            Telling.tell(inner.dsl(), ALL.get(3));
            assertThat(atOnce).as("before it is kept").doesNotContainAnyElementsOf(ALL);
        });
        assertThat(atOnce).contains(ALL.get(2), ALL.get(3));
        assertThatThrownBy(() -> database.sql().transaction(inner -> {
                    Telling.tell(inner.dsl(), ALL.get(4));
                    throw new IllegalStateException("given up");
                }))
                .hasMessage("given up");
        assertThat(atOnce).doesNotContain(ALL.get(4));
    }
}
