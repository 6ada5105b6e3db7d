package weft.store.entry;

import java.time.Clock;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.stream.Stream;
import weft.core.entry.Assessment;
import weft.core.entry.Batch;
import weft.core.entry.EntryEngine;
import weft.core.entry.draft.Cause;
import weft.core.entry.draft.Draft;
import weft.core.entry.draft.Finding;
import weft.core.entry.draft.Findings;
import weft.core.formula.Formula;
import weft.core.record.RememberedRows;
import weft.core.record.StoredRow;
import weft.core.record.StoredRows;
import weft.core.table.Column;
import weft.core.table.Faults;
import weft.core.value.Reading;
import weft.core.value.Typed;
import weft.core.value.Value;
import weft.core.value.ValueReader;
import weft.store.Attempts;
import weft.store.door.Ways.Way;
import weft.store.form.ReadyForm;
import weft.store.record.EntryWriter;
import weft.store.record.NotSaved;
import weft.store.record.Records;
import weft.store.record.Stale;
import weft.store.table.SeenTable;

/** Changes many records as one, by the rules that hold for each of them alone. */
public final class ChangingMany {

    private final Batch batch;
    private final Saving saving;
    private final EntryWriter writer;
    private final Records records;
    private final Clock clock;

    /** Each record goes the way of a single change. */
    public ChangingMany(EntryEngine engine, Saving saving, EntryWriter writer, Records records, Clock clock) {
        this.batch = new Batch(engine);
        this.saving = saving;
        this.writer = writer;
        this.records = records;
        this.clock = clock;
    }

    /** A record that is to be changed: its row, and the change as it would be sent alone. */
    private record Wanted(long row, Sent sent) {}

    /**
     * What a field is set to: what is typed, or what a formula comes to for each record.
     *
     * @param column the field's
     */
    public record Setting(Column column, Optional<String> typed, Optional<String> formula) {}

    /**
     * What fields of a form by a door are set to: to what is typed or to a formula, one of the two, which may speak of what the
     * door shows only.
     *
     * @throws Faults naming each place where one cannot be set so
     */
    public static Setting setting(Way door, String name, Optional<String> typed, Optional<String> formula) {
        var plan = door.shown().plan();
        var where = "set." + name;
        var column =
                plan.takes(name).orElseThrow(() -> new Faults(where, "This form has no field for “" + name + "”."));
        if (typed.isPresent() == formula.isPresent()) {
            throw new Faults(where, "A field is set to what is typed or to a formula: one of the two.");
        }
        formula.ifPresent(text -> {
            try {
                plan.formulaFromOutside(text);
            } catch (Formula.Misread misread) {
                throw new Faults(where, misread.sentence());
            }
        });
        var node = plan.node(column).orElseThrow();
        if (!node.field().open() || node.numbered()) {
            throw new Faults(where, plan.label(column) + " cannot be changed by this door.");
        }
        return new Setting(column, typed, formula);
    }

    /** A record that changes: its row, and the columns that do, before and after. */
    public record ChangedRow(long row, Map<String, Value> before, Map<String, Value> after) {}

    /** A record that stays as it is, since something is in the way. */
    public record Left(long row, Findings findings) {}

    /**
     * What a change of many comes to.
     *
     * @param id by which it can be taken back; empty when nothing was written
     */
    public record ManyChanged(OptionalLong id, List<ChangedRow> changes, List<Left> left) {}

    private record Ready(Wanted wanted, ChangedRow change, EntryWriter.WholeEntry part) {}

    /**
     * Sets fields of many records: of those that nothing is in the way of, in one transaction; the others stay as they are.
     *
     * @param meant the records, of those in view
     * @param keeps whether anything is written; else it is only said what would be
     * @throws Stale when somebody changed one of them meanwhile; nothing is changed then
     */
    public ManyChanged set(Way door, List<StoredRow> meant, List<Setting> settings, boolean keeps) {
        var left = new ArrayList<Left>();
        var wanted = new ArrayList<Wanted>();
        var rows = RememberedRows.asLinksShow(saving.rows(door.saving()));
        for (var record : meant) {
            wanted(door, record, settings, rows, left).ifPresent(wanted::add);
        }
        if (wanted.isEmpty()) {
            return new ManyChanged(OptionalLong.empty(), List.of(), left);
        }
        var outcome = keeps ? change(wanted) : rehearse(wanted);
        return new ManyChanged(
                outcome.id(),
                outcome.changes(),
                Stream.concat(left.stream(), outcome.left().stream()).toList());
    }

