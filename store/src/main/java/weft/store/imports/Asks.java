package weft.store.imports;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.jooq.DSLContext;
import org.jooq.Table;
import org.jooq.impl.DSL;
import weft.core.alike.AlikeBlock;
import weft.core.alike.AlikeKeys;
import weft.core.alike.Likeness;
import weft.core.entry.draft.Cause;
import weft.core.entry.draft.Finding;
import weft.core.form.Form;
import weft.core.record.StoredRow;
import weft.core.rule.Check;
import weft.core.table.Column;
import weft.core.usual.Counts;
import weft.core.usual.Grouping;
import weft.store.alike.AlikePages;
import weft.store.imports.Into.Asked;
import weft.store.imports.Into.AskedOf;
import weft.store.imports.Into.Doubles;
import weft.store.record.RecordRows;
import weft.store.table.StoredTable;
import weft.store.table.UsualSql;

/**
 * Which rows that were read, and would be records or change one, would be asked about if they were keyed: by the published forms' rules
 * of what is nearly alike, and of what is usual.
 */
final class Asks {

    /** So many are told one by one. */
    private static final int TOLD = 50;

    /** So many are asked about at most. */
    private static final int MOST = 10_000;

    /** So many may be held each to each, near or not. */
    private static final long MOST_COMPARED = 50_000_000;

    /** Rows stand behind all records there are. */
    private static final long BEHIND = 1L << 60;

    private final DSLContext within;
    private final Into into;
    private final StoredTable table;
    private final Table<?> coming;
    private final TreeMap<Long, Finding> found = new TreeMap<>();
    private boolean partly;

    /** Of the rows that were read into {@code weft_brought}. */
    Asks(DSLContext within, Into into) {
        this.within = within;
        this.into = into;
        this.table = into.table();
        this.coming = coming();
    }

    /** The rows as the records that they would be, behind all that are there, each with its place and its line as a row below 0. */
    private Table<?> coming() {
        var brought = into.columns().stream().map(each -> each.column().name()).toList();
        var columns = table.definition().columns();
        var values = columns.stream()
                .map(column -> DSL.field(DSL.name(brought.contains(column.name()) ? "b" : "t", column.name())))
                .toList();
        var was = columns.stream()
                .map(column -> DSL.field(DSL.name("t", column.name())))
                .toList();
        return DSL.table(
                "(select {0} + b._place as _id, -b._line as _row, 0 as _version, b._place, b._record, {1} from weft_brought b left join {2} t"
                        + " on t._id = b._record where not b._again and (b._record is null{3})) coming",
                DSL.inline(BEHIND),
                DSL.list(values),
                table.sqlName(),
                into.doubles() == Doubles.REPLACE
                        ? DSL.sql(" or row({0}) is distinct from row({1})", DSL.list(values), DSL.list(was))
                        : DSL.sql(""));
    }

    /** What is asked about, by the rules of those forms. */
    Asked by(List<Form> forms) {
        forms.stream()
                .flatMap(form -> form.rules().checks().stream())
                .map(Check::rule)
                .distinct()
                .forEach(rule -> {
                    if (rule instanceof Check.Alike alike) {
                        alike(alike);
                    } else if (rule instanceof Check.Usual usual
                            && table.adopted().isEmpty()) {
                        Grouping.of(usual, table.definition()).ifPresent(this::usual);
                    }
                });
        return new Asked(
                found.size(),
                partly,
                found.entrySet().stream()
                        .limit(TOLD)
                        .map(each -> new AskedOf(each.getKey(), each.getValue()))
                        .toList());
    }

    /** One thing is told of each line, the first that was found. */
    private void ask(long line, String column, Cause cause) {
        if (found.size() < MOST) {
            found.putIfAbsent(line, Finding.of(column, true, cause, ""));
        } else {
            partly |= !found.containsKey(line);
        }
    }

    private void usual(Grouping grouping) {
        var odd = UsualSql.oddAmong(within, table, grouping, coming);
        var counted = new HashMap<List<String>, Optional<Counts>>();
        within.select(RecordRows.fields(table))
                .from(coming)
                .where(DSL.field(DSL.name("_place"), Long.class).in(odd))
                .orderBy(DSL.field(DSL.name("_id")))
                .limit(MOST + 1)
                .forEach(row -> {
                    var line = RecordRows.of(table, row);
                    grouping.place(column -> line.of(column.name()))
                            .flatMap(place -> counted.computeIfAbsent(
                                            place.groups(), _ -> UsualSql.counts(within, table, grouping, place))
                                    .flatMap(all -> Cause.NotUsual.of(
                                            grouping, place, all, column -> line.of(column.name()), Column::title)))
                            .ifPresent(
                                    cause -> ask(-line.row(), grouping.column().name(), cause));
                });
    }

    /** The record, or the line before it, that a line is nearest to. */
    private record Nearest(StoredRow record, int slips, String why) {
        private static Nearest of(StoredRow record, Likeness likeness) {
            return new Nearest(record, likeness.slips(), likeness.why(Column::title));
        }

        private Nearest or(Nearest other) {
            return other.slips < slips ? other : this;
        }
    }

    private void alike(Check.Alike rule) {
        var columns = rule.columns().stream()
                .flatMap(name -> table.definition().column(name).stream())
                .toList();
        if (columns.size() < rule.columns().size()) {
            return;
        }
        var records = AlikePages.stored(within, table, columns);
        var lines = new AlikePages(within, table, coming, columns);
        var sample = records.page(0, Long.MAX_VALUE);
        var keys = AlikeKeys.of(columns, rule.sound(), sample.isEmpty() ? lines.page(0, Long.MAX_VALUE) : sample);
        // One block, since each goes over all records.
        var block = lines.block(keys, rule.sound(), BEHIND, AlikeBlock.MOST_RECORDS);
        if (block.isEmpty()) {
            return;
        }
        long end = block.get().last();
        partly |= !lines.page(end, Long.MAX_VALUE).isEmpty();
        nearest(block.get(), List.of(records, lines), own(end))
                .forEach((line, near) -> ask(
                        -line.row(),
                        columns.getFirst().name(),
                        new Cause.NearlyAlike(List.of(like(columns, near)), 0)));
    }

    /** The records that lines replace, which they are not held against, by the identities of the lines. */
    private Map<Long, Long> own(long end) {
        return within.fetch(
                        "select _id, _record from {0} where _record is not null and _id <= {1}", coming, DSL.val(end))
                .intoMap(row -> row.get(0, Long.class), row -> row.get(1, Long.class));
    }

    private Map<StoredRow, Nearest> nearest(AlikeBlock block, List<AlikePages> all, Map<Long, Long> own) {
        var nearest = new HashMap<StoredRow, Nearest>();
        for (var pages : all) {
            for (var page = pages.page(0, block.last());
                    !page.isEmpty();
                    page = pages.page(page.getLast().id(), block.last())) {
                for (var record : page) {
                    block.alike(record, likeness -> {
                        if (own.getOrDefault(likeness.record().id(), 0L) != record.id()) {
                            nearest.merge(likeness.record(), Nearest.of(record, likeness), Nearest::or);
                        }
                    });
                    if (nearest.size() > MOST || block.compared() > MOST_COMPARED) {
                        partly = true;
                        return nearest;
                    }
                }
            }
        }
        return nearest;
    }

    private static Cause.Like like(List<Column> columns, Nearest near) {
        return new Cause.Like(
                near.record().id(),
                near.record().row(),
                near.record().called(),
                columns.stream().map(column -> near.record().of(column.name())).toList(),
                near.why());
    }
}
