package weft.store.record;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.jooq.impl.SQLDataType;
import weft.core.alike.Likeness;
import weft.core.alike.Near;
import weft.core.record.StoredRow;
import weft.core.record.StoredRows;
import weft.core.table.Column;
import weft.core.table.Constraint.NoOverlap;
import weft.core.twice.Standing;
import weft.core.usual.Counts;
import weft.core.usual.Grouping;
import weft.core.value.Value;
import weft.store.table.AnyTable;
import weft.store.table.ColumnSql;
import weft.store.table.Folded;
import weft.store.table.KnownTables;
import weft.store.table.NearSql;
import weft.store.table.SeenTable;
import weft.store.table.StandingSql;
import weft.store.table.StoredTable;
import weft.store.table.TableSql;
import weft.store.table.UsualSql;

/** What the entry engine may ask of stored records. */
final class LookUp implements StoredRows {

    /** So many are looked at closer: of a name that thousands have, more are of no use to anybody. */
    private static final int MOST_NEAR = 2_000;

    private static final int MOST_SPELLED = 200;
    /** So many are asked about in a sentence. */
    private static final int MOST_NAMED = 2;

    private final DSLContext sql;
    private final StoredTable table;
    private final SeenTable seen;
    private final KnownTables tables;

    LookUp(DSLContext sql, StoredTable table, SeenTable seen, KnownTables tables) {
        this.sql = sql;
        this.table = table;
        this.seen = seen;
        this.tables = tables;
    }

    @Override
    public Optional<StoredRow> with(Map<String, Value> values, OptionalLong except) {
        return rows(table, same(table, values).and(but(except)), 1).stream()
                .findFirst()
                .map(this::told);
    }

    /** What may be told of a record of the form's table. */
    private StoredRow told(StoredRow row) {
        return seen.whole()
                ? row
                : rows(seen, TableSql.ID.eq(row.id()).and(seen.inView()), 1).stream()
                        .findFirst()
                        .orElse(StoredRow.UNSEEN);
    }

    private static Condition but(OptionalLong except) {
        return except.isPresent() ? TableSql.ID.ne(except.getAsLong()) : DSL.noCondition();
    }

    @Override
    public Optional<StoredRow> overlapping(NoOverlap constraint, Map<String, Value> values, OptionalLong except) {
        var alike = new LinkedHashMap<String, Value>();
        constraint.same().forEach(column -> alike.put(column, values.get(column)));
        var from = table.definition().column(constraint.from()).orElseThrow();
        var to = table.definition().column(constraint.to()).orElseThrow();
        var overlaps = untyped(ColumnSql.of(from))
                .lt(untyped(ColumnSql.bound(to, values.getOrDefault(constraint.to(), Value.EMPTY))))
                .and(untyped(ColumnSql.of(to))
                        .gt(untyped(ColumnSql.bound(from, values.getOrDefault(constraint.from(), Value.EMPTY)))));
        return rows(table, same(table, alike).and(overlaps).and(but(except)), 1).stream()
                .findFirst()
                .map(this::told);
    }

    @SuppressWarnings("unchecked") // Both sides are of columns of one type.
    private static Field<Object> untyped(Field<?> field) {
        return (Field<Object>) field;
    }

    /** How many are wanted stands in the question: a plan for any number would be one for the first record only. */
    @Override
    public List<StoredRow> near(List<Column> columns, Map<String, Value> values, boolean sound, OptionalLong except) {
        return shows(columns)
                ? rows(seen, nearAndReady(columns, values, sound, except).and(seen.inView()), DSL.inline(MOST_NEAR))
                : List.of();
    }

    @Override
    public int nearUnseen(List<Column> columns, Map<String, Value> values, boolean sound, OptionalLong except) {
        return seen.showsAll() || !shows(columns)
                ? 0
                : (int) rows(
                                table,
                                nearAndReady(columns, values, sound, except)
                                        .and(DSL.condition("({0}) is not true", seen.inView())),
                                DSL.inline(MOST_NEAR))
                        .stream()
                        .filter(record ->
                                Likeness.of(columns, values, record, sound).isPresent())
                        .count();
    }

    private boolean shows(List<Column> columns) {
        return columns.stream()
                .allMatch(column -> seen.definition().column(column.name()).isPresent());
    }

    private Condition nearAndReady(
            List<Column> columns, Map<String, Value> values, boolean sound, OptionalLong except) {
        return NearSql.near(columns, values, sound)
                .and(NearSql.ready(table, columns))
                .and(but(except))
                .and(except.isPresent() ? SaidDifferent.notFrom(table, except.getAsLong()) : DSL.noCondition());
    }

    @Override
    public Optional<Counts> usual(Grouping grouping, Grouping.Place place) {
        boolean fields = Stream.concat(
                        Stream.of(grouping.column()), grouping.by().stream().map(Grouping.Part::column))
                .allMatch(column -> seen.definition().column(column.name()).isPresent());
        return fields && (seen.showsAll() || grouping.all())
                ? UsualSql.counts(sql, table, grouping, place)
                : Optional.empty();
    }

