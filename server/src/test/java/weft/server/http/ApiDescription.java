package weft.server.http;

import io.swagger.v3.core.util.Json31;
import io.swagger.v3.oas.models.OpenAPI;
import io.swagger.v3.oas.models.Operation;
import io.swagger.v3.oas.models.PathItem;
import io.swagger.v3.oas.models.info.Info;
import io.swagger.v3.oas.models.media.Content;
import io.swagger.v3.oas.models.media.JsonSchema;
import io.swagger.v3.oas.models.media.MediaType;
import io.swagger.v3.oas.models.media.Schema;
import io.swagger.v3.oas.models.parameters.HeaderParameter;
import io.swagger.v3.oas.models.parameters.Parameter;
import io.swagger.v3.oas.models.parameters.PathParameter;
import io.swagger.v3.oas.models.parameters.QueryParameter;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springdoc.core.customizers.OpenApiCustomizer;
import org.springdoc.core.customizers.OperationCustomizer;
import org.springdoc.core.utils.SpringDocUtils;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.http.HttpHeaders;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;
import weft.core.door.Person;
import weft.core.rule.Command;
import weft.core.value.Wire;
import weft.server.find.FindRequest;
import weft.store.door.Ways.Way;
import weft.store.form.FormSchema;
import weft.store.form.ReadyForm;
import weft.store.table.StoredTable;

/** Makes the OpenAPI description of the API as it is, from which the web app's types are generated. */
@Configuration(proxyBeanMethods = false)
class ApiDescription {

    private static final List<String> KINDS = List.of("field", "words", "picture", "calculated", "button", "lines");
    private static final Schema<?> TEXT = new JsonSchema().typesItem("string");

    /** A value as an answer has it. */
    private static final String VALUE = """
            {"description": "Whole numbers as numbers; decimals as texts, which are exact; dates and times in ISO 8601; a picture
              by its identity; a link with what its record is called; nothing as null.",
             "oneOf": [{"type": "string"}, {"type": "integer"}, {"type": "boolean"}, {"type": "null"},
              {"type": "object", "required": ["id", "row", "shown"], "properties":
               {"id": {"type": "integer"}, "row": {"type": "integer"}, "shown": {"type": "string"}}}]}""".replace('\n', ' ');

    private static final Map<String, String> PARTS = Stream.of(
                    "section",
                    "item",
                    "field",
                    "words",
                    "picture",
                    "calculated",
                    "button",
                    "rules",
                    "lines",
                    "check",
                    "checkRule",
                    "key",
                    "tie",
                    "fill",
                    "derived",
                    "choices",
                    "numbering",
                    "setting",
                    "steps",
                    "step",
                    "stepAction",
                    "practice",
                    "declared",
                    "between")
            .collect(Collectors.toUnmodifiableMap(
                    Function.identity(),
                    part -> "Form" + part.substring(0, 1).toUpperCase(Locale.ROOT) + part.substring(1)));

    static {
        SpringDocUtils.getConfig()
                .replaceWithSchema(
                        JsonNode.class,
                        new JsonSchema()
                                .types(new LinkedHashSet<>(List.of("string", "number", "boolean", "object", "null")))
                                .addProperty("id", new JsonSchema().typesItem("integer")))
                .replaceWithSchema(ObjectNode.class, new JsonSchema().typesItem("object"))
                .addRequestWrapperToIgnore(
                        ReadyForm.class, StoredTable.class, Way.class, Person.class, Seen.class, FindRequest.class);
    }

    /** What handlers take that is made of the request, in the place of the request where it stands. */
    @Bean
    @SuppressWarnings("unchecked") // As Swagger's model has them.
    OperationCustomizer madeOfTheRequest() {
        return (operation, handler) -> {
            for (var parameter : handler.getMethodParameters()) {
                var type = parameter.getParameterType();
                if (type == ReadyForm.class) {
                    operation.addParametersItem(text(new PathParameter().name("form")));
                } else if (type == StoredTable.class) {
                    operation.addParametersItem(text(new PathParameter().name("table")));
                } else if (type == Way.class) {
                    operation.addParametersItem(text(new PathParameter().name("door")));
                } else if (type == FindRequest.class) {
                    operation.addParametersItem(new QueryParameter()
                            .name("where")
                            .schema(new JsonSchema().typesItem("array").items(TEXT)));
                    operation.addParametersItem(text(new QueryParameter().name("any")));
                    operation.addParametersItem(text(new QueryParameter().name("sort")));
                } else if (type == Seen.class) {
                    operation.addParametersItem(text(new HeaderParameter().name(HttpHeaders.IF_MATCH)));
                }
            }
            return operation;
        };
    }

