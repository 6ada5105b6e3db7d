package weft.server.http;

import com.fasterxml.jackson.databind.JavaType;
import io.swagger.v3.core.converter.AnnotatedType;
import io.swagger.v3.core.converter.ModelConverter;
import io.swagger.v3.core.converter.ModelConverterContext;
import io.swagger.v3.core.util.Json31;
import io.swagger.v3.oas.models.OpenAPI;
import io.swagger.v3.oas.models.media.JsonSchema;
import io.swagger.v3.oas.models.media.MediaType;
import io.swagger.v3.oas.models.media.Schema;
import java.lang.reflect.ParameterizedType;
import java.lang.reflect.RecordComponent;
import java.lang.reflect.Type;
import java.util.ArrayDeque;
import java.util.Arrays;
import java.util.HashSet;
import java.util.Iterator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;
import weft.core.value.Wire;

/**
 * Says in the API's description what its types say: the words of an enumeration, each type of the house once, and the
 * {@link Nullness} of records. What may be null says so; what is only ever answered has all its members, and what is sent has
 * those that may not be null.
 */
final class TypesInSchemas implements ModelConverter {

    private static final String REFERENCE = "#/components/schemas/";

    /** The record of each schema, by its name. */
    private final Map<String, Class<?>> records = new ConcurrentHashMap<>();

    @Override
    public @Nullable Schema<?> resolve(
            AnnotatedType type, ModelConverterContext context, Iterator<ModelConverter> chain) {
        JavaType java = Json31.mapper().constructType(type.getType());
        var own = java == null ? Optional.<Schema<?>>empty() : own(java.getRawClass(), context);
        if (own.isPresent()) {
            return own.get();
        }
        var schema = chain.hasNext() ? chain.next().resolve(type, context, chain) : null;
        if (schema != null && java != null && Nullness.rules(java.getRawClass())) {
            if (schema.get$ref() != null) {
                records.put(schema.get$ref().substring(REFERENCE.length()), java.getRawClass());
            }
        }
        return schema;
    }

    /** The schema of an enumeration, or of a type of the house, by its name; such schemas are described once. */
    @SuppressWarnings("unchecked") // As Swagger's model has them.
    private static Optional<Schema<?>> own(Class<?> type, ModelConverterContext context) {
        if (type.isEnum() && type.getName().startsWith("weft.")) {
            var outer = type.getEnclosingClass();
            var name = (outer == null || outer.getName().startsWith("weft.server.") ? "" : outer.getSimpleName())
                    + type.getSimpleName();
            var words = new JsonSchema().typesItem("string");
            words.setEnum(Arrays.stream(type.getEnumConstants())
                    .map(constant -> (Object) Wire.word((Enum<?>) constant))
                    .toList());
            context.defineModel(name, words);
            return Optional.of(new JsonSchema().$ref(REFERENCE + name));
        }
        if (OwnTypes.KINDS.contains(type)) {
            if (!context.getDefinedModels().containsKey(type.getSimpleName())) {
                context.defineModel(type.getSimpleName(), oneOf(type, context));
            }
            return Optional.of(new JsonSchema().$ref(REFERENCE + type.getSimpleName()));
        }
        return OwnTypes.NAMED.stream()
                .filter(named -> named.type().isAssignableFrom(type))
                .findFirst()
                .map(named -> new JsonSchema().$ref(REFERENCE + named.schema()));
    }

    /** One of the records of that type, each told from the others by {@code is}. */
    private static Schema<?> oneOf(Class<?> type, ModelConverterContext context) {
        var any = new JsonSchema();
        for (var kind : type.getPermittedSubclasses()) {
            var is = new JsonSchema().typesItem("string");
            is.setConst(Wire.word(kind));
            var record = new JsonSchema().typesItem("object").addProperty("is", is);
            for (var component : kind.getRecordComponents()) {
                boolean maybe = component.getType() == Optional.class;
                var schema = component.getType() == List.class
                        ? new JsonSchema().typesItem("array").items(of(argument(component), context))
                        : of(maybe ? argument(component) : component.getGenericType(), context);
                record.addProperty(component.getName(), maybe ? orNull(schema) : schema);
            }
            record.setRequired(List.copyOf(record.getProperties().keySet()));
            any.addOneOfItem(record);
        }
        return any;
    }

    private static Type argument(RecordComponent component) {
        return ((ParameterizedType) component.getGenericType()).getActualTypeArguments()[0];
    }

    private static Schema<?> of(Type type, ModelConverterContext context) {
        return context.resolve(new AnnotatedType(type).resolveAsRef(true));
    }

    /** Marks what may be null, and what is always there. */
    void apply(OpenAPI api) {
        var schemas = api.getComponents().getSchemas();
        var sent = sent(api);
        records.forEach((name, record) -> {
            var schema = schemas.get(name);
            if (schema != null && schema.getProperties() != null) {
                mark(schema, record, sent.contains(name));
            }
        });
    }

    @SuppressWarnings({"rawtypes", "unchecked"}) // As Swagger's model has them.
    private static void mark(Schema schema, Class<?> record, boolean sent) {
        Map<String, Schema> properties = schema.getProperties();
        var required = new LinkedHashSet<String>();
        for (var property : Map.copyOf(properties).entrySet()) {
            var name = property.getKey();
            var component = Nullness.component(record, name)
                    .orElseThrow(() -> new IllegalStateException("Two records share the name of " + record));
            boolean nullable = Nullness.nullable(component);
            if (nullable) {
                properties.put(name, orNull(property.getValue()));
            }
            if (!Nullness.leftOut(component) && !(sent && nullable)) {
                required.add(name);
            }
        }
        schema.setRequired(required.isEmpty() ? null : List.copyOf(required));
    }

    private static Schema<?> orNull(Schema<?> schema) {
        if (schema.get$ref() != null) {
            return new JsonSchema().addOneOfItem(schema).addOneOfItem(new JsonSchema().typesItem("null"));
        }
        if (schema.getTypes() != null) {
            var types = new LinkedHashSet<>(schema.getTypes());
            types.add("null");
            // A schema may be shared by all that have its type.
            return new JsonSchema()
                    .types(types)
                    .format(schema.getFormat())
                    .items(schema.getItems())
                    .properties(schema.getProperties())
                    .additionalProperties(schema.getAdditionalProperties());
        }
        return schema;
    }

    /** The names of the schemas of requests, and of those in them. */
    private static Set<String> sent(OpenAPI api) {
        var waiting = new ArrayDeque<Schema<?>>();
        api.getPaths().values().stream()
                .flatMap(path -> path.readOperations().stream())
                .filter(operation -> operation.getRequestBody() != null)
                .flatMap(operation -> operation.getRequestBody().getContent().values().stream())
                .map(MediaType::getSchema)
                .filter(Objects::nonNull)
                .forEach(waiting::add);
        var names = new HashSet<String>();
        while (!waiting.isEmpty()) {
            var schema = waiting.poll();
            if (schema.get$ref() != null) {
                var name = schema.get$ref().substring(REFERENCE.length());
                if (names.add(name) && api.getComponents().getSchemas().containsKey(name)) {
                    waiting.add(api.getComponents().getSchemas().get(name));
                }
            }
            if (schema.getItems() != null) {
                waiting.add(schema.getItems());
            }
            if (schema.getAdditionalProperties() instanceof Schema<?> values) {
                waiting.add(values);
            }
            if (schema.getProperties() != null) {
                schema.getProperties().values().forEach(each -> waiting.add(each));
            }
        }
        return names;
    }
}
