package weft.store.find;

import java.util.Optional;

/** Where somebody wants to go among the records in view. */
public sealed interface Goal {

    /** The first record. */
    record First() implements Goal {}

    /** The last record. */
    record Last() implements Goal {}

    /** The one after that place. */
    record Next(String cursor) implements Goal {}

    /** The one before that place. */
    record Previous(String cursor) implements Goal {}

    /** The one of that number from 1, or the last when there are fewer. */
    record Numbered(long number) implements Goal {}

    /** The one in that row, else in the next row after it, else in the last one before it. */
    record InRow(long row) implements Goal {}

    /** The record of that identity, when it is in view. */
    record Itself(long id) implements Goal {}

    /**
     * The goal of a word and what belongs to it: {@code first}, {@code last}, {@code next}, {@code previous},
     * {@code row:12}, {@code record:34}, or a number. Empty when it is none.
     */
    static Optional<Goal> read(String to, Optional<String> cursor) {
        return switch (to) {
            case "first" -> Optional.of(new First());
            case "last" -> Optional.of(new Last());
            case "next" -> cursor.map(Next::new);
            case "previous" -> cursor.map(Previous::new);
            default -> {
                var number = to.replaceFirst("^(row|record):", "");
                if (!number.matches("[0-9]{1,18}")) {
                    yield Optional.empty();
                }
                long n = Long.parseLong(number);
                yield Optional.of(
                        to.startsWith("row:")
                                ? new InRow(n)
                                : to.startsWith("record:") ? new Itself(n) : new Numbered(Math.max(1, n)));
            }
        };
    }
}
