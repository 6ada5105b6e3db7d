package weft.server.http;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;
import weft.store.Outage;

/** What fails before a handler is reached, or after one, as when the database cannot be asked whose a session is. */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE + 1)
class LastResort extends OncePerRequestFilter {

    private static final Logger LOG = LoggerFactory.getLogger(LastResort.class);

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws IOException, ServletException {
        try {
            chain.doFilter(request, response);
        } catch (RuntimeException | ServletException e) {
            if (response.isCommitted()) {
                throw e;
            }
            response.resetBuffer();
            var outage = Outage.of(e);
            if (outage.isPresent()) {
                response.setHeader(HttpHeaders.RETRY_AFTER, "1");
                new Problem(HttpStatus.SERVICE_UNAVAILABLE, outage.get().sentence()).answer(response);
            } else {
                LOG.error("failed {} {}", request.getMethod(), request.getRequestURI(), new WithoutValues(e));
                Problem.unforeseen().answer(response);
            }
        }
    }
}
