package weft.server.http;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/** Logs one line for each request that writes, without its body or query. */
@Component
class RequestLog extends OncePerRequestFilter {

    private static final Logger LOG = LoggerFactory.getLogger(RequestLog.class);

    @Override
    protected boolean shouldNotFilter(HttpServletRequest request) {
        return request.getMethod().equals("GET") || request.getRequestURI().endsWith("/assess");
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws IOException, ServletException {
        long began = System.nanoTime();
        chain.doFilter(request, response);
        LOG.info(
                "{} {} {} {} ms",
                request.getMethod(),
                request.getRequestURI().replaceAll("[\\r\\n]", ""),
                response.getStatus(),
                (System.nanoTime() - began) / 1_000_000);
    }
}
