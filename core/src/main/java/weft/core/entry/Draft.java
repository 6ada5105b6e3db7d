package weft.core.entry;

import java.util.Map;
import java.util.OptionalLong;
import weft.core.value.Typed;

/**
 * An entry as it stands while it is typed.
 *
 * @param typed what is in each field, by column name; a column left out has nothing typed
 * @param record the identity of the stored record that it changes; empty for a new entry
 */
public record Draft(Map<String, Typed> typed, OptionalLong record) {

    public Draft {
        typed = Map.copyOf(typed);
    }

    /** Whether anything was said of that column, be it that nothing is in it. */
    boolean says(String column) {
        return typed.containsKey(column);
    }

    /** Whether it is a new entry. */
    boolean fresh() {
        return record.isEmpty();
    }

    /** What is typed for that column. */
    Typed of(String column) {
        return typed.getOrDefault(column, Typed.NOTHING);
    }
}
