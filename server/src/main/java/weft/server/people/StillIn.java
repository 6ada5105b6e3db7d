package weft.server.people;

import jakarta.servlet.http.HttpServletRequest;
import java.util.function.BooleanSupplier;
import org.springframework.session.web.http.CookieSerializer;
import org.springframework.stereotype.Component;
import weft.store.people.People;

/** Whether whoever sent a request could send it again: what goes on for long after a request asks this each time. */
@Component
public class StillIn {

    private final People people;
    private final Bearers bearers;
    private final CookieSerializer cookies;

    StillIn(People people, Bearers bearers, CookieSerializer cookies) {
        this.people = people;
        this.bearers = bearers;
        this.cookies = cookies;
    }

    /** Asks whether the session, the token or the secret address that came with that request is still one. */
    public BooleanSupplier of(HttpServletRequest request) {
        if (Bearers.bears(request)) {
            var secret = Bearers.secret(request);
            return () -> bearers.signed(secret).isPresent();
        }
        var sessions = cookies.readCookieValues(request);
        return () -> sessions.stream().anyMatch(id -> people.bySession(id).isPresent());
    }
}