    private static Parameter text(Parameter parameter) {
        return parameter.schema(new JsonSchema().typesItem("string"));
    }

    @Bean
    TypesInSchemas nullness() {
        return new TypesInSchemas();
    }

    @Bean
    OpenApiCustomizer description(TypesInSchemas nullness) {
        return api -> {
            api.info(new Info().title("Weft").version("1")).servers(List.of());
            nullness.apply(api);
            addFormSchema(api);
            add(api, "Value", JsonMapper.shared().readTree(VALUE));
            add(api, "Then", then());
            answersForm(operation(api, "POST", ""), "201");
            answersForm(operation(api, "GET", "/{form}"), "200");
            answersForm(operation(api, "PUT", "/{form}"), "200");
            operation(api, "PUT", "/{form}").getRequestBody().content(of("Form"));
            answersForm(at(api, "GET", "/api/doors/{door}/published"), "200");
            answersForm(operation(api, "POST", "/{form}/copy"), "201");
            answersForm(operation(api, "GET", "/{form}/versions/{version}"), "200");
            for (var change : List.of("step", "lines", "loose-ends", "mend", "versions/{version}/restore")) {
                answersForm(operation(api, "POST", "/{form}/" + change), "200");
            }
        };
    }

    /** What is done with forms at that address. */
    private static Operation operation(OpenAPI api, String method, String path) {
        return at(api, method, "/api/forms" + path);
    }

    private static Operation at(OpenAPI api, String method, String path) {
        return Optional.ofNullable(api.getPaths().get(path))
                .map(each -> each.readOperationsMap().get(PathItem.HttpMethod.valueOf(method)))
                .orElseThrow();
    }

    /** The published JSON Schema of forms, with its parts as components of this description. */
    private static void addFormSchema(OpenAPI api) {
        var mapper = JsonMapper.shared();
        var text = FormSchema.published();
        for (var part : PARTS.entrySet()) {
            text = text.replace(
                    "\"#/$defs/" + part.getKey() + "\"", "\"#/components/schemas/" + part.getValue() + "\"");
        }
        var form = (ObjectNode) mapper.readTree(text);
        var parts = form.remove("$defs");
        form.remove(List.of("$schema", "$id"));
        add(api, "Form", form);
        PARTS.forEach((part, name) -> add(api, name, parts.get(part)));
        // As one of several shapes, which generators of types understand better than rules.
        var shapes = mapper.createObjectNode();
        var either = shapes.putArray("oneOf");
        KINDS.forEach(kind -> either.addObject().put("$ref", "#/components/schemas/" + PARTS.get(kind)));
        add(api, PARTS.getOrDefault("item", ""), shapes);
    }

    /** What the Desk does after a step. */
    private static JsonNode then() {
        var commands = Arrays.stream(Command.values())
                .map(command -> "\"" + Wire.word(command) + "\"")
                .collect(Collectors.joining(", "));
        return JsonMapper.shared().readTree("""
                {"oneOf": [
                 {"type": "object", "required": ["act", "press"], "properties":
                  {"act": {"const": "press"}, "press": {"enum": [%s]}}},
                 {"type": "object", "required": ["act", "form", "values"], "properties":
                  {"act": {"const": "open"}, "form": {"type": "string"},
                   "values": {"type": "object", "additionalProperties": {"type": "string"}}}},
                 {"type": "object", "required": ["act", "text"], "properties":
                  {"act": {"const": "say"}, "text": {"type": "string"}}}]}""".formatted(commands));
    }

    private static void add(OpenAPI api, String name, JsonNode schema) {
        try {
            api.getComponents().addSchemas(name, Json31.mapper().readValue(schema.toString(), Schema.class));
        } catch (com.fasterxml.jackson.core.JsonProcessingException e) {
            throw new IllegalStateException(e);
        }
    }

    private static void answersForm(Operation operation, String status) {
        var answers = operation.getResponses();
        var answer = Optional.ofNullable(answers.get(status)).orElseGet(() -> answers.remove("200"));
        answers.addApiResponse(status, answer.content(of("Form")));
    }

    private static Content of(String schema) {
        return new Content()
                .addMediaType(
                        "application/json",
                        new MediaType().schema(new JsonSchema().$ref("#/components/schemas/" + schema)));
    }
}
