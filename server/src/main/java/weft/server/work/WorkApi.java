package weft.server.work;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Clock;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.May;
import weft.core.rule.Check;
import weft.core.work.Share;
import weft.core.work.Suggestions;
import weft.server.door.Needs;
import weft.server.form.Copy;
import weft.server.http.Problem;
import weft.server.work.WorkJson.Keyer;
import weft.server.work.WorkJson.ShareJson;
import weft.store.door.Ways.Way;
import weft.store.form.ReadyForm;
import weft.store.people.People;
import weft.store.record.Records;
import weft.store.work.Count;
import weft.store.work.Count.Measure;
import weft.store.work.Figures;
import weft.store.work.WorkBook;

/**
 * How keying on a form goes. Who sees and changes every record by a door sees everybody's figures there; all others see their
 * own.
 */
@RestController
class WorkApi {

    private static final int USUAL_DAYS = 30;
    private static final int MOST_DAYS = 3_660;
    /** So many of the last entries are looked at for what they suggest. */
    private static final int LOOKED = 1_000;

    private final WorkBook book;
    private final Figures figures;
    private final People people;
    private final Records records;
    private final Clock clock;

    WorkApi(WorkBook book, Figures figures, People people, Records records, Clock clock) {
        this.book = book;
        this.figures = figures;
        this.people = people;
        this.records = records;
        this.clock = clock;
    }

    /**
     * The figures of some days, the last thirty where none are said.
     *
     * @param from the first day
     * @param to the last one
     * @param person whose; everybody's where none is said
     */
    @GetMapping("/api/doors/{door}/work")
    @Needs
    WorkJson work(
            Way door,
            @RequestParam(required = false) @Nullable String from,
            @RequestParam(required = false) @Nullable String to,
            @RequestParam(required = false) @Nullable String person) {
        return told(door, asked(door, from, to, person));
    }

    /** The same as CSV: a line for each figure. */
    @GetMapping("/api/doors/{door}/work/csv")
    @Needs
    void csv(
            Way door,
            @RequestParam(required = false) @Nullable String from,
            @RequestParam(required = false) @Nullable String to,
            @RequestParam(required = false) @Nullable String person,
            HttpServletResponse response)
            throws IOException {
        var told = told(door, asked(door, from, to, person));
        response.setContentType("text/csv;charset=UTF-8");
        response.setHeader(
                "Content-Disposition",
                "attachment; filename=\"work-on-" + door.pass().door().form() + ".csv\"");
        WorkCsv.write(told, response.getOutputStream());
    }

    /** For how many days figures are kept; 0 for not at all. */
    record WorkKept(int days) {}

    /** How long figures of a form are kept from now on; what is older is let go. */
    @PutMapping("/api/forms/{form}/work/kept")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void keep(@Copy ReadyForm form, @RequestBody WorkKept asked) {
        if (asked.days() < 0 || asked.days() > MOST_DAYS) {
            throw Problem.refused("Figures are kept for 0 to %,d days; 0 is not at all.".formatted(MOST_DAYS));
        }
        book.keep(form.form().id(), asked.days());
    }

    /** Whether whoever goes through may see what everybody did. */
    private static boolean everybody(Way door) {
        return door.pass().seesAll() && door.pass().may(May.CHANGE);
    }

    private Figures.Scope asked(Way door, @Nullable String from, @Nullable String to, @Nullable String person) {
        if (door.pass().person().isEmpty()) {
            throw Problem.unknown("work that is yours at this door");
        }
        var own = door.pass().by();
        if (person != null && !person.equals(own) && !everybody(door)) {
            throw Problem.forbidden(
                    "By the door “" + door.pass().door().title() + "” one sees only one's own figures.");
        }
        var last = day(to).orElseGet(() -> LocalDate.now(clock));
        var first = day(from).orElseGet(() -> last.minusDays(USUAL_DAYS - 1L));
        if (first.isAfter(last) || ChronoUnit.DAYS.between(first, last) > MOST_DAYS) {
            throw Problem.malformed("The first day comes before the last one, and ten years at most lie between them.");
        }
        return new Figures.Scope(
                door.pass().door().form(),
                door.saving().table(),
                first,
                last,
                Optional.ofNullable(person).or(() -> everybody(door) ? Optional.empty() : Optional.of(own)));
    }

    private static Optional<LocalDate> day(@Nullable String text) {
        try {
            // A year has four digits: those that LocalDate takes beyond are more than any calendar needs.
            return Optional.ofNullable(text).map(given -> LocalDate.parse(given.matches("[0-9]{4}-.*") ? given : ""));
        } catch (DateTimeParseException e) {
            throw Problem.malformed("A day is written like 2026-11-01.");
        }
    }

