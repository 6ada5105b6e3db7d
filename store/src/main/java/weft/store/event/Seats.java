package weft.store.event;

import static weft.store.schema.Tables.SEAT;

import java.time.Clock;
import java.time.Duration;
import java.time.OffsetDateTime;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;

/** Who has a table open at a Desk, on whichever server. A seat is one open page, and tells again and again that it is there. */
public final class Seats {

    /** A seat that was not heard of for so long is empty. */
    private static final Duration GONE = Duration.ofSeconds(50);

    private final DSLContext sql;
    private final Clock clock;

    /** In the database that those queries go to. */
    public Seats(DSLContext sql, Clock clock) {
        this.sql = sql;
        this.clock = clock;
    }

    /**
     * Takes a seat at a table, or keeps it.
     *
     * @param table its identity
     * @param seat names the open page; made by it
     * @param bench the form at whose Bench it is; empty for a seat at a Desk
     * @return who else is at the table, or at that Bench, each once, by name
     */
    public List<String> take(long table, Optional<String> bench, String seat, String person) {
        sql.insertInto(SEAT)
                .set(SEAT.ID, seat)
                .set(SEAT.TABLE_ID, table)
                .set(SEAT.PERSON, person)
                .set(SEAT.BENCH, bench.orElse(null))
                .onDuplicateKeyUpdate()
                .set(SEAT.TABLE_ID, table)
                .set(SEAT.PERSON, person)
                .set(SEAT.SEEN_AT, OffsetDateTime.now(clock))
                .execute();
        return sql.selectDistinct(SEAT.PERSON)
                .from(SEAT)
                .where(SEAT.TABLE_ID.eq(table))
                .and(bench.isPresent() ? SEAT.BENCH.eq(bench.get()) : SEAT.BENCH.isNull())
                .and(SEAT.ID.ne(seat))
                .and(SEAT.SEEN_AT.gt(OffsetDateTime.now(clock).minus(GONE)))
                .orderBy(SEAT.PERSON)
                .fetch(SEAT.PERSON);
    }

    /** Leaves a seat. */
    public void leave(String seat) {
        sql.deleteFrom(SEAT).where(SEAT.ID.eq(seat)).execute();
    }

    /** Forgets seats that were left without a word. */
    public int forget() {
        return sql.deleteFrom(SEAT)
                .where(SEAT.SEEN_AT.lt(OffsetDateTime.now(clock).minus(GONE)))
                .execute();
    }
}
