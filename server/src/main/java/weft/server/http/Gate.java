package weft.server.http;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * What every request passes first. Weft answers only under names that it knows as its own, so that no other name can be made
 * to lead to it (DNS rebinding); what writes must come from its own pages or from no page at all (Fetch Metadata,
 * RFC 6454); and every answer tells the browser to load and frame nothing of others (Content Security Policy 3).
 */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE)
class Gate extends OncePerRequestFilter {

    private static final Set<String> READING = Set.of("GET", "HEAD", "OPTIONS");
    private static final Set<String> OWN_MACHINE = Set.of("localhost", "127.0.0.1", "[::1]");
    private static final String POLICY = "default-src 'self'; style-src 'self' 'unsafe-inline'; "
            + "img-src 'self' data: blob:; font-src 'self' data:; object-src 'none'; base-uri 'none'; "
            + "form-action 'self'; frame-ancestors 'none'";

    private final Set<String> names;

    /** With the names that Weft has beside those of its own machine. */
    Gate(@Value("${weft.hosts}") List<String> names) {
        this.names = Set.copyOf(names.stream()
                .map(name -> name.strip().toLowerCase(Locale.ROOT))
                .toList());
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws IOException, ServletException {
        response.setHeader("Content-Security-Policy", POLICY);
        response.setHeader("X-Content-Type-Options", "nosniff");
        response.setHeader("X-Frame-Options", "DENY");
        response.setHeader("Referrer-Policy", "same-origin");
        response.setHeader("Cross-Origin-Resource-Policy", "same-origin");
        var refusal = refusal(request);
        if (refusal.isPresent()) {
            refusal.get().answer(response);
        } else {
            chain.doFilter(request, response);
        }
    }

    private Optional<Problem> refusal(HttpServletRequest request) {
        var host = request.getHeader(HttpHeaders.HOST);
        if (!known(host)) {
            return Optional.of(new Problem(
                    HttpStatus.MISDIRECTED_REQUEST,
                    "Weft does not answer under this name. Who runs it can add the name to its setting WEFT_HOSTS."));
        }
        if (!READING.contains(request.getMethod()) && foreign(request, host)) {
            return Optional.of(new Problem(HttpStatus.FORBIDDEN, "Another website may not do this in Weft."));
        }
        return Escapes.sound(request.getRequestURI()) && Escapes.sound(request.getQueryString())
                ? Optional.empty()
                : Optional.of(
                        Problem.malformed("The address has a character in it that is none, or no text in UTF-8."));
    }

    private boolean known(@Nullable String host) {
        if (host == null) {
            return false;
        }
        var name = host.toLowerCase(Locale.ROOT).replaceFirst(":[0-9]*$", "");
        return OWN_MACHINE.contains(name) || names.contains(name);
    }

    /** What browsers say of where a request comes from; what is no browser says nothing. */
    private static boolean foreign(HttpServletRequest request, String host) {
        var site = request.getHeader("Sec-Fetch-Site");
        if (site != null) {
            return !site.equals("same-origin") && !site.equals("none");
        }
        var origin = request.getHeader(HttpHeaders.ORIGIN);
        return origin != null && !origin.replaceFirst("^https?://", "").equalsIgnoreCase(host);
    }
}
