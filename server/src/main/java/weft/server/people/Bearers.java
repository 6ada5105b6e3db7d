package weft.server.people;

import jakarta.servlet.http.HttpServletRequest;
import java.util.Optional;
import org.springframework.http.HttpHeaders;
import org.springframework.stereotype.Component;
import weft.core.door.Door;
import weft.server.http.Signed;
import weft.store.door.Doors;
import weft.store.door.Tokens;
import weft.store.people.People;
import weft.store.people.Secret;

/** Who comes without a session, with a secret in {@code Authorization: Bearer} (RFC 6750): a token, or that of an address. */
@Component
class Bearers {

    private static final String SCHEME = "bearer ";

    private final Tokens tokens;
    private final Doors doors;
    private final People people;

    Bearers(Tokens tokens, Doors doors, People people) {
        this.tokens = tokens;
        this.doors = doors;
        this.people = people;
    }

    /** Whether a request comes with a secret; it counts then, and no session does. */
    static boolean bears(HttpServletRequest request) {
        var header = request.getHeader(HttpHeaders.AUTHORIZATION);
        return header != null && header.regionMatches(true, 0, SCHEME, 0, SCHEME.length());
    }

    /** Whom its secret lets in; empty when nobody. */
    Optional<Signed> signed(HttpServletRequest request) {
        return signed(secret(request));
    }

    static Secret secret(HttpServletRequest request) {
        return new Secret(request.getHeader(HttpHeaders.AUTHORIZATION)
                .substring(SCHEME.length())
                .strip());
    }

    Optional<Signed> signed(Secret secret) {
        return tokens.used(secret)
                .flatMap(token ->
                        people.find(token.person()).map(person -> Signed.program(person.person(), token.door())))
                .or(() -> doors.byLink(secret).map(Door::id).map(Signed::byLink));
    }
}
