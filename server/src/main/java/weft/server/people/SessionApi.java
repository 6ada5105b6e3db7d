package weft.server.people;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.net.InetAddress;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.security.web.csrf.CsrfToken;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.Person;
import weft.core.table.Faults;
import weft.server.http.Problem;
import weft.store.door.Tokens;
import weft.store.people.Audit.Deed;
import weft.store.people.FailedSignIns;
import weft.store.people.People;
import weft.store.people.Sessions;

/** Signing in and out, and who one is. */
@RestController
class SessionApi {

    private final People people;
    private final Passwords passwords;
    private final FailedSignIns failures;
    private final SignedIn sessions;
    private final Sessions open;
    private final Tokens tokens;
    private final Issuer issuer;
    private final AuditTrail told;
    private final WriteTokens writes;
    private final Clock clock;

    SessionApi(
            People people,
            Passwords passwords,
            FailedSignIns failures,
            SignedIn sessions,
            Sessions open,
            Tokens tokens,
            Issuer issuer,
            AuditTrail told,
            WriteTokens writes,
            Clock clock) {
        this.people = people;
        this.passwords = passwords;
        this.failures = failures;
        this.sessions = sessions;
        this.open = open;
        this.tokens = tokens;
        this.issuer = issuer;
        this.told = told;
        this.writes = writes;
        this.clock = clock;
    }

    record Credentials(String name, String password) {}

    /** Who one is. */
    record PersonSigned(long id, String name, String title, List<String> groups) {}

    /**
     * Who is signed in.
     *
     * @param zone the time zone of the installation, in which pages tell stamps (IANA's name)
     */
    record SessionJson(PersonSigned person, String zone) {
        static SessionJson of(People.Account person, Clock clock) {
            return new SessionJson(
                    new PersonSigned(person.id(), person.name(), person.title(), person.groups()),
                    clock.getZone().getId());
        }
    }

    /** One of the demo's people, who can be chosen with one press. */
    record Offered(String name, String title, List<String> groups) {}

    /** Who one is; 401 when nobody, with what the page for signing in needs to know. */
    @GetMapping("/api/session")
    ResponseEntity<?> session(HttpServletRequest request, HttpServletResponse response, CsrfToken token) {
        // Another one than it had, the browser is told already.
        if (WriteTokens.sent(request).filter(token.getToken()::equals).isPresent()) {
            writes.saveToken(token, request, response);
        }
        var person = sessions.person(request);
        return person.isPresent()
                ? ResponseEntity.ok(SessionJson.of(person.get(), clock))
                : ResponseEntity.status(HttpStatus.UNAUTHORIZED).body(nobody(request));
    }

    private ProblemDetail nobody(HttpServletRequest request) {
        var detail = ProblemDetail.forStatusAndDetail(HttpStatus.UNAUTHORIZED, "Sign in first.");
        detail.setProperty("empty", people.none());
        issuer.title().ifPresent(title -> {
            detail.setProperty("issuer", title);
            detail.setProperty("begins", Issuer.begins());
        });
        var offered = fromHere(request) ? people.ofDemo() : List.<People.Account>of();
        if (!offered.isEmpty()) {
            detail.setProperty(
                    "offered",
                    offered.stream()
                            .map(person -> new Offered(person.name(), person.title(), person.groups()))
                            .toList());
            detail.setProperty("password", Passwords.OF_DEMO);
        }
        return detail;
    }

    /** Whether it comes from this machine, by one of its own names. */
    private static boolean fromHere(HttpServletRequest request) {
        return InetAddress.ofLiteral(request.getRemoteAddr()).isLoopbackAddress()
                && List.of("localhost", "127.0.0.1", "[::1]").contains(request.getServerName());
    }

    /** Signs in. It answers alike, and as slowly, for a wrong name and a wrong password. */
    @PostMapping("/api/session")
    ResponseEntity<?> signIn(HttpServletRequest request, @RequestBody Credentials given) {
        var address = request.getRemoteAddr();
        var wait = failures.begin(given.name(), address);
        if (wait.isPositive()) {
            told.of(given.name(), Deed.SIGN_IN_HELD_UP, "");
            return heldUp(wait);
        }
        var person = people.named(given.name());
        if (!passwords.match(given.password(), person) || person.orElseThrow().stopped()) {
            told.of(given.name(), Deed.SIGN_IN_FAILED, "");
            throw new Problem(HttpStatus.UNAUTHORIZED, "The name or the password is not right.");
        }
        failures.passed(given.name(), address);
        sessions.begin(request, person.get());
        told.of(person.get().name(), Deed.SIGNED_IN, "");
        return ResponseEntity.ok(SessionJson.of(person.get(), clock));
    }

    private static ResponseEntity<ProblemDetail> heldUp(Duration wait) {
        return ResponseEntity.status(HttpStatus.TOO_MANY_REQUESTS)
                .header(HttpHeaders.RETRY_AFTER, Long.toString(wait.toSeconds() + 1))
                .body(ProblemDetail.forStatusAndDetail(
                        HttpStatus.TOO_MANY_REQUESTS,
                        "Signing in failed too often. Try again in " + words(wait) + "."));
    }

    private static String words(Duration wait) {
        long seconds = wait.toSeconds() + 1;
        return seconds < 100 ? seconds + " seconds" : (seconds + 59) / 60 + " minutes";
    }

    /** Signs out. Whoever is not signed in is out already. */
    @DeleteMapping("/api/session")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void signOut(HttpServletRequest request) {
        if (sessions.person(request).isPresent()) {
            told.of(Deed.SIGNED_OUT, "");
        }
        SignedIn.end(request);
    }

    /** The password one has, and the one to have. */
    record NewPassword(String old, String password) {}

    /** Changes one's own password. Every other session of one's own ends, and so do one's tokens. It is guessed as slowly. */
    @PutMapping("/api/session/password")
    ResponseEntity<?> password(HttpServletRequest request, Person person, @RequestBody NewPassword given) {
        var wait = failures.begin(person.name(), request.getRemoteAddr());
        if (wait.isPositive()) {
            told.of(Deed.SIGN_IN_HELD_UP, "");
            return heldUp(wait);
        }
        var kept = people.named(person.name());
        if (!passwords.match(given.old(), kept)) {
            throw new Faults("old", "This is not your password.");
        }
        failures.passed(person.name(), request.getRemoteAddr());
        people.password(kept.orElseThrow().id(), passwords.encoded(given.password(), person.name()));
        open.endOf(person.name(), request.getSession().getId());
        tokens.endOf(kept.get().id());
        told.of(Deed.PASSWORD_CHANGED, "");
        return ResponseEntity.noContent().build();
    }
}
