package weft.server.day;

import java.time.Clock;
import java.time.OffsetDateTime;
import java.time.format.DateTimeParseException;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.Person;
import weft.server.http.Problem;
import weft.store.day.Days;
import weft.store.people.People;

/** What the day brought: what came in, what waits, what was changed and removed, since whoever asks last looked. */
@RestController
class DayApi {

    private final DayTold told;
    private final Days days;
    private final People people;
    private final Clock clock;

    DayApi(DayTold told, Days days, People people, Clock clock) {
        this.told = told;
        this.days = days;
        this.people = people;
        this.clock = clock;
    }

    @GetMapping("/api/day")
    DayJson day(Person person) {
        return told.of(person);
    }

    /** Until when it was seen, as the answer said. */
    record DaySeen(String until) {}

    /** What was told until then is seen; from now on what comes after it is told. */
    @PostMapping("/api/day/seen")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void seen(Person person, @RequestBody DaySeen asked) {
        try {
            var until = OffsetDateTime.parse(asked.until());
            var told = days.until();
            days.seen(person.name(), until.isAfter(told) ? told : until);
        } catch (DateTimeParseException e) {
            throw Problem.malformed("Say until when it was seen, as the day was told: 2026-11-25T17:30:00Z.");
        }
    }

    /** Whether it comes by mail each morning. */
    record DayMail(boolean on) {}

    @PutMapping("/api/day/mail")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void mail(Person person, @RequestBody DayMail asked) {
        if (asked.on()
                && people.named(person.name()).flatMap(People.Account::email).isEmpty()) {
            throw Problem.refused("No e-mail address of yours is known. Whoever sees to people can set one.");
        }
        days.mail(person.name(), asked.on(), OffsetDateTime.now(clock).minusDays(1));
    }
}
