package weft.server.imports;

import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import weft.core.table.Table;
import weft.core.table.TableProposal;
import weft.core.value.ColumnType;
import weft.server.table.ColumnAsked;
import weft.store.imports.ImportColumn;

/**
 * How a column of the file is to be taken; what is not said stays as it was guessed.
 *
 * @param from its place in the file from 0; else it is found by its name
 * @param dayOrder the order of its dates of digits: day-first, month-first or year-first
 * @param to of a link: the table that it leads to, whose records the cells are the words of
 * @param shown of a link: the columns by which its records are called
 * @param removed of a link: refuse or empty
 * @param decimalSign what stands before its decimals: point or comma; the other one groups thousands
 */
record FileColumn(
        @Nullable String name,
        @Nullable String title,
        @Nullable String type,
        @Nullable Boolean required,
        @Nullable Boolean unique,
        @Nullable Integer scale,
        @Nullable Object min,
        @Nullable Object max,
        @Nullable List<String> choices,
        @Nullable Integer from,
        @Nullable String dayOrder,
        @Nullable String decimalSign,
        @Nullable String to,
        @Nullable List<String> shown,
        @Nullable String removed) {

    /** The column as it was guessed, changed as asked; {@code at} is its place, for what is said of faults. */
    ImportColumn of(ImportColumn guess, int at, Function<String, Optional<Table>> tables) {
        var now = guess.column();
        var said = Optional.ofNullable(decimalSign)
                .map(word -> ColumnAsked.DECIMAL_SIGNS.of(word, path(at, "decimalSign")));
        var signs = said.map(guess.signs()::said).orElse(guess.signs());
        var guessed = said.isPresent() && now.type().isNumber()
                ? signs.scale() == 0 ? ColumnType.WHOLE : ColumnType.DECIMAL
                : now.type();
        var asked = type == null ? guessed.wire() : type;
        boolean decimals = scale == null && guessed.isNumber() && asked.equals(ColumnType.DECIMAL.wire());
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
        var column = new TableProposal("t", "", List.of(filled.proposal(now.usualLength())), "after-last")
                .checked(tables)
                .columns()
                .getFirst();
        boolean dated = column.type() == ColumnType.DATE || column.type() == ColumnType.DATETIME;
        var order = Optional.ofNullable(dayOrder)
                .map(word -> ColumnAsked.DAY_ORDERS.of(word, path(at, "dayOrder")))
                .or(guess::dayOrder);
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

    private static String path(int at, String member) {
        return "columns[" + at + "]." + member;
    }
}
