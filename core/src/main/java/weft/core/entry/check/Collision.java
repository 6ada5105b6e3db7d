package weft.core.entry.check;

import java.util.ArrayList;
import java.util.Optional;
import weft.core.entry.draft.Cause;
import weft.core.entry.draft.Finding;
import weft.core.entry.plan.EntryPlan;
import weft.core.record.StoredRow;
import weft.core.table.Constraint;
import weft.core.table.Constraint.NoOverlap;

/** What is said of an entry that collides with a stored record. It stands at the last field of those concerned. */
final class Collision {

    private Collision() {}

    /** The record has the same values. */
    static Finding unique(EntryPlan plan, Constraint.Unique unique, StoredRow row) {
        return finding(
                plan,
                unique,
                new Cause.Alike(
                        unique.message(),
                        called(row),
                        unique.columns().stream().map(row::of).toList()));
    }

    /** The record's time overlaps. */
    static Finding overlap(EntryPlan plan, NoOverlap overlap, StoredRow row) {
        return finding(
                plan,
                overlap,
                new Cause.Overlaps(
                        overlap.message(),
                        called(row),
                        overlap.same().stream().map(row::of).toList(),
                        row.of(overlap.from()),
                        row.of(overlap.to())));
    }

    /** It ends before it begins. */
    static Finding backwards(EntryPlan plan, NoOverlap overlap) {
        var from = plan.table().column(overlap.from()).orElseThrow();
        var to = plan.table().column(overlap.to()).orElseThrow();
        return Finding.of(to.name(), false, new Cause.Backwards(plan.label(to), plan.label(from)), overlap.id());
    }

    private static Optional<String> called(StoredRow row) {
        return Optional.of(row).filter(seen -> !seen.equals(StoredRow.UNSEEN)).map(StoredRow::called);
    }

    private static Finding finding(EntryPlan plan, Constraint constraint, Cause cause) {
        var columns = new ArrayList<>(constraint.columns());
        var field = columns.reversed().stream()
                .filter(column -> plan.takes(column).isPresent())
                .findFirst()
                .orElse(columns.getFirst());
        return Finding.of(field, false, cause, constraint.id());
    }
}
