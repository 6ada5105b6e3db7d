package weft.server.door;

import jakarta.servlet.http.HttpServletRequest;
import java.time.Clock;
import java.time.LocalDateTime;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.MethodParameter;
import org.springframework.http.HttpStatus;
import org.springframework.web.context.request.NativeWebRequest;
import org.springframework.web.context.request.RequestAttributes;
import org.springframework.web.method.support.HandlerMethodArgumentResolver;
import org.springframework.web.servlet.HandlerMapping;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import weft.core.door.Door;
import weft.core.door.Pass;
import weft.core.door.Pass.Comer;
import weft.core.value.Wire;
import weft.server.http.Argument;
import weft.server.http.Problem;
import weft.server.http.Signed;
import weft.store.door.KnownDoors;
import weft.store.door.Throttle;
import weft.store.door.Ways;
import weft.store.door.Ways.Way;
import weft.store.people.People;

/**
 * Gives handlers the {@link Way} that {@code {door}} in the address names, for whoever asks: 404 when the door is not there for
 * them, 403 when they may not do by it what the handler {@link Needs}.
 */
@Configuration(proxyBeanMethods = false)
public class Passage implements WebMvcConfigurer {

    /** With it a builder goes through a door as whoever it is for: {@code Weft-Try: yes}, or {@code ?try=yes}. */
    static final String TRY = "Weft-Try";

    private final KnownDoors doors;
    private final Ways ways;
    private final People people;
    private final Throttle throttle;
    private final Clock clock;

    Passage(KnownDoors doors, Ways ways, People people, Throttle throttle, Clock clock) {
        this.doors = doors;
        this.people = people;
        this.ways = ways;
        this.throttle = throttle;
        this.clock = clock;
    }

    @Override
    public void addArgumentResolvers(List<HandlerMethodArgumentResolver> resolvers) {
        resolvers.add(new Argument<>(Way.class, this::way));
    }

    /** The same way as it is now; empty when it is not there any more for whoever went through. */
    public Optional<Way> again(Pass pass) {
        var comer = pass.person().isPresent()
                ? people.named(pass.person().get().name())
                        .filter(kept -> !kept.stopped())
                        .<Comer>map(kept -> new Comer.SignedIn(kept.person()))
                : Optional.<Comer>of(new Comer.ByLink(pass.door().id()));
        var now = LocalDateTime.now(clock);
        return doors.find(pass.door().id())
                .flatMap(door -> comer.flatMap(who -> Pass.of(door, who, now).or(() -> tried(door, who, now))))
                .flatMap(anew -> ways.latest(anew, now));
    }

    private static Optional<Pass> tried(Door door, Comer who, LocalDateTime now) {
        return who instanceof Comer.SignedIn(var person)
                ? Pass.of(door, new Comer.Trying(person), now)
                : Optional.empty();
    }

    private Way way(MethodParameter parameter, NativeWebRequest request) {
        var id = named(request);
        boolean tries = request.getHeader(TRY) != null || request.getParameter("try") != null;
        var pass = doors.find(id)
                .flatMap(door -> Signed.comer(id)
                        .map(comer ->
                                tries && comer instanceof Comer.SignedIn(var person) ? new Comer.Trying(person) : comer)
                        .flatMap(comer -> Pass.of(door, comer, LocalDateTime.now(clock))))
                .orElseThrow(() -> unknown(id));
        throttled(pass, request);
        var way = ways.latest(pass, LocalDateTime.now(clock)).orElseThrow(() -> unknown(id));
        var needs = Objects.requireNonNull(parameter.getMethodAnnotation(Needs.class), "a handler that says no needs");
        if ((needs.value().length > 0 && Arrays.stream(needs.value()).noneMatch(way.pass()::may))
                || !Arrays.stream(needs.with()).allMatch(way.pass()::may)
                || (needs.all() && !way.pass().seesAll())) {
            throw Problem.forbidden(refusal(pass.door(), needs));
        }
        if (needs.twice()
                && (way.pass().person().isEmpty() || pass.door().twice().isEmpty())) {
            throw Problem.unknown("second keying at the door “" + pass.door().title() + "”");
        }
        request.setAttribute(Passed.ATTRIBUTE, way, RequestAttributes.SCOPE_REQUEST);
        return way;
    }

    /** 429 when more is asked without a session than is taken in a minute, whatever it is. */
    private void throttled(Pass pass, NativeWebRequest request) {
        if (!Signed.byBearer()) {
            return;
        }
        var address = Objects.requireNonNull(request.getNativeRequest(HttpServletRequest.class))
                .getRemoteAddr();
        var what = pass.person().isPresent() ? Throttle.Taken.PROGRAMS : Throttle.Taken.ASKS;
        if (!throttle.takes(what, pass.door().id(), address, 1)) {
            throw new Problem(
                    HttpStatus.TOO_MANY_REQUESTS, "More is asked than this door takes. Try again in a minute.");
        }
    }

    private static Problem unknown(String id) {
        return Problem.unknown("door “" + id + "” for you");
    }

    private static String refusal(Door door, Needs needs) {
        var what = Arrays.stream(needs.value()).map(Wire::word).collect(Collectors.joining(" or "));
        return needs.all() || what.isEmpty()
                ? "The door “" + door.title() + "” does not show every record."
                : "By the door “" + door.title() + "” one may not " + what + " records.";
    }

    @SuppressWarnings("unchecked") // As Spring keeps them.
    private static String named(NativeWebRequest request) {
        var variables = (Map<String, String>)
                request.getAttribute(HandlerMapping.URI_TEMPLATE_VARIABLES_ATTRIBUTE, RequestAttributes.SCOPE_REQUEST);
        return Optional.ofNullable(variables).map(each -> each.get("door")).orElseThrow();
    }
}
