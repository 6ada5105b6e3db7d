package weft.core.entry;

import java.time.Clock;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import weft.core.value.Reading;
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
            switch (reader.read(column.kind(), draft.of(column.name()))) {
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
}
