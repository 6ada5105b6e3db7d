package weft.core.form;

import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.Supplier;
import java.util.stream.Stream;
import weft.core.rule.Command;
import weft.core.sentence.Terms;
import weft.core.sentence.Terms.Term;
import weft.core.table.Table;

/** What the sentences of a form can speak of. */
public final class FormTerms {

    private FormTerms() {}

    /**
     * The terms of a form on its table.
     *
     * @param others tables by name or title
     */
    public static Terms of(Form form, Table table, Function<String, Optional<Table>> others) {
        return of(form, table, others, List::of, List::of);
    }

    /**
     * The terms of each line of those.
     *
     * @param others tables by name or title
     */
    public static Terms of(FormLines lines, Function<String, Optional<Table>> others) {
        var table = others.apply(lines.table())
                .orElseGet(() -> new Table(lines.table(), lines.table(), List.of(), Table.Placement.AFTER_LAST));
        return new Terms(table, terms(lines.fields().stream()), List.of(), List.of(), others, List::of, List::of);
    }

    private static List<Term> terms(Stream<Field> fields) {
        return fields.map(field -> new Term(field.column(), field.label())).toList();
    }

    /**
     * The terms of a form on its table, for those who type.
     *
     * @param others tables by name or title
     * @param tables the names of all tables
     * @param forms all forms by title
     */
    public static Terms of(
            Form form,
            Table table,
            Function<String, Optional<Table>> others,
            Supplier<List<String>> tables,
            Supplier<List<Term>> forms) {
        return new Terms(
                table,
                terms(form.fields()),
                form.items()
                        .filter(Calculated.class::isInstance)
                        .map(Calculated.class::cast)
                        .map(shown -> new Term(shown.id(), shown.label()))
                        .toList(),
                form.items()
                        .filter(Button.class::isInstance)
                        .map(Button.class::cast)
                        .filter(button -> button.action() == Command.STEPS)
                        .map(button -> new Term(button.id(), button.label()))
                        .toList(),
                others,
                tables,
                forms);
    }
}