    private WorkJson told(Way door, Figures.Scope asked) {
        book.flush();
        var all = figures.of(asked);
        var whole = all.of("");
        boolean everybody = everybody(door);
        var fields = door.shown().plan().nodes().stream()
                .map(node -> {
                    var column = node.column();
                    var of = all.of(column.name());
                    return new WorkJson.OfField(
                            column.name(),
                            door.shown().label(column),
                            WorkJson.of(of.median()),
                            WorkJson.of(of.slowest()),
                            of.times(Measure.STOP),
                            of.times(Measure.ASK),
                            of.times(Measure.DESPITE),
                            of.times(Measure.RETYPED),
                            of.times(Measure.BACK),
                            ShareJson.of(of.corrected()),
                            ShareJson.of(of.differed()));
                })
                .toList();
        var rules = door.shown().form().rules().checks().stream()
                .map(check -> rule(door, check, all))
                .toList();
        long entries = whole.times(Measure.ENTRY);
        long twice = whole.times(Measure.AGAIN);
        return new WorkJson(
                asked.from().toString(),
                asked.to().toString(),
                everybody,
                asked.person().orElse(null),
                keyers(everybody, all),
                book.kept(asked.form()),
                new WorkJson.Whole(
                        entries,
                        twice,
                        (int) all.persons().stream()
                                .filter(each -> each.times(Measure.ENTRY) + each.times(Measure.AGAIN) > 0)
                                .count(),
                        whole.measured(),
                        WorkJson.of(whole.median()),
                        WorkJson.of(whole.slowest()),
                        ShareJson.of(
                                new Share(Math.min(whole.times(Measure.HINDERED), whole.measured()), whole.measured())),
                        ShareJson.of(whole.differed()),
                        ShareJson.of(whole.corrected()),
                        whole.times(Measure.KEYS),
                        whole.times(Measure.LEAST)),
                days(asked, all),
                IntStream.range(0, 24)
                        .mapToObj(hour -> {
                            var keyed = all.hours().getOrDefault(hour, new Figures.Keyed(0, 0));
                            return new WorkJson.OfHour(hour, keyed.once(), keyed.twice());
                        })
                        .toList(),
                fields,
                rules,
                everybody ? all.persons().stream().map(this::keyer).toList() : List.of(),
                everybody ? suggestions(door, all, rules) : List.of());
    }

    private static List<WorkJson.OfDay> days(Figures.Scope asked, Figures.All all) {
        return Stream.iterate(asked.from(), day -> !day.isAfter(asked.to()), day -> day.plusDays(1))
                .map(day -> {
                    var keyed = all.days().getOrDefault(day, new Figures.Keyed(0, 0));
                    return new WorkJson.OfDay(day.toString(), keyed.once(), keyed.twice());
                })
                .toList();
    }

    private List<Keyer> keyers(boolean everybody, Figures.All all) {
        return everybody
                ? all.persons().stream()
                        .map(each -> new Keyer(each.name(), title(each.name())))
                        .toList()
                : List.of();
    }

    private String title(String name) {
        return people.named(name).map(kept -> kept.person().title()).orElse(name);
    }

    private WorkJson.OfKeyer keyer(Figures.OfPerson person) {
        return new WorkJson.OfKeyer(
                person.name(),
                title(person.name()),
                person.times(Measure.ENTRY),
                person.times(Measure.AGAIN),
                WorkJson.of(person.anHour()),
                person.times(Measure.STOP),
                person.times(Measure.ASK),
                ShareJson.of(person.differed()));
    }

    private static WorkJson.OfRule rule(Way door, Check check, Figures.All all) {
        var of = all.of(Count.RULE + check.id());
        return new WorkJson.OfRule(
                check.id(),
                check.message().isBlank()
                        ? door.shown().plan().sentences().of(check).text()
                        : check.message(),
                of.times(Measure.STOP),
                of.times(Measure.ASK),
                of.times(Measure.DESPITE));
    }

    private List<WorkJson.Suggested> suggestions(Way door, Figures.All all, List<WorkJson.OfRule> rules) {
        var latest = records.latest(door.shown().seen(), LOOKED);
        var fields = door.shown().plan().nodes().stream()
                .filter(node -> node.field().open()
                        && node.calculated().isEmpty()
                        && node.bring().isEmpty()
                        && !node.numbered())
                .map(node -> LastEntries.of(node, door.shown().label(node.column()), latest, all))
                .toList();
        return Suggestions.of(
                        rules.stream()
                                .map(rule -> new Suggestions.Rule(rule.id(), rule.words(), rule.asks(), rule.despite()))
                                .toList(),
                        fields)
                .stream()
                .map(each -> new WorkJson.Suggested(each.kind(), each.about(), each.sentence()))
                .toList();
    }
}
