package weft.store.door;

import static weft.store.schema.Tables.TAKEN;

import java.time.Clock;
import java.time.OffsetDateTime;
import java.time.temporal.ChronoUnit;
import java.util.Comparator;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;

/** How often what comes without a session is taken in a minute, on whichever server: from one address, and by one door. */
public final class Throttle {

    /** What is counted. */
    public enum Taken {
        /** Entries by a secret address. */
        ENTRIES("", 60, 600),
        /** All that is asked by a secret address: each entry is looked at many times while it is typed. */
        ASKS(" asks", 1_200, 12_000),
        /** All that programs ask with a token. */
        PROGRAMS(" programs", 6_000, 30_000);

        private final String words;
        private final int fromOneAddress;
        private final int byOneDoor;

        Taken(String words, int fromOneAddress, int byOneDoor) {
            this.words = words;
            this.fromOneAddress = fromOneAddress;
            this.byOneDoor = byOneDoor;
        }
    }

    private final DSLContext sql;
    private final Clock clock;

    /** In the database that those queries go to. */
    public Throttle(DSLContext sql, Clock clock) {
        this.sql = sql;
        this.clock = clock;
    }

    /** Whether so many more are taken now. */
    public boolean takes(Taken what, String door, String address, int many) {
        var minute = OffsetDateTime.now(clock).truncatedTo(ChronoUnit.MINUTES);
        var limits = Map.of(
                door + what.words + " " + address, what.fromOneAddress,
                door + what.words, what.byOneDoor);
        var taken = sql.insertInto(TAKEN, TAKEN.OF, TAKEN.MINUTE, TAKEN.TIMES);
        // Whoever takes both takes them in one order.
        for (var of : limits.keySet().stream().sorted(Comparator.reverseOrder()).toList()) {
            taken = taken.values(of, minute, many);
        }
        return taken
                .onDuplicateKeyUpdate()
                .set(TAKEN.TIMES, TAKEN.TIMES.plus(DSL.excluded(TAKEN.TIMES)))
                .returning(TAKEN.OF, TAKEN.TIMES)
                .fetch()
                .stream()
                .allMatch(row -> row.get(TAKEN.TIMES) <= limits.getOrDefault(row.get(TAKEN.OF), 0));
    }

    /** Forgets the minutes of an hour ago. */
    public int forget() {
        return sql.deleteFrom(TAKEN)
                .where(TAKEN.MINUTE.lt(OffsetDateTime.now(clock).minusHours(1)))
                .execute();
    }
}
