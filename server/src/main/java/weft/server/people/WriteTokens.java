package weft.server.people;

import jakarta.servlet.http.Cookie;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.ResponseCookie;
import org.springframework.security.web.csrf.CsrfToken;
import org.springframework.security.web.csrf.CsrfTokenRepository;
import org.springframework.security.web.csrf.CsrfTokenRequestAttributeHandler;
import org.springframework.security.web.csrf.DefaultCsrfToken;
import org.springframework.stereotype.Component;
import weft.store.people.People;
import weft.store.people.Secret;
import weft.store.people.Sessions;

/**
 * What tells a write of Weft's own pages from one that another site sends: a token in a cookie, which only these pages can read and
 * send in a header. It is that of the session; a browser without one has any, which becomes that of the session it signs in with.
 */
@Component
class WriteTokens extends CsrfTokenRequestAttributeHandler implements CsrfTokenRepository {

    private static final String COOKIE = "XSRF-TOKEN";
    private static final String HEADER = "X-XSRF-TOKEN";
    private static final String TOKEN = "[\\w-]{1,64}";
    /** What browsers say of a request that pages elsewhere send, be it of a neighbour under the same domain. */
    private static final List<String> ELSEWHERE = List.of("cross-site", "same-site");

    private final SignedIn signedIn;
    private final Sessions sessions;

    WriteTokens(SignedIn signedIn, Sessions sessions) {
        this.signedIn = signedIn;
        this.sessions = sessions;
    }

    @Override
    public CsrfToken generateToken(HttpServletRequest request) {
        var random = Secret.random().text();
        return token(signedIn.in(request).map(in -> of(in, random)).orElse(random));
    }

    @Override
    public @Nullable CsrfToken loadToken(HttpServletRequest request) {
        return sent(request)
                .filter(sent -> signedIn.in(request)
                        .map(in -> of(in, sent).equals(sent))
                        .orElse(true))
                .map(WriteTokens::token)
                .orElse(null);
    }

    @Override
    public void saveToken(@Nullable CsrfToken token, HttpServletRequest request, HttpServletResponse response) {
        if (token != null) {
            var cookie = ResponseCookie.from(COOKIE, token.getToken())
                    .path("/")
                    .secure(request.isSecure())
                    .sameSite("Lax");
            response.addHeader(HttpHeaders.SET_COOKIE, cookie.build().toString());
        }
    }

    @Override
    public void handle(HttpServletRequest request, HttpServletResponse response, Supplier<CsrfToken> token) {
        super.handle(request, response, token);
        if (request.getRequestURI().startsWith("/api/") && !Bearers.bears(request)) {
            // Whoever asks has it from then on.
            var _ = token.get();
        }
    }

    @Override
    public @Nullable String resolveCsrfTokenValue(HttpServletRequest request, CsrfToken token) {
        var from = request.getHeader("Sec-Fetch-Site");
        return from != null && ELSEWHERE.contains(from) ? null : request.getHeader(HEADER);
    }

    /** The token that a browser has, be it that of no session. */
    static Optional<String> sent(HttpServletRequest request) {
        return Optional.ofNullable(request.getCookies()).stream()
                .flatMap(Arrays::stream)
                .filter(cookie -> cookie.getName().equals(COOKIE))
                .map(Cookie::getValue)
                .filter(value -> value.matches(TOKEN))
                .findFirst();
    }

    /** That of a session; one that has none yet takes this. */
    private String of(People.SignedIn in, String otherwise) {
        return in.token().orElseGet(() -> sessions.token(in.session(), otherwise));
    }

    private static CsrfToken token(String text) {
        return new DefaultCsrfToken(HEADER, "_csrf", text);
    }
}
