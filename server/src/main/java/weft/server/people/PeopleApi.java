package weft.server.people;

import jakarta.servlet.http.HttpServletRequest;
import java.net.URI;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import weft.server.http.Problem;
import weft.server.message.Mailing;
import weft.store.door.Tokens;
import weft.store.people.Audit.Deed;
import weft.store.people.Invitations;
import weft.store.people.People;
import weft.store.people.Sessions;

/** Persons, and how they are invited: for administrators. */
@RestController
class PeopleApi {

    private static final int PAGE = 100;

    private final People people;
    private final Invitations invitations;
    private final Passwords passwords;
    private final Tokens tokens;
    private final Sessions sessions;
    private final Mailing mailing;
    private final AuditTrail told;

    PeopleApi(
            People people,
            Invitations invitations,
            Passwords passwords,
            Tokens tokens,
            Sessions sessions,
            Mailing mailing,
            AuditTrail told) {
        this.people = people;
        this.invitations = invitations;
        this.passwords = passwords;
        this.tokens = tokens;
        this.sessions = sessions;
        this.mailing = mailing;
        this.told = told;
    }

    /**
     * A person.
     *
     * @param signsIn whether they have chosen a password
     * @param invitation where they choose it; told once
     */
    record PersonJson(
            long id,
            String name,
            String title,
            @Nullable String email,
            List<String> groups,
            boolean stopped,
            boolean signsIn,
            @Nullable String invitation) {
        static PersonJson of(People.Account person, @Nullable String invitation) {
            return new PersonJson(
                    person.id(),
                    person.name(),
                    person.title(),
                    person.email().orElse(null),
                    person.groups(),
                    person.stopped(),
                    person.password().isPresent(),
                    invitation);
        }
    }

    /** What is said of a person. Without a password they are invited to choose one. */
    record PersonAsked(
            @Nullable String name,
            @Nullable String title,
            @Nullable String email,
            @Nullable List<String> groups,
            @Nullable String password,
            @Nullable Boolean stopped) {}

    @GetMapping("/api/people")
    List<PersonJson> people(@RequestParam(defaultValue = "") String after) {
        return people.page(after, PAGE).stream()
                .map(person -> PersonJson.of(person, null))
                .toList();
    }

    private static Problem unknown(long id) {
        return Problem.unknown("person " + id);
    }

    @PostMapping("/api/people")
    ResponseEntity<PersonJson> add(@RequestBody PersonAsked asked, HttpServletRequest request) {
        var name = Optional.ofNullable(asked.name()).orElse("").strip();
        var said = new People.Edited(
                name,
                Optional.ofNullable(asked.title()).orElse(name),
                email(asked),
                Optional.ofNullable(asked.groups()).orElse(List.of()),
                Boolean.TRUE.equals(asked.stopped()));
        var password = Optional.ofNullable(asked.password()).map(given -> passwords.encoded(given, name));
        var person = people.add(said, password, false);
        told.of(Deed.PERSON_MADE, words(person));
        var invitation = password.isPresent() ? null : invite(person, request);
        return ResponseEntity.created(URI.create("/api/people/" + person.id())).body(PersonJson.of(person, invitation));
    }

    private static Optional<String> email(PersonAsked asked) {
        return Optional.ofNullable(asked.email()).map(String::strip).filter(email -> !email.isEmpty());
    }

    private static String words(People.Account person) {
        return person.title() + " (" + person.name() + ")"
                + (person.groups().isEmpty() ? "" : ": " + String.join(", ", person.groups()));
    }

    /** Where the invitation can be taken up; it is also sent, where the person has an address for it. */
    private String invite(People.Account person, HttpServletRequest request) {
        var secret = invitations.invite(person.id());
        var address = request.getRequestURL().toString().replaceFirst("/api/.*", "/invitation/" + secret.text());
        person.email()
                .ifPresent(email -> mailing.sendAtOnce(
                        email, "Your way in to Weft", """
                %s,

                you can sign in to Weft from now on, with the name %s. Choose your password here:

                %s

                The address works once, for seven days.
                """.formatted(person.title(), person.name(), address)));
        told.of(Deed.INVITED, words(person));
        return address;
    }

    @GetMapping("/api/people/{id}")
    PersonJson person(@PathVariable long id) {
        return PersonJson.of(people.find(id).orElseThrow(() -> unknown(id)), null);
    }

    /** Changes a person, who keeps the name; what is left out stays. One who is stopped is signed out everywhere. */
    @PutMapping("/api/people/{id}")
    PersonJson change(@PathVariable long id, @RequestBody PersonAsked asked) {
        var before = people.find(id).orElseThrow(() -> unknown(id));
        if (asked.name() != null && !asked.name().equals(before.name())) {
            throw Problem.refused("A person keeps the name to sign in with, since records say it.");
        }
        var encoded = Optional.ofNullable(asked.password()).map(given -> passwords.encoded(given, before.name()));
        boolean stopped = Optional.ofNullable(asked.stopped()).orElse(before.stopped());
        var person = people.change(
                        id,
                        new People.Edited(
                                before.name(),
                                Optional.ofNullable(asked.title()).orElse(before.title()),
                                asked.email() == null ? before.email() : email(asked),
                                Optional.ofNullable(asked.groups()).orElse(before.groups()),
                                stopped))
                .orElseThrow(() -> unknown(id));
        encoded.ifPresent(password -> people.password(id, password));
        if (stopped || encoded.isPresent()) {
            sessions.endOf(before.name(), "");
            tokens.endOf(id);
        }
        told.of(stopped && !before.stopped() ? Deed.PERSON_STOPPED : Deed.PERSON_CHANGED, words(person));
        return PersonJson.of(people.find(id).orElse(person), null);
    }

    @DeleteMapping("/api/people/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void remove(@PathVariable long id) {
        var person = people.find(id).orElseThrow(() -> unknown(id));
        people.remove(id);
        sessions.endOf(person.name(), "");
        told.of(Deed.PERSON_REMOVED, words(person));
    }

    /** An address that works once. */
    record Address(String address) {}

    /** Invites a person to choose a password anew. The invitation before this one dies. */
    @PostMapping("/api/people/{id}/invitation")
    Address invite(@PathVariable long id, HttpServletRequest request) {
        return new Address(invite(people.find(id).orElseThrow(() -> unknown(id)), request));
    }
}
