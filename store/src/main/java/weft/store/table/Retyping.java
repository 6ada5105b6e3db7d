package weft.store.table;

import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.jooq.impl.SQLDataType;
import weft.core.table.Column;
import weft.core.table.Faults;
import weft.core.table.Link;
import weft.core.value.Reading;
import weft.core.value.Value;

/** A column's stored values held against the column as it is to be, and taken along into it: both by one reading. */
public final class Retyping {

    private static final int BATCH = 5_000;
    private static final int EXAMPLES = 5;

    private final DSLContext within;
    private final StoredTable table;
    private final Column from;
    private final Column to;
    private final Fitting fit;

    Retyping(DSLContext within, StoredTable table, Column from, Column to, Fitting fit) {
        this.within = within;
        this.table = table;
        this.from = from;
        this.to = to;
        this.fit = fit;
    }

    /**
     * What the stored values say to a column as it is to be.
     *
     * @param unfit how many records' values would not fit
     * @param examples some of them
     */
    public record Unfit(long unfit, List<Example> examples) {

        /** In a sentence or more, each example with its row. */
        public String words() {
            var words = new StringBuilder(
                    unfit == 1 ? "1 record does not fit." : "%,d records do not fit.".formatted(unfit));
            examples.forEach(example -> words.append(" Row %,d: %s".formatted(example.row(), example.message())));
            return words.toString();
        }
    }

    /** A record whose value would not fit. */
    public record Example(long row, String value, String message) {}

    /**
     * Goes on only when every value fits.
     *
     * @throws Faults when some do not, saying how many and which
     */
    void refuseUnfit() {
        var check = check();
        if (check.unfit() > 0) {
            throw new Faults("column", check.words());
        }
    }

    /** How many values would not fit, and some of them. */
    Unfit check() {
        var check = new Object() {
            private long unfit;
            private final List<Example> examples = new ArrayList<>();

            void miss(long row, Value value, String message) {
                unfit++;
                if (examples.size() < EXAMPLES) {
                    examples.add(new Example(row, value.spoken(), message));
                }
            }
        };
        each((id, row, value) -> {
            if (value.isEmpty()) {
                if (to.required()) {
                    check.miss(row, value, "It has nothing here.");
                }
            } else if (fit.of(value) instanceof Reading.Refused(var refusal)) {
                check.miss(row, value, refusal.words());
            }
        });
        if (to.unique() && !from.unique()) {
            twice().forEach(example -> check.miss(example.row(), new Value.Text(example.value()), example.message()));
        }
        return new Unfit(check.unfit, List.copyOf(check.examples));
    }

    private List<Example> twice() {
        var field = ColumnSql.read(from);
        return within.select(DSL.max(TableSql.ROW), field)
                .from(DSL.table(table.sqlName()))
                .where(field.isNotNull())
                .groupBy(field)
                .having(DSL.count().gt(1))
                .limit(1_000)
                .fetch(row -> {
                    var value = ColumnSql.value(row.value2()).spoken();
                    return new Example(row.value1(), value, "Another record has " + value + " too.");
                });
    }

    private interface EachValue {
        void take(long id, long row, Value value);
    }

    /** Every stored value of a column, some thousand at a time. */
    private void each(EachValue taker) {
        for (long last = -1; ; ) {
            var rows = within.select(TableSql.ID, TableSql.ROW, ColumnSql.read(from))
                    .from(DSL.table(table.sqlName()))
                    .where(TableSql.ID.gt(last))
                    .orderBy(TableSql.ID)
                    .limit(BATCH)
                    .fetch();
            fit.ahead(rows.map(row -> ColumnSql.value(row.value3())));
            rows.forEach(row -> taker.take(row.value1(), row.value2(), ColumnSql.value(row.value3())));
            if (rows.size() < BATCH) {
                return;
            }
            last = rows.getLast().value1();
        }
    }

    /** Takes the values along, each as the column to be holds it. */
    void carry() {
        boolean sameType = ColumnSql.type(from).equals(ColumnSql.type(to));
        if (!sameType) {
            carryOver();
        } else if (!from.kind().equals(to.kind()) || leadsElsewhere()) {
            carryTo(ColumnSql.of(from), true);
        }
        var changed = within.alterTable(table.sqlName()).alterColumn(DSL.name(from.name()));
        (to.required() ? changed.setNotNull() : changed.dropNotNull()).execute();
    }

    private boolean leadsElsewhere() {
        return !from.link().map(Link::to).equals(to.link().map(Link::to));
    }

    private void carryOver() {
        if (table.definition().constraints().stream()
                .anyMatch(each -> each.columns().contains(from.name()))) {
            throw new Faults("type", "A check of the table speaks of " + from.title() + ". Take the check away first.");
        }
        var fresh = DSL.field(DSL.name("_retyped"), ColumnSql.type(to).nullable(true));
        within.alterTable(table.sqlName()).add(fresh).execute();
        carryTo(fresh, false);
        within.alterTable(table.sqlName()).dropColumn(DSL.name(from.name())).execute();
        within.alterTable(table.sqlName())
                .renameColumn(fresh)
                .to(DSL.name(from.name()))
                .execute();
    }

    private void carryTo(Field<?> field, boolean onlyChanged) {
        var ids = new ArrayList<Long>();
        var values = new ArrayList<String>();
        each((id, row, value) -> {
            if (fit.of(value) instanceof Reading.Read(var fitting, var _)
                    && !fitting.isEmpty()
                    && !(onlyChanged && Objects.equals(ColumnSql.spelled(fitting), ColumnSql.spelled(value)))) {
                ids.add(id);
                values.add(ColumnSql.spelled(fitting));
            }
            if (ids.size() == BATCH) {
                write(field, ids, values);
            }
        });
        write(field, ids, values);
    }

    private void write(Field<?> field, List<Long> ids, List<String> values) {
        within.execute(
                "update {0} set {1} = cast(taken.value as "
                        + field.getDataType().getCastTypeName(within.configuration())
                        + ") from unnest({2}, {3}) as taken(id, value) where _id = taken.id",
                DSL.table(table.sqlName()),
                field.getUnqualifiedName(),
                DSL.val(ids.toArray(Long[]::new), SQLDataType.BIGINT.array()),
                DSL.val(values.toArray(String[]::new), SQLDataType.CLOB.array()));
        ids.clear();
        values.clear();
    }
}
