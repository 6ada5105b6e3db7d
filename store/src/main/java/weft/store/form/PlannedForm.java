package weft.store.form;

import weft.core.entry.plan.EntryPlan;
import weft.core.form.Form;
import weft.core.table.Column;
import weft.store.table.SeenTable;

/** A form with what the engine follows, whether to save by it or to be shown. */
public interface PlannedForm {

    /** The form as it is kept, and its version or revision. */
    Forms.Document document();

    /** What the engine follows. */
    EntryPlan plan();

    /** What of its table whoever is at the form may be told of. */
    SeenTable seen();

    /** The form itself. */
    default Form form() {
        return document().form();
    }

    /** What people know a column as: its field's label. */
    default String label(Column column) {
        return plan().label(column);
    }
}
