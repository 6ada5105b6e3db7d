package weft.core.alike;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import weft.core.record.StoredRow;
import weft.core.table.Column;
import weft.core.value.Value;

/** Records in memory, found again by what may be nearly the same in some columns, without a look at each. */
public final class LikesBefore {

    private final List<StoredRow> all = new ArrayList<>();
    private final Map<Compared, Index> found = new HashMap<>();

    /** By what records are compared: columns, and whether by their sound too. */
    private record Compared(List<Column> columns, boolean sound) {}

    /** The records by the keys that they have; those from {@code many} on are not in it yet. */
    private static final class Index {
        private final AlikeKeys keys;
        private final Map<Long, List<StoredRow>> byKey = new HashMap<>();
        private int many;

        Index(AlikeKeys keys) {
            this.keys = keys;
        }
    }

    /** One more. */
    public void learn(StoredRow record) {
        all.add(record);
    }

    /** Those that may be nearly the same in all of these columns. */
    public List<StoredRow> near(List<Column> columns, Map<String, Value> values, boolean sound) {
        var known =
                found.computeIfAbsent(new Compared(columns, sound), _ -> new Index(AlikeKeys.of(columns, sound, all)));
        for (; known.many < all.size(); known.many++) {
            var record = all.get(known.many);
            for (long key : known.keys.own(record.values())) {
                known.byKey.computeIfAbsent(key, _ -> new ArrayList<>()).add(record);
            }
        }
        var near = new LinkedHashSet<StoredRow>();
        for (long key : known.keys.around(values)) {
            near.addAll(known.byKey.getOrDefault(key, List.of()));
        }
        return List.copyOf(near);
    }
}
