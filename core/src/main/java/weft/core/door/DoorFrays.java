package weft.core.door;

import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import weft.core.entry.plan.EntryPlan;
import weft.core.find.Criterion;
import weft.core.find.CriterionReader;
import weft.core.find.Where;
import weft.core.form.Form;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.twice.Standing;
import weft.core.twice.Twice;
import weft.core.value.Wire;

/** What of a door does not fit its form and its table. */
public final class DoorFrays {

    private final Door door;
    private final Form form;
    private final Table table;
    private final List<String> found = new ArrayList<>();

    private DoorFrays(Door door, Form form, Table table) {
        this.door = door;
        this.form = form;
        this.table = table;
    }

    /**
     * Its frays, each a sentence that says what is wrong and what would be right.
     *
     * @param plan of the form that entries are saved by through this door
     */
    public static List<String> of(Door door, Form form, Table table, EntryPlan plan, LocalDateTime now) {
        return new DoorFrays(door, form, table).all(plan, now);
    }

    private List<String> all(EntryPlan plan, LocalDateTime now) {
        door.view().where().forEach(where -> criterion(where, now));
        columns("fills in", door.filled().keySet());
        columns("leaves out", door.fields().leftOut());
        columns("locks", door.fields().locked());
        columns("keeps the same on all lines", door.keying().same());
        door.twice().ifPresent(twice -> twice(twice, plan));
        plan.faults().stream()
                .filter(fault -> door.filled().containsKey(fault.about()))
                .forEach(fault -> found.add(called(fault.about()) + " cannot be filled in. " + fault.sentence()));
        if (door.may().contains(May.ADD)) {
            table.columns().forEach(this::needed);
        }
        may();
        return found;
    }

    private String called(String column) {
        return table.column(column)
                .map(each ->
                        form.fieldOf(each.name()).map(field -> field.label()).orElse(each.title()))
                .orElse("“" + column + "”");
    }

    private void criterion(String written, LocalDateTime now) {
        var where = Where.of(written);
        var column = where.column().equals(Standing.COLUMN.name())
                ? Optional.of(Standing.COLUMN)
                : table.column(where.column());
        if (column.isEmpty() || where.typed().isBlank()) {
            found.add("“" + written + "” says of no column of " + table.title()
                    + " which records are in view, so none is. It is written like river:Quill Beck.");
        } else if (new CriterionReader(form.conventions(), now).read(column.get(), where.typed())
                instanceof Criterion.Refused(var message)) {
            found.add("Of " + called(column.get().name()) + " no record is in view: " + message);
        }
    }

    /** What of the second keying cannot be done. */
    private void twice(Twice twice, EntryPlan plan) {
        columns("recognises papers by", new LinkedHashSet<>(twice.paper()));
        columns("does not compare", twice.leftOut());
        if (twice.compared(plan.keyed()).isEmpty()) {
            found.add("No field is left to be compared when papers are keyed twice here. Compare one at least.");
        }
        if (!door.may().contains(May.ADD)) {
            found.add("Papers are keyed twice here, but nobody may add. Let people add, and so key.");
        }
        if (twice.way() == Twice.Way.BLIND && !door.may().contains(May.CHANGE)) {
            found.add(
                    "What differs is settled here by a third person, but nobody may see and change records. Let them, or "
                            + "have differences told at once.");
        }
    }

    private void columns(String does, Set<String> columns) {
        columns.stream()
                .filter(column -> table.column(column).isEmpty())
                .sorted()
                .forEach(column -> found.add("The door " + does + " “" + column + "”, a column that " + table.title()
                        + " has no more. Take it out."));
    }

    /** What every new entry must have, and nobody who comes by this door can give. */
    private void needed(Column column) {
        var field = form.fieldOf(column.name());
        boolean wanted =
                column.required() || field.filter(each -> each.required()).isPresent();
        boolean closed = field.isEmpty() || door.fields().leftOut().contains(column.name());
        boolean given = door.filled().containsKey(column.name())
                || form.rules().feeds(column.name())
                || field.filter(each -> !each.start().value().isBlank()).isPresent();
        if (wanted && closed && !given) {
            found.add(called(column.name())
                    + " is needed, but this door does not show it. Fill it in here, or no entry can be saved.");
        }
    }

    private void may() {
        if (door.may().isEmpty()) {
            found.add("Nothing may be done by this door. Let people add or see, at least.");
        }
        if (!door.may().contains(May.SEE)) {
            door.may().stream()
                    .filter(may -> may != May.ADD)
                    .sorted()
                    .forEach(may -> found.add("Who may " + Wire.word(may)
                            + " records must see them: let them see, or not " + Wire.word(may) + "."));
        }
        if (door.who().link() && !door.may().contains(May.ADD)) {
            found.add("Whoever has the secret address may only add, and this door lets nobody add.");
        }
    }
}
