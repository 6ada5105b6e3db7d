package weft.server.people;

import jakarta.servlet.http.HttpServletRequest;
import java.time.Clock;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.Person;
import weft.server.http.Problem;
import weft.store.door.Tokens;
import weft.store.people.Audit.Deed;
import weft.store.people.Invitations;
import weft.store.people.People;
import weft.store.people.Secret;
import weft.store.people.Sessions;

/** One-time addresses by which persons come in first. */
@RestController
class InvitationsApi {

    private final Invitations invitations;
    private final Passwords passwords;
    private final SignedIn sessions;
    private final Sessions open;
    private final Tokens tokens;
    private final AuditTrail told;
    private final Clock clock;

    InvitationsApi(
            Invitations invitations,
            Passwords passwords,
            SignedIn sessions,
            Sessions open,
            Tokens tokens,
            AuditTrail told,
            Clock clock) {
        this.invitations = invitations;
        this.passwords = passwords;
        this.sessions = sessions;
        this.open = open;
        this.tokens = tokens;
        this.told = told;
        this.clock = clock;
    }

    /** What an invitation is taken up with; name and title only by the first administrator. */
    record Accepted(@Nullable String name, @Nullable String title, String password) {}

    /** Whom an invitation invites; {@code name} is empty for the first administrator, who chooses it. */
    record InvitedJson(String name, String title) {}

    private static Problem gone() {
        return Problem.unknown(
                "such invitation any more: it was taken up, or is too old. Ask an administrator for another");
    }

    @GetMapping("/api/invitations/{secret}")
    InvitedJson invited(@PathVariable String secret) {
        return invitations
                .invited(new Secret(secret))
                .map(invited -> invited.person()
                        .map(person -> new InvitedJson(person.name(), person.title()))
                        .orElse(new InvitedJson("", "")))
                .orElseThrow(InvitationsApi::gone);
    }

    /** Takes an invitation up: chooses a password, and is signed in. */
    @PostMapping("/api/invitations/{secret}")
    SessionApi.SessionJson accept(
            @PathVariable String secret, HttpServletRequest request, @RequestBody Accepted given) {
        var invitation = new Secret(secret);
        var invited = invitations
                .invited(invitation)
                .orElseThrow(InvitationsApi::gone)
                .person();
        var name = invited.map(People.Account::name)
                .orElseGet(() -> Optional.ofNullable(given.name()).orElse(""));
        var first = invited.isPresent()
                ? Optional.<People.Edited>empty()
                : Optional.of(new People.Edited(
                        name, Optional.ofNullable(given.title()).orElse(""), Optional.empty(), Person.ALWAYS, false));
        var person = invitations
                .accept(invitation, first, passwords.encoded(given.password(), name))
                .orElseThrow(InvitationsApi::gone);
        // Whoever knew a password of theirs before is out.
        open.endOf(person.name(), "");
        tokens.endOf(person.id());
        told.of(person.name(), Deed.INVITATION_TAKEN, person.title());
        sessions.begin(request, person);
        return SessionApi.SessionJson.of(person, clock);
    }
}
