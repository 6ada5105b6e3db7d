package weft.core.formula;

import java.util.Map;
import java.util.function.Supplier;
import org.camunda.feel.context.CustomContext;
import org.camunda.feel.context.FunctionProvider;
import org.camunda.feel.context.VariableProvider;
import scala.Option;
import scala.Some;
import scala.collection.Iterable;
import scala.jdk.javaapi.CollectionConverters;

/**
 * What a formula may name: values, some of which are looked up when they are asked for, and Weft's own functions, which come
 * before FEEL's of the same name.
 */
final class FormulaContext extends CustomContext {

    private static final FunctionProvider FUNCTIONS = new BoundedFunctions(new Feel.ExactNumbers());

    private final Map<String, Object> values;

    FormulaContext(Map<String, Object> values) {
        this.values = values;
    }

    @Override
    public VariableProvider variableProvider() {
        return new VariableProvider() {
            @Override
            public Option<Object> getVariable(String name) {
                var value = values.get(name);
                return values.containsKey(name)
                        ? new Some<>(value instanceof Supplier<?> later ? later.get() : value)
                        : Option.empty();
            }

            @Override
            public Iterable<String> keys() {
                return CollectionConverters.asScala(values.keySet());
            }
        };
    }

    @Override
    public FunctionProvider functionProvider() {
        return FUNCTIONS;
    }
}
