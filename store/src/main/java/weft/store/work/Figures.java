package weft.store.work;

import static weft.store.schema.Tables.WORK;
import static weft.store.schema.Tables.WORK_MONTH;

import java.time.Clock;
import java.time.LocalDate;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.TreeMap;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Name;
import org.jooq.Table;
import org.jooq.impl.DSL;
import org.jooq.impl.SQLDataType;
import weft.core.work.Classes;
import weft.core.work.Share;
import weft.store.table.StoredTable;
import weft.store.work.Count.Measure;

/** What was counted of the keying on a form in some days, added up. */
public final class Figures {

    private static final Name COUNTED = DSL.name("counted");
    private static final Field<String> PERSON = DSL.field(COUNTED.append("person"), SQLDataType.VARCHAR);
    private static final Field<String> ABOUT = DSL.field(COUNTED.append("about"), SQLDataType.VARCHAR);
    private static final Field<String> WHAT = DSL.field(COUNTED.append("what"), SQLDataType.VARCHAR);
    private static final Field<Short> CLASS = DSL.field(COUNTED.append("class"), SQLDataType.SMALLINT);
    private static final Field<Long> TIMES =
            DSL.sum(DSL.field(COUNTED.append("times"), SQLDataType.BIGINT)).cast(SQLDataType.BIGINT);

    private final DSLContext sql;
    private final Clock clock;

    /** In the database that those queries go to. */
    public Figures(DSLContext sql, Clock clock) {
        this.sql = sql;
        this.clock = clock;
    }

    /**
     * What figures are asked for.
     *
     * @param form the form
     * @param table its table
     * @param from the first day
     * @param to the last day
     * @param person whose; empty for everybody's
     */
    public record Scope(String form, StoredTable table, LocalDate from, LocalDate to, Optional<String> person) {

        private Condition days() {
            return WORK.FORM_ID.eq(form).and(WORK.DAY.between(from, to)).and(whose(WORK.PERSON));
        }

        private Condition whose(Field<String> column) {
            return person.map(column::eq).orElseGet(DSL::noCondition);
        }

        /** What was counted: of whole months by month, of the days before and after them by day. */
        private Table<?> counted() {
            var first = from.getDayOfMonth() == 1 ? from : from.plusMonths(1).withDayOfMonth(1);
            var after = to.plusDays(1).withDayOfMonth(1);
            boolean months = first.isBefore(after);
            var byDay = months ? WORK.DAY.lt(first).or(WORK.DAY.ge(after)) : DSL.noCondition();
            return DSL.select(WORK.PERSON, WORK.ABOUT, WORK.WHAT, WORK.CLASS, WORK.TIMES)
                    .from(WORK)
                    .where(days())
                    .and(byDay)
                    .unionAll(DSL.select(
                                    WORK_MONTH.PERSON,
                                    WORK_MONTH.ABOUT,
                                    WORK_MONTH.WHAT,
                                    WORK_MONTH.CLASS,
                                    WORK_MONTH.TIMES)
                            .from(WORK_MONTH)
                            .where(WORK_MONTH.FORM_ID.eq(form))
                            .and(WORK_MONTH.MONTH.ge(first))
                            .and(WORK_MONTH.MONTH.lt(after))
                            .and(whose(WORK_MONTH.PERSON)))
                    .asTable("counted");
        }
    }

    /** Entries keyed first and papers keyed second, of a day or an hour. */
    public record Keyed(long once, long twice) {}

    /**
     * What was counted of the entry as a whole, of a field, or of a rule.
     *
     * @param seconds how many took how long, by class
     * @param corrected of the entries, how many were changed there within a week
     * @param differed of those compared when keyed twice, how many differed
     */
    public record About(Map<Integer, Long> seconds, Map<Measure, Long> times, Share corrected, Share differed) {

        /** How often it was counted. */
        public long times(Measure what) {
            return times.getOrDefault(what, 0L);
        }

        /** How many of them were measured. */
        public long measured() {
            return seconds.values().stream().mapToLong(Long::longValue).sum();
        }

        /** What half of them took at most, in seconds; empty where none was measured. */
        public OptionalDouble median() {
            return Classes.quantile(seconds, 0.5);
        }

        /** What nine of ten took at most, in seconds. */
        public OptionalDouble slowest() {
            return Classes.quantile(seconds, 0.9);
        }
    }

    /**
     * What was counted of a person.
     *
     * @param differed of the fields that they keyed first and that were compared, how many differed
     */
    public record OfPerson(String name, Map<Measure, Long> times, Share differed) {

        /** How often it was counted. */
        public long times(Measure what) {
            return times.getOrDefault(what, 0L);
        }

        /** How many entries and papers they key in an hour of keying, of those that were measured; empty where none was. */
        public OptionalDouble anHour() {
            long time = times(Measure.TIME);
            return time == 0 ? OptionalDouble.empty() : OptionalDouble.of(times(Measure.SECONDS) * 3_600_000.0 / time);
        }
    }

    /**
     * All of it.
     *
     * @param days by day; one in which nothing was keyed is left out
     * @param hours by hour of the day, likewise
     * @param about by column, or rule after a #; the entry as a whole under nothing
     * @param persons those who keyed, the busiest first
     */
    public record All(
            Map<LocalDate, Keyed> days, Map<Integer, Keyed> hours, Map<String, About> about, List<OfPerson> persons) {

        /** What was counted of that column, rule, or of the whole. */
        public About of(String what) {
            return about.getOrDefault(what, new About(Map.of(), Map.of(), Share.NONE, Share.NONE));
        }
    }

