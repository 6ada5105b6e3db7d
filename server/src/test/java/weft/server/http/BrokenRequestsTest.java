package weft.server.http;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.form;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;
import static weft.server.TestServer.send;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;
import weft.server.TestServer;

/** Every operation that the API's description names is sent what breaks that very description, and refuses it. */
@ExtendWith(TestServer.class)
class BrokenRequestsTest {

    private static final JsonMapper JSON = JsonMapper.shared();
    private static final int WAYS = 40;
    private static final List<String> WRONG =
            List.of("null", "5", "99999999999999999999999", "1.5", "\"x\"", "true", "[]", "[null]", "{}", "{\"a\":[]}");
    private static final List<String> NO_JSON =
            List.of("", "{", "[]", "7", "null", "\"x\"", "{\"a\":}", "\u0000", "{}}");
    private static final List<String> NO_NUMBERS =
            List.of("x", "1.5", "", " ", "99999999999999999999", "-", "1e3", "null", "٣x");
    private static final List<String> NO_NAMES =
            List.of("no-such", "' or 1=1 --", "..", "é水", "x".repeat(3_000), "a b", "%", "{form}");

    /** What no answer tells: types and packages of the code, statements, pages of a server's own. */
    private static final Pattern OF_THE_CODE =
            Pattern.compile("java\\.|weft\\.|tools\\.jackson|springframework|Exception|(?i)<html|select .* from ");

    private final JsonNode api = get("/v3/api-docs").json();
    private final Map<String, String> named = new LinkedHashMap<>();

    private record Place(ObjectNode parent, String member, JsonNode schema, boolean required) {}

    @Test
    void whatBreaksTheDescriptionIsRefusedAndNeverAFailureOfTheServer() {
        given();
        var wrong = new ArrayList<String>();
        int[] sent = {0};
        api.get("paths")
                .properties()
                .forEach(path -> path.getValue().properties().forEach(each -> {
                    var method = each.getKey().toUpperCase(java.util.Locale.ROOT);
                    Stream.concat(
                                    brokenAddresses(path.getKey(), each.getValue())
                                            .map(address -> new String[] {address, null}),
                                    brokenBodies(path.getKey(), each.getValue())
                                            .map(body -> new String[] {address(path.getKey()), body}))
                            .parallel()
                            .forEach(request -> {
                                var answer = send(
                                        method,
                                        request[0],
                                        request[1] == null ? "{}" : request[1],
                                        "If-Match",
                                        "\"1\"");
                                synchronized (wrong) {
                                    sent[0]++;
                                    if (answer.status() < 400
                                            || answer.status() >= 500
                                            || OF_THE_CODE
                                                    .matcher(answer.http().body())
                                                    .find()) {
                                        wrong.add("%s %s %s -> %d %s"
                                                .formatted(
                                                        method,
                                                        shortened(request[0]),
                                                        shortened(request[1]),
                                                        answer.status(),
                                                        shortened(answer.http().body())));
                                    }
                                }
                            });
                }));
        assertThat(wrong).as("of %d requests", sent[0]).isEmpty();
        assertThat(sent[0]).isGreaterThan(2_500);
    }

    private static String shortened(String text) {
        return text == null || text.length() < 300 ? text : text.substring(0, 300);
    }

    /** A form with a record, and what stands for each variable in an address. */
    private void given() {
        var form = form("broken", "{\"title\":\"Site\"},{\"title\":\"Depth\",\"type\":\"whole\"}");
        post("/api/doors/" + form + "/records", "{\"values\":{\"site\":\"QB-03\",\"depth\":3}}");
        named.put("form", form);
        named.put("table", "broken");
        named.put("id", "1");
        named.put("column", "site");
        named.put("schema", "none");
        named.put("lines", "none");
        named.put("version", "1");
        named.put("seat", "0123456789abcdef");
        named.put("name", "find");
        named.put("button", "b");
        named.put("key", "k");
        named.put("door", form);
        named.put("record", "1");
        named.put("secret", "none");
        named.put("group", "None");
        named.put("session", "none");
        named.put("look", "1");
    }

    private String address(String path) {
        var address = path;
        for (var each : named.entrySet()) {
            address = address.replace("{" + each.getKey() + "}", each.getValue());
        }
        assertThat(address).as("what stands for each name in it").doesNotContain("{");
        return address;
    }

