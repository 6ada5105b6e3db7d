package weft.store.form;

import weft.core.entry.plan.EntryPlan;
import weft.store.table.SeenTable;

/**
 * A form as somebody sees it, without what is left out for them. Nothing can be saved by it.
 *
 * @param document the form as it is shown, and its version or revision
 * @param seen what of the table's records they may see
 * @param plan what the engine would follow
 */
public record ShownForm(Forms.Document document, SeenTable seen, EntryPlan plan) implements PlannedForm {

    /** All of a form and its table. */
    public static ShownForm all(ReadyForm form) {
        return new ShownForm(form.document(), SeenTable.all(form.table()), form.plan());
    }
}
