package weft.core.entry;

import java.time.Clock;
import java.time.ZonedDateTime;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import weft.core.entry.draft.Draft;
import weft.core.entry.draft.Finding;
import weft.core.entry.draft.Known;
import weft.core.entry.draft.Trace;
import weft.core.entry.plan.EntryPlan;
import weft.core.entry.step.StepRun;
import weft.core.formula.Answer;
import weft.core.formula.Formula;
import weft.core.formula.Moment;
import weft.core.record.StoredRow;
import weft.core.record.StoredRows;
import weft.core.value.Value;

/**
 * Assesses drafts: reads what was typed, fills, defaults and calculates, then checks. The same assessment answers while one
 * types, at a rehearsal and at the save.
 */
public final class EntryEngine {

    private final Clock clock;

    /** An engine on this clock, in whose zone "today" is found. */
    public EntryEngine(Clock clock) {
        this.clock = clock;
    }

    /** What is to be said of the draft now. Nothing is written. */
    public Assessment assess(EntryPlan plan, Draft draft, StoredRows stored) {
        return assess(plan, draft, stored, Trace.none());
    }

    /** The same, taking down each stage. */
    public Assessment assess(EntryPlan plan, Draft draft, StoredRows stored, Trace trace) {
        return new Reckoning(plan, draft, stored, now(), trace).assessment();
    }

    /**
     * What the steps of that place come to.
     *
     * @param values of the entry as it stands, by every column
     * @param row its row number, or 0 before it has one
     */
    public StepRun.Outcome steps(
            EntryPlan plan,
            String when,
            Draft draft,
            Map<String, Value> values,
            long row,
            StoredRows stored,
            Trace trace) {
        var known = Known.of(plan.table(), draft, values, row, stored, now());
        return new StepRun(plan, draft, stored, known, trace).run(when);
    }

    /**
     * What a formula comes to for a draft.
     *
     * @throws Formula.Misread when it cannot be read, or names what there is not
     */
    public Answer answer(EntryPlan plan, Draft draft, StoredRows stored, String formula) {
        return new Reckoning(plan, draft, stored, now(), Trace.none()).answer(plan.formula(formula));
    }

    /** What the form's checks say of a stored record, which is not held against itself. */
    public List<Finding> broken(EntryPlan plan, StoredRow record, StoredRows stored) {
        var draft = new Draft(Map.of(), OptionalLong.of(record.id()), record.values(), Draft.Around.NOTHING);
        return new Reckoning(plan, draft, stored, now(), Trace.none()).checksAlone();
    }

    private Moment now() {
        return new Moment(ZonedDateTime.now(clock));
    }
}
