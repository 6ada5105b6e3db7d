package weft.store.form;

import com.networknt.schema.InputFormat;
import com.networknt.schema.Schema;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;
import weft.core.table.Faults;
import weft.core.table.Faults.Fault;

/** The JSON Schema (draft 2020-12) of form documents, which every document passes before it is kept. */
public final class FormSchema {

    private static final String TEXT = text();
    private static final JsonNode TREE = JsonMapper.shared().readTree(TEXT);
    private static final Schema SCHEMA = schema(TEXT);
    private static final Map<String, Schema> PARTS = new ConcurrentHashMap<>();

    private FormSchema() {}

    /** The schema itself, as it is published. */
    public static String published() {
        return TEXT;
    }

    /**
     * Lets a form document pass.
     *
     * @throws Faults naming each place where it is none
     */
    static void check(JsonNode document) {
        check(SCHEMA, document);
    }

    /**
     * Lets a part of a form document pass, which stands for itself.
     *
     * @param name what the schema calls such parts, as {@code check}
     * @throws Faults naming each place where it is none
     */
    static void checkPart(String name, JsonNode part) {
        check(PARTS.computeIfAbsent(name, each -> schema(part(each))), part);
    }

    private static void check(Schema schema, JsonNode document) {
        var errors = schema.validate(document);
        if (!errors.isEmpty()) {
            throw new Faults(errors.stream()
                    .map(error -> new Fault(error.getInstanceLocation().toString(), error.getMessage()))
                    .toList());
        }
    }

    private static Schema schema(String text) {
        return SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12)
                .getSchema(text, InputFormat.JSON);
    }

    /** The schema of a part alone. */
    private static String part(String name) {
        return JsonMapper.shared()
                .createObjectNode()
                .put("$ref", "#/$defs/" + name)
                .set("$defs", TREE.get("$defs"))
                .toString();
    }

    /** A document that has passed, with what it leaves out as the schema says that it is then. The one given is left as it is. */
    static ObjectNode whole(ObjectNode document) {
        var whole = document.deepCopy();
        complete(whole, TREE);
        return whole;
    }

    /** The same of a part that stands for itself. */
    static JsonNode wholePart(String name, JsonNode part) {
        var whole = part.deepCopy();
        complete(whole, TREE.path("$defs").get(name));
        return whole;
    }

    private static void complete(JsonNode node, JsonNode schema) {
        if (schema.has("$ref")) {
            complete(node, TREE.at(schema.get("$ref").asString().substring(1)));
        } else if (node instanceof ArrayNode list) {
            list.forEach(each -> complete(each, schema.path("items")));
        } else if (node instanceof ObjectNode object) {
            schema.path("properties").forEachEntry((name, member) -> {
                if (!object.has(name) && member.has("default")) {
                    object.set(name, member.get("default").deepCopy());
                }
                complete(object.path(name), member);
            });
            schema.path("allOf")
                    .valueStream()
                    .filter(each -> applies(each.at("/if/properties/kind"), object.path("kind")))
                    .forEach(each -> complete(object, each.get("then")));
            schema.path("oneOf")
                    .valueStream()
                    .filter(each -> isOf(each, object))
                    .forEach(each -> complete(object, each));
        }
    }

    /** Whether an object has what marks those that a schema is of. */
    private static boolean isOf(JsonNode schema, ObjectNode object) {
        return schema.path("properties")
                .propertyStream()
                .allMatch(member -> !member.getValue().has("const")
                        || member.getValue().get("const").equals(object.path(member.getKey())));
    }

    private static boolean applies(JsonNode kinds, JsonNode kind) {
        return kinds.path("const").equals(kind)
                || kinds.path("enum").valueStream().anyMatch(kind::equals);
    }

    private static String text() {
        try (var schema = FormSchema.class.getResourceAsStream("/schemas/form.json")) {
            return new String(schema.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
