package weft.store.imports;

import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import weft.core.guess.Guess;
import weft.core.guess.Signs;
import weft.core.table.Column;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Conventions.DayOrder;
import weft.core.value.Conventions.DecimalSign;

/**
 * A column of a file and the column of the table it becomes.
 *
 * @param from its place in the file, from 0
 * @param column the column it becomes
 * @param reason why it was guessed to be so; empty when a person said so
 * @param dayOrder the order of its dates of digits, where known
 * @param askDayOrder whether somebody must say that order before loading
 * @param assumed the order by which they are read as long as nobody has said it
 * @param signs how its numbers are written
 * @param offers where it could link to
 */
public record ImportColumn(
        int from,
        Column column,
        String reason,
        Optional<DayOrder> dayOrder,
        boolean askDayOrder,
        DayOrder assumed,
        Signs signs,
        List<Offer> offers) {

    public ImportColumn {
        offers = List.copyOf(offers);
    }

    /** A column of another table in which every value is found, so that it could be a link to that. */
    public record Offer(String table, String title, String column) {}

    static ImportColumn guessed(int from, String name, String title, Guess guess) {
        var column =
                Column.plain(name, title, guess.type()).scaled(guess.scale()).usually(OptionalInt.of(guess.longest()));
        return new ImportColumn(
                from,
                column,
                guess.reason(),
                guess.dayOrder(),
                guess.askDayOrder(),
                guess.assumed(),
                guess.signs(),
                List.of());
    }

    /** The same of a column of a table that exists, whose dates and numbers are written so, where somebody said it. */
    public ImportColumn into(Column other, Optional<DayOrder> days, Optional<DecimalSign> sign) {
        boolean dated = other.type() == ColumnType.DATE || other.type() == ColumnType.DATETIME;
        return new ImportColumn(
                from,
                other,
                reason,
                days.or(() -> dayOrder),
                askDayOrder && days.isEmpty() && dated,
                assumed,
                sign.map(signs::said).orElse(signs),
                List.of());
    }

    ImportColumn offering(List<Offer> others) {
        return new ImportColumn(from, column, reason, dayOrder, askDayOrder, assumed, signs, others);
    }

    /** Whether somebody must say which sign stands before its decimals before loading. */
    public boolean askDecimalSign() {
        return signs.ask() && column.type().isNumber();
    }

    Conventions conventions() {
        return new Conventions(dayOrder.orElse(assumed), signs.sign());
    }
}
