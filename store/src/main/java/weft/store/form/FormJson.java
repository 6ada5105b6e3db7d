package weft.store.form;

import static weft.store.form.Wire.constant;
import static weft.store.form.Wire.wire;

import java.util.stream.Stream;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;
import weft.core.find.Sort;
import weft.core.form.Button;
import weft.core.form.Calculated;
import weft.core.form.Field;
import weft.core.form.Form;
import weft.core.form.Form.Section;
import weft.core.form.FormLines;
import weft.core.form.Item;
import weft.core.form.Picture;
import weft.core.form.Words;
import weft.core.rule.Command;
import weft.core.value.Conventions;
import weft.core.value.Conventions.DayOrder;
import weft.core.value.Conventions.DecimalSign;

/** Form documents in JSON, in Weft's own format. Version 3 is written; version 1, which knew
 * fields only, and version 2, which knew no rules, are still read. */
public final class FormJson {

    /** The version of the format that is written. */
    public static final int VERSION = 3;

    private static final int USUAL_BLANK = 6;
    private static final JsonMapper JSON = JsonMapper.shared();

    private FormJson() {}

    /** The document of a form. */
    public static String write(Form form) {
        return node(form).toString();
    }

    /** The document of a form, as a tree. */
    static ObjectNode node(Form form) {
        var document = JSON.createObjectNode();
        document.put("format", "weft-form");
        document.put("formatVersion", VERSION);
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
        document.put("density", wire(form.style().density()));
        document.put("tone", wire(form.style().tone()));
        document.put("size", wire(form.style().size()));
        var tray = document.putArray("tray");
        form.tray().forEach(tray::add);
        var sections = document.putArray("sections");
        for (var section : form.sections()) {
            var object = sections.addObject().put("title", section.title()).put("columns", section.columns());
            write(section, object.putArray("items"));
        }
        document.set("rules", RulesJson.write(form.rules()));
        return document;
    }

    private static void write(Section section, ArrayNode items) {
        for (var item : section.items()) {
            var node = items.addObject();
            switch (item) {
                case Field field -> write(field, node);
                case Words words ->
                    node.put("kind", wire(words.kind()))
                            .put("id", words.id())
                            .put("text", words.text())
                            .put("width", words.width())
                            .put("height", words.height());
                case Picture picture ->
                    node.put("kind", "picture")
                            .put("id", picture.id())
                            .put("image", picture.image())
                            .put("words", picture.words())
                            .put("width", picture.width())
                            .put("height", picture.height());
                case Calculated shown ->
                    node.put("kind", "calculated")
                            .put("id", shown.id())
                            .put("label", shown.label())
                            .put("column", shown.column())
                            .put("width", shown.width());
                case Button button ->
                    node.put("kind", "button")
                            .put("id", button.id())
                            .put("label", button.label())
                            .put("icon", button.icon())
                            .put("action", wire(button.action()))
                            .put("opens", button.opens())
                            .put("key", wire(button.key()))
                            .put("width", button.width());
                case FormLines lines -> write(lines, node);
            }
        }
    }

    /** Lines as they stand in a document. */
    public static ObjectNode lines(FormLines lines) {
        var node = JSON.createObjectNode();
        write(lines, node);
        return node;
    }

    private static void write(FormLines lines, ObjectNode node) {
        node.put("kind", "lines")
                .put("id", lines.id())
                .put("label", lines.label())
                .put("table", lines.table())
                .put("by", lines.by())
                .put("blank", lines.blank())
                .put("least", lines.least())
                .put("most", lines.most())
                .put("belong", lines.belong());
        var alike = node.putArray("alike");
        lines.alike().forEach(alike::add);
        var items = node.putArray("items");
        lines.fields().forEach(field -> write(field, items.addObject()));
        node.set("rules", RulesJson.write(lines.rules()));
    }

    private static FormLines lines(JsonNode node, String id) {
        return new FormLines(
                id,
                node.get("label").asString(),
                node.get("table").asString(),
                node.get("by").asString(),
                node.get("items")
                        .valueStream()
                        .map(item -> field(
                                item,
                                item.get("id").asString(),
                                item.path("width").asInt(Item.TRACKS),
                                item.path("height").asInt(1)))
                        .toList(),
                node.path("blank").asInt(USUAL_BLANK),
                node.path("least").asInt(0),
                node.path("most").asInt(0),
                node.path("alike").valueStream().map(JsonNode::asString).toList(),
                node.path("belong").asBoolean(true),
                RulesJson.read(node.path("rules")));
    }

