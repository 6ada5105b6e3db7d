package weft.store.table;

import static weft.store.schema.Tables.USUAL;
import static weft.store.schema.Tables.USUAL_COUNT;

import java.math.BigDecimal;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.SQL;
import org.jooq.Table;
import org.jooq.impl.DSL;
import weft.core.table.Column;
import weft.core.usual.Counts;
import weft.core.usual.Grouping;
import weft.core.usual.Grouping.Part;
import weft.core.value.Wire;

/** What is usual, as the database counts it: see {@code V22__usual.sql}. */
public final class UsualSql {

    private UsualSql() {}

    /** What is counted for a grouping of a table's records. */
    public static Condition of(StoredTable table, Grouping grouping) {
        return USUAL.TABLE_ID
                .eq(table.id())
                .and(USUAL.COLUMN_ID.eq(table.columnId(grouping.column().name())))
                .and(USUAL.PART_COLUMNS.eq(partColumns(table, grouping)))
                .and(USUAL.PART_OF.eq(partOf(grouping)));
    }

    /** The identities of the columns that the parts are of. */
    public static Long[] partColumns(StoredTable table, Grouping grouping) {
        return grouping.by().stream()
                .map(part -> table.columnId(part.column().name()))
                .toArray(Long[]::new);
    }

    /** What of these parts the records. */
    public static String[] partOf(Grouping grouping) {
        return grouping.by().stream().map(part -> Wire.word(part.of())).toArray(String[]::new);
    }

    /** Whether a record is not as usual, held against all that is stored at this moment: in one pass over the table. */
    public static Condition unusual(StoredTable table, Grouping grouping) {
        return DSL.condition(
                "({0}) in (with {1}, narrowest as (select distinct on (_tuple) _tuple, odd from held order by _tuple, depth desc)"
                        + " select {2} from tuples join narrowest using (_tuple) where odd)",
                DSL.list(columns(grouping)), held(table, grouping), DSL.list(columns(grouping)));
    }

    /**
     * The records that are not as usual in the narrowest group and are in each wider one, as a table with their row ({@code _at}), how far
     * beyond what is usual they are ({@code _beyond}; 1 is its end), and how many they are in all ({@code _many}).
     */
    public static Table<?> odd(StoredTable table, Grouping grouping) {
        var columns = columns(grouping);
        return DSL.table(
                "(with {0}, odd as (select _tuple, round(beyond, 3) as _beyond from held where odd and depth = {1} and not exists ("
                        + "select from held wider where wider._tuple = held._tuple and wider.depth < {1} and wider.odd)),"
                        + " found as materialized (select {2}, _beyond, sum(_times) over () as _many from tuples join odd using (_tuple))"
                        + " select _row as _at, _beyond, _many from {3} join found using ({2}))",
                held(table, grouping),
                DSL.inline(grouping.by().size() + 1),
                DSL.list(columns),
                DSL.table(table.sqlName()));
    }

    /**
     * The steps by which it is found: {@code tuples}, the values that records have together, and {@code held}, for each of them and
     * each group that says something whether it is odd there, and how far beyond what is usual.
     */
    private static SQL held(StoredTable table, Grouping grouping) {
        return DSL.sql(
                grouping.ofAmounts()
                        ? "tuples as materialized ({0}), placed as (select t._tuple, t._times, p.depth, p.of_group, p.value::numeric as amount"
                                + " from tuples t cross join {1} p), counted as (select of_group, amount, sum(_times) as times"
                                + " from placed group by of_group, amount), summed as (select of_group, amount, sum(times) over"
                                + " (partition by of_group order by amount) as upto, sum(times) over (partition by of_group) as records"
                                + " from counted), fences as (select of_group, min(amount) filter (where upto >= ceil(records / 4)) as q1,"
                                + " min(amount) filter (where upto >= ceil(records * 3 / 4)) as q3 from summed where records >= {2}"
                                + " group by of_group), held as materialized (select _tuple, depth, q1 < q3 and greatest(q1 - amount, amount - q3)"
                                + " > {3} * (q3 - q1) as odd, greatest(q1 - amount, amount - q3) / nullif(q3 - q1, 0) / {3} as beyond"
                                + " from placed join fences using (of_group))"
                        : "tuples as materialized ({0}), placed as (select t._tuple, t._times, p.depth, p.of_group, p.value"
                                + " from tuples t cross join {1} p), counted as (select of_group, value, sum(_times) as times,"
                                + " sum(sum(_times)) over (partition by of_group) as records from placed group by of_group, value),"
                                + " held as materialized (select _tuple, depth, times * {3} < records as odd, records / (times * {3}) as beyond"
                                + " from placed join counted using (of_group, value) where records >= {2})",
                tuples(table, grouping),
                places(grouping),
                DSL.inline(grouping.ofAmounts() ? Counts.LEAST_AMOUNTS : Counts.LEAST_WORDS),
                grouping.ofAmounts() ? DSL.inline(Counts.FENCE) : DSL.inline(Counts.RARE));
    }

