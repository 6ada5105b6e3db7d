package weft.server.imports;

import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import weft.core.table.Link;
import weft.core.table.Table;
import weft.core.table.TableProposal;
import weft.core.value.ColumnType;
import weft.core.value.Conventions.DayOrder;
import weft.core.value.Conventions.DecimalSign;
import weft.server.table.ColumnAsked;
import weft.store.imports.ImportColumn;

/**
 * How a column of the file is to be taken; what is not said stays as it was guessed.
 *
 * @param from its place in the file from 0; else it is found by its name
 * @param dayOrder the order of its dates of digits
 * @param to of a link: the table that it leads to, whose records the cells are the words of
 * @param shown of a link: the columns by which its records are called
 * @param decimalSign what stands before its decimals; the other one groups thousands
 */
record FileColumn(
        @Nullable String name,
        @Nullable String title,
        @Nullable ColumnType type,
        @Nullable Boolean required,
        @Nullable Boolean unique,
        @Nullable Integer scale,
        @Nullable Object min,
        @Nullable Object max,
        @Nullable List<String> choices,
        @Nullable Integer from,
        @Nullable DayOrder dayOrder,
        @Nullable DecimalSign decimalSign,
        @Nullable String to,
        @Nullable List<String> shown,
        Link.@Nullable Removed removed) {

    /** The column as it was guessed, changed as asked. */
    ImportColumn of(ImportColumn guess, Function<String, Optional<Table>> tables) {
        var now = guess.column();
        var said = Optional.ofNullable(decimalSign);
        var signs = said.map(guess.signs()::said).orElse(guess.signs());
        var guessed = said.isPresent() && now.type().isNumber()
                ? signs.scale() == 0 ? ColumnType.WHOLE : ColumnType.DECIMAL
                : now.type();
        var asked = type == null ? guessed : type;
        boolean decimals = scale == null && guessed.isNumber() && asked == ColumnType.DECIMAL;
        var filled = new ColumnAsked(
                name == null ? now.name() : name,
                title == null ? now.title() : title,
                asked,
                required,
                unique,
                decimals ? Integer.valueOf(signs.scale()) : scale,
                min,
                max,
                choices,
                null,
                null,
                to,
                shown,
                removed);
        var column = new TableProposal("t", "", List.of(filled.proposal(now.usualLength())), Table.Placement.AFTER_LAST)
                .checked(tables)
                .columns()
                .getFirst();
        boolean dated = column.type().isDated();
        var order = Optional.ofNullable(dayOrder).or(guess::dayOrder);
        return new ImportColumn(
                guess.from(),
                column,
                column.type() == now.type() ? guess.reason() : "as you chose",
                order,
                dated && guess.askDayOrder() && order.isEmpty(),
                guess.assumed(),
                signs,
                guess.offers());
    }
}
