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
import weft.core.table.Faults;
import weft.core.table.Faults.Fault;

/** The JSON Schema (draft 2020-12) of form documents, which every document passes before it is kept. */
public final class FormSchema {

    private static final String TEXT = text();
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
        var parts = JsonMapper.shared().readTree(TEXT).get("$defs");
        return JsonMapper.shared()
                .createObjectNode()
                .put("$ref", "#/$defs/" + name)
                .set("$defs", parts)
                .toString();
    }

    private static String text() {
        try (var schema = FormSchema.class.getResourceAsStream("/schemas/form.json")) {
            return new String(schema.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