    /** Has the rest of a transaction use the memory and the workers that going over a large table wants. */
    public static void forLarge(DSLContext within) {
        within.execute("set local work_mem = '128MB'");
        within.execute("set local parallel_tuple_cost = 0");
    }

    /** Lets go of what is counted of a column that is made another; what is needed of it is counted anew. */
    static void forget(DSLContext within, long column) {
        within.deleteFrom(USUAL)
                .where(USUAL.COLUMN_ID.eq(column).or(DSL.val(column).eq(DSL.any(USUAL.PART_COLUMNS))))
                .execute();
    }

    /** What the values are in the narrowest group of which there are enough; empty where no group has, or nothing is counted yet. */
    public static Optional<Counts> counts(DSLContext sql, StoredTable table, Grouping grouping, Grouping.Place place) {
        return first(
                grouping,
                place,
                group -> sql.select(USUAL_COUNT.VALUE, DSL.sum(USUAL_COUNT.TIMES))
                        .from(USUAL_COUNT)
                        .where(USUAL_COUNT.USUAL_ID.eq(DSL.select(USUAL.ID)
                                .from(USUAL)
                                .where(of(table, grouping))
                                .and(USUAL.COUNTED)))
                        .and(USUAL_COUNT.OF_GROUP.eq(group))
                        .groupBy(USUAL_COUNT.VALUE)
                        .having(DSL.sum(USUAL_COUNT.TIMES).gt(BigDecimal.ZERO))
                        .fetchMap(row -> row.value1(), row -> row.value2().longValue()));
    }

    private static Optional<Counts> first(
            Grouping grouping, Grouping.Place place, Function<String, Map<String, Long>> times) {
        int narrowest = place.groups().size() - 1;
        return IntStream.rangeClosed(0, narrowest)
                .mapToObj(at ->
                        new Counts(narrowest - at, times.apply(place.groups().get(at))))
                .filter(counts -> counts.speaks(grouping.ofAmounts()))
                .findFirst();
    }

    /** The same of each of these places, counted anew in one pass over the table. */
    public static Map<Grouping.Place, Optional<Counts>> fresh(
            DSLContext sql, StoredTable table, Grouping grouping, Set<Grouping.Place> places) {
        var groups = places.stream()
                .flatMap(place -> place.groups().stream())
                .distinct()
                .toArray(String[]::new);
        var group = DSL.field(DSL.name("p", "of_group"), String.class);
        var value = DSL.field(DSL.name("p", "value"), String.class);
        var times = new HashMap<String, Map<String, Long>>();
        sql.select(group, value, DSL.sum(DSL.field(DSL.name("t", "_times"), Long.class)))
                .from(placed(table, grouping))
                .where(group.eq(DSL.any(groups)))
                .groupBy(group, value)
                .forEach(row -> times.computeIfAbsent(row.value1(), _ -> new HashMap<>())
                        .put(row.value2(), row.value3().longValue()));
        var counted = new HashMap<Grouping.Place, Optional<Counts>>();
        places.forEach(place -> counted.put(place, first(grouping, place, each -> times.getOrDefault(each, Map.of()))));
        return counted;
    }

    /** The values that records have together, as {@code t}, with how many have them ({@code _times}) and each place where they are counted, as {@code p}. */
    public static Table<?> placed(StoredTable table, Grouping grouping) {
        return DSL.table("({0} offset 0) t cross join {1} p", tuples(table, grouping), places(grouping));
    }

    private static SQL tuples(StoredTable table, Grouping grouping) {
        var columns = DSL.list(columns(grouping));
        return DSL.sql(
                "select row_number() over () as _tuple, count(*) as _times, {0} from {1} where {2} is not null group by {0}",
                columns, DSL.table(table.sqlName()), ColumnSql.of(grouping.column()));
    }

    /** The columns that it is about, each once. */
    private static List<Field<?>> columns(Grouping grouping) {
        return Stream.concat(
                        Stream.of(grouping.column()), grouping.by().stream().map(Part::column))
                .map(Column::name)
                .distinct()
                .<Field<?>>map(name -> DSL.field(DSL.name(name)))
                .toList();
    }

    /** Where {@code t} is counted. */
    private static SQL places(Grouping grouping) {
        return DSL.sql(
                "weft.usual_places(jsonb_build_object({0}), {1}, {2}, {3}::text[], {4}::text[])",
                DSL.list(columns(grouping).stream()
                        .map(column -> DSL.sql("{0}, t.{1}", DSL.inline(column.getName()), column))
                        .toList()),
                DSL.inline(grouping.column().name()),
                DSL.inline(Wire.word(grouping.column().type())),
                DSL.inline(
                        grouping.by().stream().map(part -> part.column().name()).toArray(String[]::new)),
                DSL.inline(partOf(grouping)));
    }
}
