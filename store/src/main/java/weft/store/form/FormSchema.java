package weft.store.form;

import com.networknt.schema.InputFormat;
import com.networknt.schema.Schema;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import tools.jackson.databind.JsonNode;
import weft.core.table.Faults;
import weft.core.table.Faults.Fault;

/** The JSON Schema (draft 2020-12) of form documents, which every document passes before it is kept. */
public final class FormSchema {

    private static final String TEXT = text();
    private static final Schema SCHEMA = SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12)
            .getSchema(TEXT, InputFormat.JSON);

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
        var errors = SCHEMA.validate(document);
        if (!errors.isEmpty()) {
            throw new Faults(errors.stream()
                    .map(error -> new Fault(error.getInstanceLocation().toString(), error.getMessage()))
                    .toList());
        }
    }

    private static String text() {
        try (var schema = FormSchema.class.getResourceAsStream("/schemas/form.json")) {
            return new String(schema.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
