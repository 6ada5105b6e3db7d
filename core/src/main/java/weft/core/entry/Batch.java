package weft.core.entry;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import weft.core.entry.draft.Cause;
import weft.core.entry.draft.Draft;
import weft.core.entry.draft.Finding;
import weft.core.entry.plan.EntryPlan;
import weft.core.formula.Budget;
import weft.core.record.Links;
import weft.core.record.RememberedRows;
import weft.core.record.StoredRow;
import weft.core.record.StoredRows;
import weft.core.table.Column;
import weft.core.table.Link;
import weft.core.table.Table;
import weft.core.value.Conventions;
import weft.core.value.Reading;
import weft.core.value.Value;
import weft.core.value.ValueReader;

/**
 * Assesses many new entries as one: each as if it stood alone, and then against the lines before it, which it must not
 * collide with any more than with what is stored. What is asked of stored rows for one line is not asked again for another.
 */
public final class Batch {

    /** From so many lines on, what they look up is looked up for all of them at once. */
    private static final int MANY = 10;

    private static final ValueReader PLAIN = ValueReader.ofStored(Conventions.DEFAULT);

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
        return assess(plan, seen, lines, stored, false, () -> {});
    }

    /**
     * The same, said while it goes on.
     *
     * @param passing whether lines that something is in the way of are left out, so that none is held against them
     * @param looked run each time that one of the lines was looked at, by several threads perhaps
     */
    public List<Assessment> assess(
            EntryPlan plan, Table seen, List<Draft> lines, StoredRows stored, boolean passing, Runnable looked) {
        var remembered = new RememberedRows(stored);
        var alone = plan.looksBack().isEmpty()
                ? eachAlone(plan, lines, remembered, looked)
                : oneAfterAnother(plan, lines, remembered, passing, looked);
        if (LinesBefore.nothingToKeep(plan)) {
            return alone;
        }
        var before = new LinesBefore(plan, seen, remembered);
        var all = new ArrayList<Assessment>();
        var above = Optional.<Assessment>empty();
        for (int line = 0; line < lines.size(); line++) {
            var assessment = alone.get(line);
            if (before.collides(assessment.values())) {
                assessment = after(above, plan, lines.get(line), before);
            }
            all.add(assessment);
            if (counts(assessment, passing)) {
                above = Optional.of(assessment);
                before.learn(StoredRow.line(line + 1, assessment.values()));
            }
        }
        return all;
    }

    /** The codes and names typed into lines, in the columns that lists and fills find them by. */
    private static void lookUp(EntryPlan plan, List<Draft> lines, RememberedRows stored) {
        for (var node : plan.nodes()) {
            node.column().link().ifPresent(link -> lookUp(node.column(), link, lines, stored));
            node.list()
                    .filter(list -> list.choices().when().isEmpty())
                    .ifPresent(list -> lookUp(
                            plan, node.column(), list.from(), list.source().name(), lines, stored));
            node.bring().filter(bring -> bring.fill().keys().size() == 1).ifPresent(bring -> {
                var key = bring.fill().keys().getFirst();
                plan.table()
                        .column(key.column())
                        .ifPresent(column -> lookUp(plan, column, bring.from(), key.source(), lines, stored));
            });
        }
    }

    private static void lookUp(Column column, Link link, List<Draft> lines, RememberedRows stored) {
        var texts = new HashSet<String>();
        for (var line : lines) {
            if (PLAIN.read(column.kind(), line.of(column.name()))
                    instanceof Reading.Read(Value.Text(var text), var _)) {
                texts.add(text);
            }
        }
        Links.lookUp(link, texts, stored);
    }

    /** Only where few can be alike: a record with a code is one of its kind. */
    private static void lookUp(
            EntryPlan plan, Column typed, Table from, String source, List<Draft> lines, RememberedRows stored) {
        var column =
                from.column(source).filter(each -> each.unique() && each.type().isText());
        if (column.isEmpty() || !typed.type().isText()) {
            return;
        }
        var reader = ValueReader.ofStored(plan.conventions());
        var texts = new HashSet<String>();
        for (var line : lines) {
            if (reader.read(typed.kind(), line.of(typed.name())) instanceof Reading.Read(Value.Text(var text), var _)) {
                texts.add(text);
            }
        }
        stored.lookUp(from.name(), column.get().name(), texts);
    }

    /** What is to be said of each draft now, in their order, as if it stood alone; several may be looked at at once. */
    public List<Assessment> eachAlone(EntryPlan plan, List<Draft> drafts, StoredRows stored) {
        return eachAlone(plan, drafts, stored, () -> {});
    }

    private List<Assessment> eachAlone(EntryPlan plan, List<Draft> drafts, StoredRows stored, Runnable looked) {
        var remembered = stored instanceof RememberedRows known ? known : new RememberedRows(stored);
        if (drafts.size() >= MANY) {
            lookUp(plan, drafts, remembered);
        }
        var budget = Budget.now();
        return drafts.parallelStream()
                .map(draft -> {
                    var assessment = budget.within(() -> engine.assess(plan, draft, remembered));
                    looked.run();
                    return assessment;
                })
                .toList();
    }

    private List<Assessment> oneAfterAnother(
            EntryPlan plan, List<Draft> lines, StoredRows stored, boolean passing, Runnable looked) {
        var all = new ArrayList<Assessment>();
        var above = Optional.<Assessment>empty();
        for (var line : lines) {
            var assessment = after(above, plan, line, stored);
            all.add(assessment);
            above = counts(assessment, passing) ? Optional.of(assessment) : above;
            looked.run();
        }
        return all;
    }

    /** Whether the lines after it see it. */
    private static boolean counts(Assessment assessment, boolean passing) {
        return !passing || assessment.findings().none();
    }

    /** A line, whose entry before is the line above; that of the first one is what it was. */
    private Assessment after(Optional<Assessment> above, EntryPlan plan, Draft draft, StoredRows stored) {
        var assessment = engine.assess(
                plan, above.map(line -> draft.after(line.values())).orElse(draft), stored);
        // The number of the line above is given when it is saved, with all others.
        return plan.nodes().stream()
                .filter(node -> above.isPresent()
                        && node.numbered()
                        && plan.looksBack().contains(node.column().name()))
                .findFirst()
                .map(node -> assessment.finding(
                        Finding.stop("", new Cause.NumberToCome(node.field().label()))))
                .orElse(assessment);
    }
}
