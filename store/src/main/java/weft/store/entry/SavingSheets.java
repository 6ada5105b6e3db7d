package weft.store.entry;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import weft.core.entry.Assessment;
import weft.core.entry.EntryEngine;
import weft.core.entry.Sheet;
import weft.core.entry.Sheets;
import weft.core.entry.draft.Draft;
import weft.core.entry.plan.LinesPlan;
import weft.core.entry.step.Write;
import weft.core.record.StoredRow;
import weft.core.value.Typed;
import weft.core.value.Value;
import weft.store.entry.Sent.SentLine;
import weft.store.form.Definitions;
import weft.store.form.ReadyForm;
import weft.store.form.ShownForm;
import weft.store.record.Belonging;
import weft.store.record.Following;
import weft.store.record.Following.Followed;
import weft.store.record.History;
import weft.store.record.NotSaved;
import weft.store.record.Records;
import weft.store.record.Stale;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;

/** Saves entries together with their lines: all of it or nothing. */
public final class SavingSheets {

    private final EntryEngine engine;
    private final Sheets sheets;
    private final Saving saving;
    private final Records records;
    private final History history;
    private final Definitions definitions;

    /** With these parts of the house. */
    public SavingSheets(EntryEngine engine, Saving saving, Records records, History history, Definitions definitions) {
        this.engine = engine;
        this.sheets = new Sheets(engine);
        this.saving = saving;
        this.records = records;
        this.history = history;
        this.definitions = definitions;
    }

    /** The same, which asks those of stored rows. */
    SavingSheets asking(Records others) {
        return new SavingSheets(engine, saving.asking(others), others, history, definitions);
    }

    /** What lines a record has, of every kind that the form has. */
    Set<Long> lineIds(ReadyForm form, long record) {
        return form.plan().lines().stream()
                .flatMap(plan -> stored(plan, record).stream())
                .map(StoredRow::id)
                .collect(Collectors.toUnmodifiableSet());
    }

    /** The change with those of its record's lines that are not among these, as they are stored: each is looked at as a line that is sent. */
    Sent withLinesBut(Sent sent, Set<Long> others) {
        var lines = new LinkedHashMap<String, List<SentLine>>();
        for (var plan : sent.form().plan().lines()) {
            var rows = stored(plan, sent.draft().record().orElseThrow()).stream()
                    .filter(row -> !others.contains(row.id()))
                    .toList();
            var each = new ArrayList<SentLine>();
            for (var row : rows) {
                var typed = new LinkedHashMap<String, Typed>();
                shown(plan, row.values())
                        .forEach((column, value) ->
                                typed.put(column, value.isEmpty() ? Typed.NOTHING : new Typed.Given(value)));
                each.add(new SentLine(
                        each.size() + 1, typed, OptionalLong.of(row.id()), row.version(), false, Map.of(), Map.of()));
            }
            lines.put(plan.item().id(), each);
        }
        return sent.lined(lines);
    }

    /** The lines of a record, by the id of the form's lines, each by row, with the columns that the form has. */
    public Map<String, List<StoredRow>> lines(ShownForm form, long record) {
        var lines = new LinkedHashMap<String, List<StoredRow>>();
        form.plan()
                .lines()
                .forEach(plan -> lines.put(
                        plan.item().id(),
                        stored(plan, record).stream()
                                .map(row -> shown(plan, row))
                                .toList()));
        return lines;
    }

    /** What of a line is on the form; the record that it is of goes without saying, and not by every door is all of it said. */
    private static StoredRow shown(LinesPlan plan, StoredRow row) {
        return new StoredRow(row.id(), row.row(), row.version(), shown(plan, row.values()));
    }

    private static <T> Map<String, T> shown(LinesPlan plan, Map<String, T> values) {
        var shown = new LinkedHashMap<String, T>();
        plan.plan().columns().forEach(column -> {
            var value = values.get(column.name());
            if (value != null && !column.equals(plan.by())) {
                shown.put(column.name(), value);
            }
        });
        return shown;
    }

