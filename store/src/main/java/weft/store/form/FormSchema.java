package weft.store.form;

import com.networknt.schema.InputFormat;
import com.networknt.schema.Schema;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;
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
     * The document in the present version of the format, when it is a form document.
     *
     * @throws Faults naming each place where it is not
     */
    public static String passed(String any) {
        var document = JsonMapper.shared().readTree(any) instanceof ObjectNode object
                ? FormJson.upgraded(object).toString()
                : any;
        var errors = SCHEMA.validate(document, InputFormat.JSON);
        if (!errors.isEmpty()) {
            throw new Faults(errors.stream()
                    .map(error -> new Fault(error.getInstanceLocation().toString(), error.getMessage()))
                    .toList());
        }
        return document;
    }

    private static String text() {
        try (var schema = FormSchema.class.getResourceAsStream("/schemas/form.json")) {
            return new String(schema.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
