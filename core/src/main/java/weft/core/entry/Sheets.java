package weft.core.entry;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import weft.core.entry.Sheet.Assessed;
import weft.core.entry.Sheet.Line;
import weft.core.entry.Sheet.Lines;
import weft.core.entry.draft.Cause;
import weft.core.entry.draft.Draft;
import weft.core.entry.draft.Finding;
import weft.core.entry.draft.Findings;
import weft.core.entry.plan.EntryPlan;
import weft.core.entry.plan.LinesPlan;
import weft.core.record.StoredRow;
import weft.core.record.StoredRows;
import weft.core.table.Column;
import weft.core.value.Typed;
import weft.core.value.Value;

/**
 * Assesses an entry together with its lines: the lines as a batch of entries that link to it, which know what it holds, and
 * then the entry, whose formulas know what they hold.
 */
public final class Sheets {

    /** A record that is not stored yet, as its lines link to it; what is said of them need not name it. */
    private static final Value.Link NEW = new Value.Link(0, 0, "");

    private final EntryEngine engine;
    private final Batch batch;

    /** With that engine. */
    public Sheets(EntryEngine engine) {
        this.engine = engine;
        this.batch = new Batch(engine);
    }

    /**
     * What is to be said of all of it now. Nothing is written.
     *
     * @param row the row of the record that the draft changes, or 0
     * @param lines by the id of the form's lines
     * @param stored what may be asked of the entry's own table
     * @param ofLines what may be asked of the table of lines
     */
    public Sheet assess(
            EntryPlan plan,
            Draft draft,
            long row,
            Map<String, Lines> lines,
            StoredRows stored,
            Function<LinesPlan, StoredRows> ofLines) {
        var before = engine.assess(plan, draft.lined(values(plan, lines, Map.of())), stored);
        var entry = new HashMap<>(draft.stored());
        entry.putAll(before.values());
        var link = draft.record().isPresent() ? new Value.Link(draft.record().getAsLong(), row, "") : NEW;
        var parent = new StoredRow(link.id(), row, 0, entry);
        var said = new LinkedHashMap<String, Assessed>();
        for (var each : plan.lines()) {
            var sent = lines.getOrDefault(each.item().id(), Lines.NONE);
            var rows = new BesideLines(ofLines.apply(each), plan.table().name(), parent, own(sent));
            said.put(each.item().id(), said(each, draft, link, sent, rows));
        }
        var whole = engine.assess(plan, draft.lined(values(plan, lines, said)), stored);
        return new Sheet(whole, said);
    }

    private static Set<Long> own(Lines lines) {
        return lines.sent().values().stream()
                .flatMap(line -> line.stored().stream())
                .map(StoredRow::id)
                .collect(Collectors.toUnmodifiableSet());
    }

    private Assessed said(LinesPlan plan, Draft entry, Value.Link link, Lines lines, StoredRows stored) {
        var kept = lines.sent().entrySet().stream()
                .filter(each -> !each.getValue().gone())
                .toList();
        var drafts = kept.stream()
                .map(each -> draft(plan, entry, link, each.getValue()))
                .toList();
        var assessments = batch.assess(plan.plan(), plan.plan().table(), drafts, stored);
        var each = new LinkedHashMap<Integer, Assessment>();
        for (int at = 0; at < kept.size(); at++) {
            each.put(kept.get(at).getKey(), assessments.get(at));
        }
        alike(plan, lines, each);
        return new Assessed(each, whole(plan, lines.others().size() + kept.size()));
    }

    private static Draft draft(LinesPlan plan, Draft entry, Value.Link link, Line line) {
        var by = plan.by().name();
        var typed = new LinkedHashMap<>(line.typed());
        typed.put(by, new Typed.Given(link));
        var stored = new LinkedHashMap<String, Value>(
                line.stored().map(StoredRow::values).orElse(Map.of()));
        // It is this record whatever that is called, and need not be looked up.
        stored.put(by, link);
        return new Draft(
                typed,
                line.stored().map(row -> OptionalLong.of(row.id())).orElse(OptionalLong.empty()),
                stored,
                new Draft.Around(
                        entry.around().person(),
                        Map.of(),
                        line.chosen(),
                        entry.around().answers(),
                        line.seen()));
    }

    /** No two lines of a record may be alike in some columns; the later one is told. */
    private static void alike(LinesPlan plan, Lines lines, Map<Integer, Assessment> each) {
        var columns = plan.item().alike().stream()
                .flatMap(name -> plan.plan().table().column(name).stream())
                .toList();
        if (columns.isEmpty()) {
            return;
        }
        var first = new HashMap<List<String>, String>();
        lines.others().forEach(row -> spelled(columns, row.values()).forEach(key -> first.put(key, row.called())));
        each.replaceAll((number, assessment) -> {
            var key = spelled(columns, assessment.values()).findFirst();
            var there = key.map(first::get);
            if (there.isPresent() && assessment.findings().none()) {
                return assessment.finding(Finding.stop(
                        columns.getFirst().name(),
                        new Cause.LineAlike(
                                there.get(),
                                columns.stream()
                                        .map(column -> plan.plan().label(column))
                                        .toList())));
            }
            key.ifPresent(filled -> first.putIfAbsent(filled, "Line " + number));
            return assessment;
        });
    }

    /** What it is alike in, where none of that is empty. */
    private static Stream<List<String>> spelled(List<Column> columns, Map<String, Value> values) {
        var spelled = new ArrayList<String>();
        for (var column : columns) {
            var value = values.getOrDefault(column.name(), Value.EMPTY);
            if (value.isEmpty()) {
                return Stream.empty();
            }
            spelled.add(value instanceof Value.Link link ? Long.toString(link.id()) : value.plain());
        }
        return Stream.of(spelled);
    }

    private static Findings whole(LinesPlan plan, int many) {
        var item = plan.item();
        if (many < item.least()) {
            return Findings.of(Finding.stop("", new Cause.TooFewLines(item.label(), item.least(), many)));
        }
        if (item.most() > 0 && many > item.most()) {
            return Findings.of(Finding.stop("", new Cause.TooManyLines(item.label(), item.most(), many)));
        }
        return Findings.NONE;
    }

    /** By the id of lines: what each of them holds, as far as it is said; else as it is stored. */
    private static Map<String, List<Map<String, Value>>> values(
            EntryPlan plan, Map<String, Lines> lines, Map<String, Assessed> said) {
        var values = new LinkedHashMap<String, List<Map<String, Value>>>();
        for (var each : plan.lines()) {
            var id = each.item().id();
            var all = new ArrayList<Map<String, Value>>();
            var of = lines.getOrDefault(id, Lines.NONE);
            of.others().forEach(row -> all.add(whole(each, row.values())));
            if (said.containsKey(id)) {
                said.get(id).each().values().forEach(line -> all.add(whole(each, line.values())));
            }
            values.put(id, all);
        }
        return values;
    }

    /** Of every column something is known, be it that it is empty. */
    private static Map<String, Value> whole(LinesPlan plan, Map<String, Value> values) {
        var whole = new LinkedHashMap<String, Value>();
        plan.plan()
                .table()
                .columns()
                .forEach(column -> whole.put(column.name(), values.getOrDefault(column.name(), Value.EMPTY)));
        return whole;
    }
}
