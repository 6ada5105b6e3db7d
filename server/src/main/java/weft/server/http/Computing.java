package weft.server.http;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.time.Duration;
import java.util.Set;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.regex.Pattern;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;
import weft.core.formula.Budget;

/**
 * Bounds what one request may compute, and how many compute for long at once: fewer than the machine has cores. What saves
 * has turns of its own, and so have files, so that none of them waits for those who only ask.
 */
@Component
class Computing extends OncePerRequestFilter {

    /** Of a request that somebody waits for at a page. */
    private static final Duration MOST = Duration.ofSeconds(15);
    /** Of a file with very many rows. */
    private static final Duration MOST_OF_FILE = Duration.ofMinutes(5);

    private static final Duration WAIT = Duration.ofSeconds(5);

    private static final Pattern SAVING =
            Pattern.compile(".*/(records(/[0-9]+(/restore)?)?|batches|press|take-back|twice/[0-9]+)");
    private static final Set<String> WRITING = Set.of("POST", "PUT", "PATCH", "DELETE");

    private final Semaphore asking = turns();
    private final Semaphore saving = turns();
    private final Semaphore files = new Semaphore(1, true);

    private static Semaphore turns() {
        return new Semaphore(Math.max(1, Runtime.getRuntime().availableProcessors() - 1), true);
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws IOException, ServletException {
        boolean file = BodyLimit.isFile(request);
        var turn = new Turn(file ? files : saves(request) ? saving : asking, request);
        try {
            Budget.of(file ? MOST_OF_FILE : MOST, turn, () -> {
                chain.doFilter(request, response);
                return true;
            });
        } catch (IOException | ServletException | RuntimeException e) {
            throw e;
        } catch (Exception e) {
            throw new ServletException(e);
        } finally {
            turn.giveBack();
        }
    }

    private static boolean saves(HttpServletRequest request) {
        return WRITING.contains(request.getMethod())
                && SAVING.matcher(request.getRequestURI()).matches();
    }

    /** The turn of one request, once it needs one. */
    private static final class Turn implements Budget.Turns {
        private final Semaphore free;
        private final HttpServletRequest request;
        private boolean had;

        Turn(Semaphore free, HttpServletRequest request) {
            this.free = free;
            this.request = request;
        }

        @Override
        public boolean take() {
            try {
                had = free.tryAcquire(WAIT.toMillis(), TimeUnit.MILLISECONDS);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
            return had;
        }

        @Override
        public boolean left() {
            return Connections.closed(request);
        }

        void giveBack() {
            if (had) {
                free.release();
            }
        }
    }
}
