package weft.core.formula;

import org.camunda.feel.syntaxtree.EveryItem;
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

    static void check(Object part) {
        switch (part) {
            case IterationContext _ ->
                throw new Formula.Misread(
                        "A formula can't count through a range such as 1..10; name a list, as in [1, 2, 3].");
            case FunctionDefinition _ -> throw new Formula.Misread("A formula can't define functions of its own.");
            case For each -> one(each.iterators().size());
            case SomeItem each -> one(each.iterators().size());
            case EveryItem each -> one(each.iterators().size());
            default -> {
                // Anything else is as large as it is written.
            }
        }
        if (part instanceof Iterable<?> several) {
            each(several.iterator());
        } else if (part instanceof Product product) {
            each(product.productIterator());
        }
    }

    private static void one(int lists) {
        if (lists > 1) {
            throw new Formula.Misread("A formula goes through one list at a time.");
        }
    }

    private static void each(Iterator<?> parts) {
        while (parts.hasNext()) {
            check(parts.next());
        }
    }
}
