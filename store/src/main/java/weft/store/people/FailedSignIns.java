package weft.store.people;

import static weft.store.schema.Tables.FAILED_SIGN_IN;

import java.time.Clock;
import java.time.Duration;
import java.time.OffsetDateTime;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import org.jooq.DSLContext;

/**
 * How often signing in failed of late, on whichever server. After five failures with one name from one address, or thirty
 * from one address, each further try has to wait, from half a minute on and twice as long each time. Failures are forgotten
 * after a quarter of an hour without one, and when somebody signs in from there.
 */
public final class FailedSignIns {

    private static final int FREE_OF_NAME = 5;
    private static final int FREE_OF_ADDRESS = 30;
    private static final Duration FIRST_WAIT = Duration.ofSeconds(30);
    private static final Duration LONGEST_WAIT = Duration.ofMinutes(15);
    /** After so long without a failure those before are forgotten. */
    private static final Duration QUIET = Duration.ofMinutes(15);

    private final DSLContext sql;
    private final Clock clock;

    /** In the database that those queries go to. */
    public FailedSignIns(DSLContext sql, Clock clock) {
        this.sql = sql;
        this.clock = clock;
    }

    private record Tried(String text, int free) {}

    private static List<Tried> keys(String name, String address) {
        var spelled = name.strip().toLowerCase(Locale.ROOT);
        return List.of(
                new Tried(address, FREE_OF_ADDRESS),
                new Tried(address + " " + spelled.substring(0, Math.min(60, spelled.length())), FREE_OF_NAME));
    }

    /**
     * Begins a try, which counts as failed until it {@link #passed}: however many come at once, no more of them are looked at
     * than may be.
     *
     * @return how long one must wait first, and then nothing is counted; zero when one need not
     */
    public Duration begin(String name, String address) {
        return sql.transactionResult(inner -> {
            var within = inner.dsl();
            var now = OffsetDateTime.now(clock);
            var times = new HashMap<Tried, Integer>();
            var wait = Duration.ZERO;
            for (var key : keys(name, address)) {
                within.insertInto(FAILED_SIGN_IN)
                        .set(FAILED_SIGN_IN.OF, key.text())
                        .set(FAILED_SIGN_IN.TIMES, 0)
                        .set(FAILED_SIGN_IN.UNTIL, now)
                        .onConflictDoNothing()
                        .execute();
                var known = within.select(FAILED_SIGN_IN.TIMES, FAILED_SIGN_IN.UNTIL)
                        .from(FAILED_SIGN_IN)
                        .where(FAILED_SIGN_IN.OF.eq(key.text()))
                        .forUpdate()
                        .fetchSingle();
                if (known.value1() >= key.free() && known.value2().isAfter(now)) {
                    wait = Duration.between(now, known.value2());
                    // Whoever is held up leaves no further names behind.
                    break;
                }
                boolean forgotten = known.value2().plus(QUIET).isBefore(now);
                times.put(key, forgotten ? 1 : known.value1() + 1);
            }
            if (wait.isZero()) {
                times.forEach((key, failed) -> within.update(FAILED_SIGN_IN)
                        .set(FAILED_SIGN_IN.TIMES, failed)
                        .set(FAILED_SIGN_IN.UNTIL, failed < key.free() ? now : now.plus(waitAfter(failed - key.free())))
                        .where(FAILED_SIGN_IN.OF.eq(key.text()))
                        .execute());
            }
            return wait;
        });
    }

    private static Duration waitAfter(int more) {
        var wait = FIRST_WAIT.multipliedBy(1L << Math.min(more, 10));
        return wait.compareTo(LONGEST_WAIT) < 0 ? wait : LONGEST_WAIT;
    }

    /** It went well: what failed before from there counts no more. */
    public void passed(String name, String address) {
        sql.deleteFrom(FAILED_SIGN_IN)
                .where(FAILED_SIGN_IN.OF.in(
                        keys(name, address).stream().map(Tried::text).toList()))
                .execute();
    }

    /** Forgets failures an hour after their waits are over. */
    public int forget() {
        return sql.deleteFrom(FAILED_SIGN_IN)
                .where(FAILED_SIGN_IN.UNTIL.lt(OffsetDateTime.now(clock).minusHours(1)))
                .execute();
    }
}
