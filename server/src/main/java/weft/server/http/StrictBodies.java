package weft.server.http;

import com.fasterxml.jackson.annotation.JsonSetter;
import com.fasterxml.jackson.annotation.Nulls;
import java.lang.reflect.RecordComponent;
import java.util.Optional;
import org.springframework.boot.jackson.autoconfigure.JsonMapperBuilderCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.MapperFeature;
import tools.jackson.databind.cfg.MapperConfig;
import tools.jackson.databind.introspect.Annotated;
import tools.jackson.databind.introspect.AnnotatedMember;
import tools.jackson.databind.introspect.AnnotatedParameter;
import weft.store.json.WireNames;

/** Holds the bodies of requests to their types and to the {@link Nullness} of those, so that no handler meets what is not there. */
@Configuration(proxyBeanMethods = false)
class StrictBodies {

    @Bean
    JsonMapperBuilderCustomizer strict() {
        return mapper -> mapper.annotationIntrospector(new ByNullness())
                .disable(MapperFeature.ALLOW_COERCION_OF_SCALARS)
                .disable(DeserializationFeature.ACCEPT_FLOAT_AS_INT)
                // A number is what its digits say, all of them.
                .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
                .addModule(OwnTypes.module().addDeserializer(String.class, new StorableText()));
    }

    private static final class ByNullness extends WireNames {

        @Override
        public Boolean hasRequiredMarker(MapperConfig<?> config, AnnotatedMember member) {
            return component(member)
                    .map(component -> !Nullness.nullable(component))
                    .orElseGet(() -> super.hasRequiredMarker(config, member));
        }

        @Override
        public JsonSetter.Value findSetterInfo(MapperConfig<?> config, Annotated member) {
            return component(member)
                    .map(component -> JsonSetter.Value.construct(
                            Nullness.nullable(component) ? Nulls.SET : Nulls.FAIL,
                            Nullness.holdsNulls(component) ? Nulls.SET : Nulls.FAIL))
                    .orElseGet(() -> super.findSetterInfo(config, member));
        }

        /** The component that a parameter of a record's constructor is. */
        private static Optional<RecordComponent> component(Annotated member) {
            if (member instanceof AnnotatedParameter parameter) {
                var type = parameter.getOwner().getDeclaringClass();
                return Nullness.rules(type)
                        ? Optional.of(type.getRecordComponents()[parameter.getIndex()])
                        : Optional.empty();
            }
            return Optional.empty();
        }
    }
}
