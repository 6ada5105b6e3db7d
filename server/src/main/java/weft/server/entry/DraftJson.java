package weft.server.entry;

import java.math.BigDecimal;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.OptionalLong;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import weft.core.entry.draft.Draft;
import weft.core.entry.plan.EntryPlan;
import weft.core.form.Field;
import weft.core.table.Column;
import weft.core.value.Typed;
import weft.core.value.Value;
import weft.server.http.Problem;
import weft.store.form.ReadyForm;

/**
 * An entry as it is typed.
 *
 * @param values what is typed, by column
 * @param record the stored record that it changes; none for a new entry
 * @param version the published version of the form it was begun on; the latest when none is said
 * @param answers by the code of a finding, or the id of a check or question: what was answered
 * @param chosen by the id of a fill: the record chosen where several match
 * @param last the record that was saved last in this sitting
 */
public record DraftJson(
        Map<String, @Nullable JsonNode> values,
        @Nullable Long record,
        @Nullable Integer version,
        @Nullable Map<String, String> answers,
        @Nullable Map<String, Long> chosen,
        @Nullable Long last) {

    private static final int MOST_DIGITS = 400;

    /** The same of another record, or of none. */
    DraftJson of(@Nullable Long other) {
        return new DraftJson(values, other, version, answers, chosen, last);
    }

    /** The same without what is typed at the Bench into fields whose threads lead to no column: it takes no part. */
    DraftJson threaded(ReadyForm form) {
        var taken = new LinkedHashMap<>(values);
        form.form()
                .fields()
                .map(Field::column)
                .filter(column -> form.plan().takes(column).isEmpty())
                .forEach(taken::remove);
        return new DraftJson(taken, record, version, answers, chosen, last);
    }

    /** 400 when something is typed for no field of the form as it is sent. */
    void onlyFor(EntryPlan shown) {
        values.keySet().forEach(column -> taken(shown, column));
    }

    private static Column taken(EntryPlan plan, String column) {
        return plan.takes(column).orElseThrow(() -> Problem.malformed("This form has no field for “" + column + "”."));
    }

    /**
     * The draft that it is; 400 when something is typed for no field of the form.
     *
     * @param stored the values of the record that it changes
     * @param last those of the entry before
     */
    Draft draft(EntryPlan plan, Map<String, Value> stored, Map<String, Value> last, String person) {
        var typed = new LinkedHashMap<String, Typed>();
        values.forEach((column, value) -> {
            typed.put(taken(plan, column).name(), typed(value));
        });
        return new Draft(
                typed,
                record == null ? OptionalLong.empty() : OptionalLong.of(record),
                stored,
                new Draft.Around(
                        person, last, chosen == null ? Map.of() : chosen, answers == null ? Map.of() : answers));
    }

    /** What a request says was typed: a string is keys to be read, anything else a value of its own kind. */
    private static Typed typed(@Nullable JsonNode value) {
        if (value == null) {
            return Typed.NOTHING;
        }
        return switch (value.getNodeType()) {
            case STRING -> new Typed.Keyed(value.asString());
            case BOOLEAN -> new Typed.Given(new Value.YesNo(value.asBoolean()));
            case NUMBER -> number(value.decimalValue());
            case NULL, MISSING -> Typed.NOTHING;
            case ARRAY -> new Typed.Foreign("a list");
            case OBJECT, POJO, BINARY -> new Typed.Foreign("an object");
        };
    }

    private static Typed number(BigDecimal number) {
        if (Math.abs((long) number.scale()) > MOST_DIGITS || number.precision() > MOST_DIGITS) {
            return new Typed.Foreign("a number of more than " + MOST_DIGITS + " digits");
        }
        try {
            return new Typed.Given(new Value.Whole(number.longValueExact()));
        } catch (ArithmeticException notWhole) {
            return new Typed.Given(new Value.Decimal(number));
        }
    }
}