    /** The figures asked for. */
    public All of(Scope asked) {
        var days = new TreeMap<LocalDate, Keyed>();
        var hours = new TreeMap<Integer, Keyed>();
        sql.select(WORK.DAY, WORK.CLASS, WORK.WHAT, DSL.sum(WORK.TIMES).cast(SQLDataType.BIGINT))
                .from(WORK)
                .where(asked.days())
                // As the index of just these says it.
                .and(WORK.WHAT.in(DSL.inline(Measure.ENTRY), DSL.inline(Measure.AGAIN)))
                .groupBy(WORK.DAY, WORK.CLASS, WORK.WHAT)
                .forEach(row -> {
                    boolean twice = row.value3() == Measure.AGAIN;
                    var keyed = new Keyed(twice ? 0 : row.value4(), twice ? row.value4() : 0);
                    days.merge(row.value1(), keyed, Figures::sum);
                    hours.merge(row.value2().intValue(), keyed, Figures::sum);
                });
        return new All(days, hours, about(asked), persons(asked));
    }

    private static Keyed sum(Keyed one, Keyed other) {
        return new Keyed(one.once() + other.once(), one.twice() + other.twice());
    }

    private Map<String, About> about(Scope asked) {
        var seconds = new HashMap<String, Map<Integer, Long>>();
        var times = new HashMap<String, Map<Measure, Long>>();
        sql.select(ABOUT, WHAT, CLASS, TIMES)
                .from(asked.counted())
                .groupBy(ABOUT, WHAT, CLASS)
                .forEach(row -> {
                    var what = what(row.value2());
                    if (what == Measure.SECONDS) {
                        seconds.computeIfAbsent(row.value1(), _ -> new HashMap<>())
                                .put(row.value3().intValue(), row.value4());
                    } else {
                        times.computeIfAbsent(row.value1(), _ -> new EnumMap<>(Measure.class))
                                .merge(what, row.value4(), Long::sum);
                    }
                });
        long entries = times.getOrDefault("", Map.of()).getOrDefault(Measure.ENTRY, 0L);
        var corrected = corrected(asked);
        var all = new HashMap<String, About>();
        var names = new ArrayList<>(times.keySet());
        names.addAll(seconds.keySet());
        names.addAll(corrected.keySet());
        names.forEach(name -> {
            var counted = times.getOrDefault(name, Map.of());
            all.put(
                    name,
                    new About(
                            seconds.getOrDefault(name, Map.of()),
                            counted,
                            new Share(Math.min(entries, corrected.getOrDefault(name, 0L)), entries),
                            differed(counted)));
        });
        return all;
    }

    private static Share differed(Map<Measure, Long> times) {
        return new Share(times.getOrDefault(Measure.DIFFERED, 0L), times.getOrDefault(Measure.COMPARED, 0L));
    }

    private static Measure what(String wire) {
        return Measure.valueOf(wire.toUpperCase(Locale.ROOT));
    }

    private List<OfPerson> persons(Scope asked) {
        var times = new HashMap<String, Map<Measure, Long>>();
        sql.select(PERSON, WHAT, TIMES)
                .from(asked.counted())
                .where(ABOUT.eq(""))
                .groupBy(PERSON, WHAT)
                .forEach(row -> times.computeIfAbsent(row.value1(), _ -> new EnumMap<>(Measure.class))
                        .put(what(row.value2()), row.value3()));
        return times.entrySet().stream()
                .map(each -> new OfPerson(each.getKey(), each.getValue(), differed(each.getValue())))
                .sorted((one, other) -> Long.compare(
                        other.times(Measure.ENTRY) + other.times(Measure.AGAIN),
                        one.times(Measure.ENTRY) + one.times(Measure.AGAIN)))
                .toList();
    }

    /** How many of the form's entries of those days were changed within a week, by column as it is called now; under nothing, at all. */
    private Map<String, Long> corrected(Scope asked) {
        var table = asked.table();
        var zone = clock.getZone();
        OffsetDateTime from = asked.from().atStartOfDay(zone).toOffsetDateTime();
        OffsetDateTime to = asked.to().plusDays(1).atStartOfDay(zone).toOffsetDateTime();
        var corrected = new HashMap<String, Long>();
        sql.resultQuery(
                        """
                        with changed as materialized (
                          select record_id, before, after, at from weft.history
                          where table_id = {0} and action = 'changed' and at >= {1} and at < {2} + interval '7 days'
                        )
                        select a.key, count(distinct c.record_id)
                        from changed c
                        cross join lateral (
                          select f.at, f.by, f.action, f.form_id from weft.history f
                          where f.table_id = {0} and f.record_id = c.record_id order by f.id limit 1
                        ) f
                        cross join lateral jsonb_each(c.after) a
                        where f.action = 'saved' and f.form_id = {4} and f.at >= {1} and f.at < {2} and c.at < f.at + interval '7 days' and {3}
                          and a.value is distinct from c.before -> a.key
                        group by grouping sets ((a.key), ())""",
                        DSL.val(table.id()),
                        DSL.val(from),
                        DSL.val(to),
                        asked.person()
                                .map(name -> DSL.condition("f.by = {0}", DSL.val(name)))
                                .orElseGet(DSL::trueCondition),
                        DSL.val(asked.form()))
                .fetch()
                .forEach(row -> {
                    var key = row.get(0, String.class);
                    corrected.merge(
                            key == null
                                    ? ""
                                    : table.definition()
                                            .column(key)
                                            .map(column -> column.name())
                                            .orElse(key),
                            row.get(1, Long.class),
                            Long::sum);
                });
        return corrected;
    }
}
