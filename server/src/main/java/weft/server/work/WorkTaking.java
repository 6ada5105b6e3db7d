package weft.server.work;

import jakarta.annotation.PreDestroy;
import java.util.List;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import weft.core.rule.Check;
import weft.store.door.Ways.Way;
import weft.store.work.Count;
import weft.store.work.Count.Measure;
import weft.store.work.WorkBook;

/** Takes down what is done by a door, with what a page counted meanwhile as far as that can be. */
@Component
public class WorkTaking {

    /** More is nothing that a person does with one entry. */
    private static final double MOST_SECONDS = 3_600;

    private static final long MOST = 10_000;

    private final WorkBook book;

    WorkTaking(WorkBook book) {
        this.book = book;
    }

    /** An entry was saved. */
    public void entered(Way way, @Nullable WorkTaken taken) {
        entered(way, 1);
        if (taken != null) {
            take(way, taken);
        }
    }

    /** So many entries were saved. */
    public void entered(Way way, int many) {
        day(way).entries(Measure.ENTRY, many);
    }

    /** A paper was keyed a second time. */
    public void keyedAgain(
            Way way, @Nullable WorkTaken taken, String firstBy, List<String> compared, List<String> differing) {
        day(way).entries(Measure.AGAIN, 1);
        var first = book.now(way.pass().door().form(), firstBy);
        compared.forEach(column -> first.times(column, Measure.COMPARED, 1));
        differing.forEach(column -> first.times(column, Measure.DIFFERED, 1));
        first.times("", Measure.COMPARED, compared.size());
        first.times("", Measure.DIFFERED, differing.size());
        if (taken != null) {
            take(way, taken);
        }
    }

    private WorkBook.Day day(Way way) {
        return book.now(way.pass().door().form(), way.pass().by());
    }

    private void take(Way way, WorkTaken taken) {
        var day = day(way);
        took(day, "", taken.seconds());
        day.times("", Measure.KEYS, sound(taken.keys()));
        day.times("", Measure.LEAST, sound(taken.least()));
        day.times("", Measure.HINDERED, Boolean.TRUE.equals(taken.hindered()) ? 1 : 0);
        if (taken.fields() != null) {
            taken.fields()
                    .forEach((column, of) ->
                            way.shown().plan().takes(column).ifPresent(known -> field(day, known.name(), of)));
        }
        if (taken.rules() != null) {
            var known =
                    way.saving().form().rules().checks().stream().map(Check::id).collect(Collectors.toSet());
            taken.rules().forEach((id, of) -> {
                if (known.contains(id)) {
                    day.times(Count.RULE + id, Measure.STOP, sound(of.stops()));
                    day.times(Count.RULE + id, Measure.ASK, sound(of.asks()));
                    day.times(Count.RULE + id, Measure.DESPITE, sound(of.despite()));
                }
            });
        }
    }

    private static void field(WorkBook.Day day, String column, WorkTaken.FieldTaken of) {
        took(day, column, of.seconds());
        for (var about : List.of(column, "")) {
            day.times(about, Measure.STOP, sound(of.stops()));
            day.times(about, Measure.ASK, sound(of.asks()));
            day.times(about, Measure.DESPITE, sound(of.despite()));
            day.times(about, Measure.RETYPED, sound(of.again()));
            day.times(about, Measure.BACK, sound(of.back()));
        }
    }

    private static void took(WorkBook.Day day, String about, @Nullable Double seconds) {
        if (seconds != null && seconds > 0 && seconds <= MOST_SECONDS) {
            day.took(about, seconds);
        }
    }

    private static long sound(@Nullable Long times) {
        return times == null || times < 0 || times > MOST ? 0 : times;
    }

    @PreDestroy
    @Scheduled(initialDelayString = "PT2S", fixedDelayString = "PT2S")
    void flush() {
        book.flush();
    }
}