    private static String encoded(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8).replace("+", "%20");
    }

    /** Addresses in which a number is none, or a form or table is named that there is not. */
    private Stream<String> brokenAddresses(String path, JsonNode operation) {
        return operation.path("parameters").valueStream().flatMap(parameter -> {
            var name = parameter.get("name").asString();
            boolean number = has(parameter.path("schema"), "integer");
            if (parameter.get("in").asString().equals("path")) {
                var values = number
                        ? NO_NUMBERS
                        : named("form", "table", "door").contains(name) ? NO_NAMES : List.<String>of();
                return values.stream()
                        .filter(value -> !value.isBlank())
                        .map(value -> address(path.replace("{" + name + "}", encoded(value))));
            }
            return parameter.get("in").asString().equals("query") && number
                    ? NO_NUMBERS.stream()
                            .filter(value -> !value.isBlank())
                            .map(value -> address(path) + "?" + name + "=" + encoded(value))
                    : Stream.empty();
        });
    }

    private static List<String> named(String... names) {
        return List.of(names);
    }

    private Stream<String> brokenBodies(String path, JsonNode operation) {
        var schema = operation.at("/requestBody/content/application~1json/schema");
        if (schema.isMissingNode()) {
            return operation.has("requestBody") ? Stream.of("{}", "") : Stream.empty();
        }
        var noJson = operation.at("/requestBody/required").asBoolean(false)
                ? NO_JSON
                : NO_JSON.stream()
                        .filter(text -> !List.of("", "null").contains(text))
                        .toList();
        var random = new Random(path.hashCode());
        var whole = resolved(schema).path("properties").has("formatVersion")
                ? get("/api/forms/" + named.get("form")).json()
                : sample(schema, 0);
        var ways = new ArrayList<>(noJson);
        if (places(whole.deepCopy(), schema).isEmpty()) {
            return ways.stream();
        }
        while (ways.size() < WAYS) {
            var body = whole.deepCopy();
            boolean broken = false;
            for (int n = 1 + random.nextInt(2); n > 0 || !broken; n--) {
                var places = places(body, schema);
                if (places.isEmpty()) {
                    break;
                }
                broken |= broke(places.get(random.nextInt(places.size())), random);
            }
            ways.add(body.toString());
        }
        return ways.stream();
    }

    /** Breaks the schema at that place, if it can be broken there so. */
    private boolean broke(Place place, Random random) {
        if (place.required() && random.nextInt(4) == 0) {
            place.parent().remove(place.member());
            return true;
        }
        var wrong = JSON.readTree(WRONG.get(random.nextInt(WRONG.size())));
        if (fits(wrong, place.schema())) {
            return false;
        }
        place.parent().set(place.member(), wrong);
        return true;
    }

    /** Whether a value may be of that schema, as far as it can be told from its type and what is in it. */
    private boolean fits(JsonNode value, JsonNode any) {
        var schema = resolved(any);
        if (!schema.has("type") && !schema.has("enum") && !schema.has("const")) {
            return !schema.has("properties") || value.isObject();
        }
        return switch (value.getNodeType()) {
            case NULL -> has(schema, "null");
            case BOOLEAN -> has(schema, "boolean");
            case STRING ->
                has(schema, "string") && !schema.has("enum") && !schema.has("const") && !schema.has("pattern");
            case NUMBER ->
                has(schema, "number")
                        || has(schema, "integer")
                                && value.isIntegralNumber()
                                && value.canConvertToInt()
                                && !schema.has("minimum")
                                && !schema.has("maximum");
            case ARRAY ->
                has(schema, "array") && value.valueStream().allMatch(each -> fits(each, schema.path("items")));
            case OBJECT -> has(schema, "object");
            default -> false;
        };
    }

    private static boolean has(JsonNode schema, String type) {
        var types = schema.path("type");
        return types.isArray()
                ? types.valueStream().anyMatch(each -> each.asString().equals(type))
                : types.asString("").equals(type);
    }

    private JsonNode resolved(JsonNode schema) {
        return schema.has("$ref")
                ? resolved(api.at(schema.get("$ref").asString().substring(1)))
                : schema;
    }

    /** Every place in a body whose schema is known. What is typed into fields may be anything: it comes back as a finding. */
    private List<Place> places(JsonNode body, JsonNode any) {
        var schema = resolved(any);
        var places = new ArrayList<Place>();
        if (body instanceof ObjectNode object) {
            var required = schema.path("required")
                    .valueStream()
                    .map(JsonNode::asString)
                    .toList();
            schema.path("properties").properties().forEach(member -> {
                if (object.has(member.getKey())) {
                    places.add(
                            new Place(object, member.getKey(), member.getValue(), required.contains(member.getKey())));
                    if (!member.getKey().equals("values")) {
                        places.addAll(places(object.get(member.getKey()), member.getValue()));
                    }
                }
            });
        } else if (body instanceof ArrayNode array) {
            array.forEach(each -> places.addAll(places(each, schema.path("items"))));
        }
        return places;
    }

    /** A body that passes the schema, with all its members. */
    private JsonNode sample(JsonNode any, int depth) {
        var schema = resolved(any);
        if (schema.has("oneOf")) {
            return sample(schema.get("oneOf").get(0), depth);
        }
        if (schema.has("const") || schema.has("enum")) {
            return schema.has("const")
                    ? schema.get("const")
                    : schema.get("enum").get(0);
        }
        if (has(schema, "object") || schema.has("properties")) {
            var object = JSON.createObjectNode();
            schema.path("properties")
                    .properties()
                    .forEach(each -> object.set(each.getKey(), sample(each.getValue(), depth + 1)));
            return object;
        }
        if (has(schema, "array")) {
            var array = JSON.createArrayNode();
            if (depth < 6) {
                array.add(sample(schema.path("items"), depth + 1));
            }
            return array;
        }
        return JSON.readTree(
                has(schema, "integer") || has(schema, "number") ? "1" : has(schema, "boolean") ? "true" : "\"site\"");
    }
}
