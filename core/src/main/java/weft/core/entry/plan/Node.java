package weft.core.entry.plan;

import java.util.HashSet;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import weft.core.form.Field;
import weft.core.formula.Formula;
import weft.core.rule.Choices;
import weft.core.rule.Fill;
import weft.core.table.Column;
import weft.core.table.Table;

/**
 * A field, its column, and what decides its value.
 *
 * @param usual what it begins as in a new entry
 * @param calculated what it is worked out from; nothing can be typed then
 * @param shown whether it is there
 * @param locked whether it is locked
 * @param required whether it must be filled, beside what field and column say
 * @param bring the fill that brings its value in
 * @param list the table list that it is chosen from
 * @param numbered whether a save gives it a running number
 */
public record Node(
        Field field,
        Column column,
        Optional<Formula> usual,
        Optional<Formula> calculated,
        Optional<Formula> shown,
        Optional<Formula> locked,
        Optional<Formula> required,
        Optional<Bring> bring,
        Optional<ListOf> list,
        boolean numbered) {

    /** A fill, and the column of its table that comes in here. */
    public record Bring(Fill fill, Table from, Column source) {}

    /** A choice list of a table. */
    public record ListOf(Choices choices, Table from, Column source) {}

    /** Whether it must be filled whatever formulas say. */
    public boolean always() {
        return field.required() || column.required();
    }

    /** The names that its value depends on. */
    Set<String> needs() {
        var names = new HashSet<String>();
        Stream.of(usual, calculated, shown, locked)
                .flatMap(Optional::stream)
                .forEach(formula -> names.addAll(formula.names()));
        bring.ifPresent(each -> each.fill().keys().forEach(key -> names.add(key.column())));
        return names;
    }

    /** The same without what decides its value. */
    Node bare() {
        return new Node(
                field,
                column,
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                required,
                Optional.empty(),
                list,
                numbered);
    }
}
