package weft.core.entry.draft;

import java.util.Comparator;
import java.util.Iterator;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;

/** All findings on an entry, in the order in which they are told. */
public record Findings(List<Finding> all) implements Iterable<Finding> {

    /** Nothing to be said. */
    public static final Findings NONE = new Findings(List.of());

    public Findings {
        all = List.copyOf(all);
    }

    /** The one finding. */
    public static Findings of(Finding only) {
        return new Findings(List.of(only));
    }

    /** Whether there is nothing to be said. */
    public boolean none() {
        return all.isEmpty();
    }

    /** Whether one of them stops the save. */
    public boolean stop() {
        return all.stream().anyMatch(Finding::stops);
    }

    /** The columns that something is said of. */
    public Set<String> fields() {
        return all.stream().map(Finding::field).collect(Collectors.toUnmodifiableSet());
    }

    /** Those that are still in the way of a draft: not what was asked and answered with yes. */
    public Findings open(Draft draft) {
        return new Findings(all.stream()
                .filter(finding -> finding.stops() || !draft.answered(finding))
                .toList());
    }

    /** The same in the order of those columns; what is of none of them comes last. */
    public Findings inOrder(List<String> columns) {
        return new Findings(all.stream()
                .sorted(Comparator.comparingInt(finding -> {
                    int at = columns.indexOf(finding.field());
                    return at < 0 ? columns.size() : at;
                }))
                .toList());
    }

    @Override
    public Iterator<Finding> iterator() {
        return all.iterator();
    }
}