    private static void write(Field field, ObjectNode node) {
        node.put("kind", "field")
                .put("id", field.id())
                .put("label", field.label())
                .put("column", field.column())
                .put("widget", wire(field.widget()))
                .put("width", field.width())
                .put("height", field.height())
                .put("help", field.help())
                .put("unit", field.unit())
                .put("required", field.required())
                .put("use", wire(field.use()))
                .put("begins", field.start().value())
                .put("carried", field.start().carried())
                .put("first", field.start().first())
                .put("linked", field.start().linked())
                .put("labelPlace", wire(field.look().labelPlace()))
                .put("placeholder", field.look().placeholder())
                .put("size", wire(field.look().size()))
                .put("bold", field.look().bold())
                .put("tone", wire(field.look().tone()));
    }

    /** The form of a document that the JSON Schema of forms has passed. */
    public static Form read(String json) {
        return read((ObjectNode) JSON.readTree(json));
    }

    /** The same of a tree. */
    static Form read(ObjectNode any) {
        var document = upgraded(any);
        return new Form(
                document.get("id").asString(),
                document.get("title").asString(),
                document.get("table").asString(),
                new Conventions(
                        constant(DayOrder.class, document.path("dayOrder")),
                        constant(DecimalSign.class, document.path("decimalSign"))),
                constant(Form.Enter.class, document.path("enter")),
                constant(Form.Leaving.class, document.path("leaving")),
                Sort.by(document.path("order")
                        .valueStream()
                        .map(FormJson::level)
                        .toList()),
                new Form.Style(
                        document.has("density")
                                ? constant(Form.Density.class, document.get("density"))
                                : Form.Density.REGULAR,
                        constant(Field.Tone.class, document.path("tone")),
                        size(document)),
                document.path("tray").valueStream().map(JsonNode::asString).toList(),
                document.get("sections").valueStream().map(FormJson::section).toList(),
                RulesJson.read(document.path("rules")));
    }

    /** The document in the present version of the format. */
    static ObjectNode upgraded(ObjectNode document) {
        int version = document.path("formatVersion").asInt(0);
        if (version == 2) {
            return document.deepCopy().put("formatVersion", VERSION);
        }
        if (version != 1) {
            return document;
        }
        var upgraded = document.deepCopy().put("formatVersion", VERSION);
        objects(upgraded.path("sections")).forEach(section -> {
            objects(section.path("fields")).forEach(field -> field.put("kind", "field"));
            section.set("items", section.remove("fields"));
        });
        return upgraded;
    }

    /** Those of a list that are objects; the schema says of the others that they must be. */
    private static Stream<ObjectNode> objects(JsonNode list) {
        return list.valueStream().filter(ObjectNode.class::isInstance).map(ObjectNode.class::cast);
    }

    private static Sort.Level level(JsonNode level) {
        return new Sort.Level(level.get("column").asString(), level.path("down").asBoolean(false));
    }

    private static Section section(JsonNode section) {
        return new Section(
                section.get("title").asString(),
                section.path("columns").asInt(Section.USUAL_COLUMNS),
                section.get("items").valueStream().map(FormJson::item).toList());
    }

    private static Item item(JsonNode node) {
        var id = node.get("id").asString();
        int width = node.path("width").asInt(Item.TRACKS);
        int height = node.path("height").asInt(1);
        return switch (node.get("kind").asString()) {
            case "field" -> field(node, id, width, height);
            case "lines" -> lines(node, id);
            case "picture" ->
                new Picture(
                        id, node.path("image").asString(""), node.path("words").asString(""), width, height);
            case "calculated" ->
                new Calculated(
                        id, node.path("label").asString(""), node.path("column").asString(""), width);
            case "button" ->
                new Button(
                        id,
                        node.path("label").asString(""),
                        node.path("icon").asString(""),
                        constant(Command.class, node.get("action")),
                        node.path("opens").asString(""),
                        constant(Button.Key.class, node.path("key")),
                        width);
            default ->
                new Words(
                        id,
                        constant(Words.Kind.class, node.get("kind")),
                        node.path("text").asString(""),
                        width,
                        height);
        };
    }

    private static Field field(JsonNode node, String id, int width, int height) {
        return new Field(
                id,
                node.get("label").asString(),
                node.get("column").asString(),
                constant(Field.Widget.class, node.get("widget")),
                width,
                height,
                node.path("help").asString(""),
                node.path("unit").asString(""),
                node.path("required").asBoolean(false),
                constant(Field.Use.class, node.path("use")),
                new Field.Start(
                        node.path("begins").asString(""),
                        node.path("carried").asBoolean(false),
                        node.path("first").asBoolean(false),
                        node.path("linked").asBoolean(false)),
                new Field.Look(
                        constant(Field.LabelPlace.class, node.path("labelPlace")),
                        node.path("placeholder").asString(""),
                        size(node),
                        node.path("bold").asBoolean(false),
                        constant(Field.Tone.class, node.path("tone"))));
    }

    private static Field.Size size(JsonNode node) {
        return node.has("size") ? constant(Field.Size.class, node.get("size")) : Field.Size.NORMAL;
    }
}
