package weft.store.door;

import static weft.store.schema.Tables.TAKEN;

import java.time.Clock;
import java.time.OffsetDateTime;
import java.time.temporal.ChronoUnit;
import java.util.List;
import org.jooq.DSLContext;

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

    private record Limit(String of, int most) {}

    /** Whether so many more are taken now. */
    public boolean takes(Taken what, String door, String address, int many) {
        var minute = OffsetDateTime.now(clock).truncatedTo(ChronoUnit.MINUTES);
        boolean takes = true;
        for (var limit : List.of(
                new Limit(door + what.words + " " + address, what.fromOneAddress),
                new Limit(door + what.words, what.byOneDoor))) {
            int times = sql.insertInto(TAKEN)
                    .set(TAKEN.OF, limit.of())
                    .set(TAKEN.MINUTE, minute)
                    .set(TAKEN.TIMES, many)
                    .onDuplicateKeyUpdate()
                    .set(TAKEN.TIMES, TAKEN.TIMES.plus(many))
                    .returning(TAKEN.TIMES)
                    .fetchSingle(TAKEN.TIMES);
            takes &= times <= limit.most();
        }
        return takes;
    }

    /** Forgets the minutes of an hour ago. */
    public int forget() {
        return sql.deleteFrom(TAKEN)
                .where(TAKEN.MINUTE.lt(OffsetDateTime.now(clock).minusHours(1)))
                .execute();
    }
}
