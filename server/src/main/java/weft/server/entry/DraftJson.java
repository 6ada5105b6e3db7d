package weft.server.entry;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import weft.core.entry.draft.Draft;
import weft.core.entry.plan.EntryPlan;
import weft.core.entry.plan.LinesPlan;
import weft.core.form.Field;
import weft.core.table.Column;
import weft.core.value.Typed;
import weft.core.value.Value;
import weft.server.http.Problem;
import weft.server.work.WorkTaken;
import weft.store.entry.Sent.SentLine;
import weft.store.form.ReadyForm;

/**
 * An entry as it is typed.
 *
 * @param values what is typed, by column
 * @param record the stored record that it changes; none for a new entry
 * @param version the published version of the form it was begun on; the latest when none is said. It is checked by the latest
 *     all the same: what the version tells is which fields there were
 * @param answers by the code of a finding, or the id of a check or question: what was answered
 * @param chosen by the id of a fill: the record chosen where several match
 * @param last the record that was saved last in this sitting
 * @param lines by the id of the form's lines: those that are new, changed or taken out
 * @param work what the page counted while it was keyed, which is no part of it
 * @param seen by column: what a fill had brought, or would have, when it was typed over; where it is to be written back, and is
 *     another value by now, that is asked about
 */
public record DraftJson(
        Map<String, @Nullable JsonNode> values,
        @Nullable Long record,
        @Nullable Integer version,
        @Nullable Map<String, String> answers,
        @Nullable Map<String, Long> chosen,
        @Nullable Long last,
        @Nullable Map<String, List<SheetLineJson>> lines,
        @Nullable WorkTaken work,
        @Nullable Map<String, String> seen) {

    private static final int MOST_DIGITS = 400;
    /** The most lines that are sent with an entry. */
    private static final int MOST_LINES = 5_000;

    /** An entry without lines. */
    DraftJson(
            Map<String, @Nullable JsonNode> values,
            @Nullable Long record,
            @Nullable Integer version,
            @Nullable Map<String, String> answers,
            @Nullable Map<String, Long> chosen,
            @Nullable Long last) {
        this(values, record, version, answers, chosen, last, null, null, null);
    }

    /**
     * A line of an entry, which is new, changed or taken out; one that stays as it is stored is left out.
     *
     * @param id the record that it changes; none for a new line
     * @param version the version of that record that was seen
     * @param values what is typed, by column; a new line in which nothing is typed is none, and keeps its number
     * @param gone whether it is taken out
     * @param chosen by the id of a fill: the record chosen where several match
     * @param seen by column: what a fill had brought, or would have, when it was typed over
     */
    record SheetLineJson(
            @Nullable Long id,
            @Nullable Integer version,
            @Nullable Map<String, @Nullable JsonNode> values,
            @Nullable Boolean gone,
            @Nullable Map<String, Long> chosen,
            @Nullable Map<String, String> seen) {

        private boolean blank() {
            return id == null && (values == null || values.values().stream().noneMatch(DraftJson::filled));
        }

        private SentLine sent(LinesPlan plan, int number) {
            if (id != null && version == null) {
                throw Problem.malformed("Say which version of line %d you saw.".formatted(number));
            }
            var typed = new LinkedHashMap<String, Typed>();
            var given = values == null ? Map.<String, @Nullable JsonNode>of() : values;
            given.forEach((column, value) -> {
                var taken = taken(plan.plan(), column);
                if (!taken.equals(plan.by())) {
                    typed.put(taken.name(), typed(value));
                }
            });
            return new SentLine(
                    number,
                    typed,
                    id == null ? OptionalLong.empty() : OptionalLong.of(id),
                    version == null ? 0 : version,
                    Boolean.TRUE.equals(gone),
                    chosen == null ? Map.of() : chosen,
                    seen == null ? Map.of() : seen);
        }
    }

    /** The lines that are sent, by the id of the form's lines; 400 when the form has none of that id. */
    Map<String, List<SentLine>> sentLines(EntryPlan plan) {
        var sent = new LinkedHashMap<String, List<SentLine>>();
        (lines == null ? Map.<String, List<SheetLineJson>>of() : lines).forEach((id, each) -> {
            var of = plan.linesOf(id).orElseThrow(() -> Problem.malformed("This form has no lines “" + id + "”."));
            if (each.size() > MOST_LINES) {
                throw Problem.malformed("An entry has %,d lines at most.".formatted(MOST_LINES));
            }
            var numbered = new ArrayList<SentLine>();
            for (int at = 0; at < each.size(); at++) {
                if (!each.get(at).blank()) {
                    numbered.add(each.get(at).sent(of, at + 1));
                }
            }
            sent.put(id, numbered);
        });
        return sent;
    }

    /** What makes it the same entry when it is sent again. */
    String spelled() {
        return new TreeMap<>(values) + (lines == null ? "" : new TreeMap<>(lines).toString());
    }

    /** The same of another record, or of none. */
    public DraftJson of(@Nullable Long other) {
        return new DraftJson(values, other, version, answers, chosen, last, lines, work, seen);
    }

    /** The same without what is typed at the Bench into fields whose threads lead to no column: it takes no part. */
    DraftJson threaded(ReadyForm form) {
        var taken = new LinkedHashMap<>(values);
        form.form()
                .fields()
                .map(Field::column)
                .filter(column -> form.plan().takes(column).isEmpty())
                .forEach(taken::remove);
        return new DraftJson(taken, record, version, answers, chosen, last, lines, work, seen);
    }

    /**
     * The columns of fields that the form had when it was begun, and has no more; 400 when something is typed for no field at all.
     *
     * @param begun the form as it was sent then
     */
    List<Column> gone(EntryPlan shown, EntryPlan begun) {
        return values.keySet().stream()
                .filter(column -> shown.takes(column).isEmpty())
                .map(column -> taken(begun, column))
                .toList();
    }

    /** The same without those columns. */
    DraftJson without(List<Column> columns) {
        var left = new LinkedHashMap<>(values);
        columns.forEach(column -> left.keySet().removeIf(column::answersTo));
        return new DraftJson(left, record, version, answers, chosen, last, lines, work, seen);
    }

    /** Whether something is typed for that column. */
    boolean fills(Column column) {
        return values.entrySet().stream().anyMatch(each -> column.answersTo(each.getKey()) && filled(each.getValue()));
    }

    private static boolean filled(@Nullable JsonNode value) {
        return value != null
                && !value.isNull()
                && !(value.isString() && value.asString().isBlank());
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
                        person,
                        last,
                        chosen == null ? Map.of() : chosen,
                        answers == null ? Map.of() : answers,
                        seen == null ? Map.of() : seen));
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
            case OBJECT -> linked(value);
            case POJO, BINARY -> new Typed.Foreign("an object");
        };
    }

    /** A link as answers have it; its identity alone will do. */
    private static Typed linked(JsonNode value) {
        var id = value.get("id");
        // A page has identities that its numbers cannot hold as text.
        return id != null
                        && ((id.isIntegralNumber() && id.canConvertToLong())
                                || (id.isString() && id.asString().matches("[0-9]{1,18}")))
                ? new Typed.Given(new Value.Link(id.asLong(), 0, ""))
                : new Typed.Foreign("an object");
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
