package weft.store.alike;

import static weft.store.schema.Tables.ALIKE_GROUP;
import static weft.store.schema.Tables.ALIKE_LOOK;

import java.time.Clock;
import java.time.Duration;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import weft.core.alike.AlikeBlock;
import weft.core.alike.AlikeGroups;
import weft.core.record.StoredRow;
import weft.core.table.Column;
import weft.core.table.Faults;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.store.Busy;
import weft.store.record.RecordRows;
import weft.store.record.SaidDifferent;
import weft.store.table.StoredTable;
import weft.store.table.TableSql;

/**
 * Looks over all records of a table for those that are nearly the same. Records are held in blocks, to each of which all before it
 * are held; they are read by pages, so that no more are in memory and entries go on meanwhile. One look at a time goes over a
 * table, on the server where it was begun; every server tells how far it is, and can end it.
 */
public final class AlikeLooks {

    private static final Logger LOG = LoggerFactory.getLogger(AlikeLooks.class);

    private static final int MOST_COLUMNS = 6;
    private static final int KEPT = 10;

    /** Each takes memory of its own. */
    private static final int AT_ONCE = 2;

    /** A look of which nothing was heard for so long went away with its server. */
    private static final Duration DEAD_AFTER = Duration.ofMinutes(1);

    private final DSLContext sql;
    private final DSLContext longSql;
    private final SaidDifferent different;
    private final Clock clock;

    /**
     * In that database.
     *
     * @param longSql for questions that take long
     */
    public AlikeLooks(DSLContext sql, DSLContext longSql, SaidDifferent different, Clock clock) {
        this.sql = sql;
        this.longSql = longSql;
        this.different = different;
        this.clock = clock;
    }

    /** How a look stands. */
    public enum State {
        RUNNING,
        DONE,
        /** So many are alike that the columns say nothing; the first of them are there. */
        TOO_MANY,
        /** By somebody, or with its server. */
        ENDED,
        FAILED
    }

    /**
     * A look.
     *
     * @param columns in which records are compared
     * @param sound whether those are alike that sound so
     * @param done how many records were read, some of them several times
     * @param whole how many will have been
     * @param found how many pairs are alike, so far
     */
    public record AlikeLook(
            long id,
            List<String> columns,
            boolean sound,
            State state,
            OffsetDateTime begun,
            String by,
            long done,
            long whole,
            int found) {}

    /** Records that are nearly the same, those of them that are still there, and what is between the nearest two. */
    public record AlikeRecords(int place, List<StoredRow> records, String why) {}

    /**
     * Begins a look on a thread of its own, unless one goes over the table already.
     *
     * @return it, or the one that is under way
     * @throws Faults when these are no columns to compare
     * @throws Busy when as many go over other tables as may at once
     */
    public AlikeLook begin(StoredTable table, List<String> columns, boolean sound, String by) {
        var compared = compared(table.definition(), columns);
        var began = new boolean[1];
        var look = sql.transactionResult(inner -> {
            var within = inner.dsl();
            within.execute("select pg_advisory_xact_lock(hashtextextended('alike looks', 0))");
            return latest(within, ALIKE_LOOK.TABLE_ID.eq(table.id()))
                    .filter(each -> each.state() == State.RUNNING)
                    .orElseGet(() -> {
                        needTurn(within);
                        began[0] = true;
                        return add(within, table, columns, sound, by);
                    });
        });
        if (began[0]) {
            Thread.ofVirtual().name("alike").start(() -> run(table, compared, look));
        }
        return look;
    }

    private void needTurn(DSLContext within) {
        int others = within.fetchCount(
                ALIKE_LOOK,
                ALIKE_LOOK
                        .STATE
                        .eq(State.RUNNING)
                        .and(ALIKE_LOOK.ALIVE_AT.gt(OffsetDateTime.now(clock).minus(DEAD_AFTER))));
        if (others >= AT_ONCE) {
            throw new Busy(
                    "Looks go over %d other tables just now. Begin again when one is through.".formatted(others));
        }
    }

