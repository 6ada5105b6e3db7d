package weft.core.entry;

import java.util.List;
import java.util.Optional;
import weft.core.form.Field;
import weft.core.form.Form;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.value.Conventions;

/** A form made ready to assess drafts: each field with the column its thread leads to, in tab order. */
public final class EntryPlan {

    private final Conventions conventions;
    private final List<Tied> tied;

    /** A field and its column. */
    record Tied(Field field, Column column) {
        boolean required() {
            return field.required() || column.required();
        }
    }

    private EntryPlan(Conventions conventions, List<Tied> tied) {
        this.conventions = conventions;
        this.tied = tied;
    }

    /** The plan of a form on its table. A field whose thread leads to no column takes no part in entries. */
    public static EntryPlan of(Form form, Table table) {
        return new EntryPlan(
                form.conventions(),
                form.fields()
                        .flatMap(field -> table.column(field.column()).stream().map(column -> new Tied(field, column)))
                        .toList());
    }

    /** The column of that name, or once of that name, that a field of the form is threaded to; empty when there is none. */
    public Optional<Column> takes(String column) {
        return tied.stream()
                .map(Tied::column)
                .filter(each -> each.answersTo(column))
                .findFirst();
    }

    /** Whether the form wants a value in that column. */
    public boolean requires(String column) {
        return tied.stream().anyMatch(each -> each.column().name().equals(column) && each.required());
    }

    /** The columns that the form writes to, in tab order. */
    public List<Column> columns() {
        return tied.stream().map(Tied::column).toList();
    }

    Conventions conventions() {
        return conventions;
    }

    List<Tied> tied() {
        return tied;
    }
}
