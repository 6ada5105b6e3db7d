package weft.core.formula;

import java.math.BigDecimal;
import java.util.Optional;
import org.camunda.feel.syntaxtree.Val;
import org.camunda.feel.syntaxtree.ValList;
import org.camunda.feel.syntaxtree.ValNumber;
import org.camunda.feel.syntaxtree.ValString;

/** How large what a formula holds may be: far beyond any of use, and small enough to be gone through in no time. */
final class Size {

    private static final int LONGEST_TEXT = 200_000;
    private static final int LONGEST_LIST = 10_000;
    private static final int MOST_DIGITS = 1_000;
    private static final int MOST_DECIMALS = 100;

    private Size() {}

    /** What is too large about it, in a sentence; empty when nothing is. */
    static Optional<String> beyond(Val value) {
        return switch (value) {
            case ValNumber number -> beyond(number.value().bigDecimal());
            case ValString text
            when text.value().length() > LONGEST_TEXT -> Optional.of("A text in it grows too long.");
            case ValList list
            when list.itemsAsSeq().size() > LONGEST_LIST -> Optional.of("A list in it grows too long.");
            default -> Optional.empty();
        };
    }

    static Optional<String> beyond(BigDecimal number) {
        return Math.abs((long) number.scale()) > MOST_DIGITS || number.precision() > MOST_DIGITS
                ? Optional.of("A number in it has too many digits.")
                : Optional.empty();
    }

    static Optional<String> beyondDecimals(Val scale) {
        return scale instanceof ValNumber number
                        && number.value().bigDecimal().abs().compareTo(BigDecimal.valueOf(MOST_DECIMALS)) > 0
                ? Optional.of("A number can be rounded to " + MOST_DECIMALS + " decimals at most.")
                : Optional.empty();
    }
}
