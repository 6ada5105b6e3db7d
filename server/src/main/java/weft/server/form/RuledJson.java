package weft.server.form;

import java.util.LinkedHashMap;
import java.util.Map;
import weft.core.form.Field;
import weft.store.form.ReadyForm;

/**
 * What the rules of a form make of a field, whatever is typed.
 *
 * @param listed whether its value is chosen from the records of a table
 * @param numbered whether a save gives it a running number
 */
public record RuledJson(boolean listed, boolean numbered) {

    /** What they make of each field, by column. */
    public static Map<String, RuledJson> of(ReadyForm form) {
        var rules = form.form().rules();
        var ruled = new LinkedHashMap<String, RuledJson>();
        form.form()
                .fields()
                .map(Field::column)
                .forEach(column -> ruled.put(
                        column,
                        new RuledJson(
                                rules.listOf(column).isPresent(),
                                rules.numbers().stream()
                                        .anyMatch(each -> each.column().equals(column)))));
        return ruled;
    }
}
