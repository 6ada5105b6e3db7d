package weft.store.form;

import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import weft.core.entry.plan.EntryPlan;
import weft.core.form.Fray;
import weft.core.form.Frays;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;

/**
 * A form with its table, ready for entries.
 *
 * @param document the form as it is kept, and its version or revision
 * @param table the table that it writes to
 * @param plan what the engine follows
 * @param seen what whoever enters by it may be told of the table's records
 */
public record ReadyForm(Forms.Document document, StoredTable table, EntryPlan plan, SeenTable seen)
        implements PlannedForm {

    /** A form by which one may be told of every record. */
    public ReadyForm(Forms.Document document, StoredTable table, EntryPlan plan) {
        this(document, table, plan, SeenTable.all(table));
    }

    /** The same for somebody who may be told that of the table. */
    public ReadyForm seeing(SeenTable part) {
        return new ReadyForm(document, table, plan, part);
    }

    /** The frays of the form, and what of its rules cannot be followed. */
    public List<Fray> frays(LocalDateTime now) {
        var frays = new ArrayList<>(Frays.of(form(), table.definition(), now));
        plan.faults().forEach(fault -> frays.add(Fray.ofRule(fault.about(), said(fault) + fault.sentence(), form())));
        return frays;
    }

    /** The sentence of the one rule that a fault is about. */
    private String said(EntryPlan.PlanFault fault) {
        var about = form().rules().declared().stream()
                .filter(each -> each.rule().about().equals(fault.about()))
                .toList();
        return about.size() == 1
                ? "The rule “" + plan.sentences().of(about.getFirst().rule()).text() + "” can't be followed. "
                : "";
    }
}
