package weft.store.table;

import static weft.store.schema.Tables.USUAL;
import static weft.store.schema.Tables.USUAL_COUNT;

import java.math.BigDecimal;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.DSLContext;
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
        var placed = DSL.sql(
                "placed as materialized (select r._row as at, p.depth, p.of_group, p.value from {0})",
                placed(table, grouping));
        return DSL.condition(
                grouping.ofAmounts()
                        ? "_row in (with {0}, counted as (select of_group, min(value::numeric) as low, max(value::numeric) as high,"
                                + " percentile_disc(array[0.25, 0.75]) within group (order by value::numeric) as q"
                                + " from placed group by of_group having count(*) >= {1}),"
                                + " held as (select distinct on (at) at, value::numeric as amount, low, high, q"
                                + " from placed join counted using (of_group) order by at, depth desc)"
                                + " select at from held where case when q[1] = q[2] then amount not between low and high"
                                + " else amount not between q[1] - {2} * (q[2] - q[1]) and q[2] + {2} * (q[2] - q[1]) end)"
                        : "_row in (with {0}, counted as (select of_group, value, count(*) as times,"
                                + " sum(count(*)) over (partition by of_group) as records from placed group by of_group, value),"
                                + " held as (select distinct on (at) at, times, records from placed"
                                + " join counted using (of_group, value) where records >= {1} order by at, depth desc)"
                                + " select at from held where times * {2} < records)",
                placed,
                DSL.inline(grouping.ofAmounts() ? Counts.LEAST_AMOUNTS : Counts.LEAST_WORDS),
                grouping.ofAmounts() ? DSL.inline(Counts.FENCE) : DSL.inline(Counts.RARE));
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
        sql.select(group, value, DSL.count())
                .from(placed(table, grouping))
                .where(group.eq(DSL.any(groups)))
                .groupBy(group, value)
                .forEach(row -> times.computeIfAbsent(row.value1(), _ -> new HashMap<>())
                        .put(row.value2(), row.value3().longValue()));
        var counted = new HashMap<Grouping.Place, Optional<Counts>>();
        places.forEach(place -> counted.put(place, first(grouping, place, each -> times.getOrDefault(each, Map.of()))));
        return counted;
    }

    /** Each record, as {@code r} with its {@code _row}, with each place where it is counted, as {@code p}. */
    public static Table<?> placed(StoredTable table, Grouping grouping) {
        var needed = Stream.concat(
                        Stream.of(grouping.column()), grouping.by().stream().map(Part::column))
                .map(Column::name)
                .distinct()
                .map(name -> DSL.sql("{0}, {1}", DSL.inline(name), DSL.name(name)))
                .toList();
        return DSL.table(
                "(select _row, jsonb_build_object({0}) as of_row from {1} offset 0) r"
                        + " cross join weft.usual_places(r.of_row, {2}, {3}, {4}::text[], {5}::text[]) p",
                DSL.list(needed),
                DSL.table(table.sqlName()),
                DSL.inline(grouping.column().name()),
                DSL.inline(Wire.word(grouping.column().type())),
                DSL.inline(
                        grouping.by().stream().map(part -> part.column().name()).toArray(String[]::new)),
                DSL.inline(partOf(grouping)));
    }
}
