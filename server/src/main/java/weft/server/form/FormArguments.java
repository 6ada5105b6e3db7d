package weft.server.form;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.MethodParameter;
import org.springframework.web.context.request.NativeWebRequest;
import org.springframework.web.context.request.RequestAttributes;
import org.springframework.web.method.support.HandlerMethodArgumentResolver;
import org.springframework.web.servlet.HandlerMapping;
import org.springframework.web.servlet.config.annotation.WebMvcConfigurer;
import weft.server.http.Argument;
import weft.server.http.Problem;
import weft.store.form.Definitions;
import weft.store.form.ReadyForm;
import weft.store.table.StoredTable;

/**
 * What the address of a request names, for handlers that take it: {@code {form}} as a {@link ReadyForm}, published or, where
 * it is marked so, the working {@link Copy}; {@code {table}} as a {@link StoredTable}. 404 when there is none.
 */
@Configuration(proxyBeanMethods = false)
class FormArguments implements WebMvcConfigurer {

    private final Definitions definitions;

    FormArguments(Definitions definitions) {
        this.definitions = definitions;
    }

    @Override
    public void addArgumentResolvers(List<HandlerMethodArgumentResolver> resolvers) {
        resolvers.add(new Argument<>(ReadyForm.class, this::form));
        resolvers.add(new Argument<>(StoredTable.class, (_, request) -> {
            var name = named(request, "table");
            return definitions.table(name).orElseThrow(() -> Problem.unknown("table " + name));
        }));
    }

    private ReadyForm form(MethodParameter parameter, NativeWebRequest request) {
        var id = named(request, "form");
        return parameter.hasParameterAnnotation(Copy.class)
                ? definitions.workingCopy(id).orElseThrow(() -> Problem.unknown("form " + id))
                : definitions.published(id).orElseThrow(() -> Problem.unknown("published form " + id));
    }

    /** The path variable of that name. */
    @SuppressWarnings("unchecked") // As Spring keeps them.
    private static String named(NativeWebRequest request, String variable) {
        var variables = (Map<String, String>)
                request.getAttribute(HandlerMapping.URI_TEMPLATE_VARIABLES_ATTRIBUTE, RequestAttributes.SCOPE_REQUEST);
        return Optional.ofNullable(variables).map(each -> each.get(variable)).orElseThrow();
    }
}
