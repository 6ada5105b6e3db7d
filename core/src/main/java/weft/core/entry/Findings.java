package weft.core.entry;

import java.util.Iterator;
import java.util.List;

/** All findings on an entry, in tab order. */
public record Findings(List<Finding> all) implements Iterable<Finding> {

    public Findings {
        all = List.copyOf(all);
    }

    /** Whether one of them stops the save. */
    public boolean stop() {
        return all.stream().anyMatch(finding -> finding.severity() == Finding.Severity.STOP);
    }

    @Override
    public Iterator<Finding> iterator() {
        return all.iterator();
    }
}