    private AlikeLook add(DSLContext within, StoredTable table, List<String> columns, boolean sound, String by) {
        within.deleteFrom(ALIKE_LOOK)
                .where(ALIKE_LOOK.TABLE_ID.eq(table.id()))
                .and(ALIKE_LOOK
                        .COLUMNS
                        .eq(columns.toArray(String[]::new))
                        .and(ALIKE_LOOK.SOUND.eq(sound))
                        .or(ALIKE_LOOK.ID.notIn(DSL.select(ALIKE_LOOK.ID)
                                .from(ALIKE_LOOK)
                                .where(ALIKE_LOOK.TABLE_ID.eq(table.id()))
                                .orderBy(ALIKE_LOOK.ID.desc())
                                .limit(KEPT - 1))))
                .execute();
        long id = within.insertInto(ALIKE_LOOK)
                .set(ALIKE_LOOK.TABLE_ID, table.id())
                .set(ALIKE_LOOK.COLUMNS, columns.toArray(String[]::new))
                .set(ALIKE_LOOK.SOUND, sound)
                .set(ALIKE_LOOK.STATE, State.RUNNING)
                .set(ALIKE_LOOK.BEGUN_AT, OffsetDateTime.now(clock))
                .set(ALIKE_LOOK.BEGUN_BY, by)
                .set(ALIKE_LOOK.ALIVE_AT, OffsetDateTime.now(clock))
                .returningResult(ALIKE_LOOK.ID)
                .fetchSingle()
                .value1();
        return latest(within, ALIKE_LOOK.ID.eq(id)).orElseThrow();
    }

    private static List<Column> compared(Table table, List<String> columns) {
        if (columns.isEmpty() || columns.size() > MOST_COLUMNS || new HashSet<>(columns).size() < columns.size()) {
            throw new Faults("columns", "Choose 1 to " + MOST_COLUMNS + " columns to compare.");
        }
        return columns.stream()
                .map(name -> table.column(name)
                        .filter(column -> column.type() != ColumnType.PICTURE)
                        .orElseThrow(() -> new Faults(
                                "columns",
                                "“" + name + "” is no column of " + table.title()
                                        + " that can be compared. Choose others.")))
                .toList();
    }

    private void run(StoredTable table, List<Column> columns, AlikeLook look) {
        try {
            var sweep = new AlikeSweep(longSql, table, columns, look.sound(), different, AlikeBlock.MOST_RECORDS);
            var ended = sweep.run((done, whole) -> tell(look.id(), done, whole, sweep.found()));
            if (ended != State.ENDED) {
                keep(look.id(), sweep.groups(), ended);
            }
        } catch (RuntimeException failed) {
            LOG.warn("a look for what is alike in table {} failed", table.id(), failed);
            fail(look.id());
        }
    }

    private void fail(long look) {
        try {
            sql.update(ALIKE_LOOK)
                    .set(ALIKE_LOOK.STATE, State.FAILED)
                    .where(ALIKE_LOOK.ID.eq(look))
                    .execute();
        } catch (RuntimeException stopping) {
            LOG.info("the look is told as ended once nothing was heard of it for a minute");
        }
    }

    /** Tells how far it is; says whether it is to go on. */
    private boolean tell(long look, long done, long whole, int found) {
        return sql.update(ALIKE_LOOK)
                        .set(ALIKE_LOOK.DONE, done)
                        .set(ALIKE_LOOK.WHOLE, whole)
                        .set(ALIKE_LOOK.FOUND, found)
                        .set(ALIKE_LOOK.ALIVE_AT, OffsetDateTime.now(clock))
                        .where(ALIKE_LOOK.ID.eq(look))
                        .and(ALIKE_LOOK.STATE.eq(State.RUNNING))
                        .execute()
                == 1;
    }

    private void keep(long look, List<AlikeGroups.Group> groups, State state) {
        sql.transaction(inner -> {
            var within = inner.dsl();
            int running = within.update(ALIKE_LOOK)
                    .set(ALIKE_LOOK.STATE, state)
                    .where(ALIKE_LOOK.ID.eq(look))
                    .and(ALIKE_LOOK.STATE.eq(State.RUNNING))
                    .execute();
            if (running == 1) {
                var places = new AtomicInteger();
                within.batch(groups.stream()
                                .map(group -> DSL.insertInto(ALIKE_GROUP)
                                        .set(ALIKE_GROUP.LOOK_ID, look)
                                        .set(ALIKE_GROUP.PLACE, places.incrementAndGet())
                                        .set(
                                                ALIKE_GROUP.RECORDS,
                                                group.records().toArray(Long[]::new))
                                        .set(ALIKE_GROUP.WHY, group.why()))
                                .toList())
                        .execute();
            }
        });
    }

    /** The latest look over a table by those columns, if there was one. */
    public Optional<AlikeLook> latest(StoredTable table, List<String> columns, boolean sound) {
        return latest(
                sql,
                ALIKE_LOOK
                        .TABLE_ID
                        .eq(table.id())
                        .and(ALIKE_LOOK.COLUMNS.eq(columns.toArray(String[]::new)))
                        .and(ALIKE_LOOK.SOUND.eq(sound)));
    }