    /**
     * A change of a line.
     *
     * @param lines the id of the form's lines
     * @param row the row that it has or had
     */
    public record LineChange(String lines, long row, History.Entry change) {}

    /** What became of the lines of a record that belong to it, the latest first; so many at most of each kind. */
    public List<LineChange> history(ShownForm form, long record, int most) {
        return form.plan().lines().stream()
                .filter(plan -> plan.item().belong())
                .flatMap(plan -> history.ofLines(new Belonging(table(plan), plan.by()), record, most).stream()
                        .map(line -> new LineChange(
                                plan.item().id(),
                                line.row(),
                                line.change()
                                        .of(
                                                line.change().before().map(state -> shown(plan, state)),
                                                line.change().after().map(state -> shown(plan, state))))))
                .toList();
    }

    /** What is removed and put back with a record of that form. */
    public List<Belonging> belonging(ReadyForm form) {
        return form.plan().lines().stream()
                .filter(plan -> plan.item().belong())
                .map(plan -> new Belonging(table(plan), plan.by()))
                .toList();
    }

    private List<StoredRow> stored(LinesPlan plan, long record) {
        return records.linkingTo(table(plan), plan.by(), record);
    }

    private StoredTable table(LinesPlan plan) {
        return definitions.table(plan.plan().table().name()).orElseThrow();
    }

    /** What is to be said of an entry and its lines now. Nothing is written. */
    public Sheet assess(Sent sent) {
        return said(sent, looked(sent));
    }

    /** What is to be said of a single line by itself. */
    public Assessment assessLine(LinesPlan plan, Draft line) {
        return engine.assess(plan.plan(), line, records.rowsOf(table(plan), definitions));
    }

    /**
     * Presses a button that has steps; where they save, the lines are saved with the entry.
     *
     * @throws Stopped as a save does
     */
    public Saving.Pressed press(Sent sent, String button) {
        return saving.press(sent, button, this::save);
    }

    /** Lines as they are sent, held against those that are stored. */
    private record SeenLines(Map<String, Sheet.Lines> lines, Map<String, Map<Integer, Optional<StoredRow>>> stale) {

        Sheet.Lines of(LinesPlan plan) {
            return lines.getOrDefault(plan.item().id(), Sheet.Lines.NONE);
        }
    }

    private SeenLines looked(Sent sent) {
        var lines = new LinkedHashMap<String, Sheet.Lines>();
        var stale = new LinkedHashMap<String, Map<Integer, Optional<StoredRow>>>();
        for (var plan : sent.form().plan().lines()) {
            var id = plan.item().id();
            var stored = new LinkedHashMap<Long, StoredRow>();
            sent.draft().record().ifPresent(record -> stored(plan, record).forEach(row -> stored.put(row.id(), row)));
            var each = new TreeMap<Integer, Sheet.Line>();
            var changed = new TreeMap<Integer, Optional<StoredRow>>();
            for (var line : sent.lines().getOrDefault(id, List.of())) {
                var row = line.record().isPresent()
                        ? Optional.ofNullable(stored.remove(line.record().getAsLong()))
                        : Optional.<StoredRow>empty();
                if (line.record().isPresent()
                        && row.filter(now -> now.version() == line.version()).isEmpty()) {
                    changed.put(line.number(), row.map(now -> shown(plan, now)));
                }
                each.put(line.number(), new Sheet.Line(line.typed(), row, line.gone(), line.chosen(), line.seen()));
            }
            lines.put(id, new Sheet.Lines(each, List.copyOf(stored.values())));
            if (!changed.isEmpty()) {
                stale.put(id, changed);
            }
        }
        return new SeenLines(lines, stale);
    }

