package weft.store.door;

import static weft.store.schema.Tables.TAKEN;

import java.time.Clock;
import java.time.OffsetDateTime;
import java.time.temporal.ChronoUnit;
import java.util.List;
import org.jooq.DSLContext;

/** How often what goes by a secret address is taken in a minute, on whichever server: from one address, and by one door. */
public final class Throttle {

    private static final int FROM_ONE_ADDRESS = 60;
    private static final int BY_ONE_DOOR = 600;

    private final DSLContext sql;
    private final Clock clock;

    /** In the database that those queries go to. */
    public Throttle(DSLContext sql, Clock clock) {
        this.sql = sql;
        this.clock = clock;
    }

    private record Limit(String of, int most) {}

    /** Whether so many more are taken now. */
    public boolean takes(String door, String address, int many) {
        var minute = OffsetDateTime.now(clock).truncatedTo(ChronoUnit.MINUTES);
        boolean takes = true;
        for (var limit : List.of(new Limit(door + " " + address, FROM_ONE_ADDRESS), new Limit(door, BY_ONE_DOOR))) {
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
