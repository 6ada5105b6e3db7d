package weft.store.entry;

import java.util.Map;
import java.util.Optional;
import weft.core.record.StoredRow;

/** Lines of an entry are not what was seen: somebody else changed or removed them. Nothing was written. */
public final class LinesStale extends RuntimeException {

    private final transient Map<String, Map<Integer, Optional<StoredRow>>> lines;

    LinesStale(Map<String, Map<Integer, Optional<StoredRow>>> lines) {
        super("stale lines", null, false, false);
        this.lines = lines;
    }

    /** By the id of the form's lines and the number of the line: the record as it is now; empty when it is gone. */
    public Map<String, Map<Integer, Optional<StoredRow>>> lines() {
        return lines;
    }
}
