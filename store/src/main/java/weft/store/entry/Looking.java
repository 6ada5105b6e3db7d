package weft.store.entry;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import weft.core.entry.EntryEngine;
import weft.core.entry.draft.Finding;
import weft.core.entry.plan.EntryPlan;
import weft.core.entry.plan.ReadyCheck;
import weft.core.find.Sort;
import weft.core.find.View;
import weft.core.record.RememberedRows;
import weft.core.record.StoredRow;
import weft.core.rule.Between;
import weft.core.rule.Check;
import weft.core.rule.Choices;
import weft.core.rule.Declaration;
import weft.core.rule.Derived;
import weft.core.rule.Derived.Decides;
import weft.core.rule.Fill;
import weft.core.rule.Numbering;
import weft.core.rule.Placed;
import weft.core.rule.Rules;
import weft.core.table.Constraint;
import weft.core.table.Faults;
import weft.store.find.Breaks;
import weft.store.find.Cursor;
import weft.store.find.Views;
import weft.store.form.Definitions;
import weft.store.form.ReadyForm;
import weft.store.record.Records;
import weft.store.table.SeenTable;
import weft.store.table.Tables;

/** Which stored records break a rule that need not be kept yet: asked of the database where it can say, else read by pages. */
public final class Looking {

    /** The most records that are shown at once. */
    public static final int SHOWN = 50;

    private static final int PAGE = 1_000;

    private final Breaks breaks;
    private final EntryEngine engine;
    private final Records records;
    private final Definitions definitions;
    private final Tables tables;
    private final Views views;

    /** Looks at those records. */
    public Looking(
            Breaks breaks, EntryEngine engine, Records records, Definitions definitions, Tables tables, Views views) {
        this.breaks = breaks;
        this.engine = engine;
        this.records = records;
        this.definitions = definitions;
        this.tables = tables;
        this.views = views;
    }

    /** A record that breaks the rule, and what is said of it; nothing where that goes without saying. */
    public record Broken(StoredRow record, String said) {}

    /**
     * What was found.
     *
     * @param looked how many records were looked at
     * @param broken how many of them break the rule
     * @param examples some of those, by row
     * @param next where the next look goes on; empty when all were looked at
     */
    public record Looked(long looked, long broken, List<Broken> examples, Optional<String> next) {}

    /**
     * Looks with a check, or with what is to hold between records.
     *
     * @param after where a look that read pages goes on
     * @param from the row after which records are shown that the database found
     * @param most how long pages are read; the next look goes on from there
     * @throws Faults when the rule is another one, or can't be followed in this form
     */
    public Looked look(ReadyForm form, Declaration rule, Optional<String> after, long from, Duration most) {
        return switch (rule) {
            case Between(var constraint) -> between(form, constraint, from);
            case Check check -> check(form, check, after, from, most);
            case Fill _, Derived _, Choices _, Numbering _, Placed _ ->
                throw new Faults("rule", "Stored records are looked at with a check, or with what holds between them.");
        };
    }

    private Looked check(ReadyForm form, Check check, Optional<String> after, long from, Duration most) {
        var plan = definitions.planned(form, beside(check, form.form().rules()));
        if (plan.checks().isEmpty()) {
            throw new Faults(
                    "rule",
                    plan.faults().stream()
                            .filter(fault -> fault.about().equals(check.id()))
                            .findFirst()
                            .orElseGet(() -> plan.faults().getFirst())
                            .sentence());
        }
        return breaks.of(plan, plan.checks().getFirst(), form.table(), from, SHOWN)
                .map(found -> {
                    var rows = new RememberedRows(records.rowsOf(form.table(), definitions));
                    if (plan.checks().getFirst() instanceof ReadyCheck.Usual(var _, var grouping)) {
                        breaks.counts(form.table(), grouping, found.shown())
                                .forEach((place, counts) -> rows.know(grouping, place, counts));
                    }
                    return whole(
                            form,
                            found,
                            record -> engine.broken(plan, record, rows).stream()
                                    .findFirst()
                                    .map(Finding::message)
                                    .orElse(""));
                })
                .orElseGet(() -> byPages(form, plan, after, most));
    }

    /** The check with what else of the form's rules says what must be filled, and what holds nothing. */
    private static Rules beside(Check check, Rules rules) {
        var formulas = rules.formulas().stream()
                .filter(each -> each.what() == Decides.SHOWN || each.what() == Decides.REQUIRED)
                .toList();
        return new Rules(List.of(check), List.of(), formulas, List.of(), List.of(), List.of(), List.of());
    }

    private Looked between(ReadyForm form, Constraint constraint, long from) {
        return whole(form, breaks.of(constraint, form.table(), from, SHOWN), _ -> "");
    }

    private interface Saying {
        String of(StoredRow record);
    }

    private Looked whole(ReadyForm form, Breaks.Breaking found, Saying said) {
        var examples = found.shown().stream()
                .map(record -> new Broken(record, said.of(record)))
                .toList();
        return new Looked(tables.rows(form.table()), found.broken(), examples, Optional.empty());
    }

    private Looked byPages(ReadyForm form, EntryPlan plan, Optional<String> after, Duration most) {
        var rows = records.rowsOf(form.table(), definitions);
        var examples = new ArrayList<Broken>();
        long looked = 0;
        long broken = 0;
        var from = after;
        long began = System.nanoTime();
        do {
            var page = views.page(SeenTable.all(form.table()), View.all(Sort.BY_ROW), from, PAGE);
            for (var record : page.records()) {
                var findings = engine.broken(plan, record, rows);
                looked++;
                if (!findings.isEmpty()) {
                    broken++;
                    if (examples.size() < SHOWN) {
                        examples.add(new Broken(record, findings.getFirst().message()));
                    }
                }
            }
            from = page.next().map(Cursor::wire);
        } while (from.isPresent() && System.nanoTime() - began < most.toNanos());
        return new Looked(looked, broken, List.copyOf(examples), from);
    }
}
