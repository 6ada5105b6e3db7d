package weft.core.formula;

import java.math.BigDecimal;
import java.util.AbstractMap;
import java.util.Collections;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import weft.core.value.Value;

/**
 * A link as formulas know it: the values of its record by name, so that {@code sample.taken_on} is one of them. The record is
 * looked up when the first of them is asked for. By itself it stands for the link.
 */
final class LinkedRecord extends AbstractMap<String, Object> {

    /** The names, which no column has, under which the link itself is among the values. */
    private static final String ID = "_id";

    private static final String ROW = "_row";
    private static final String SHOWN = "_shown";

    private final Value.Link link;
    private final Supplier<Map<String, Value>> record;
    private @Nullable Map<String, Object> values;

    LinkedRecord(Value.Link link, Supplier<Map<String, Value>> record) {
        this.link = link;
        this.record = record;
    }

    /** The link that values by name stand for, or empty when they stand for none. */
    static Optional<Value.Link> link(Map<?, ?> values) {
        return values.get(ID) instanceof BigDecimal id
                        && values.get(ROW) instanceof BigDecimal row
                        && values.get(SHOWN) instanceof String shown
                ? Optional.of(new Value.Link(id.longValue(), row.longValue(), shown))
                : Optional.empty();
    }

    @Override
    public Set<Map.Entry<String, Object>> entrySet() {
        var known = values;
        if (known == null) {
            var made = new HashMap<String, Object>();
            // What the record links to in turn is its words: paths are one step deep.
            record.get()
                    .forEach((name, value) ->
                            made.put(name, value instanceof Value.Link ? value.spoken() : Feel.known(value)));
            made.put(ID, BigDecimal.valueOf(link.id()));
            made.put(ROW, BigDecimal.valueOf(link.row()));
            made.put(SHOWN, link.shown());
            known = Collections.unmodifiableMap(made);
            values = known;
        }
        return known.entrySet();
    }
}
