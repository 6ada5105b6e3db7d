package weft.server.http;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.lang.reflect.AnnotatedParameterizedType;
import java.lang.reflect.AnnotatedType;
import java.lang.reflect.RecordComponent;
import java.util.Arrays;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * The one rule of what may be missing in the API's types, which are records: a component marked {@link Nullable} may be left
 * out of a request and is null in an answer that has none; every other is always there. What reads requests holds them to
 * it, and the description of the API says it.
 */
final class Nullness {

    private static final String API = "weft.server.";

    private Nullness() {}

    /** Whether a class is a type of the API. */
    static boolean rules(Class<?> type) {
        return type.isRecord()
                && (type.getName().startsWith(API)
                        || OwnTypes.KINDS.stream().anyMatch(kind -> kind == type.getEnclosingClass()));
    }

    /** Whether there may be nothing in it. */
    static boolean nullable(RecordComponent component) {
        return nullable(component.getAnnotatedType());
    }

    /** Whether there may be nothing in its list, or in its map. */
    static boolean holdsNulls(RecordComponent component) {
        return component.getAnnotatedType() instanceof AnnotatedParameterizedType type
                && nullable(type.getAnnotatedActualTypeArguments()[type.getAnnotatedActualTypeArguments().length - 1]);
    }

    /** Whether an answer leaves it out when there is nothing in it. */
    static boolean leftOut(RecordComponent component) {
        return component.getAccessor().isAnnotationPresent(JsonInclude.class);
    }

    /** The component of that name. */
    static Optional<RecordComponent> component(Class<?> type, String name) {
        return Arrays.stream(type.getRecordComponents())
                .filter(component -> component.getName().equals(name))
                .findFirst();
    }

    private static boolean nullable(AnnotatedType type) {
        return type.isAnnotationPresent(Nullable.class);
    }
}
