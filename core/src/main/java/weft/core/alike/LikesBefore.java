package weft.core.alike;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import weft.core.record.StoredRow;
import weft.core.table.Column;
import weft.core.value.Value;

/** Records in memory, found again by what may be nearly the same in some columns, without a look at each. */
public final class LikesBefore {

    private final List<StoredRow> all = new ArrayList<>();
    private final Map<Compared, Marked> found = new HashMap<>();

    /** By what records are found: a column, and whether by its sound too. */
    private record Compared(String column, boolean sound) {}

    /** The records by what they have in common with those that are near; those from {@code known} on are not in it yet. */
    private static final class Marked {
        private final Map<String, List<StoredRow>> by = new HashMap<>();
        private int known;
    }

    /** One more. */
    public void learn(StoredRow record) {
        all.add(record);
    }

    /** Those that may be nearly the same in all of these columns: that are so in the first of words, or else in the first. */
    public List<StoredRow> near(List<Column> columns, Map<String, Value> values, boolean sound) {
        var column = columns.stream()
                .map(Column::name)
                .filter(name -> values.get(name) instanceof Value.Text)
                .findFirst()
                .orElse(columns.getFirst().name());
        var known = found.computeIfAbsent(new Compared(column, sound), _ -> new Marked());
        for (; known.known < all.size(); known.known++) {
            var record = all.get(known.known);
            marks(record.of(column), sound)
                    .forEach(mark -> known.by
                            .computeIfAbsent(mark, _ -> new ArrayList<>())
                            .add(record));
        }
        var near = new LinkedHashSet<StoredRow>();
        around(values.getOrDefault(column, Value.EMPTY), sound)
                .forEach(mark -> near.addAll(known.by.getOrDefault(mark, List.of())));
        return List.copyOf(near);
    }

    /** What a value is found by. */
    private static Set<String> marks(Value value, boolean sound) {
        return value instanceof Value.Text(var text)
                ? heard(Words.of(text), Words.of(text).own().all(), sound)
                : Set.of(Near.spelled(value));
    }

    /** What those are found by that are near it. */
    private static Set<String> around(Value value, boolean sound) {
        return value instanceof Value.Text(var text)
                ? heard(Words.of(text), Words.of(text).around().all(), sound)
                : Near.around(value).stream().map(Near::spelled).collect(Collectors.toSet());
    }

    private static Set<String> heard(Words words, Set<String> marks, boolean sound) {
        if (!sound) {
            return marks;
        }
        var all = new HashSet<>(marks);
        all.add("~" + words.sounds());
        return all;
    }
}
