package weft.server.http;

import io.micrometer.core.instrument.MeterRegistry;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.concurrent.TimeUnit;
import java.util.regex.Pattern;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;

/** Logs one line for each request that writes, without its body or query, and times those that save. */
@Component
class RequestLog extends OncePerRequestFilter {

    private static final Logger LOG = LoggerFactory.getLogger(RequestLog.class);
    /** Where entries are saved and records changed. */
    private static final Pattern SAVES = Pattern.compile("/api/doors/[^/]+/(records(/[^/]+)?|batches|changes)");

    private final MeterRegistry measures;

    RequestLog(MeterRegistry measures) {
        this.measures = measures;
    }

    @Override
    protected boolean shouldNotFilter(HttpServletRequest request) {
        return request.getMethod().equals("GET") || request.getRequestURI().endsWith("/assess");
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws IOException, ServletException {
        long began = System.nanoTime();
        chain.doFilter(request, response);
        long took = System.nanoTime() - began;
        if (SAVES.matcher(request.getRequestURI()).matches()) {
            measures.timer("weft.saves", "answer", answer(response.getStatus())).record(took, TimeUnit.NANOSECONDS);
        }
        LOG.info(
                "{} {} {} {} ms",
                request.getMethod(),
                request.getRequestURI().replaceAll("[\\r\\n]", ""),
                response.getStatus(),
                took / 1_000_000);
    }

    private static String answer(int status) {
        return status < 300
                ? "done"
                : status == 422 ? "stopped" : status == 503 ? "unavailable" : status < 500 ? "refused" : "failed";
    }
}
