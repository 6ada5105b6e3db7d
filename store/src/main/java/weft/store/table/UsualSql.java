package weft.store.table;

import static weft.store.schema.Tables.USUAL;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.QueryPart;
import org.jooq.Record1;
import org.jooq.SQL;
import org.jooq.Select;
import org.jooq.Table;
import org.jooq.impl.DSL;
import weft.core.table.Column;
import weft.core.usual.Counts;
import weft.core.usual.Grouping;
import weft.core.usual.Grouping.Part;
import weft.core.value.Wire;

/** What is usual, as the database counts it: see {@code V22__usual.sql} and {@code V23__usual_quicker.sql}. */
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
                "({0}) in (with {1}, narrowest as (select distinct on (_tuple) _tuple, odd as _odd from held"
                        + " order by _tuple, depth desc) select {2} from tuples join narrowest using (_tuple) where _odd)",
                DSL.list(columns(grouping)), held(table, grouping), DSL.list(columns(grouping)));
    }

    /**
     * The records that are not as usual in the narrowest group and are in each wider one, as a table with their row ({@code _at}), how far
     * beyond what is usual they are ({@code _beyond}; 1 is its end), and how many they are in all ({@code _many}).
     */
    public static Table<?> odd(StoredTable table, Grouping grouping) {
        var columns = columns(grouping);
        return DSL.table(
                "(with {0}, odd as (select _tuple, beyond::double precision as _beyond from held where odd and depth = {1} and not exists ("
                        + "select from held wider where wider._tuple = held._tuple and wider.depth < {1} and wider.odd)),"
                        + " found as materialized (select {2}, _beyond, sum(_times) over () as _many from tuples join odd using (_tuple))"
                        + " select _row as _at, _beyond, _many from {3} join found using ({2}))",
                held(table, grouping),
                DSL.inline(grouping.by().size() + 1),
                DSL.list(columns),
                DSL.table(table.sqlName()));
    }

    /**
     * The rows that are not as usual, held against what is counted; none where nothing is counted yet.
     *
     * @param rows rows that are not stored yet, each with its {@code _place} and the table's columns
     */
    public static Select<Record1<Long>> oddAmong(DSLContext sql, StoredTable table, Grouping grouping, QueryPart rows) {
        var tuples = DSL.sql("select _place as _tuple, {0} from {1}", DSL.list(columns(grouping)), rows);
        var kept = DSL.sql(
                "select of_group, value, sum(times) as times from weft.usual_count where usual_id = ({0})"
                        + " and of_group in (select of_group from placed) group by of_group, value having sum(times) > 0",
                DSL.select(USUAL.ID).from(USUAL).where(of(table, grouping)).and(USUAL.COUNTED));
        return sql.select(DSL.field(DSL.name("_tuple"), Long.class))
                .from(DSL.table(
                        "(with {0} select distinct on (_tuple) _tuple, odd from held order by _tuple, depth desc) narrowest",
                        held(grouping, tuples, kept)))
                .where(DSL.condition("odd"));
    }

    private static SQL held(StoredTable table, Grouping grouping) {
        return held(
                grouping,
                tuples(table, grouping),
                DSL.sql(
                        "select p.of_group, p.value, sum(t._times) as times from placed p join tuples t using (_tuple) group by p.of_group, p.value"));
    }

    /**
     * The steps by which it is found: {@code tuples}, the values that records have together, and {@code held}, for each of them and
     * each group that says something whether it is odd there, and how far beyond what is usual.
     *
     * @param counted how often each value is in each group
     */
    private static SQL held(Grouping grouping, SQL tuples, SQL counted) {
        return DSL.sql(
                "tuples as materialized ({0}), placed as materialized (select t._tuple, p.depth, p.of_group, p.value from tuples t"
                        + " cross join {1} p), counted as materialized ({2}), held as materialized ({3})",
                tuples,
                places(grouping),
                counted,
                grouping.ofAmounts()
                        ? DSL.sql(
                                "select _tuple, depth, case when q1 < q3 then beyond > {1} * (q3 - q1) else amount not between low and high end as odd,"
                                        + " beyond / nullif(q3 - q1, 0) / {1} as beyond"
                                        + " from (select *, greatest(q1 - amount, amount - q3) as beyond"
                                        + " from (select _tuple, depth, of_group, value::numeric as amount from placed) p join"
                                        + " (select of_group, min(amount) as low, max(amount) as high, min(amount) filter (where upto >= ceil(records / 4)) as q1,"
                                        + " min(amount) filter (where upto >= ceil(records * 3 / 4)) as q3 from (select of_group, amount,"
                                        + " sum(times) over (partition by of_group order by amount) as upto,"
                                        + " sum(times) over (partition by of_group) as records"
                                        + " from (select of_group, value::numeric as amount, times from counted) c) c"
                                        + " where records >= {0} group by of_group) fences using (of_group)) f",
                                DSL.inline(Counts.LEAST_AMOUNTS), DSL.inline(Counts.FENCE))
                        : DSL.sql(
                                "select _tuple, depth, coalesce(times, 0) * {1} < records as odd, records / (times * {1}) as beyond"
                                        + " from placed join (select of_group, sum(times) as records from counted group by of_group"
                                        + " having sum(times) >= {0}) g using (of_group) left join counted using (of_group, value)",
                                DSL.inline(Counts.LEAST_WORDS), DSL.inline(Counts.RARE)));
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
        return first(grouping, place, group -> {
            // As one row, which is read many times as fast as hundreds; as it stands, since each save asks it.
            var all = sql.fetchSingle(DSL.select(
                            DSL.field("coalesce(array_agg(value), '{}')", String[].class),
                            DSL.field("coalesce(array_agg(times::bigint), '{}')", Long[].class))
                    .from(
                            "(select value, sum(times) as times from weft.usual_count where usual_id = (select id from weft.usual"
                                    + " where table_id = ? and column_id = ? and part_columns = ? and part_of = cast(? as varchar[])"
                                    + " and counted) and of_group = ? group by value having sum(times) > 0) as each_value",
                            table.id(),
                            table.columnId(grouping.column().name()),
                            partColumns(table, grouping),
                            partOf(grouping),
                            group));
            return IntStream.range(0, all.value1().length)
                    .boxed()
                    .collect(Collectors.toMap(i -> all.value1()[i], i -> all.value2()[i]));
        });
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
