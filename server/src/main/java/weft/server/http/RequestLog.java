package weft.server.http;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/** Logs one line for each request that writes, without its body or query, and refuses bodies that are too large. */
@Component
class RequestLog extends OncePerRequestFilter {

    private static final Logger LOG = LoggerFactory.getLogger(RequestLog.class);
    private static final long LARGEST_JSON = 8L * 1024 * 1024;

    @Override
    protected boolean shouldNotFilter(HttpServletRequest request) {
        return request.getMethod().equals("GET") || request.getRequestURI().endsWith("/assess");
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws IOException, ServletException {
        long began = System.nanoTime();
        boolean file =
                request.getContentType() != null && request.getContentType().startsWith("multipart/");
        if (!file && request.getContentLengthLong() > LARGEST_JSON) {
            response.setStatus(HttpStatus.CONTENT_TOO_LARGE.value());
            response.setContentType(MediaType.APPLICATION_PROBLEM_JSON_VALUE);
            response.getWriter().write("{\"status\":413,\"detail\":\"The request is too large. The most is 8 MB.\"}");
        } else {
            chain.doFilter(request, response);
        }
        LOG.info(
                "{} {} {} {} ms",
                request.getMethod(),
                request.getRequestURI().replaceAll("[\\r\\n]", ""),
                response.getStatus(),
                (System.nanoTime() - began) / 1_000_000);
    }
}
