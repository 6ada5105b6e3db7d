package weft.core.entry;

import java.util.ArrayList;
import java.util.List;
import weft.core.entry.draft.Draft;
import weft.core.entry.plan.EntryPlan;
import weft.core.record.StoredRow;
import weft.core.record.StoredRows;
import weft.core.table.Table;

/**
 * Assesses many new entries as one: each as if it stood alone, and then against the lines before it, which it must not
 * collide with any more than with what is stored. What is asked of stored rows for one line is not asked again for another.
 */
public final class Batch {

    private final EntryEngine engine;

    /** With that engine. */
    public Batch(EntryEngine engine) {
        this.engine = engine;
    }

    /**
     * What is to be said of each line now, in their order. Nothing is written. Lines may be looked at several at once, unless a
     * formula asks for the entry before, which is the line above.
     *
     * @param seen what of the table whoever enters may be told of
     */
    public List<Assessment> assess(EntryPlan plan, Table seen, List<Draft> lines, StoredRows stored) {
        var remembered = new RememberedRows(stored);
        var alone = plan.looksBack()
                ? oneAfterAnother(plan, lines, remembered)
                : lines.parallelStream()
                        .map(line -> engine.assess(plan, line, remembered))
                        .toList();
        if (LinesBefore.nothingToKeep(plan.table())) {
            return alone;
        }
        var before = new LinesBefore(plan.table(), seen, remembered);
        var all = new ArrayList<Assessment>();
        for (int line = 0; line < lines.size(); line++) {
            var assessment = alone.get(line);
            if (before.collides(assessment.values())) {
                assessment = engine.assess(plan, seeing(lines.get(line), line, all), before);
            }
            all.add(assessment);
            before.learn(StoredRow.line(line + 1, assessment.values()));
        }
        return all;
    }

    private List<Assessment> oneAfterAnother(EntryPlan plan, List<Draft> lines, StoredRows stored) {
        var all = new ArrayList<Assessment>();
        for (int line = 0; line < lines.size(); line++) {
            all.add(engine.assess(plan, seeing(lines.get(line), line, all), stored));
        }
        return all;
    }

    /** The draft of a line, whose entry before is the line above; that of the first one is what it was. */
    private static Draft seeing(Draft draft, int line, List<Assessment> above) {
        if (line == 0) {
            return draft;
        }
        return draft.after(above.get(line - 1).values());
    }
}
