package weft.store.find;

import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.LongConsumer;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import weft.core.find.Total;
import weft.core.find.View;
import weft.core.record.StoredRow;
import weft.core.table.Faults;
import weft.store.Busy;
import weft.store.Database;
import weft.store.Turns;
import weft.store.record.RecordRows;
import weft.store.table.SeenTable;
import weft.store.table.Tables;

/**
 * The records in view: counted, paged, walked along. Up to {@link Total#COUNTED} matches are found, sorted and numbered
 * as a whole, which costs the same wherever they lie. More are never gathered: they stand so close that walking along an
 * index meets the next ones at once.
 */
public final class Views {

    private static final Turns EXPORTS =
            new Turns(3, 20, "Others are taking records away just now. Try again in a moment.");

    private final DSLContext sql;
    private final DSLContext longSql;
    private final Tables tables;

    /** In that database. */
    public Views(Database database, Tables tables) {
        this.sql = database.sql();
        this.longSql = database.longSql();
        this.tables = tables;
    }

    /** How many records are in view: exact up to {@link Total#COUNTED} matches and for the whole table. */
    public Total total(SeenTable table, View view) {
        return everything(table, view)
                ? Total.exactly(tables.rows(table.stored()))
                : new Matches(sql, table, view).total();
    }

    /**
     * Where that goal lies, or empty when no record is in view, none lies there, or the one asked for is not in view.
     *
     * @throws Faults when a number lies where records are not numbered, or a cursor is none of this order
     */
    public Optional<Placed> place(SeenTable table, View view, Goal goal) {
        return ask(table, view, found -> found.place(goal));
    }

    /**
     * The records after a place, or before it when the cursor goes back.
     *
     * @param after as {@link Cursor#wire()} spelled it; empty to begin at the first record
     * @throws Faults when it is no cursor of this order
     */
    public Page page(SeenTable table, View view, Optional<String> after, int limit) {
        return ask(table, view, found -> found.page(after, limit));
    }

    /**
     * The records from a number on.
     *
     * @param from the number of the first of them, from 1 to {@link Total#COUNTED}
     * @throws Faults when it is another number
     */
    public Page pageFrom(SeenTable table, View view, long from, int limit) {
        if (from < 1 || from > Total.COUNTED) {
            throw new Faults("from", "A list begins at a number from 1 to " + Total.COUNTED + ".");
        }
        return ask(table, view, found -> found.pageFrom(from, limit));
    }

    private static boolean everything(SeenTable table, View view) {
        return view.everything() && table.showsAll();
    }

    private <T> T ask(SeenTable table, View view, Function<Found, T> question) {
        if (everything(table, view)) {
            return question.apply(new Walk(sql, table, view, Total.exactly(tables.rows(table.stored()))));
        }
        var matches = new Matches(sql, table, view);
        var answer = question.apply(matches);
        return matches.tooMany() ? question.apply(new Walk(sql, table, view, matches.estimated())) : answer;
    }

    /**
     * Every record in view, one after the other, as they all were at one moment; never more than some held at once.
     *
     * @param total is told first how many there are
     * @throws Busy when too many others do the same
     * @throws IllegalStateException when not all of them came
     */
    public void each(SeenTable table, View view, LongConsumer total, Consumer<StoredRow> taker) {
        EXPORTS.take(() -> {
            longSql.transaction(inner -> each(inner.dsl(), table, view, total, taker));
            return view;
        });
    }

    private static void each(
            DSLContext within, SeenTable table, View view, LongConsumer total, Consumer<StoredRow> taker) {
        within.execute("set transaction isolation level repeatable read, read only");
        long all = within.fetchCount(DSL.table(table.sqlName()), FindSql.of(table, view));
        total.accept(all);
        long came = 0;
        try (var rows = within.select(RecordRows.fields(table))
                .from(DSL.table(table.sqlName()))
                .where(FindSql.of(table, view))
                .orderBy(new Ordering(table, view.sort()).whole())
                .fetchSize(500)
                .fetchLazy()) {
            for (var row : rows) {
                taker.accept(RecordRows.of(table, row));
                came++;
            }
        }
        if (came != all) {
            throw new IllegalStateException(came + " records came of " + all);
        }
    }
}
