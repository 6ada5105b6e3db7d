package weft.store.form;

import com.fasterxml.jackson.annotation.JsonCreator;
import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonProperty;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import com.fasterxml.jackson.annotation.JsonTypeName;
import com.fasterxml.jackson.annotation.JsonUnwrapped;
import com.fasterxml.jackson.annotation.JsonValue;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.DatabindContext;
import tools.jackson.databind.JavaType;
import tools.jackson.databind.annotation.JsonTypeIdResolver;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.jsontype.impl.TypeIdResolverBase;
import weft.core.find.Sort;
import weft.core.form.Button;
import weft.core.form.Calculated;
import weft.core.form.Field;
import weft.core.form.Form;
import weft.core.form.FormLines;
import weft.core.form.Item;
import weft.core.form.Picture;
import weft.core.form.Words;
import weft.core.rule.Check;
import weft.core.rule.Step;
import weft.core.table.Constraint;
import weft.core.value.Conventions;
import weft.core.value.Wire;
import weft.store.json.Json;

/** What form documents have otherwise than the records of a form. */
@SuppressWarnings({"UnusedMethod", "UnusedVariable", "DoNotCallSuggester"}) // What they say is read by the mapper.
final class FormMixIns {

    private static final String KIND = "kind";

    private FormMixIns() {}

    static JsonMapper mapper() {
        return Json.builder()
                .addMixIn(Form.class, OfForm.class)
                .addMixIn(Sort.class, OfSort.class)
                .addMixIn(Field.class, OfField.class)
                .addMixIn(Field.Start.class, OfStart.class)
                .addMixIn(FormLines.class, OfLines.class)
                .addMixIn(Item.class, OfItem.class)
                .addMixIn(Words.class, OfWords.class)
                .addMixIn(Check.Rule.class, OneOfSeveral.class)
                .addMixIn(Step.Action.class, OneOfSeveral.class)
                .addMixIn(Constraint.class, OneOfSeveral.class)
                .addMixIn(Constraint.NoOverlap.class, OfNoOverlap.class)
                .build();
    }

    @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = KIND)
    private interface OneOfSeveral {}

    @JsonTypeInfo(use = JsonTypeInfo.Id.CUSTOM, property = KIND, visible = true)
    @JsonTypeIdResolver(ItemKinds.class)
    private interface OfItem {}

    /** Words are of three kinds, which they know themselves. */
    static final class ItemKinds extends TypeIdResolverBase {

        @Override
        public String idFromValue(DatabindContext context, Object item) {
            return switch ((Item) item) {
                case Words words -> Wire.word(words.kind());
                case FormLines _ -> "lines";
                case Field _, Picture _, Calculated _, Button _ -> Wire.word(item.getClass());
            };
        }

        @Override
        public String idFromValueAndType(DatabindContext context, @Nullable Object item, Class<?> type) {
            return idFromValue(context, Objects.requireNonNull(item));
        }

        @Override
        public JavaType typeFromId(DatabindContext context, String kind) {
            return context.constructType(
                    switch (kind) {
                        case "field" -> Field.class;
                        case "picture" -> Picture.class;
                        case "calculated" -> Calculated.class;
                        case "button" -> Button.class;
                        case "lines" -> FormLines.class;
                        default -> Words.class;
                    });
        }

        @Override
        public JsonTypeInfo.Id getMechanism() {
            return JsonTypeInfo.Id.CUSTOM;
        }
    }

    private interface OfWords {
        @JsonProperty(access = JsonProperty.Access.WRITE_ONLY)
        Words.Kind kind();
    }

    private interface OfForm {
        @JsonUnwrapped
        Conventions conventions();

        @JsonUnwrapped
        Form.Style style();
    }

    private interface OfField {
        @JsonUnwrapped
        Field.Start start();

        @JsonUnwrapped
        Field.Keys keys();

        @JsonUnwrapped
        Field.Look look();
    }

    private interface OfStart {
        @JsonProperty("begins")
        String value();
    }

    private interface OfLines {
        @JsonProperty("items")
        List<Field> fields();
    }

    private interface OfSort {
        @JsonCreator
        static Sort by(List<Sort.Level> levels) {
            throw new UnsupportedOperationException();
        }

        @JsonValue
        List<Sort.Level> levels();
    }

    @JsonTypeName("overlap")
    private interface OfNoOverlap {
        @JsonProperty("columns")
        List<String> same();

        @JsonIgnore
        List<String> columns();
    }
}
