package weft.store.twice;

import static weft.store.schema.Tables.SECOND_KEYING;

import java.time.Clock;
import java.time.OffsetDateTime;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.random.RandomGenerator;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import weft.core.door.Door;
import weft.core.find.Criterion;
import weft.core.record.StoredRow;
import weft.core.table.Column;
import weft.core.twice.Standing;
import weft.core.twice.Twice;
import weft.core.value.Value;
import weft.store.door.KnownDoors;
import weft.store.door.Ways.Way;
import weft.store.find.FindSql;
import weft.store.record.Following;
import weft.store.record.Records;
import weft.store.table.SeenTable;
import weft.store.table.StandingSql;
import weft.store.table.StoredTable;
import weft.store.table.TableSql;

/**
 * The papers that are keyed a second time: which are drawn, and who has which in hand. A paper is given to one person at a time,
 * who did not key it first, and never what was keyed first with it.
 */
public final class Papers {

    /** How long a paper is kept for who took it, from the last field on, in minutes. */
    public static final int KEPT_MINUTES = 30;
    /** More are not counted. */
    public static final int MOST_COUNTED = 1_000;

    private final DSLContext sql;
    private final Records records;
    private final KnownDoors doors;
    private final RandomGenerator random;
    private final Clock clock;

    /**
     * In the database that those queries go to.
     *
     * @param random draws which papers are keyed again
     */
    public Papers(DSLContext sql, Records records, KnownDoors doors, RandomGenerator random, Clock clock) {
        this.sql = sql;
        this.records = records;
        this.doors = doors;
        this.random = random;
        this.clock = clock;
    }

    /** What is kept of a new entry by that door when it is drawn to be keyed again; empty when it is not. */
    public Optional<Following.Keeping> drawn(Way way) {
        var by = way.pass().by();
        long table = way.saving().table().id();
        return doors.twice(way.pass().door().form()).stream()
                .filter(door -> door.twice()
                        .filter(twice -> twice.takes(way.pass().door().id(), door.id()))
                        .filter(twice -> twice.draws(random))
                        .isPresent())
                .findFirst()
                .map(Door::id)
                .map(door -> (within, written) -> within.insertInto(SECOND_KEYING)
                        .set(SECOND_KEYING.TABLE_ID, table)
                        .set(SECOND_KEYING.RECORD_ID, written.id())
                        .set(SECOND_KEYING.DOOR_ID, door)
                        .set(SECOND_KEYING.STANDING, Standing.WAITING)
                        .set(SECOND_KEYING.FIRST_BY, by)
                        .onConflictDoNothing()
                        .execute());
    }

    /** How many papers wait at that door for who comes: to be keyed by them, and to be settled. */
    public record Waiting(int keying, int settling) {}

    /** What waits at that door for who comes. */
    public Waiting waiting(Way way) {
        return new Waiting(
                counted(way, free(way)), counted(way, differing(way.pass().by())));
    }

    private int counted(Way way, Condition which) {
        return sql.fetchCount(DSL.selectOne()
                .from(SECOND_KEYING)
                .where(at(way))
                .and(which)
                .and(there(way.saving().table(), DSL.noCondition()))
                .limit(MOST_COUNTED));
    }

    static Condition at(Way way) {
        return SECOND_KEYING
                .DOOR_ID
                .eq(way.pass().door().id())
                .and(SECOND_KEYING.TABLE_ID.eq(way.saving().table().id()));
    }

    /** That its record is still there, and fulfils that. */
    private static Condition there(StoredTable table, Condition which) {
        return SECOND_KEYING.RECORD_ID.in(DSL.select(TableSql.ID)
                .from(DSL.table(table.sqlName()))
                .where(TableSql.ID.eq(SECOND_KEYING.RECORD_ID))
                .and(which));
    }

    private Condition free(Way way) {
        var by = way.pass().by();
        return SECOND_KEYING
                .STANDING
                .eq(Standing.WAITING)
                .and(SECOND_KEYING.FIRST_BY.ne(by))
                .and(SECOND_KEYING
                        .TAKEN_BY
                        .isNull()
                        .or(SECOND_KEYING.TAKEN_BY.eq(by))
                        .or(SECOND_KEYING.TAKEN_UNTIL.lt(OffsetDateTime.now(clock))));
    }

    static Condition differing(String by) {
        return SECOND_KEYING
                .STANDING
                .eq(Standing.DIFFERING)
                .and(SECOND_KEYING.FIRST_BY.ne(by))
                .and(SECOND_KEYING.SECOND_BY.ne(by));
    }

    /**
     * A paper in somebody's hands.
     *
     * @param record the record that its first keying made
     * @param paper the values by which it is recognised
     * @param place by what it is recognised where no values say so
     */
    public record Paper(long record, Map<String, Value> paper, Optional<Pile.Paper> place) {}

