package weft.store.usual;

import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.name;

import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import weft.core.entry.draft.Cause;
import weft.core.entry.draft.Finding;
import weft.core.record.StoredRow;
import weft.core.rule.Check.For;
import weft.core.table.Column;
import weft.core.usual.Grouping;
import weft.core.usual.Grouping.Part;
import weft.core.usual.Grouping.Place;
import weft.store.Database;
import weft.store.Turns;
import weft.store.record.RecordRows;
import weft.store.table.ColumnSql;
import weft.store.table.StoredTable;
import weft.store.table.TableSql;
import weft.store.table.UsualSql;

/** What is unusual among all records of a table, without any rule: one column, or one by another, at a time. */
public final class UnusualLooks {

    /** The most records that are told at once. */
    public static final int MOST = 50;

    /** Where more than one record in so many is not as usual, and more than a few, it says nothing of any of them. */
    private static final int ONE_IN = 50;

    private static final int FEW = 10;

    /** What parts the records into smaller groups than of so many is left out. */
    private static final int LEAST_GROUP = 20;

    private static final Turns LOOKS =
            new Turns(1, 20, "Too many look for what is unusual just now. Try again in a moment.");

    private final DSLContext sql;

    /** In that database. */
    public UnusualLooks(Database database) {
        this.sql = database.longSql();
    }

    /** The columns whose values are held against each other, and what can part the records. */
    public record Lookable(List<Column> columns, List<Part> parts) {}

    /** A record that is not as usual, how far beyond it is (1 is the end of what is usual), and what is said of it. */
    public record Odd(StoredRow record, double beyond, Finding finding) {}

    /**
     * What was found, the worst first.
     *
     * @param many how many records are not as usual; what is so without parting the records is not among them
     * @param often whether they are so many that it says nothing of them; none are shown then
     * @param more whether others follow
     */
    public record Unusual(long many, boolean often, List<Odd> shown, boolean more) {}

    /** A record of a page, after which the next one begins. */
    public record After(double beyond, long row) {}

    /** What can be looked at. */
    public Lookable lookable(StoredTable table) {
        return LOOKS.take(() -> {
            long records = sql.fetchCount(DSL.table(table.sqlName()));
            var columns = table.definition().columns();
            var few = columns.stream()
                    .filter(column -> Part.fits(column.type(), For.Of.VALUE))
                    .filter(column -> few(table, column, records))
                    .collect(Collectors.toSet());
            return new Lookable(
                    columns.stream()
                            .filter(Grouping::holds)
                            .filter(column -> column.type().hasRange() || few.contains(column))
                            .toList(),
                    columns.stream()
                            .flatMap(column -> Arrays.stream(For.Of.values())
                                    .filter(of ->
                                            of == For.Of.VALUE ? few.contains(column) : Part.fits(column.type(), of))
                                    .map(of -> new Part(column, of)))
                            .toList());
        });
    }

    /** Whether it has several values, and few enough that many records have the same. */
    private boolean few(StoredTable table, Column column, long records) {
        long most = records / LEAST_GROUP;
        long values = sql.fetchCount(DSL.selectDistinct(ColumnSql.of(column))
                .from(DSL.table(table.sqlName()))
                .where(ColumnSql.of(column).isNotNull())
                .limit(most + 1));
        return values > 1 && values <= most;
    }

    /**
     * Looks at a table by that grouping, which has no part, or one.
     *
     * @param after where a page begins; empty for the worst
     * @param most how many are shown, at most {@link #MOST}
     */
    public Unusual look(StoredTable table, Grouping grouping, Optional<After> after, int most) {
        return LOOKS.take(() -> sql.transactionResult(inner -> {
            UsualSql.forLarge(inner.dsl());
            return look(inner.dsl(), table, grouping, after, most);
        }));
    }

    private static Unusual look(DSLContext sql, StoredTable table, Grouping grouping, Optional<After> after, int most) {
        var beyond = field(name("odd", "_beyond"), Double.class);
        var row = field(name("odd", "_at"), Long.class);
        var page = sql.select(RecordRows.fields(table))
                .select(
                        beyond,
                        field(name("odd", "_many"), Long.class).as("_many"),
                        DSL.count().over().as("_left"))
                .from(UsualSql.odd(table, grouping).as("odd"))
                .join(DSL.table(table.sqlName()))
                .on(TableSql.ROW.eq(row))
                .where(after.map(from -> beyond.lt(from.beyond())
                                .or(beyond.eq(from.beyond()).and(row.gt(from.row()))))
                        .orElseGet(DSL::noCondition))
                .orderBy(beyond.desc(), row)
                .limit(most)
                .fetch();
        if (page.isEmpty()) {
            return new Unusual(0, false, List.of(), false);
        }
        long many = page.getFirst().get("_many", Long.class);
        if (many > FEW && many * ONE_IN > sql.fetchCount(DSL.table(table.sqlName()))) {
            return new Unusual(many, true, List.of(), false);
        }
        return new Unusual(
                many, false, told(sql, table, grouping, page), page.getFirst().get("_left", Long.class) > page.size());
    }

    private static List<Odd> told(DSLContext sql, StoredTable table, Grouping grouping, List<? extends Record> page) {
        var places = new HashMap<StoredRow, Place>();
        var beyond = new LinkedHashMap<StoredRow, Double>();
        for (var row : page) {
            var record = RecordRows.of(table, row);
            beyond.put(record, row.get("_beyond", Double.class));
            places.put(
                    record, grouping.place(column -> record.of(column.name())).orElseThrow());
        }
        var counts = UsualSql.fresh(sql, table, grouping, Set.copyOf(places.values()));
        return beyond.entrySet().stream()
                .flatMap(each -> {
                    var record = each.getKey();
                    var place = Objects.requireNonNull(places.get(record));
                    return counts
                            .getOrDefault(place, Optional.empty())
                            .flatMap(all -> Cause.NotUsual.of(
                                    grouping, place, all, column -> record.of(column.name()), Column::title))
                            .map(cause -> Finding.of(grouping.column().name(), true, cause, ""))
                            .map(finding -> new Odd(record, each.getValue(), finding))
                            .stream();
                })
                .toList();
    }
}