    private Sheet said(Sent sent, SeenLines looked) {
        var form = sent.form();
        long row = sent.draft().record().isPresent()
                ? records.find(
                                SeenTable.all(form.table()),
                                sent.draft().record().getAsLong())
                        .map(StoredRow::row)
                        .orElse(0L)
                : 0;
        return sheets.assess(
                form.plan(),
                sent.draft(),
                row,
                looked.lines(),
                saving.rows(form),
                plan -> records.rowsOf(table(plan), definitions));
    }

    /**
     * Saves an entry with its lines, new or changed.
     *
     * @throws Stopped when something is in the way of the entry or of a line
     * @throws LinesStale when lines are not what was seen
     * @throws Stale when the record that it changes is not what was seen
     * @throws NotSaved when its key was used for another entry
     */
    public Saving.Saved save(Sent sent) {
        return save(sent, sent.place());
    }

    private Saving.Saved save(Sent sent, String place) {
        if (sent.form().plan().lines().isEmpty()) {
            return saving.save(sent, place);
        }
        return saving.once(sent, Saving.Saved::before, () -> withLines(sent, place));
    }

    private Saving.Saved withLines(Sent sent, String place) {
        var looked = looked(sent);
        if (!looked.stale().isEmpty()) {
            throw new LinesStale(looked.stale());
        }
        var sheet = said(sent, looked);
        if (!sheet.clear()) {
            throw new Stopped(sheet);
        }
        try {
            return saving.save(sent, sheet.entry(), place, lines(sent, looked, sheet));
        } catch (Stale e) {
            // Of a line: somebody changed it in this moment.
            throw e.table() == sent.form().table().id()
                    ? e
                    : new LinesStale(looked(sent).stale());
        } catch (Stopped e) {
            // What was lost in a race is there to be seen now.
            var again = said(sent, looked(sent));
            throw again.clear() ? e : new Stopped(again);
        }
    }

    private Following lines(Sent sent, SeenLines looked, Sheet sheet) {
        var plans = sent.form().plan().lines().stream()
                .filter(plan -> !looked.of(plan).sent().isEmpty())
                .toList();
        if (plans.isEmpty()) {
            return Following.NOTHING;
        }
        return Following.of(
                        plans.stream().map(plan -> plan.plan().table().name()).collect(Collectors.toUnmodifiableSet()),
                        (written, _) -> new Followed(
                                plans.stream()
                                        .flatMap(plan -> writes(
                                                plan,
                                                written,
                                                looked.of(plan),
                                                sheet.of(plan.item().id())))
                                        .toList(),
                                List.of()))
                .belonging(plans.stream()
                        .filter(plan -> plan.item().belong())
                        .map(plan -> plan.plan().table().name())
                        .collect(Collectors.toUnmodifiableSet()));
    }

    /** First what is taken out, so that its values are free for others; new lines last, in one block. */
    private static Stream<Write> writes(LinesPlan plan, StoredRow entry, Sheet.Lines lines, Sheet.Assessed said) {
        var table = plan.plan().table().name();
        var link = new Value.Link(
                entry.id(), entry.row(), plan.by().link().orElseThrow().words(entry.row(), entry.values()));
        var gone = new ArrayList<Write>();
        var changed = new ArrayList<Write>();
        var added = new ArrayList<Map<String, Value>>();
        lines.sent().forEach((number, line) -> {
            if (line.gone()) {
                line.stored().ifPresent(row -> gone.add(new Write.Remove(table, row.id(), row.version(), row.row())));
                return;
            }
            var values = new LinkedHashMap<>(said.of(number).values());
            values.put(plan.by().name(), link);
            if (line.stored().isEmpty()) {
                added.add(values);
            } else if (values.entrySet().stream()
                    .anyMatch(each -> !line.stored().get().of(each.getKey()).equals(each.getValue()))) {
                var row = line.stored().get();
                changed.add(new Write.Change(table, row.id(), row.version(), row.row(), values));
            }
        });
        return Stream.of(
                        gone.stream(),
                        changed.stream(),
                        added.isEmpty() ? Stream.<Write>empty() : Stream.<Write>of(new Write.AddAll(table, added)))
                .flatMap(each -> each);
    }
}
