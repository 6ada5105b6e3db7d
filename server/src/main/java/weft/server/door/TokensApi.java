package weft.server.door;

import java.time.Clock;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.Pass;
import weft.core.door.Person;
import weft.core.table.Faults;
import weft.server.http.Problem;
import weft.server.people.AuditTrail;
import weft.store.door.Doors;
import weft.store.door.Tokens;
import weft.store.people.Audit.Deed;
import weft.store.people.People;

/** Tokens of one's own, by which programs go through a door as oneself. */
@RestController
class TokensApi {

    private static final int LONGEST_DAYS = 366;

    private final Tokens tokens;
    private final Doors doors;
    private final People people;
    private final AuditTrail told;
    private final Clock clock;

    TokensApi(Tokens tokens, Doors doors, People people, AuditTrail told, Clock clock) {
        this.tokens = tokens;
        this.doors = doors;
        this.people = people;
        this.told = told;
        this.clock = clock;
    }

    /** A token to be made; {@code until} is a day, or a time with an offset. */
    record TokenAsked(String title, String door, String until) {}

    /** A token; the secret itself is told only when it is made. */
    record TokenJson(
            long id,
            String title,
            String door,
            OffsetDateTime until,
            OffsetDateTime madeAt,
            @Nullable OffsetDateTime usedAt,
            @Nullable String token) {
        static TokenJson of(Tokens.Token kept, @Nullable String secret) {
            return new TokenJson(
                    kept.id(),
                    kept.title(),
                    kept.door(),
                    kept.until(),
                    kept.madeAt(),
                    kept.usedAt().orElse(null),
                    secret);
        }
    }

    private long own(Person person) {
        return people.named(person.name()).orElseThrow(Problem::nobody).id();
    }

    @PostMapping("/api/tokens")
    ResponseEntity<TokenJson> make(Person person, @RequestBody TokenAsked asked) {
        var title = asked.title().strip();
        if (title.isEmpty() || title.length() > 100) {
            throw new Faults("title", "Say what the token is for, in 1 to 100 characters.");
        }
        var _ = doors.find(asked.door())
                .flatMap(kept -> Pass.of(kept.door(), new Pass.Comer.SignedIn(person), LocalDateTime.now(clock)))
                .orElseThrow(() -> new Faults("door", "There is no door “" + asked.door() + "” for you."));
        var made = tokens.make(own(person), asked.door(), title, until(asked.until()));
        told.of(Deed.TOKEN_MADE, title + ", for " + asked.door());
        return ResponseEntity.status(HttpStatus.CREATED)
                .body(TokenJson.of(made.token(), made.secret().text()));
    }

    private OffsetDateTime until(String text) {
        var now = OffsetDateTime.now(clock);
        try {
            var until = text.matches("\\d{4}-\\d{2}-\\d{2}")
                    ? LocalDate.parse(text)
                            .plusDays(1)
                            .atStartOfDay(clock.getZone())
                            .toOffsetDateTime()
                    : text.matches(".*(Z|[+-]\\d{2}:?\\d{2})$")
                            ? OffsetDateTime.parse(text)
                            : LocalDateTime.parse(text).atZone(clock.getZone()).toOffsetDateTime();
            if (until.isAfter(now) && until.isBefore(now.plusDays(LONGEST_DAYS + 1))) {
                return until;
            }
        } catch (DateTimeException e) {
            // Told below, as one that is too far off.
        }
        throw new Faults(
                "until",
                "A token ends on a day to come, within a year, written like "
                        + now.plusMonths(3).toLocalDate() + ".");
    }

    @GetMapping("/api/tokens")
    List<TokenJson> mine(Person person) {
        return tokens.of(own(person)).stream()
                .map(token -> TokenJson.of(token, null))
                .toList();
    }

    private static Problem unknown(long id) {
        return Problem.unknown("token " + id + " of yours");
    }

    @GetMapping("/api/tokens/{id}")
    TokenJson token(Person person, @PathVariable long id) {
        return tokens.find(own(person), id)
                .map(token -> TokenJson.of(token, null))
                .orElseThrow(() -> unknown(id));
    }

    @DeleteMapping("/api/tokens/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void remove(Person person, @PathVariable long id) {
        var token = tokens.find(own(person), id).orElseThrow(() -> unknown(id));
        tokens.remove(token.person(), id);
        told.of(Deed.TOKEN_REMOVED, token.title());
    }
}
