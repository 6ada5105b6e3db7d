package weft.store.find;

import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.Record1;
import org.jooq.Result;
import org.jooq.Select;
import org.jooq.SortField;
import org.jooq.impl.DSL;
import org.jooq.impl.SQLDataType;
import weft.core.find.Position;
import weft.core.find.Total;
import weft.core.find.View;
import weft.store.record.RecordRows;
import weft.store.table.SeenTable;
import weft.store.table.TableSql;

/** Matches that are few enough to be gathered, sorted and numbered in one question. */
final class Matches implements Found {

    /** Beyond every row number. */
    private static final long FARTHEST = 1L << 62;

    private static final Field<Integer> MANY = DSL.field(DSL.name("_many"), SQLDataType.INTEGER);
    private static final Field<Long> AT = DSL.field(DSL.name("_at"), SQLDataType.BIGINT);
    private static final Field<Integer> PLACE = DSL.field(DSL.name("_place"), SQLDataType.INTEGER);

    private final DSLContext sql;
    private final SeenTable table;
    private final View view;
    private final Ordering ordering;
    private final Ordering outside;
    private int many;

    Matches(DSLContext sql, SeenTable table, View view) {
        this.sql = sql;
        this.table = table;
        this.view = view;
        this.ordering = new Ordering(table, view.sort());
        this.outside = ordering.ofSelected();
    }

    /** Whether the last question met more than are gathered; its answer is then worth nothing. */
    boolean tooMany() {
        return many > Total.COUNTED;
    }

    /** How many there are; estimated by PostgreSQL when they are too many to be counted. */
    Total total() {
        many = sql.fetchCount(gathered());
        return tooMany() ? estimated() : Total.exactly(many);
    }

    /** PostgreSQL's own estimate, from what it knows of the values of each column. */
    Total estimated() {
        return Total.about((long) sql.explain(
                        DSL.select(DSL.one()).from(DSL.table(table.sqlName())).where(FindSql.of(table, view)))
                .rows());
    }

    private Select<?> gathered() {
        return DSL.select(TableSql.ROW)
                .select(ordering.selected())
                .from(DSL.table(table.sqlName()))
                .where(FindSql.of(table, view))
                .limit(DSL.inline(Total.COUNTED + 1));
    }

    @Override
    public Optional<Placed> place(Goal goal) {
        var found = switch (goal) {
            case Goal.First() -> ask(DSL.noCondition(), PLACE.asc(), 1);
            case Goal.Last() -> ask(DSL.noCondition(), PLACE.desc(), 1);
            case Goal.Next(var cursor) -> ask(outside.beyond(cursor(cursor)), PLACE.asc(), 1);
            case Goal.Previous(var cursor) -> ask(outside.beyond(cursor(cursor).backwards()), PLACE.desc(), 1);
            case Goal.Numbered(var number) -> ask(PLACE.le((int) Math.min(number, Total.COUNTED)), PLACE.desc(), 1);
            case Goal.InRow(var row) ->
                ask(
                        DSL.noCondition(),
                        DSL.abs(TableSql.ROW.minus(row))
                                .add(DSL.when(TableSql.ROW.lt(row), FARTHEST).otherwise(0L))
                                .asc(),
                        1);
            case Goal.Itself(var id) -> ask(TableSql.ROW.eq(rowOf(id)), PLACE.asc(), 1);
        };
        return found.stream().findFirst().map(this::placed);
    }

    private Select<? extends Record1<Long>> rowOf(long id) {
        return DSL.select(TableSql.ROW).from(DSL.table(table.sqlName())).where(TableSql.ID.eq(id));
    }

    private Placed placed(Record row) {
        int place = row.get(PLACE);
        var record = RecordRows.of(table, row);
        return new Placed(
                record,
                outside.cursor(row),
                Position.of(record.row(), Total.exactly(many), OptionalLong.of(place - 1), OptionalLong.empty()),
                place == 1,
                place == many);
    }

    @Override
    public Page page(Optional<String> after, int limit) {
        var cursor = after.map(this::cursor);
        boolean back = cursor.filter(Cursor::back).isPresent();
        var beyond = cursor.map(outside::beyond).orElseGet(DSL::noCondition);
        var found = ask(beyond, back ? PLACE.desc() : PLACE.asc(), limit);
        return page(found);
    }

    @Override
    public Page pageFrom(long from, int limit) {
        return page(ask(PLACE.ge((int) from), PLACE.asc(), limit));
    }

    private Page page(Result<Record> picked) {
        var found = picked.sortAsc(PLACE);
        if (found.isEmpty()) {
            return new Page(List.of(), Optional.empty(), Optional.empty(), Total.exactly(many));
        }
        var first = found.getFirst();
        var last = found.getLast();
        return new Page(
                found.stream().map(row -> RecordRows.of(table, row)).toList(),
                last.get(PLACE) < many ? Optional.of(outside.cursor(last)) : Optional.empty(),
                first.get(PLACE) > 1 ? Optional.of(outside.cursor(first).backwards()) : Optional.empty(),
                Total.exactly(many));
    }

    private Cursor cursor(String wire) {
        return Cursor.read(wire, ordering.columns());
    }

    /**
     * The matches that fulfil that, each with its number among all, and how many there are, which is told even when none
     * fulfils it. All that is gathered of a match is what an index holds; the records are fetched for those that are picked.
     * When there are too many, none is numbered: the answer is worth nothing then.
     */
    private Result<Record> ask(Condition which, SortField<?> order, int limit) {
        var gathered = DSL.name("_gathered").asMaterialized(gathered());
        var count = DSL.field(DSL.selectCount().from(gathered));
        var numbered = DSL.name("_numbered")
                .as(DSL.select(TableSql.ROW)
                        .select(DSL.rowNumber()
                                .over(DSL.orderBy(outside.whole()))
                                .as(PLACE))
                        .select(outside.keys())
                        .from(gathered)
                        .where(count.le(Total.COUNTED)));
        var picked = DSL.name("_picked")
                .as(DSL.select(TableSql.ROW.as(AT), PLACE)
                        .select(outside.keys())
                        .from(numbered)
                        .where(which)
                        .orderBy(order)
                        .limit(limit));
        var found = DSL.select(RecordRows.fields(table))
                .select(PLACE)
                .select(outside.keys())
                .from(picked)
                .join(DSL.table(table.sqlName()))
                .on(TableSql.ROW.eq(AT))
                .asTable("_record");
        var rows = sql.with(gathered)
                .with(numbered)
                .with(picked)
                .select(found.fields())
                .select(count.as(MANY))
                .from(DSL.selectOne().asTable("_one"))
                .leftJoin(found)
                .on(DSL.trueCondition())
                .fetch();
        many = rows.getFirst().get(MANY);
        rows.removeIf(row -> row.get(PLACE) == null);
        return rows;
    }
}
