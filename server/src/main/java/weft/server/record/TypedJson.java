package weft.server.record;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.OptionalLong;
import tools.jackson.databind.JsonNode;
import weft.core.entry.Draft;
import weft.core.entry.EntryPlan;
import weft.core.value.Typed;
import weft.core.value.Value;
import weft.server.Problems.Problem;

/** What a request says was typed: a string is keys to be read, anything else a value of its own kind. */
final class TypedJson {

    private TypedJson() {}

    /** The draft of a request's {@code values}; 400 when one is for no field of the form. */
    static Draft draft(
            EntryPlan plan,
            Map<String, JsonNode> values,
            OptionalLong record,
            Map<String, Value> stored,
            Draft.Around around) {
        if (values == null) {
            throw Problem.malformed("The entry is missing: {\"values\": {…}}.");
        }
        var typed = new LinkedHashMap<String, Typed>();
        values.forEach((column, value) -> {
            var taken = plan.takes(column)
                    .orElseThrow(() -> Problem.malformed("This form has no field for “" + column + "”."));
            typed.put(taken.name(), typed(value));
        });
        return new Draft(typed, record, stored, around);
    }

    private static Typed typed(JsonNode value) {
        return switch (value.getNodeType()) {
            case STRING -> new Typed.Keyed(value.asString());
            case BOOLEAN -> new Typed.Given(new Value.YesNo(value.asBoolean()));
            case NUMBER ->
                new Typed.Given(
                        value.canConvertToExactIntegral() && value.canConvertToLong()
                                ? new Value.Whole(value.asLong())
                                : new Value.Decimal(value.decimalValue()));
            case NULL, MISSING -> Typed.NOTHING;
            case ARRAY -> new Typed.Foreign("a list");
            case OBJECT, POJO, BINARY -> new Typed.Foreign("an object");
        };
    }
}
