package weft.server.form;

import java.util.LinkedHashMap;
import java.util.Map;
import weft.core.entry.plan.EntryPlan;
import weft.core.form.Field;
import weft.core.table.Column;
import weft.store.form.PlannedForm;

/**
 * What the rules of a form make of a field, whatever is typed.
 *
 * @param listed whether its value is chosen from the records of a table
 * @param numbered whether a save gives it a running number
 */
public record RuledJson(boolean listed, boolean numbered) {

    /** What they make of each field, by column. */
    public static Map<String, RuledJson> of(PlannedForm form) {
        return of(form.plan());
    }

    /** The same of a form made ready. */
    public static Map<String, RuledJson> of(EntryPlan plan) {
        var rules = plan.form().rules();
        var ruled = new LinkedHashMap<String, RuledJson>();
        plan.form()
                .fields()
                .map(Field::column)
                .forEach(column -> ruled.put(
                        column,
                        new RuledJson(
                                rules.listOf(column).isPresent()
                                        || plan.takes(column)
                                                .flatMap(Column::link)
                                                .isPresent(),
                                rules.numbers().stream()
                                        .anyMatch(each -> each.column().equals(column)))));
        return ruled;
    }
}
