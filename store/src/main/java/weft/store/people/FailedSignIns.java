package weft.store.people;

import static weft.store.schema.Tables.FAILED_SIGN_IN;

import java.time.Clock;
import java.time.Duration;
import java.time.OffsetDateTime;
import java.util.List;
import java.util.Locale;
import org.jooq.DSLContext;

/**
 * How often signing in failed of late, on whichever server. After five failures with one name from one address, or thirty
 * from one address, each further try has to wait, from half a minute on and twice as long each time.
 */
public final class FailedSignIns {

    private static final int FREE_OF_NAME = 5;
    private static final int FREE_OF_ADDRESS = 30;
    private static final Duration FIRST_WAIT = Duration.ofSeconds(30);
    private static final Duration LONGEST_WAIT = Duration.ofMinutes(15);

    private final DSLContext sql;
    private final Clock clock;

    /** In the database that those queries go to. */
    public FailedSignIns(DSLContext sql, Clock clock) {
        this.sql = sql;
        this.clock = clock;
    }

    private record Key(String text, int free) {}

    private static List<Key> keys(String name, String address) {
        var spelled = name.strip().toLowerCase(Locale.ROOT);
        return List.of(
                new Key(address + " " + spelled.substring(0, Math.min(60, spelled.length())), FREE_OF_NAME),
                new Key(address, FREE_OF_ADDRESS));
    }

    /** How long one must wait before the next try; zero when one need not. */
    public Duration wait(String name, String address) {
        var now = OffsetDateTime.now(clock);
        return keys(name, address).stream()
                .flatMap(key -> sql
                        .select(FAILED_SIGN_IN.UNTIL)
                        .from(FAILED_SIGN_IN)
                        .where(FAILED_SIGN_IN.OF.eq(key.text()))
                        .and(FAILED_SIGN_IN.TIMES.ge(key.free()))
                        .and(FAILED_SIGN_IN.UNTIL.gt(now))
                        .fetch(row -> Duration.between(now, row.value1()))
                        .stream())
                .max(Duration::compareTo)
                .orElse(Duration.ZERO);
    }

    /** One more failed; says whether the next try has to wait. */
    public boolean failed(String name, String address) {
        boolean waits = false;
        for (var key : keys(name, address)) {
            int times = sql.insertInto(FAILED_SIGN_IN)
                    .set(FAILED_SIGN_IN.OF, key.text())
                    .set(FAILED_SIGN_IN.TIMES, 1)
                    .set(FAILED_SIGN_IN.UNTIL, OffsetDateTime.now(clock).plus(LONGEST_WAIT))
                    .onDuplicateKeyUpdate()
                    .set(FAILED_SIGN_IN.TIMES, FAILED_SIGN_IN.TIMES.plus(1))
                    .returning(FAILED_SIGN_IN.TIMES)
                    .fetchSingle(FAILED_SIGN_IN.TIMES);
            var wait = times < key.free() ? LONGEST_WAIT : waitAfter(times - key.free());
            sql.update(FAILED_SIGN_IN)
                    .set(FAILED_SIGN_IN.UNTIL, OffsetDateTime.now(clock).plus(wait))
                    .where(FAILED_SIGN_IN.OF.eq(key.text()))
                    .execute();
            waits |= times >= key.free();
        }
        return waits;
    }

    private static Duration waitAfter(int more) {
        var wait = FIRST_WAIT.multipliedBy(1L << Math.min(more, 10));
        return wait.compareTo(LONGEST_WAIT) < 0 ? wait : LONGEST_WAIT;
    }

    /** It went well: what failed before with this name from there counts no more. */
    public void passed(String name, String address) {
        sql.deleteFrom(FAILED_SIGN_IN)
                .where(FAILED_SIGN_IN.OF.eq(keys(name, address).getFirst().text()))
                .execute();
    }

    /** Forgets failures an hour after their waits are over. */
    public int forget() {
        return sql.deleteFrom(FAILED_SIGN_IN)
                .where(FAILED_SIGN_IN.UNTIL.lt(OffsetDateTime.now(clock).minusHours(1)))
                .execute();
    }
}
