package weft.server.bench;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import weft.core.door.Shown;
import weft.core.entry.EntryEngine;
import weft.core.entry.plan.EntryPlan;
import weft.core.find.Sort;
import weft.core.find.View;
import weft.core.record.StoredRow;
import weft.core.rule.Between;
import weft.core.rule.Check;
import weft.core.rule.Choices;
import weft.core.rule.Declaration;
import weft.core.rule.Derived;
import weft.core.rule.Fill;
import weft.core.rule.Numbering;
import weft.core.rule.Placed;
import weft.core.rule.Rules;
import weft.core.table.Constraint;
import weft.server.form.Copy;
import weft.server.http.Problem;
import weft.server.record.RecordJson;
import weft.store.find.Breaks;
import weft.store.find.Cursor;
import weft.store.find.Views;
import weft.store.form.Definitions;
import weft.store.form.ReadyForm;
import weft.store.record.Records;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/** Which stored records break a rule that need not be kept yet: asked of the database where it can say, else read by pages. */
@RestController
class LookApi {

    private static final int SHOWN = 50;
    private static final int PAGE = 1_000;

    /** So long one request reads pages, in nanoseconds; the next one goes on from there. */
    private static final long LOOKING = 400_000_000;

    private final Breaks breaks;
    private final EntryEngine engine;
    private final Records records;
    private final Definitions definitions;
    private final Tables tables;
    private final Views views;

    LookApi(Breaks breaks, EntryEngine engine, Records records, Definitions definitions, Tables tables, Views views) {
        this.breaks = breaks;
        this.engine = engine;
        this.records = records;
        this.definitions = definitions;
        this.tables = tables;
        this.views = views;
    }

    /**
     * What a look at stored records found.
     *
     * @param looked how many were looked at
     * @param broken how many of them break the rule
     * @param examples some of those, by row
     * @param next where the next look goes on; null when all were looked at
     */
    record Looked(
            long looked,
            long broken,
            List<Broken> examples,
            @Nullable String next) {}

    /** A record that breaks the rule, and what is said of it. */
    record Broken(long row, String message, RecordJson record) {}

    /**
     * Looks at stored records with a check, or with what is to hold between them.
     *
     * @param after where a look that read pages goes on
     * @param from the row after which records are shown that the database found
     */
    @PostMapping("/api/forms/{form}/bench/look")
    Looked look(
            @Copy ReadyForm whole,
            @RequestParam(required = false) Optional<String> lines,
            @RequestParam(required = false) Optional<String> after,
            @RequestParam(required = false, defaultValue = "0") long from,
            @RequestBody Declaration rule) {
        var form = OrLines.of(definitions, whole, lines);
        return switch (rule) {
            case Between(var constraint) -> between(form, constraint, from);
            case Check check -> check(form, check, after, from);
            case Fill _, Derived _, Choices _, Numbering _, Placed _ ->
                throw Problem.malformed("Stored records are looked at with a check, or with what holds between them.");
        };
    }

    private Looked check(ReadyForm form, Check check, Optional<String> after, long from) {
        var alone = new Rules(List.of(check), List.of(), List.of(), List.of(), List.of(), List.of(), List.of());
        var plan = EntryPlan.of(
                form.form().ruled(alone),
                form.table().definition(),
                name -> definitions.table(name).map(StoredTable::definition));
        if (plan.checks().isEmpty()) {
            throw Problem.malformed(plan.faults().getFirst().sentence());
        }
        return breaks.of(plan, plan.checks().getFirst(), form.table(), from, SHOWN)
                .map(found -> new Looked(
                        tables.rows(form.table()),
                        found.broken(),
                        found.shown().stream()
                                .map(record -> broken(record, said(plan, record, form)))
                                .toList(),
                        null))
                .orElseGet(() -> byPages(form, plan, after));
    }

    private Looked between(ReadyForm form, Constraint constraint, long from) {
        var found = breaks.of(constraint, form.table(), from, SHOWN);
        return new Looked(
                tables.rows(form.table()),
                found.broken(),
                found.shown().stream().map(record -> broken(record, "")).toList(),
                null);
    }

    private String said(EntryPlan plan, StoredRow record, ReadyForm form) {
        return engine.broken(plan, record.values(), records.rowsOf(form.table(), definitions)).stream()
                .findFirst()
                .map(finding -> finding.message())
                .orElse("");
    }

    private static Broken broken(StoredRow record, String message) {
        return new Broken(record.row(), message, RecordJson.of(Shown.whole(record)));
    }

    private Looked byPages(ReadyForm form, EntryPlan plan, Optional<String> after) {
        var rows = records.rowsOf(form.table(), definitions);
        var examples = new ArrayList<Broken>();
        long looked = 0;
        long broken = 0;
        var from = after;
        long end = System.nanoTime() + LOOKING;
        do {
            var page = views.page(form.table(), View.all(Sort.BY_ROW), from, PAGE);
            for (var record : page.records()) {
                var findings = engine.broken(plan, record.values(), rows);
                looked++;
                if (!findings.isEmpty()) {
                    broken++;
                    if (examples.size() < SHOWN) {
                        examples.add(broken(record, findings.getFirst().message()));
                    }
                }
            }
            from = page.next().map(Cursor::wire);
        } while (from.isPresent() && System.nanoTime() < end);
        return new Looked(looked, broken, List.copyOf(examples), from.orElse(null));
    }
}