    /**
     * Takes a paper to be keyed again: the one in their hands already, else the one that waits longest.
     *
     * @param asked what is asked of the columns by which the paper is recognised that is wanted; none for any
     * @param but records whose papers are not wanted
     * @return empty when none waits for them
     */
    public Optional<Paper> take(Way way, Map<Column, Criterion> asked, List<Long> but) {
        var which = asked.isEmpty() ? DSL.noCondition() : FindSql.matching(asked);
        var by = way.pass().by();
        var free = free(way).and(SECOND_KEYING.RECORD_ID.notIn(but));
        return taken(way, SECOND_KEYING.TAKEN_BY.eq(by).and(free), which)
                .or(() -> taken(way, free, which))
                .flatMap(row -> stored(way, row).map(record -> paper(way, row, record)));
    }

    /** Taken in a step of its own, so that no plan takes another one than it locked. */
    private Optional<Line> taken(Way way, Condition waits, Condition which) {
        var one = DSL.name("one")
                .fields("record_no")
                .asMaterialized(DSL.select(SECOND_KEYING.RECORD_ID)
                        .from(SECOND_KEYING)
                        .where(at(way))
                        .and(waits)
                        .and(there(way.saving().table(), which))
                        .orderBy(SECOND_KEYING.FIRST_AT, SECOND_KEYING.RECORD_ID)
                        .limit(1)
                        .forUpdate()
                        .skipLocked());
        return sql.with(one)
                .update(SECOND_KEYING)
                .set(SECOND_KEYING.TAKEN_BY, way.pass().by())
                .set(SECOND_KEYING.TAKEN_UNTIL, until())
                .from(one)
                .where(SECOND_KEYING.TABLE_ID.eq(way.saving().table().id()))
                .and(SECOND_KEYING.RECORD_ID.eq(one.field("record_no", Long.class)))
                .returning()
                .fetchOptional(Line::of);
    }

    OffsetDateTime until() {
        return OffsetDateTime.now(clock).plusMinutes(KEPT_MINUTES);
    }

    Paper paper(Way way, Line row, StoredRow record) {
        var paper = new LinkedHashMap<String, Value>();
        twice(way).paper().forEach(column -> paper.put(column, record.of(column)));
        return new Paper(
                record.id(),
                paper,
                paper.isEmpty()
                        ? Optional.of(new Pile(sql, clock).place(way.saving().table(), record.id(), row.firstBy()))
                        : Optional.empty());
    }

    static Twice twice(Way way) {
        return way.pass().door().twice().orElseThrow();
    }

    Optional<StoredRow> stored(Way way, Line row) {
        return records.find(SeenTable.all(way.saving().table()), row.record());
    }

    /** The columns that are compared at a door where papers are keyed twice. */
    public static List<Column> compared(Way way) {
        return twice(way).compared(way.saving().plan().keyed());
    }

    Optional<Line> line(Way way, long record) {
        return sql.selectFrom(SECOND_KEYING)
                .where(at(way))
                .and(SECOND_KEYING.RECORD_ID.eq(record))
                .fetchOptional(Line::of);
    }

    /** The next line that fulfils that, in the order in which papers were keyed first. */
    Optional<Line> next(Way way, Condition which) {
        return sql.selectFrom(SECOND_KEYING)
                .where(at(way))
                .and(which)
                .and(there(way.saving().table(), DSL.noCondition()))
                .orderBy(SECOND_KEYING.RECORD_ID)
                .limit(1)
                .fetchOptional(Line::of);
    }

    /**
     * The paper in their hands.
     *
     * @throws NotYours when it is in somebody else's, or keyed by now
     */
    public Paper inHand(Way way, long record) {
        var held = held(way, record);
        return paper(way, held.line(), held.first());
    }

    /** A paper that somebody has taken, with the record of its first keying. */
    record Held(Line line, StoredRow first) {}

    /**
     * The paper in their hands.
     *
     * @throws NotYours when it is in somebody else's, or keyed by now
     */
    Held held(Way way, long record) {
        var line = line(way, record)
                .filter(each -> each.standing() == Standing.WAITING
                        && each.takenBy().equals(Optional.of(way.pass().by())))
                .orElseThrow(NotYours::keyed);
        return new Held(line, stored(way, line).orElseThrow(NotYours::keyed));
    }

    /** Puts a paper back, so that others may take it. */
    public void leave(Way way, long record) {
        sql.update(SECOND_KEYING)
                .setNull(SECOND_KEYING.TAKEN_BY)
                .setNull(SECOND_KEYING.TAKEN_UNTIL)
                .where(at(way))
                .and(SECOND_KEYING.RECORD_ID.eq(record))
                .and(SECOND_KEYING.TAKEN_BY.eq(way.pass().by()))
                .execute();
    }

    /** How the records of a page stand, to whoever sees that table. */
    public Map<Long, Standing> standing(SeenTable table, List<StoredRow> rows) {
        return StandingSql.of(sql, table, rows.stream().map(StoredRow::id).toList());
    }

    /** Whether entries of that form are keyed twice at one of its doors. */
    public boolean twice(String form) {
        return !doors.twice(form).isEmpty();
    }
}
