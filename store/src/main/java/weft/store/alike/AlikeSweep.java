package weft.store.alike;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import org.jooq.DSLContext;
import weft.core.alike.AlikeBlock;
import weft.core.alike.AlikeGroups;
import weft.core.alike.AlikeKeys;
import weft.core.record.StoredRow;
import weft.core.table.Column;
import weft.store.alike.AlikeLooks.State;
import weft.store.record.SaidDifferent;
import weft.store.record.SaidDifferent.PairOf;
import weft.store.table.StoredTable;

/** One look over the records of a table: blocks of them, to each of which all are held that come before its end. */
final class AlikeSweep {

    /** So many pairs tell that the columns say nothing. */
    static final int MOST_PAIRS = 100_000;

    /** So many may be held each to each, near or not. */
    private static final long MOST_COMPARED = 50_000_000;

    private static final Duration TOLD_EVERY = Duration.ofSeconds(1);

    private final AlikePages pages;
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
        this.pages = AlikePages.stored(sql, table, columns);
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
        var first = pages.page(0, Long.MAX_VALUE);
        var keys = AlikeKeys.of(columns, sound, first);
        long all = pages.count();
        long from = 0;
        whole = all;
        for (var block = pages.block(keys, sound, from, most);
                block.isPresent();
                block = pages.block(keys, sound, from, most)) {
            long end = block.get().last();
            // Each block to come is as long as this one, and each record before its end is read for it once more.
            long blocks = Math.max(1, Math.ceilDiv(all, block.get().size()));
            whole = Math.max(
                    whole, all + blocks * (blocks + 1) / 2 * block.get().size());
            done += block.get().size();
            for (var page = pages.page(0, end);
                    !page.isEmpty();
                    page = pages.page(page.getLast().id(), end)) {
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
}
