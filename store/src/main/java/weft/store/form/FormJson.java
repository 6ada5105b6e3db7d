package weft.store.form;

import java.util.Arrays;
import java.util.Locale;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import weft.core.find.Sort;
import weft.core.form.Field;
import weft.core.form.Form;
import weft.core.form.Form.Section;
import weft.core.value.Conventions;
import weft.core.value.Conventions.DayOrder;
import weft.core.value.Conventions.DecimalSign;

/** Form documents in JSON, in Weft's own format, version 1. */
public final class FormJson {

    private static final JsonMapper JSON = JsonMapper.shared();

    private FormJson() {}

    /** The document of a form. */
    public static String write(Form form) {
        var document = JSON.createObjectNode();
        document.put("format", "weft-form");
        document.put("formatVersion", 1);
        document.put("id", form.id());
        document.put("title", form.title());
        document.put("table", form.table());
        document.put("dayOrder", wire(form.conventions().dayOrder()));
        document.put("decimalSign", wire(form.conventions().decimalSign()));
        document.put("enter", wire(form.enter()));
        document.put("leaving", wire(form.leaving()));
        var order = document.putArray("order");
        form.order()
                .levels()
                .forEach(
                        level -> order.addObject().put("column", level.column()).put("down", level.down()));
        document.put("density", wire(form.density()));
        var sections = document.putArray("sections");
        for (var section : form.sections()) {
            var object = sections.addObject();
            object.put("title", section.title());
            var fields = object.putArray("fields");
            for (var field : section.fields()) {
                fields.addObject()
                        .put("id", field.id())
                        .put("label", field.label())
                        .put("column", field.column())
                        .put("widget", wire(field.widget()))
                        .put("width", field.width())
                        .put("height", field.height())
                        .put("help", field.help())
                        .put("unit", field.unit())
                        .put("required", field.required());
            }
        }
        return document.toString();
    }

    /** The form of a document that the JSON Schema of forms has passed. */
    public static Form read(String json) {
        var document = JSON.readTree(json);
        return new Form(
                document.get("id").asString(),
                document.get("title").asString(),
                document.get("table").asString(),
                new Conventions(
                        constant(DayOrder.class, document.get("dayOrder")),
                        constant(DecimalSign.class, document.get("decimalSign"))),
                constant(Form.Enter.class, document.get("enter")),
                document.has("leaving") ? constant(Form.Leaving.class, document.get("leaving")) : Form.Leaving.SAVES,
                Sort.by(document.path("order")
                        .valueStream()
                        .map(FormJson::level)
                        .toList()),
                constant(Form.Density.class, document.get("density")),
                document.get("sections").valueStream().map(FormJson::section).toList());
    }

    private static Sort.Level level(JsonNode level) {
        return new Sort.Level(level.get("column").asString(), level.path("down").asBoolean(false));
    }

    private static Section section(JsonNode section) {
        return new Section(
                section.get("title").asString(),
                section.get("fields").valueStream().map(FormJson::field).toList());
    }

    private static Field field(JsonNode field) {
        return new Field(
                field.get("id").asString(),
                field.get("label").asString(),
                field.get("column").asString(),
                constant(Field.Widget.class, field.get("widget")),
                field.get("width").asInt(),
                field.path("height").asInt(1),
                field.path("help").asString(""),
                field.path("unit").asString(""),
                field.path("required").asBoolean(false));
    }

    private static String wire(Enum<?> constant) {
        return constant.name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    private static <E extends Enum<E>> E constant(Class<E> type, JsonNode wire) {
        return Arrays.stream(type.getEnumConstants())
                .filter(constant -> wire(constant).equals(wire.asString()))
                .findFirst()
                .orElseThrow();
    }
}
