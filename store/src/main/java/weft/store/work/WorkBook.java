package weft.store.work;

import static weft.store.schema.Tables.WORK_KEPT;

import java.time.Clock;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentHashMap;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.exception.DataAccessException;
import org.jooq.impl.DSL;
import weft.core.value.Wire;
import weft.core.work.Classes;
import weft.store.work.Count.Measure;

/**
 * Takes down how keying goes without a moment's wait for who keys: counts are kept in memory, and added to those in the database
 * every few seconds, a statement for all of them. What a server counted in the seconds before it was killed is lost; it says
 * nothing of what was keyed.
 */
public final class WorkBook {

    private static final int LONGEST = 200;
    /** For so many days it is kept where nothing else is said: two years. */
    public static final int USUALLY_KEPT = 731;

    private final DSLContext sql;
    private final Clock clock;
    private final Map<Count, Long> waiting = new ConcurrentHashMap<>();

    /** In the database that those queries go to. */
    public WorkBook(DSLContext sql, Clock clock) {
        this.sql = sql;
        this.clock = clock;
    }

    /** What was done by a person at a form now. */
    public Day now(String form, String person) {
        return new Day(form, person, LocalDateTime.now(clock));
    }

    /** Takes down what was done by a person at a form. */
    public final class Day {
        private final String form;
        private final String person;
        private final LocalDateTime at;

        private Day(String form, String person, LocalDateTime at) {
            this.form = form;
            this.person = person;
            this.at = at;
        }

        /** So many entries, or papers keyed again, in this hour. */
        public void entries(Measure what, long many) {
            add("", what, at.getHour(), many);
        }

        /** What took so many seconds. */
        public void took(String about, double seconds) {
            add(about, Measure.SECONDS, Classes.of(seconds), 1);
            if (about.isEmpty()) {
                add(about, Measure.TIME, 0, Math.round(seconds * 1_000));
            }
        }

        /** What happened so often. */
        public void times(String about, Measure what, long many) {
            add(about, what, 0, many);
        }

        private void add(String about, Measure what, int ofClass, long many) {
            if (many > 0 && about.length() <= LONGEST) {
                waiting.merge(new Count(form, at.toLocalDate(), person, about, what, ofClass), many, Long::sum);
            }
        }
    }

    /** Adds what was counted to what is in the database; what cannot be added now waits for the next time. */
    public synchronized void flush() {
        var taken = new TreeMap<Count, Long>();
        for (var count : List.copyOf(waiting.keySet())) {
            var times = waiting.remove(count);
            if (times != null) {
                taken.put(count, times);
            }
        }
        if (taken.isEmpty()) {
            return;
        }
        try {
            write(taken);
        } catch (DataAccessException e) {
            taken.forEach((count, times) -> waiting.merge(count, times, Long::sum));
        }
    }

    /** In one order, so that servers that add at once never wait in a circle. What is of a form that is gone, or not to be kept, is let go. */
    private void write(TreeMap<Count, Long> taken) {
        var counts = taken.keySet();
        sql.transaction(inner -> {
            for (var into : List.of(
                    "weft.work as kept (form_id, day, person, about, what, class, times) select c.form_id, c.day",
                    "weft.work_month as kept (form_id, month, person, about, what, class, times) select c.form_id,"
                            + " date_trunc('month', c.day)::date")) {
                var key = into.contains("month") ? "month" : "day";
                inner.dsl()
                        .execute(
                                "insert into " + into + ", c.person, c.about, c.what, c.class, sum(c.times)"
                                        + " from unnest({0}, {1}, {2}, {3}, {4}, {5}, {6})"
                                        + " as c (form_id, day, person, about, what, class, times)"
                                        + " join weft.form f on f.id = c.form_id"
                                        + " left join weft.work_kept k on k.form_id = c.form_id"
                                        + " where k.days is distinct from 0"
                                        + " group by 1, 2, 3, 4, 5, 6 order by 1, 2, 3, 4, 5, 6"
                                        + " on conflict (form_id, " + key + ", person, about, what, class)"
                                        + " do update set times = kept.times + excluded.times",
                                array(counts.stream().map(Count::form).toArray(String[]::new)),
                                DSL.val(counts.stream().map(Count::day).toArray(LocalDate[]::new)),
                                array(counts.stream().map(Count::person).toArray(String[]::new)),
                                array(counts.stream().map(Count::about).toArray(String[]::new)),
                                array(counts.stream()
                                        .map(each -> Wire.word(each.what()))
                                        .toArray(String[]::new)),
                                DSL.val(counts.stream()
                                        .map(each -> (short) each.ofClass())
                                        .toArray(Short[]::new)),
                                DSL.val(taken.values().toArray(Long[]::new)));
            }
        });
    }

    private static Field<String[]> array(String[] texts) {
        return DSL.val(texts);
    }

    /** Lets go of months that are older than they are to be kept, which is two years where nothing else is said. */
    public void forget() {
        for (var old : List.of("weft.work w using", "weft.work_month w using")) {
            sql.execute(
                    "delete from " + old + " (select f.id, coalesce(k.days, {0}) as days from weft.form f"
                            + " left join weft.work_kept k on k.form_id = f.id) k where k.id = w.form_id and (k.days = 0 or "
                            + (old.contains("month") ? "w.month" : "w.day")
                            + " < date_trunc('month', {1} - k.days))",
                    DSL.val(USUALLY_KEPT),
                    DSL.val(LocalDateTime.now(clock).toLocalDate()));
        }
    }

    /** For how many days it is kept of a form; 0 for not at all. */
    public int kept(String form) {
        return sql.select(WORK_KEPT.DAYS)
                .from(WORK_KEPT)
                .where(WORK_KEPT.FORM_ID.eq(form))
                .fetchOptional(WORK_KEPT.DAYS)
                .orElse(USUALLY_KEPT);
    }

    /** Keeps it of a form for so many days from now on; what is older is let go at once. */
    public void keep(String form, int days) {
        sql.execute(
                "insert into weft.work_kept (form_id, days) values ({0}, {1})"
                        + " on conflict (form_id) do update set days = excluded.days",
                DSL.val(form), DSL.val(days));
        flush();
        forget();
    }
}
