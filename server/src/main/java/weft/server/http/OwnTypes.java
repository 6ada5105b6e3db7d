package weft.server.http;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.JsonParser;
import tools.jackson.databind.DeserializationContext;
import tools.jackson.databind.SerializationContext;
import tools.jackson.databind.deser.std.StdDeserializer;
import tools.jackson.databind.module.SimpleModule;
import tools.jackson.databind.ser.std.StdSerializer;
import weft.core.entry.draft.Cause;
import weft.core.entry.step.StepRun.Then;
import weft.core.form.Form;
import weft.core.rule.Declaration;
import weft.core.usual.Unusual;
import weft.core.value.Refusal;
import weft.core.value.Value;
import weft.core.value.Wire;
import weft.store.form.FormJson;
import weft.store.record.ValuesJson;

/** Types of the house that stand in requests and answers as they are, each with its one shape in JSON. */
final class OwnTypes {

    /** By type, the name of its schema in the description. */
    static final List<Named> NAMED = List.of(
            new Named(Value.class, "Value"),
            new Named(Form.class, "Form"),
            new Named(Declaration.class, "FormDeclared"),
            new Named(Then.class, "Then"));

    /** Types that are one of several records, each written as its kind, {@code is}, and its components. */
    static final List<Class<?>> KINDS = List.of(Cause.class, Refusal.class, Unusual.class);

    /** A type and what it is called in the description. */
    record Named(Class<?> type, String schema) {}

    private OwnTypes() {}

    static SimpleModule module() {
        return new SimpleModule()
                .addSerializer(new Written<>(Value.class, ValuesJson::of))
                .addSerializer(new Written<>(Form.class, FormJson::node))
                .addSerializer(new Written<>(Declaration.class, FormJson::declared))
                .addSerializer(new Written<>(Then.class, OwnTypes::then))
                .addSerializer(new Written<>(Cause.class, cause -> kind((Record) cause)))
                .addSerializer(new Written<>(Refusal.class, refusal -> kind((Record) refusal)))
                .addSerializer(new Written<>(Unusual.class, unusual -> kind((Record) unusual)))
                .addDeserializer(Declaration.class, new Declared());
    }

    /** A record that is one of several, as its kind and its components. */
    private static Map<String, Object> kind(Record one) {
        var shape = new LinkedHashMap<String, Object>();
        shape.put("is", Wire.word(one.getClass()));
        for (var component : one.getClass().getRecordComponents()) {
            try {
                shape.put(component.getName(), component.getAccessor().invoke(one));
            } catch (ReflectiveOperationException e) {
                throw new IllegalStateException(e);
            }
        }
        return shape;
    }

    private static Map<String, Object> then(Then then) {
        return switch (then) {
            case Then.Press(var command) -> Map.of("act", "press", "press", Wire.word(command));
            case Then.Open(var form, var values) -> Map.of("act", "open", "form", form, "values", values);
            case Then.Say(var text) -> Map.of("act", "say", "text", text);
        };
    }

    private static final class Written<T> extends StdSerializer<T> {
        private final transient Function<T, ?> shape;

        Written(Class<T> type, Function<T, ?> shape) {
            super(type);
            this.shape = shape;
        }

        @Override
        public void serialize(T value, JsonGenerator generator, SerializationContext context) {
            generator.writePOJO(shape.apply(value));
        }
    }

    private static final class Declared extends StdDeserializer<Declaration> {
        Declared() {
            super(Declaration.class);
        }

        @Override
        public Declaration deserialize(JsonParser parser, DeserializationContext context) {
            return FormJson.readDeclared(parser.readValueAsTree());
        }
    }
}
