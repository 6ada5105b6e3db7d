package weft.core.formula;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.camunda.feel.context.FunctionProvider;
import org.camunda.feel.impl.JavaValueMapper;
import org.camunda.feel.impl.interpreter.BuiltinFunctions;
import org.camunda.feel.syntaxtree.Val;
import org.camunda.feel.syntaxtree.ValError;
import org.camunda.feel.syntaxtree.ValFunction;
import org.camunda.feel.syntaxtree.ValList;
import org.camunda.feel.syntaxtree.ValNull$;
import org.camunda.feel.valuemapper.CustomValueMapper;
import org.camunda.feel.valuemapper.ValueMapper;
import scala.collection.Iterable;
import scala.jdk.javaapi.CollectionConverters;

/**
 * Every function that a formula may call, Weft's own before FEEL's of the same name. Each is called only with what it can
 * bear, so that none fills the memory or runs on where it cannot be stopped: numbers, texts and lists are bounded before it
 * is called, and what it gives after.
 */
final class BoundedFunctions implements FunctionProvider {

    /** Functions whose second number is how many decimals they write out. */
    private static final Set<String> ROUNDING =
            Set.of("decimal", "floor", "ceiling", "round up", "round down", "round half up", "round half down");

    /** Functions that go over a list, in which what is empty does not count: a line may have a cell that is not filled. */
    private static final Set<String> OVER_LISTS =
            Set.of("sum", "product", "min", "max", "mean", "median", "mode", "stddev");

    private final FunctionProvider own = new Functions();
    private final FunctionProvider feels;
    private final Map<String, scala.collection.immutable.List<ValFunction>> functions = new HashMap<>();

    BoundedFunctions(Feel.ExactNumbers numbers) {
        this.feels = new BuiltinFunctions(
                Moment::current,
                new ValueMapper.CompositeValueMapper(
                        CollectionConverters.asScala(List.<CustomValueMapper>of(numbers, new JavaValueMapper()))
                                .toList()));
        var names = new HashSet<String>();
        names.addAll(CollectionConverters.asJavaCollection(own.functionNames()));
        names.addAll(CollectionConverters.asJavaCollection(feels.functionNames()));
        names.forEach(name -> functions.put(name, bounded(name)));
    }

    private scala.collection.immutable.List<ValFunction> bounded(String name) {
        var all = new ArrayList<ValFunction>();
        for (var provider : List.of(own, feels)) {
            CollectionConverters.asJavaCollection(provider.getFunctions(name))
                    .forEach(function -> all.add(bounded(name, function)));
        }
        return CollectionConverters.asScala(all).toList();
    }

    private static ValFunction bounded(String name, ValFunction function) {
        return new ValFunction(
                function.params(),
                given -> {
                    Feel.checkTime();
                    var values = CollectionConverters.asJava(given);
                    var beyond = values.stream()
                            .map(Size::beyond)
                            .flatMap(Optional::stream)
                            .findFirst();
                    if (beyond.isEmpty() && ROUNDING.contains(name) && values.size() > 1) {
                        beyond = Size.beyondDecimals(values.get(1));
                    }
                    var counted = OVER_LISTS.contains(name) ? filled(values) : given;
                    return beyond.<Object>map(ValError::new)
                            .orElseGet(() -> held(function.invoke().apply(counted)));
                },
                function.hasVarArgs());
    }

    private static scala.collection.immutable.List<Val> filled(List<Val> values) {
        var counted = values.stream()
                .map(value -> value instanceof ValList list ? filled(list) : value)
                .toList();
        return CollectionConverters.asScala(counted).toList();
    }

    private static Val filled(ValList list) {
        var items = CollectionConverters.asJava(list.itemsAsSeq()).stream()
                .filter(item -> !(item instanceof ValNull$))
                .toList();
        return new ValList(CollectionConverters.asScala(items).toList());
    }

    private static Object held(Object result) {
        return result instanceof Val value
                ? Size.beyond(value).<Object>map(ValError::new).orElse(result)
                : result;
    }

    @Override
    public scala.collection.immutable.List<ValFunction> getFunctions(String name) {
        Feel.checkTime();
        var known = functions.get(name);
        return known != null
                ? known
                : CollectionConverters.asScala(List.<ValFunction>of()).toList();
    }

    @Override
    public Iterable<String> functionNames() {
        return CollectionConverters.asScala(functions.keySet());
    }
}
