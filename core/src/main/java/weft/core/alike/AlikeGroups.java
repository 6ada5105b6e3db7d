package weft.core.alike;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeSet;

/** Records of which each is nearly the same as another of its group. */
public final class AlikeGroups {

    private final Map<Long, Long> leads = new HashMap<>();
    private final List<Pair> pairs = new ArrayList<>();

    /**
     * Two records that are nearly the same.
     *
     * @param slips in how many columns they are not the same
     * @param why what is between them, in words
     */
    public record Pair(long one, long other, int slips, String why) {}

    /**
     * Records that belong together.
     *
     * @param records their identities, the lowest first
     * @param slips of the nearest two
     * @param why what is between those
     */
    public record Group(List<Long> records, int slips, String why) {
        public Group {
            records = List.copyOf(records);
        }
    }

    /** Takes two in. */
    public void join(Pair pair) {
        pairs.add(pair);
        long one = leader(pair.one());
        long other = leader(pair.other());
        leads.put(Math.max(one, other), Math.min(one, other));
    }

    /** How many pairs there are. */
    public int pairs() {
        return pairs.size();
    }

    /** Every group: the nearest first, then the larger ones, then by their records. */
    public List<Group> worstFirst() {
        var records = new HashMap<Long, TreeSet<Long>>();
        var nearest = new HashMap<Long, Pair>();
        for (var pair : pairs) {
            long leader = leader(pair.one());
            var group = records.computeIfAbsent(leader, _ -> new TreeSet<>());
            group.add(pair.one());
            group.add(pair.other());
            nearest.merge(leader, pair, (before, now) -> now.slips() < before.slips() ? now : before);
        }
        return records.entrySet().stream()
                .map(each -> {
                    var pair = Objects.requireNonNull(nearest.get(each.getKey()));
                    return new Group(List.copyOf(each.getValue()), pair.slips(), pair.why());
                })
                .sorted(Comparator.comparingInt(Group::slips)
                        .thenComparing(group -> -group.records().size())
                        .thenComparing(group -> group.records().getFirst()))
                .toList();
    }

    /** The lowest record of its group. */
    private long leader(long record) {
        long at = record;
        for (Long next; (next = leads.get(at)) != null && next != at; ) {
            at = next;
        }
        if (at != record) {
            leads.put(record, at);
        }
        return at;
    }
}
