package weft.store.form;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.function.Function;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** How form documents spell what has no spelling in JSON: constants in lower case with a dash between words, and lists of parts. */
final class Wire {

    private Wire() {}

    static String wire(Enum<?> constant) {
        return constant.name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /** The constant of that wire name; the first one when nothing is said. */
    static <E extends Enum<E>> E constant(Class<E> type, JsonNode wire) {
        return Arrays.stream(type.getEnumConstants())
                .filter(constant -> wire.isMissingNode() || wire(constant).equals(wire.asString()))
                .findFirst()
                .orElseThrow();
    }

    static ObjectNode object() {
        return JsonMapper.shared().createObjectNode();
    }

    static ArrayNode texts(List<String> texts) {
        var array = JsonMapper.shared().createArrayNode();
        texts.forEach(array::add);
        return array;
    }

    static <T> ArrayNode list(List<T> parts, Function<T, ObjectNode> written) {
        var array = JsonMapper.shared().createArrayNode();
        parts.forEach(part -> array.add(written.apply(part)));
        return array;
    }

    static List<String> texts(JsonNode array) {
        return list(array, JsonNode::asString);
    }

    static <T> List<T> list(JsonNode array, Function<JsonNode, T> read) {
        return array.valueStream().map(read).toList();
    }
}
