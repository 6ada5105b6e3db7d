package weft.store.twice;

import static weft.store.schema.Tables.HISTORY;

import java.time.Clock;
import java.time.LocalDate;
import org.jooq.DSLContext;
import weft.store.record.History.Action;
import weft.store.table.StoredTable;

/** Papers that bear no number are recognised by who keyed them first, on which day, and their place among those of that day. */
public final class Pile {

    private final DSLContext sql;
    private final Clock clock;

    Pile(DSLContext sql, Clock clock) {
        this.sql = sql;
        this.clock = clock;
    }

    /**
     * Where a paper is.
     *
     * @param by who keyed it first
     * @param day when
     * @param number its number among theirs of that day, from 1
     */
    public record Paper(String by, LocalDate day, int number) {}

    Paper place(StoredTable table, long record, String by) {
        var first = sql.select(HISTORY.ID, HISTORY.AT)
                .from(HISTORY)
                .where(HISTORY.TABLE_ID.eq(table.id()))
                .and(HISTORY.RECORD_ID.eq(record))
                .orderBy(HISTORY.ID)
                .limit(1)
                .fetchSingle();
        var zone = clock.getZone();
        var day = first.value2().atZoneSameInstant(zone).toLocalDate();
        int number = sql.fetchCount(
                HISTORY,
                HISTORY.TABLE_ID
                        .eq(table.id())
                        .and(HISTORY.ACTION.eq(Action.SAVED))
                        .and(HISTORY.BY.eq(by))
                        .and(HISTORY.AT.ge(day.atStartOfDay(zone).toOffsetDateTime()))
                        .and(HISTORY.AT.lt(day.plusDays(1).atStartOfDay(zone).toOffsetDateTime()))
                        .and(HISTORY.ID.le(first.value1())));
        return new Paper(by, day, number);
    }
}
