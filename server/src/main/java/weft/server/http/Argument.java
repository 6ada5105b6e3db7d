package weft.server.http;

import java.util.function.BiFunction;
import org.jspecify.annotations.Nullable;
import org.springframework.core.MethodParameter;
import org.springframework.web.bind.support.WebDataBinderFactory;
import org.springframework.web.context.request.NativeWebRequest;
import org.springframework.web.method.support.HandlerMethodArgumentResolver;
import org.springframework.web.method.support.ModelAndViewContainer;

/**
 * Gives handlers an argument of one type, made of the request, so that no handler makes it itself.
 *
 * @param type of the argument
 * @param made the argument of a request, or a {@link Problem}
 */
public record Argument<T>(Class<T> type, BiFunction<MethodParameter, NativeWebRequest, T> made)
        implements HandlerMethodArgumentResolver {

    @Override
    public boolean supportsParameter(MethodParameter parameter) {
        return parameter.getParameterType() == type;
    }

    @Override
    public Object resolveArgument(
            MethodParameter parameter,
            @Nullable ModelAndViewContainer container,
            NativeWebRequest request,
            @Nullable WebDataBinderFactory binders) {
        return made.apply(parameter, request);
    }
}
