package weft.server.http;

import java.io.Serial;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.databind.DatabindException;
import tools.jackson.databind.DeserializationContext;
import tools.jackson.databind.deser.std.StdScalarDeserializer;
import weft.core.value.NormalText;

/** Texts of requests: only what can be stored, which neither the character of code 0 nor half of a surrogate pair can. */
final class StorableText extends StdScalarDeserializer<String> {

    /** A text holds what cannot be stored. */
    static final class Unstorable extends DatabindException {
        @Serial
        private static final long serialVersionUID = 1;

        Unstorable(JsonParser parser) {
            super(parser, "a character that cannot be stored");
        }
    }

    StorableText() {
        super(String.class);
    }

    @Override
    public String deserialize(JsonParser parser, DeserializationContext context) {
        if (!parser.hasToken(JsonToken.VALUE_STRING)) {
            return (String) context.handleUnexpectedToken(String.class, parser);
        }
        var text = parser.getString();
        if (NormalText.hasUnstorable(text)) {
            throw new Unstorable(parser);
        }
        return text;
    }
}
