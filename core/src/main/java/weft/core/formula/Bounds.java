package weft.core.formula;

import org.camunda.feel.syntaxtree.EveryItem;
import org.camunda.feel.syntaxtree.Filter;
import org.camunda.feel.syntaxtree.For;
import org.camunda.feel.syntaxtree.FunctionDefinition;
import org.camunda.feel.syntaxtree.IterationContext;
import org.camunda.feel.syntaxtree.SomeItem;
import scala.Product;
import scala.collection.Iterable;
import scala.collection.Iterator;

/** Refuses formulas that could fill the memory before any limit of time is seen to. */
final class Bounds {

    private Bounds() {}

    private static final int DEEPEST = 40;
    private static final int DEEPEST_LISTS = 2;

    /** Refuses what is nested deeper than is read in no time. */
    static void checkNesting(String text) {
        int depth = 0;
        boolean quoted = false;
        for (int at = 0; at < text.length(); at++) {
            switch (text.charAt(at)) {
                case '"' -> quoted = !quoted || text.charAt(at - 1) == '\\';
                case '(', '[', '{' -> depth += quoted ? 0 : 1;
                case ')', ']', '}' -> depth -= quoted ? 0 : 1;
                default -> {}
            }
            if (depth > DEEPEST) {
                throw new Formula.Misread(
                        "The formula has brackets more than " + DEEPEST + " deep. Take it apart into shorter ones.");
            }
        }
    }

    /** Refuses an expression that could run on. */
    static void check(Object expression) {
        check(expression, 0);
    }

    private static void check(Object part, int lists) {
        int within = lists;
        switch (part) {
            case IterationContext _ ->
                throw new Formula.Misread(
                        "A formula can't count through a range such as 1..10; name a list, as in [1, 2, 3].");
            case FunctionDefinition _ -> throw new Formula.Misread("A formula can't define functions of its own.");
            case For each -> within = one(each.iterators().size(), lists);
            case SomeItem each -> within = one(each.iterators().size(), lists);
            case EveryItem each -> within = one(each.iterators().size(), lists);
            case Filter _ -> within = one(1, lists);
            default -> {
                // Anything else is as large as it is written.
            }
        }
        if (part instanceof Iterable<?> several) {
            each(several.iterator(), within);
        } else if (part instanceof Product product) {
            each(product.productIterator(), within);
        }
    }

    private static int one(int iterators, int lists) {
        if (iterators > 1) {
            throw new Formula.Misread("A formula goes through one list at a time.");
        }
        if (lists == DEEPEST_LISTS) {
            throw new Formula.Misread("A formula goes through lists within lists " + DEEPEST_LISTS + " deep at most.");
        }
        return lists + 1;
    }

    private static void each(Iterator<?> parts, int lists) {
        while (parts.hasNext()) {
            check(parts.next(), lists);
        }
    }
}
