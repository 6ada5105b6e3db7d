package weft.server.http;

import java.util.List;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.convert.converter.Converter;
import org.springframework.core.convert.converter.ConverterFactory;
import org.springframework.format.FormatterRegistry;
import org.springframework.http.HttpHeaders;
import org.springframework.web.method.support.HandlerMethodArgumentResolver;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import weft.core.door.Person;
import weft.core.value.Wire;

/** What every handler may take beside its path and its body: who is signed in, and what they saw. */
@Configuration(proxyBeanMethods = false)
class Arguments implements WebMvcConfigurer {

    /** Words of the address are constants as those of bodies are. */
    @Override
    public void addFormatters(FormatterRegistry registry) {
        registry.addConverterFactory(new Constants());
    }

    @SuppressWarnings({"rawtypes", "unchecked"}) // As Spring asks for them.
    private static final class Constants implements ConverterFactory<String, Enum> {
        @Override
        public <T extends Enum> Converter<String, T> getConverter(Class<T> type) {
            return word -> (T) Wire.constant((Class) type, word);
        }
    }

    @Override
    public void addArgumentResolvers(List<HandlerMethodArgumentResolver> resolvers) {
        resolvers.add(new Argument<>(Person.class, (_, _) -> Signed.person().orElseThrow(Problem::nobody)));
        resolvers.add(new Argument<>(Seen.class, (_, request) -> Seen.of(request.getHeader(HttpHeaders.IF_MATCH))));
    }
}
