package weft.core.entry;

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

/** A field, its column, and what decides its value. */
record Node(
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
    record Bring(Fill fill, Table from, Column source) {}

    /** A choice list of a table. */
    record ListOf(Choices choices, Table from, Column source) {}

    boolean always() {
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