    /** The change of one record as it would be sent alone; none when it is gone by now, or when a formula cannot be followed. */
    private Optional<Wanted> wanted(
            Way door, StoredRow seen, List<Setting> settings, StoredRows rows, List<Left> left) {
        var form = door.saving();
        var whole = door.pass().door().isEverything()
                ? Optional.of(seen)
                : records.find(SeenTable.all(form.table()), seen.id());
        if (whole.isEmpty()) {
            return Optional.empty();
        }
        var stored = whole.get();
        var around = new Draft.Around(door.pass().called(), Map.of(), Map.of(), Map.of());
        var bare = new Draft(untyped(form, stored), OptionalLong.of(stored.id()), stored.values(), around);
        var reader = new ValueReader(form.form().conventions(), LocalDateTime.now(clock));
        var typed = new LinkedHashMap<>(bare.typed());
        for (var setting : settings) {
            var name = setting.column().name();
            if (setting.typed().isPresent()) {
                typed.put(name, new Typed.Keyed(setting.typed().get()));
                continue;
            }
            // A formula from outside knows what the door shows.
            switch (saving.answer(door.shown(), bare, setting.formula().orElseThrow(), rows)
                    .in(setting.column(), reader)) {
                case Reading.Read(var value, var _) -> typed.put(name, new Typed.Given(value));
                case Reading.Refused(var refusal) -> {
                    var cause = new Cause.NotWorkedOut(form.plan().label(setting.column()), refusal);
                    left.add(new Left(stored.row(), Findings.of(Finding.stop(name, cause))));
                    return Optional.empty();
                }
            }
        }
        var draft = new Draft(typed, bare.record(), bare.stored(), around);
        var sent = new Sent(form, draft, stored.version(), Optional.empty(), door.pass());
        return Optional.of(new Wanted(seen.row(), sent));
    }

    /** What stands in the fields of a record that nobody typed into. */
    private static Map<String, Typed> untyped(ReadyForm form, StoredRow stored) {
        var typed = new LinkedHashMap<String, Typed>();
        form.plan().columns().forEach(column -> {
            var value = stored.of(column.name());
            typed.put(column.name(), value.isEmpty() ? Typed.NOTHING : new Typed.Given(value));
        });
        return typed;
    }

    private ManyChanged rehearse(List<Wanted> wanted) {
        var left = new ArrayList<Left>();
        var ready = ready(wanted, left);
        return new ManyChanged(
                OptionalLong.empty(), ready.stream().map(Ready::change).toList(), left);
    }

    private ManyChanged change(List<Wanted> wanted) {
        try {
            // What was lost in a race is seen at the next try.
            return Attempts.of(() -> changed(wanted), e -> e instanceof NotSaved);
        } catch (NotSaved refused) {
            throw LastWord.stopped(
                    refused, wanted.getFirst().sent().form().table().definition());
        }
    }

    private ManyChanged changed(List<Wanted> wanted) {
        var left = new ArrayList<Left>();
        var ready = ready(wanted, left);
        if (ready.isEmpty()) {
            return new ManyChanged(OptionalLong.empty(), List.of(), left);
        }
        var changed = writer.changeAll(ready.stream().map(Ready::part).toList());
        return new ManyChanged(
                OptionalLong.of(changed.id()), ready.stream().map(Ready::change).toList(), left);
    }

    private List<Ready> ready(List<Wanted> wanted, List<Left> left) {
        var ready = new ArrayList<Ready>();
        var form = wanted.getFirst().sent().form();
        var drafts = wanted.stream().map(each -> each.sent().draft()).toList();
        var assessments = batch.eachAlone(form.plan(), drafts, saving.rows(form));
        for (int at = 0; at < wanted.size(); at++) {
            var each = wanted.get(at);
            var sent = each.sent();
            var assessment = assessments.get(at);
            var change = change(each, assessment);
            if (change.after().isEmpty()) {
                continue;
            }
            if (!assessment.findings().none()) {
                left.add(new Left(each.row(), assessment.findings()));
                continue;
            }
            try {
                ready.add(new Ready(each, change, saving.part(sent, assessment)));
            } catch (Stopped stopped) {
                left.add(new Left(each.row(), stopped.findings()));
            }
        }
        return ready;
    }

    private static ChangedRow change(Wanted wanted, Assessment assessment) {
        var stored = wanted.sent().draft().stored();
        var before = new LinkedHashMap<String, Value>();
        var after = new LinkedHashMap<String, Value>();
        assessment.values().forEach((column, value) -> {
            var was = stored.getOrDefault(column, Value.EMPTY);
            if (!was.equals(value)) {
                before.put(column, was);
                after.put(column, value);
            }
        });
        // What cannot be read changes nothing, and is told all the same.
        if (after.isEmpty() && assessment.findings().stop()) {
            assessment.findings().fields().forEach(column -> after.put(column, Value.EMPTY));
        }
        return new ChangedRow(wanted.row(), before, after);
    }
}
