package weft.core.entry;

import java.time.Clock;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import weft.core.value.Reading;
import weft.core.value.Typed;
import weft.core.value.Value;
import weft.core.value.ValueReader;

/** Assesses drafts: reads what was typed, then checks it. The same assessment answers while one types and decides at the save. */
public final class EntryEngine {

    private final Clock clock;

    /** An engine on this clock, in whose zone "today" is found. */
    public EntryEngine(Clock clock) {
        this.clock = clock;
    }

    /** What is to be said of the draft now. Nothing is written. */
    public Assessment assess(EntryPlan plan, Draft draft, StoredRows stored) {
        var reader = new ValueReader(plan.conventions(), LocalDateTime.now(clock));
        var values = new LinkedHashMap<String, Value>();
        var readings = new LinkedHashMap<String, String>();
        var findings = new ArrayList<Finding>();
        for (var tied : plan.tied()) {
            var column = tied.column();
            if (!draft.fresh() && !tied.field().open()) {
                continue;
            }
            switch (reader.read(column.kind(), typed(tied, draft))) {
                case Reading.Read(var value, var readBack) -> {
                    values.put(column.name(), value);
                    if (!readBack.isEmpty()) {
                        readings.put(column.name(), readBack);
                    }
                    Checks.of(tied, value, draft, stored).ifPresent(findings::add);
                }
                case Reading.Refused(var reason, var message) ->
                    findings.add(Finding.stop(column.name(), Finding.Code.valueOf(reason.name()), message));
            }
        }
        return new Assessment(values, readings, new Findings(findings));
    }

    /**
     * What stands in a field: what was typed, or what new entries begin with. Where nobody may type, nothing counts but that,
     * and what stays of the last entry.
     */
    private static Typed typed(EntryPlan.Tied tied, Draft draft) {
        var column = tied.column().name();
        var start = tied.field().start();
        boolean typed = draft.says(column) && (tied.field().open() || start.carried());
        return typed || !draft.fresh() ? draft.of(column) : new Typed.Keyed(start.value());
    }
}