    @Override
    public List<StoredRow> matching(String other, Map<String, Value> values, int most) {
        var of = tables.table(other);
        // Sorted here: the database would walk along the rows for it and look at many that do not match.
        return of.isEmpty()
                ? List.of()
                : rows(of.get(), same(of.get(), values), most).stream()
                        .sorted(Comparator.comparingLong(StoredRow::row))
                        .toList();
    }

    @Override
    public Optional<StoredRow> alike(String other, Map<String, Value> values) {
        var of = tables.table(other);
        if (of.isEmpty() || values.values().stream().noneMatch(Value.Text.class::isInstance)) {
            return Optional.empty();
        }
        var conditions = new ArrayList<Condition>();
        values.forEach((name, value) -> {
            var column = of.get().definition().column(name).orElseThrow();
            conditions.add(value instanceof Value.Text(var text) ? alike(column, text) : same(column, value));
        });
        var rows = rows(of.get(), DSL.and(conditions), 2);
        return rows.size() == 1 ? Optional.of(rows.getFirst()) : Optional.empty();
    }

    @Override
    public List<String> spelled(String other, Column column, String typed) {
        var value = new Value.Text(typed);
        return tables
                .table(other)
                .map(of -> sql.selectDistinct(ColumnSql.of(column))
                        .from(DSL.table(of.sqlName()))
                        .where(NearSql.near(List.of(column), Map.of(column.name(), value), false))
                        .and(NearSql.ready(of, List.of(column)))
                        .limit(DSL.inline(MOST_SPELLED))
                        .fetch(row -> String.valueOf(row.value1())))
                .orElse(List.<String>of())
                .stream()
                .flatMap(
                        text -> Near.of(value, new Value.Text(text), false).map(near -> Map.entry(near, text)).stream())
                .sorted(Map.Entry.<Near, String>comparingByKey().thenComparing(Map.Entry.comparingByValue()))
                .map(Map.Entry::getValue)
                .limit(MOST_NAMED)
                .toList();
    }

    @Override
    public Optional<StoredRow> stayed(String other, Map<String, Value> values) {
        return tables.table(other)
                .flatMap(of -> Gone.stayed(sql, of, values)
                        .flatMap(id -> rows(of, TableSql.ID.eq(id), 1).stream().findFirst()));
    }

    @Override
    public Optional<StoredRow> record(String other, long id) {
        return tables.table(other)
                .flatMap(of -> rows(of, TableSql.ID.eq(id), 1).stream().findFirst());
    }

    @Override
    public Standing standing(long id) {
        return StandingSql.of(sql, seen, List.of(id)).getOrDefault(id, Standing.ONCE);
    }

    @Override
    public Optional<StoredRow> inRow(String other, long row) {
        return tables.table(other)
                .flatMap(of -> rows(of, TableSql.ROW.eq(row), 1).stream().findFirst());
    }

    @Override
    public Map<String, List<StoredRow>> alike(String other, String name, Set<String> texts) {
        var of = tables.table(other);
        var column = of.flatMap(table -> table.definition().column(name));
        if (of.isEmpty() || column.isEmpty() || texts.isEmpty()) {
            return Map.of();
        }
        var found = new HashMap<String, List<StoredRow>>();
        texts.forEach(text -> found.put(text, new ArrayList<>()));
        var asked = DSL.unnest(texts.toArray(String[]::new)).as("_asked", "_text");
        var text = DSL.field(DSL.name("_asked", "_text"), SQLDataType.CLOB);
        sql.select(RecordRows.fields(of.get()))
                .select(text)
                .from(asked)
                .join(DSL.table(of.get().sqlName()))
                .on(Folded.key(column.get()).eq(Folded.of(Folded.left(text))))
                .and(Folded.of(ColumnSql.of(column.get())).eq(Folded.of(text)))
                .forEach(row -> found.computeIfAbsent(row.get(text), _ -> new ArrayList<>())
                        .add(RecordRows.of(of.get(), row)));
        return found;
    }

    private static Condition alike(Column column, String text) {
        var asked = DSL.inline(text, SQLDataType.CLOB);
        return Folded.key(column)
                .eq(Folded.of(Folded.left(asked)))
                .and(Folded.of(ColumnSql.of(column)).eq(Folded.of(asked)));
    }

    private List<StoredRow> rows(AnyTable of, Condition condition, int most) {
        return rows(of, condition, DSL.val(most));
    }

    private List<StoredRow> rows(AnyTable of, Condition condition, Field<Integer> most) {
        return sql.select(RecordRows.fields(of))
                .from(DSL.table(of.sqlName()))
                .where(condition)
                .limit(most)
                .fetch(row -> RecordRows.of(of, row));
    }

    private static Condition same(StoredTable of, Map<String, Value> values) {
        var conditions = new ArrayList<Condition>();
        values.forEach((name, value) ->
                conditions.add(same(of.definition().column(name).orElseThrow(), value)));
        return DSL.and(conditions);
    }

    @SuppressWarnings("unchecked") // Both sides are of the column's type.
    private static Condition same(Column column, Value value) {
        return ((Field<Object>) ColumnSql.of(column)).eq((Field<Object>) ColumnSql.bound(column, value));
    }
}
