package weft.server.door;

import jakarta.servlet.http.HttpServletRequest;
import java.util.Optional;
import org.springframework.web.context.request.RequestAttributes;
import org.springframework.web.context.request.WebRequest;
import weft.store.door.Ways.Way;

/** The way that a request has taken, for what answers it when something is in the way. */
public final class Passed {

    static final String ATTRIBUTE = Way.class.getName();

    private Passed() {}

    /** That way; empty when the request goes by no door. */
    public static Optional<Way> way(HttpServletRequest request) {
        return request.getAttribute(ATTRIBUTE) instanceof Way way ? Optional.of(way) : Optional.empty();
    }

    /** The same of a request as handlers' arguments are made of it. */
    public static Optional<Way> way(WebRequest request) {
        return request.getAttribute(ATTRIBUTE, RequestAttributes.SCOPE_REQUEST) instanceof Way way
                ? Optional.of(way)
                : Optional.empty();
    }
}