    /** The latest look over a table, by whatever columns, if there was one. */
    public Optional<AlikeLook> latest(StoredTable table) {
        return latest(sql, ALIKE_LOOK.TABLE_ID.eq(table.id()));
    }

    /** The look of that identity over a table. */
    public Optional<AlikeLook> find(StoredTable table, long look) {
        return latest(sql, ALIKE_LOOK.TABLE_ID.eq(table.id()).and(ALIKE_LOOK.ID.eq(look)));
    }

    private Optional<AlikeLook> latest(DSLContext within, Condition which) {
        return within.selectFrom(ALIKE_LOOK)
                .where(which)
                .orderBy(ALIKE_LOOK.ID.desc())
                .limit(1)
                .fetchOptional(row -> new AlikeLook(
                        row.get(ALIKE_LOOK.ID),
                        List.of(row.get(ALIKE_LOOK.COLUMNS)),
                        row.get(ALIKE_LOOK.SOUND),
                        state(row.get(ALIKE_LOOK.STATE), row.get(ALIKE_LOOK.ALIVE_AT)),
                        row.get(ALIKE_LOOK.BEGUN_AT),
                        row.get(ALIKE_LOOK.BEGUN_BY),
                        row.get(ALIKE_LOOK.DONE),
                        row.get(ALIKE_LOOK.WHOLE),
                        row.get(ALIKE_LOOK.FOUND)));
    }

    private State state(State kept, OffsetDateTime alive) {
        return kept == State.RUNNING && alive.isBefore(OffsetDateTime.now(clock).minus(DEAD_AFTER))
                ? State.ENDED
                : kept;
    }

    /** Ends a look that is under way; what it has found so far is not kept. */
    public void end(StoredTable table, long look) {
        sql.update(ALIKE_LOOK)
                .set(ALIKE_LOOK.STATE, State.ENDED)
                .where(ALIKE_LOOK.TABLE_ID.eq(table.id()))
                .and(ALIKE_LOOK.ID.eq(look))
                .and(ALIKE_LOOK.STATE.eq(State.RUNNING))
                .execute();
    }

    /**
     * Groups that a look has found, the nearest first: those of which two records are still there that were not said to be
     * different.
     *
     * @param after the place after which they begin
     */
    public List<AlikeRecords> groups(StoredTable table, long look, int after, int most) {
        var groups = new ArrayList<AlikeRecords>();
        int from = after;
        while (groups.size() < most) {
            var page = sql.select(ALIKE_GROUP.PLACE, ALIKE_GROUP.RECORDS, ALIKE_GROUP.WHY)
                    .from(ALIKE_GROUP)
                    .where(ALIKE_GROUP.LOOK_ID.eq(look))
                    .and(ALIKE_GROUP.PLACE.gt(from))
                    .orderBy(ALIKE_GROUP.PLACE)
                    .limit(most)
                    .fetch();
            if (page.isEmpty()) {
                break;
            }
            var there = records(
                    table,
                    page.stream().flatMap(row -> Arrays.stream(row.value2())).toList());
            var pairs = page.stream()
                    .flatMap(row -> SaidDifferent.pairs(shown(row.value2(), there)).stream())
                    .toList();
            var apart = different.of(table, pairs);
            for (var row : page) {
                from = row.value1();
                var shown = shown(row.value2(), there);
                if (!apart.containsAll(SaidDifferent.pairs(shown)) && groups.size() < most) {
                    groups.add(new AlikeRecords(
                            from, shown.stream().map(there::get).toList(), row.value3()));
                }
            }
        }
        return List.copyOf(groups);
    }

    /** How many of those records the table has. */
    public int there(StoredTable table, Collection<Long> ids) {
        return sql.fetchCount(DSL.table(table.sqlName()), TableSql.ID.in(ids));
    }

    /** The first of a group's records that are still there. */
    private static Set<Long> shown(Long[] group, Map<Long, StoredRow> there) {
        return Arrays.stream(group)
                .filter(there::containsKey)
                .limit(SaidDifferent.MOST)
                .collect(Collectors.toCollection(TreeSet::new));
    }

    private Map<Long, StoredRow> records(StoredTable table, List<Long> ids) {
        var records = new HashMap<Long, StoredRow>();
        sql.select(RecordRows.fields(table))
                .from(DSL.table(table.sqlName()))
                .where(TableSql.ID.in(ids))
                .forEach(row -> {
                    var record = RecordRows.of(table, row);
                    records.put(record.id(), record);
                });
        return records;
    }
}
