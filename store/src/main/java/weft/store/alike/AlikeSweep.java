package weft.store.alike;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import weft.core.alike.AlikeBlock;
import weft.core.alike.AlikeGroups;
import weft.core.alike.AlikeKeys;
import weft.core.record.StoredRow;
import weft.core.table.Column;
import weft.store.alike.AlikeLooks.State;
import weft.store.record.RecordRows;
import weft.store.record.SaidDifferent;
import weft.store.record.SaidDifferent.PairOf;
import weft.store.table.ColumnSql;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;
import weft.store.table.TableSql;

/** One look over the records of a table: blocks of them, to each of which all are held that come before its end. */
final class AlikeSweep {

    /** So many pairs tell that the columns say nothing. */
    static final int MOST_PAIRS = 100_000;

    /** So many may be held each to each, near or not. */
    private static final long MOST_COMPARED = 50_000_000;

    private static final int PAGE = 5_000;
    private static final Duration TOLD_EVERY = Duration.ofSeconds(1);

    private final DSLContext sql;
    private final StoredTable table;
    private final List<Column> columns;
    private final boolean sound;
    private final SaidDifferent different;
    private final int most;
    private final AlikeGroups groups = new AlikeGroups();
    private long done;
    private long whole;
    private long compared;
    private long told = System.nanoTime();

    /** Of so many records in memory at most. */
    AlikeSweep(
            DSLContext sql, StoredTable table, List<Column> columns, boolean sound, SaidDifferent different, int most) {
        this.sql = sql;
        this.table = table;
        this.columns = columns;
        this.sound = sound;
        this.different = different;
        this.most = most;
    }

    /** Is told how far it is, in records that were read and will have been; says whether it is to go on. */
    interface Progress {
        boolean goesOn(long done, long whole);
    }

    /** How many pairs were found. */
    int found() {
        return groups.pairs();
    }

    /** What was found. */
    List<AlikeGroups.Group> groups() {
        return groups.worstFirst();
    }

    /** Looks until it is through, or is told to end. */
    State run(Progress progress) {
        var first = page(0, Long.MAX_VALUE);
        var keys = AlikeKeys.of(columns, sound, first);
        long all = sql.fetchCount(DSL.table(table.sqlName()), filled());
        long from = 0;
        whole = all;
        for (var block = block(keys, from); block.isPresent(); block = block(keys, from)) {
            long end = block.get().last();
            // Each block to come is as long as this one, and each record before its end is read for it once more.
            long blocks = Math.max(1, Math.ceilDiv(all, block.get().size()));
            whole = Math.max(
                    whole, all + blocks * (blocks + 1) / 2 * block.get().size());
            done += block.get().size();
            for (var page = page(0, end);
                    !page.isEmpty();
                    page = page(page.getLast().id(), end)) {
                hold(page, block.get());
                done += page.size();
                if (groups.pairs() >= MOST_PAIRS || compared + block.get().compared() > MOST_COMPARED) {
                    return State.TOO_MANY;
                }
                if (System.nanoTime() - told > TOLD_EVERY.toNanos()) {
                    told = System.nanoTime();
                    if (!progress.goesOn(done, whole)) {
                        return State.ENDED;
                    }
                }
            }
            compared += block.get().compared();
            from = end;
        }
        return progress.goesOn(done, done) ? State.DONE : State.ENDED;
    }

    /** The records that come after that one, as many as a block holds; empty when there is none. */
    private Optional<AlikeBlock> block(AlikeKeys keys, long after) {
        var block = new AlikeBlock(columns, sound, keys, most);
        for (var page = page(after, Long.MAX_VALUE);
                !page.isEmpty() && !block.full();
                page = page(page.getLast().id(), Long.MAX_VALUE)) {
            page.stream().takeWhile(_ -> !block.full()).forEach(block::add);
        }
        return block.size() == 0 ? Optional.empty() : Optional.of(block);
    }

    private void hold(List<StoredRow> page, AlikeBlock block) {
        var pairs = new ArrayList<AlikeGroups.Pair>();
        for (var record : page) {
            if (groups.pairs() + pairs.size() >= MOST_PAIRS || compared + block.compared() > MOST_COMPARED) {
                break;
            }
            block.alike(record, likeness -> {
                if (groups.pairs() + pairs.size() < MOST_PAIRS) {
                    pairs.add(new AlikeGroups.Pair(
                            record.id(), likeness.record().id(), likeness.slips(), likeness.why(Column::title)));
                }
            });
        }
        var apart = different.of(
                table,
                pairs.stream().map(pair -> new PairOf(pair.one(), pair.other())).toList());
        pairs.stream()
                .filter(pair -> !apart.contains(new PairOf(pair.one(), pair.other())))
                .forEach(groups::join);
    }

    private List<StoredRow> page(long after, long end) {
        var seen = SeenTable.part(table, table.definition().with(columns), Optional.empty(), Optional.empty());
        return sql.select(RecordRows.fields(seen))
                .from(DSL.table(table.sqlName()))
                .where(filled())
                .and(TableSql.ID.gt(after))
                .and(TableSql.ID.le(end))
                .orderBy(TableSql.ID)
                .limit(DSL.inline(PAGE))
                .fetch(row -> RecordRows.of(seen, row));
    }

    private Condition filled() {
        return DSL.and(
                columns.stream().map(column -> ColumnSql.of(column).isNotNull()).toList());
    }
}
