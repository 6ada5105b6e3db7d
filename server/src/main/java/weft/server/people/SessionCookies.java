package weft.server.people;

import jakarta.servlet.http.HttpServletRequest;
import java.util.List;
import java.util.stream.Stream;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.session.SessionIdGenerator;
import org.springframework.session.config.SessionRepositoryCustomizer;
import org.springframework.session.jdbc.JdbcIndexedSessionRepository;
import org.springframework.session.web.http.DefaultCookieSerializer;
import org.springframework.stereotype.Component;
import org.springframework.web.context.request.RequestAttributes;
import org.springframework.web.context.request.RequestContextHolder;
import weft.store.people.Secret;

/**
 * The cookie that a session is known by. It holds a secret, and the session is kept by the hash of that: who reads the database
 * comes into no session by it.
 */
@Component
class SessionCookies extends DefaultCookieSerializer implements SessionIdGenerator {

    private static final String SECRET = "[\\w-]{32}";
    /** As earlier versions called sessions, and kept them. */
    private static final String EARLIER = "[0-9a-f-]{36}";

    /** Where the secret of a session is that the request in hand begins. */
    private static String begun(String id) {
        return SessionCookies.class.getName() + " " + id;
    }

    @Override
    public String generate() {
        var secret = Secret.random();
        RequestContextHolder.currentRequestAttributes()
                .setAttribute(begun(secret.hash()), secret.text(), RequestAttributes.SCOPE_REQUEST);
        return secret.hash();
    }

    /** What sessions are kept by of which a browser holds cookies; one that holds anything else holds none. */
    @Override
    public List<String> readCookieValues(HttpServletRequest request) {
        return super.readCookieValues(request).stream()
                .flatMap(value -> value.matches(SECRET)
                        ? Stream.of(new Secret(value).hash())
                        : Stream.of(value).filter(id -> id.matches(EARLIER)))
                .toList();
    }

    @Override
    public void writeCookieValue(CookieValue written) {
        var secret = written.getRequest().getAttribute(begun(written.getCookieValue()));
        super.writeCookieValue(
                secret instanceof String text
                        ? new CookieValue(written.getRequest(), written.getResponse(), text)
                        : written);
    }

    /** Lets sessions be called so. */
    @Configuration(proxyBeanMethods = false)
    static class Kept {
        @Bean
        SessionRepositoryCustomizer<JdbcIndexedSessionRepository> calledByHash(SessionCookies cookies) {
            return sessions -> sessions.setSessionIdGenerator(cookies);
        }
    }
}
