package weft.server.people;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.time.Duration;
import java.time.Instant;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Supplier;
import org.springframework.security.core.context.DeferredSecurityContext;
import org.springframework.security.core.context.SecurityContext;
import org.springframework.security.core.context.SecurityContextImpl;
import org.springframework.security.web.context.HttpRequestResponseHolder;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.session.FindByIndexNameSessionRepository;
import org.springframework.session.web.http.CookieSerializer;
import org.springframework.stereotype.Component;
import weft.server.http.Signed;
import weft.store.people.People;
import weft.store.people.Sessions;

/**
 * Who a session is of. It holds the name of a person and nothing more; who they are and which groups they are in is looked
 * up at each request, so that a person who is stopped is stopped at once.
 */
@Component
class SignedIn implements SecurityContextRepository {

    /** Where a request has the session that it belongs to, once that was looked up. */
    private static final String IN = "signed in";
    /** That a session was seen is written down once in so long; more often, each request would pay for a write. */
    private static final Duration SEEN = Duration.ofMinutes(1);

    private final People people;
    private final Bearers bearers;
    private final CookieSerializer cookies;
    private final Sessions sessions;

    SignedIn(People people, Bearers bearers, CookieSerializer cookies, Sessions sessions) {
        this.people = people;
        this.bearers = bearers;
        this.cookies = cookies;
        this.sessions = sessions;
    }

    /** Begins a session of that person; the one before, if there was one, ends. The token that the browser has is the session's. */
    void begin(HttpServletRequest request, People.Account person) {
        end(request);
        var session = request.getSession(true);
        session.setAttribute(FindByIndexNameSessionRepository.PRINCIPAL_NAME_INDEX_NAME, person.name());
        var token = WriteTokens.sent(request).map(sent -> sessions.token(session.getId(), sent));
        request.setAttribute(IN, new People.SignedIn(session.getId(), token, person, Instant.now()));
    }

    /** Ends the session of a request. */
    static void end(HttpServletRequest request) {
        var session = request.getSession(false);
        if (session != null) {
            session.invalidate();
            request.removeAttribute(IN);
        }
    }

    /** Whose session a request belongs to; empty when nobody's. */
    Optional<People.Account> person(HttpServletRequest request) {
        return in(request).map(People.SignedIn::person);
    }

    /** The session that a request belongs to, looked up once; empty when it is nobody's. */
    Optional<People.SignedIn> in(HttpServletRequest request) {
        if (request.getAttribute(IN) instanceof People.SignedIn known) {
            return Optional.of(known);
        }
        var in = cookies.readCookieValues(request).stream()
                .flatMap(id -> people.bySession(id).stream())
                .findFirst();
        if (in.filter(each -> each.seen().isBefore(Instant.now().minus(SEEN))).isPresent()) {
            // Whoever gets hold of the session itself reads it once more, and writes down that it was seen.
            request.getSession(false);
        }
        in.ifPresent(each -> request.setAttribute(IN, each));
        return in;
    }

    @Override
    public DeferredSecurityContext loadDeferredContext(HttpServletRequest request) {
        return new Deferred(() -> (Bearers.bears(request)
                        ? bearers.signed(request)
                        : person(request).map(person -> Signed.of(person.person())))
                .map(SecurityContextImpl::new)
                .orElseGet(SecurityContextImpl::new));
    }

    /** Looked up when it is first asked for. */
    private static final class Deferred implements DeferredSecurityContext {
        private final Supplier<SecurityContext> looked;
        private Optional<SecurityContext> context = Optional.empty();

        Deferred(Supplier<SecurityContext> looked) {
            this.looked = looked;
        }

        @Override
        public SecurityContext get() {
            if (context.isEmpty()) {
                context = Optional.of(looked.get());
            }
            return context.get();
        }

        @Override
        public boolean isGenerated() {
            return Objects.isNull(get().getAuthentication());
        }
    }

    @Override
    @Deprecated
    public SecurityContext loadContext(HttpRequestResponseHolder holder) {
        return loadDeferredContext(holder.getRequest()).get();
    }

    /** Sessions begin and end at the API for them, and nowhere else. */
    @Override
    public void saveContext(SecurityContext context, HttpServletRequest request, HttpServletResponse response) {
        // Nothing of a request is kept for the next.
    }

    @Override
    public boolean containsContext(HttpServletRequest request) {
        return person(request).isPresent();
    }
}
