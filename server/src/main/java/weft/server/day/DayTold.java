package weft.server.day;

import java.time.Clock;
import java.time.LocalDateTime;
import java.time.ZonedDateTime;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import weft.core.door.May;
import weft.core.door.Pass;
import weft.core.door.Person;
import weft.core.table.Faults;
import weft.server.day.DayJson.ByWhom;
import weft.server.day.DayJson.DoorsDay;
import weft.server.find.FindRequest;
import weft.server.record.TotalJson;
import weft.store.day.Days;
import weft.store.door.Doors;
import weft.store.door.Ways;
import weft.store.door.Ways.Way;
import weft.store.find.KeptFinds;
import weft.store.find.Views;
import weft.store.people.People;
import weft.store.twice.Papers;

/** What the day brought to a person, by each door through which they see records. */
@Component
class DayTold {

    private static final int MOST_FINDS = 5;

    private final Days days;
    private final Doors doors;
    private final Ways ways;
    private final Papers papers;
    private final KeptFinds finds;
    private final Views views;
    private final People people;
    private final Clock clock;

    DayTold(
            Days days,
            Doors doors,
            Ways ways,
            Papers papers,
            KeptFinds finds,
            Views views,
            People people,
            Clock clock) {
        this.days = days;
        this.doors = doors;
        this.ways = ways;
        this.papers = papers;
        this.finds = finds;
        this.views = views;
        this.people = people;
        this.clock = clock;
    }

    DayJson of(Person person) {
        var looked = days.looked(person.name());
        var until = days.until();
        var since = looked.map(Days.LastLook::at)
                .orElseGet(() -> until.minusDays(1))
                .truncatedTo(ChronoUnit.SECONDS)
                .atZoneSameInstant(clock.getZone());
        var told = new ArrayList<DoorsDay>();
        for (var door : doors.all()) {
            Pass.of(door, new Pass.Comer.SignedIn(person), LocalDateTime.now(clock))
                    .filter(pass -> pass.may(May.SEE))
                    .flatMap(pass -> ways.latest(pass, LocalDateTime.now(clock)))
                    .map(way -> door(way, since))
                    .filter(DoorsDay::tells)
                    .ifPresent(told::add);
        }
        return new DayJson(
                since.toLocalDateTime().toString(),
                until.toString(),
                looked.isEmpty(),
                looked.filter(Days.LastLook::mail).isPresent(),
                people.named(person.name()).flatMap(People.Account::email).orElse(null),
                told);
    }

    private DoorsDay door(Way way, ZonedDateTime since) {
        var from = since.toOffsetDateTime();
        var pass = way.pass();
        var door = pass.door();
        var table = way.shown().seen();
        boolean twice = door.twice().isPresent();
        var waiting = twice ? papers.waiting(way) : new Papers.Waiting(0, 0);
        return new DoorsDay(
                door.id(),
                door.isEverything() ? way.shown().form().title() : door.title(),
                way.shown().form().title(),
                count(way, List.of("_entered_at:>=" + since.toLocalDateTime()), null),
                byWhom(days.changed(table, from)),
                pass.seesAll() ? byWhom(days.removed(table, from)) : List.of(),
                pass.may(May.REMOVE),
                pass.may(May.ADD) ? waiting.keying() : 0,
                pass.may(May.CHANGE) ? waiting.settling() : 0,
                finds.of(door.id()).stream()
                        .limit(MOST_FINDS)
                        .flatMap(find -> found(way, find).stream())
                        .toList());
    }

    /** Who did it, the busiest first. */
    private List<ByWhom> byWhom(Map<String, Integer> times) {
        return times.entrySet().stream()
                .sorted(Map.Entry.<String, Integer>comparingByValue().reversed())
                .map(each -> new ByWhom(
                        each.getKey(),
                        people.named(each.getKey())
                                .map(kept -> kept.person().title())
                                .orElse(each.getKey()),
                        each.getValue()))
                .toList();
    }

    /** Empty where it asks of what is not there any more. */
    private Optional<DayJson.KeptToday> found(Way way, KeptFinds.NamedFind find) {
        try {
            return Optional.of(
                    new DayJson.KeptToday(find.name(), find.where(), find.any(), count(way, find.where(), find.any())));
        } catch (Faults unknown) {
            return Optional.empty();
        }
    }

    private TotalJson count(Way way, List<String> where, @Nullable String any) {
        var view = FindRequest.of(way.shown(), where, any, null, clock).view();
        return TotalJson.of(views.total(way.shown().seen(), view));
    }
}
