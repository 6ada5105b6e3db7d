package weft.core.entry.check;

import java.util.ArrayList;
import java.util.stream.Collectors;
import weft.core.entry.draft.Finding;
import weft.core.entry.draft.Finding.Code;
import weft.core.entry.plan.EntryPlan;
import weft.core.record.StoredRow;
import weft.core.table.Constraint;
import weft.core.table.Constraint.NoOverlap;
import weft.core.value.Value;

/** What is said of an entry that collides with a stored record. It stands at the last field of those concerned. */
final class Collision {

    private Collision() {}

    /** The record has the same values. */
    static Finding unique(EntryPlan plan, Constraint.Unique unique, StoredRow row) {
        return finding(
                plan,
                unique,
                Code.UNIQUE,
                row.equals(StoredRow.UNSEEN)
                        ? "Another record has the same already."
                        : "%s already has %s.".formatted(row.called(), spoken(unique, row)));
    }

    /** The record's time overlaps. */
    static Finding overlap(EntryPlan plan, NoOverlap overlap, StoredRow row) {
        var same =
                overlap.same().stream().map(column -> row.of(column).spoken()).collect(Collectors.joining(", "));
        return finding(
                plan,
                overlap,
                Code.OVERLAP,
                row.equals(StoredRow.UNSEEN)
                        ? "Another record has some of this time already."
                        : "%s already has %s from %s to %s."
                                .formatted(
                                        row.called(),
                                        same.isEmpty() ? "something" : same,
                                        row.of(overlap.from()).spoken(),
                                        row.of(overlap.to()).spoken()));
    }

    /** It ends before it begins. */
    static Finding backwards(EntryPlan plan, NoOverlap overlap) {
        var from = plan.table().column(overlap.from()).orElseThrow();
        var to = plan.table().column(overlap.to()).orElseThrow();
        return new Finding(
                to.name(),
                Code.RANGE,
                Finding.Severity.STOP,
                "%s must be after %s.".formatted(plan.label(to), plan.label(from)),
                overlap.id());
    }

    private static Finding finding(EntryPlan plan, Constraint constraint, Code code, String words) {
        var columns = new ArrayList<>(constraint.columns());
        var field = columns.reversed().stream()
                .filter(column -> plan.takes(column).isPresent())
                .findFirst()
                .orElse(columns.getFirst());
        var said = constraint.message().isBlank() ? words : constraint.message() + " " + words;
        return new Finding(field, code, Finding.Severity.STOP, said, constraint.id());
    }

    private static String spoken(Constraint.Unique unique, StoredRow row) {
        var words = new StringBuilder();
        for (var column : unique.columns()) {
            var value = row.of(column);
            // The record in the form, which a line links to, goes without saying.
            if (value.spoken().isEmpty()) {
                continue;
            }
            words.append(
                            words.isEmpty()
                                    ? ""
                                    : value instanceof Value.Hour || value instanceof Value.Moment
                                            ? " at "
                                            : value instanceof Value.Day ? " on " : ", ")
                    .append(value.spoken());
        }
        return words.toString();
    }
}
