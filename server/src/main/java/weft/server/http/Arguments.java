package weft.server.http;

import java.util.List;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpHeaders;
import org.springframework.web.method.support.HandlerMethodArgumentResolver;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;

/** What every handler may take beside its path and its body: who is at the keyboard, and what they saw. */
@Configuration(proxyBeanMethods = false)
class Arguments implements WebMvcConfigurer {

    @Override
    public void addArgumentResolvers(List<HandlerMethodArgumentResolver> resolvers) {
        resolvers.add(new Argument<>(Person.class, (_, request) -> Person.of(request.getHeader(Person.HEADER))));
        resolvers.add(new Argument<>(Seen.class, (_, request) -> Seen.of(request.getHeader(HttpHeaders.IF_MATCH))));
    }
}
