package weft.server.http;

import java.util.List;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpHeaders;
import org.springframework.web.method.support.HandlerMethodArgumentResolver;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import weft.core.door.Person;

/** What every handler may take beside its path and its body: who is signed in, and what they saw. */
@Configuration(proxyBeanMethods = false)
class Arguments implements WebMvcConfigurer {

    @Override
    public void addArgumentResolvers(List<HandlerMethodArgumentResolver> resolvers) {
        resolvers.add(new Argument<>(Person.class, (_, _) -> Signed.person().orElseThrow(Problem::nobody)));
        resolvers.add(new Argument<>(Seen.class, (_, request) -> Seen.of(request.getHeader(HttpHeaders.IF_MATCH))));
    }
}
