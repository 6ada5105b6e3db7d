package weft.store.imports;

import java.util.Optional;
import java.util.OptionalInt;
import weft.core.guess.Guess;
import weft.core.table.Column;
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
 * @param decimalSign the sign before its decimals
 */
public record ImportColumn(
        int from,
        Column column,
        String reason,
        Optional<DayOrder> dayOrder,
        boolean askDayOrder,
        DecimalSign decimalSign) {

    static ImportColumn guessed(int from, String name, String title, Guess guess) {
        var column =
                Column.plain(name, title, guess.type()).scaled(guess.scale()).usually(OptionalInt.of(guess.longest()));
        return new ImportColumn(
                from, column, guess.reason(), guess.dayOrder(), guess.askDayOrder(), guess.decimalSign());
    }

    Conventions conventions() {
        return new Conventions(dayOrder.orElse(DayOrder.MONTH_FIRST), decimalSign);
    }
}
