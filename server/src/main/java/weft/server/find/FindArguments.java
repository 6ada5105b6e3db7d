package weft.server.find;

import java.time.Clock;
import java.util.List;
import java.util.Optional;
import org.springframework.context.annotation.Configuration;
import org.springframework.web.method.support.HandlerMethodArgumentResolver;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import weft.server.door.Passed;
import weft.server.http.Argument;

/** Gives handlers what is {@link FindRequest} of the form behind the door that they take before it. */
@Configuration(proxyBeanMethods = false)
class FindArguments implements WebMvcConfigurer {

    private final Clock clock;

    FindArguments(Clock clock) {
        this.clock = clock;
    }

    @Override
    public void addArgumentResolvers(List<HandlerMethodArgumentResolver> resolvers) {
        resolvers.add(new Argument<>(
                FindRequest.class,
                (_, request) -> FindRequest.of(
                        Passed.way(request).orElseThrow().shown(),
                        Optional.ofNullable(request.getParameterValues("where"))
                                .map(List::of)
                                .orElse(List.of()),
                        request.getParameter("any"),
                        request.getParameter("sort"),
                        clock)));
    }
}
