package weft.store.record;

import static weft.store.schema.Tables.SAID_DIFFERENT;

import java.time.Clock;
import java.time.OffsetDateTime;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import weft.store.table.StoredTable;
import weft.store.table.TableSql;

/** Pairs of records that are nearly the same and were said to be different. */
public final class SaidDifferent {

    /** Of so many records at most each pair is remembered at once. */
    public static final int MOST = 50;

    private final DSLContext sql;
    private final Clock clock;

    /** In the database that those queries go to. */
    public SaidDifferent(DSLContext sql, Clock clock) {
        this.sql = sql;
        this.clock = clock;
    }

    /** Two records, the lower one first. */
    public record PairOf(long one, long other) {
        /** In that order, however they are given. */
        public static PairOf of(long one, long other) {
            return new PairOf(Math.min(one, other), Math.max(one, other));
        }
    }

    /** Remembers those pairs; what is remembered already stays. */
    public void say(StoredTable table, Collection<PairOf> pairs, String by) {
        pairs.forEach(pair -> sql.insertInto(SAID_DIFFERENT)
                .set(SAID_DIFFERENT.TABLE_ID, table.id())
                .set(SAID_DIFFERENT.ONE, pair.one())
                .set(SAID_DIFFERENT.OTHER, pair.other())
                .set(SAID_DIFFERENT.SAID_BY, by)
                .set(SAID_DIFFERENT.SAID_AT, OffsetDateTime.now(clock))
                .onConflictDoNothing()
                .execute());
    }

    /** Forgets it of those pairs. */
    public void forget(StoredTable table, Collection<PairOf> pairs) {
        sql.deleteFrom(SAID_DIFFERENT).where(among(table, pairs)).execute();
    }

    /** Those of these pairs that were said to be different. */
    public Set<PairOf> of(StoredTable table, Collection<PairOf> pairs) {
        return pairs.isEmpty()
                ? Set.of()
                : new HashSet<>(sql.select(SAID_DIFFERENT.ONE, SAID_DIFFERENT.OTHER)
                        .from(SAID_DIFFERENT)
                        .where(among(table, pairs))
                        .fetch(row -> new PairOf(row.value1(), row.value2())));
    }

    /** Each two of those records. */
    public static List<PairOf> pairs(Set<Long> records) {
        var sorted = records.stream().sorted().toList();
        return sorted.stream()
                .flatMap(one -> sorted.stream().filter(other -> other > one).map(other -> new PairOf(one, other)))
                .toList();
    }

    /** What a record fulfils that was not said to be different from that one. */
    public static Condition notFrom(StoredTable table, long record) {
        return DSL.notExists(DSL.selectOne()
                .from(SAID_DIFFERENT)
                .where(SAID_DIFFERENT.TABLE_ID.eq(table.id()))
                .and(SAID_DIFFERENT.ONE.eq(DSL.least(TableSql.ID, DSL.val(record))))
                .and(SAID_DIFFERENT.OTHER.eq(DSL.greatest(TableSql.ID, DSL.val(record)))));
    }

    private static Condition among(StoredTable table, Collection<PairOf> pairs) {
        return SAID_DIFFERENT
                .TABLE_ID
                .eq(table.id())
                .and(
                        "({0}, {1}) in (select * from unnest({2}, {3}))",
                        SAID_DIFFERENT.ONE,
                        SAID_DIFFERENT.OTHER,
                        DSL.val(pairs.stream().map(PairOf::one).toArray(Long[]::new)),
                        DSL.val(pairs.stream().map(PairOf::other).toArray(Long[]::new)));
    }
}
