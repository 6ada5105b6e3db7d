package weft.core.entry.draft;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import weft.core.table.Column;
import weft.core.value.Typed;
import weft.core.value.Value;
import weft.core.value.Wire;

/**
 * An entry as it stands while it is typed.
 *
 * @param typed what is in each field, by column name; a column left out has nothing typed
 * @param record the identity of the stored record that it changes; empty for a new entry
 * @param stored the values of that record by column; none for a new entry
 * @param around what else rules may ask for
 * @param lines by the id of the form's lines: the values of each line
 * @param gone the labels of fields into which something was typed that the form does not have any more
 */
public record Draft(
        Map<String, Typed> typed,
        OptionalLong record,
        Map<String, Value> stored,
        Around around,
        Map<String, List<Map<String, Value>>> lines,
        List<String> gone) {

    public Draft {
        typed = Map.copyOf(typed);
        stored = Map.copyOf(stored);
        lines = Map.copyOf(lines);
        gone = List.copyOf(gone);
    }

    /** A draft without lines. */
    public Draft(Map<String, Typed> typed, OptionalLong record, Map<String, Value> stored, Around around) {
        this(typed, record, stored, around, Map.of(), List.of());
    }

    /** A draft by nobody in particular, with nothing around it. */
    public Draft(Map<String, Typed> typed, OptionalLong record) {
        this(typed, record, Map.of(), Around.NOTHING);
    }

    /**
     * What rules may ask for beside the entry.
     *
     * @param person who enters it
     * @param last the values of the last entry of this sitting
     * @param chosen by the id of a fill, the identity of the record chosen where several match
     * @param answers by a code, or the id of a check or question: what was answered
     * @param seen by column: what a fill had brought, or would have, when it was typed over
     */
    public record Around(
            String person,
            Map<String, Value> last,
            Map<String, Long> chosen,
            Map<String, String> answers,
            Map<String, String> seen) {

        /** Somebody, with nothing before and nothing answered. */
        public static final Around NOTHING = new Around("somebody", Map.of(), Map.of(), Map.of());

        public Around {
            last = Map.copyOf(last);
            chosen = Map.copyOf(chosen);
            answers = Map.copyOf(answers);
            seen = Map.copyOf(seen);
        }

        /** Of an entry of which it is not told what was seen. */
        public Around(String person, Map<String, Value> last, Map<String, Long> chosen, Map<String, String> answers) {
            this(person, last, chosen, answers, Map.of());
        }
    }

    /** The same with these columns set. */
    public Draft with(Map<String, Value> set) {
        var other = new HashMap<>(typed);
        set.forEach((column, value) -> other.put(column, new Typed.Given(value)));
        return new Draft(other, record, stored, around, lines, gone);
    }

    /** The same change of a record, in which all of those columns that are not typed into stay as they are stored. */
    public Draft whole(List<Column> columns) {
        var all = new HashMap<String, Typed>();
        columns.forEach(
                column -> all.put(column.name(), new Typed.Given(stored.getOrDefault(column.name(), Value.EMPTY))));
        all.putAll(typed);
        return new Draft(all, record, stored, around, lines, gone);
    }

    /** The same with lines of those values. */
    public Draft lined(Map<String, List<Map<String, Value>>> others) {
        return new Draft(typed, record, stored, around, others, gone);
    }

    /** The same, when something was typed into fields of those labels too, which the form does not have any more. */
    public Draft without(List<String> labels) {
        return new Draft(typed, record, stored, around, lines, labels);
    }

    /** The same after an entry of those values. */
    public Draft after(Map<String, Value> last) {
        return new Draft(
                typed,
                record,
                stored,
                new Around(around.person(), last, around.chosen(), around.answers(), around.seen()),
                lines,
                gone);
    }

    /** Whether anything was said of that column, be it that nothing is in it. */
    public boolean says(String column) {
        return typed.containsKey(column);
    }

    /** Whether it is a new entry. */
    public boolean fresh() {
        return record.isEmpty();
    }

    /** What is typed for that column. */
    public Typed of(String column) {
        return typed.getOrDefault(column, Typed.NOTHING);
    }

    /** Whether that finding was answered with yes, by its code or its rule. */
    boolean answered(Finding finding) {
        return answered(finding.code(), finding.rule());
    }

    /** Whether what that rule finds was answered with yes, by its code or by itself. */
    public boolean answered(Finding.Code code, String rule) {
        return "yes".equals(around.answers.get(Wire.word(code))) || "yes".equals(around.answers.get(rule));
    }
}
