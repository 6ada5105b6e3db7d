package weft.store.twice;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import org.jooq.JSONB;
import weft.core.table.Table;
import weft.core.twice.AtOnce;
import weft.core.twice.Comparison;
import weft.core.twice.Twice;
import weft.core.value.Value;
import weft.store.record.ValuesJson;

/** What was keyed a second time into fields where it differed, and which of it was keyed so twice. */
final class Tries {

    /** Before the name of a column: that its value was keyed so twice. No column's name begins so. */
    private static final String TWICE = "_twice ";

    private final Map<String, Value> keyed = new LinkedHashMap<>();

    Tries(JSONB json, Table table) {
        var marked = table.with(table.columns());
        var kept = ValuesJson.members(json.data());
        keyed.putAll(ValuesJson.held(kept, marked));
        kept.keySet().stream()
                .filter(name -> name.startsWith(TWICE))
                .forEach(name -> keyed.put(name, new Value.YesNo(true)));
    }

    /** Takes down what was keyed, and says what is told of it. */
    Compared keyed(String column, Value first, Value second, Twice.Texts texts) {
        var said = confirmed(column, second, texts)
                ? AtOnce.CHOOSE
                : AtOnce.of(first, Optional.ofNullable(keyed.get(column)), second, texts);
        if (Comparison.same(first, second, texts)) {
            said = AtOnce.SAME;
        }
        keyed.remove(TWICE + column);
        if (said == AtOnce.SAME) {
            keyed.remove(column);
        } else {
            keyed.put(column, second);
        }
        if (said == AtOnce.CHOOSE) {
            keyed.put(TWICE + column, new Value.YesNo(true));
        }
        return Compared.of(said, first, second);
    }

    /** Whether that very value was keyed twice, so that both keyings are known to who keyed it. */
    boolean confirmed(String column, Value second, Twice.Texts texts) {
        return keyed.containsKey(TWICE + column)
                && Comparison.same(keyed.getOrDefault(column, Value.EMPTY), second, texts);
    }

    JSONB json() {
        return JSONB.valueOf(ValuesJson.write(keyed));
    }
}
