package weft.store.find;

import static weft.store.schema.Tables.FREE_ROW;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import weft.core.find.Position;
import weft.core.find.Total;
import weft.core.find.View;
import weft.core.table.Faults;
import weft.store.find.Ordering.Stretch;
import weft.store.record.RecordRows;
import weft.store.table.SeenTable;
import weft.store.table.TableSql;

/** Records that are too many to be gathered: from one place to the next along their order. */
final class Walk implements Found {

    private final DSLContext sql;
    private final SeenTable table;
    private final View view;
    private final Total total;
    private final Condition inView;
    private final Ordering ordering;

    Walk(DSLContext sql, SeenTable table, View view, Total total) {
        this.sql = sql;
        this.table = table;
        this.view = view;
        this.total = total;
        this.inView = FindSql.of(table, view);
        this.ordering = new Ordering(table, view.sort());
    }

    @Override
    public Optional<Placed> place(Goal goal) {
        var found = switch (goal) {
            case Goal.First() -> take(ordering.all(false), 0, 1);
            case Goal.Last() -> take(ordering.all(true), 0, 1);
            case Goal.Next(var cursor) -> take(ordering.from(cursor(cursor)), 0, 1);
            case Goal.Previous(var cursor) -> take(ordering.from(cursor(cursor).backwards()), 0, 1);
            case Goal.Numbered(var number) -> numbered(number);
            case Goal.InRow(var row) -> inRow(row);
            case Goal.Itself(var id) -> take(only(TableSql.ID.eq(id)), 0, 1);
        };
        return found.stream().findFirst().map(row -> placed(row, goal));
    }

    private List<Record> inRow(long row) {
        var here = take(List.of(new Stretch(TableSql.ROW.ge(DSL.inline(row)), List.of(TableSql.ROW.asc()))), 0, 1);
        return here.isEmpty()
                ? take(List.of(new Stretch(TableSql.ROW.lt(DSL.inline(row)), List.of(TableSql.ROW.desc()))), 0, 1)
                : here;
    }

    private static List<Stretch> only(Condition which) {
        return List.of(new Stretch(which, List.of(TableSql.ROW.asc())));
    }

    private List<Record> numbered(long asked) {
        long number = total.exact() ? Math.min(asked, total.count()) : asked;
        if (counted()) {
            return take(only(TableSql.ROW.eq(rowOf(ordering.rowsDown() ? total.count() + 1 - number : number))), 0, 1);
        }
        if (number <= Total.COUNTED) {
            return take(ordering.all(false), number - 1, 1);
        }
        if (total.exact() && total.count() - number < Total.COUNTED) {
            return take(ordering.all(true), total.count() - number, 1);
        }
        throw new Faults(
                "to",
                "So many records are numbered up to %,d only. Type row and a row number to go farther, such as row %d."
                        .formatted(Total.COUNTED, asked));
    }

    /** Whether a record's number follows from its row and the rows that are free. */
    private boolean counted() {
        return view.everything() && ordering.byRow();
    }

    /** The row of the record of that number: as many free rows lie below it as have fewer records below them. */
    private long rowOf(long number) {
        var free = DSL.select(FREE_ROW.ROW_NO
                        .minus(DSL.rowNumber().over(DSL.orderBy(FREE_ROW.ROW_NO)))
                        .as("below"))
                .from(FREE_ROW)
                .where(FREE_ROW.TABLE_ID.eq(table.id()))
                .asTable("free");
        return number
                + sql.fetchCount(DSL.selectFrom(free)
                        .where(DSL.field(DSL.name("below"), Long.class).lt(number)));
    }

    private Placed placed(Record row, Goal goal) {
        var record = RecordRows.of(table, row);
        var cursor = ordering.cursor(row);
        var position = goal instanceof Goal.First
                ? Position.of(record.row(), total, OptionalLong.of(0), OptionalLong.empty())
                : position(record.row(), cursor);
        var number = position.number();
        return new Placed(
                record,
                cursor,
                position,
                number.isPresent() ? number.getAsLong() == 1 : ends(cursor.backwards()),
                (number.isPresent() && total.exact()) ? number.getAsLong() == total.count() : ends(cursor));
    }

    private boolean ends(Cursor at) {
        return take(ordering.from(at), 0, 1).isEmpty();
    }

    private Position position(long row, Cursor at) {
        if (counted()) {
            long below = row
                    - 1
                    - sql.fetchCount(FREE_ROW, FREE_ROW.TABLE_ID.eq(table.id()).and(FREE_ROW.ROW_NO.lt(row)));
            var before = OptionalLong.of(below);
            return ordering.rowsDown()
                    ? Position.of(row, total, OptionalLong.empty(), before)
                    : Position.of(row, total, before, OptionalLong.empty());
        }
        var before = count(ordering.from(at.backwards()));
        return Position.of(
                row,
                total,
                before,
                before.isEmpty() && total.exact() ? count(ordering.from(at)) : OptionalLong.empty());
    }

    /** How many there are, or empty when they are more than are counted. */
    private OptionalLong count(List<Stretch> stretches) {
        long count = 0;
        for (var stretch : stretches) {
            count += count(stretch, Total.COUNTED - count);
            if (count >= Total.COUNTED) {
                return OptionalLong.empty();
            }
        }
        return OptionalLong.of(count);
    }

    /** In the stretch's order, so that its index is walked and not the whole table. */
    private long count(Stretch stretch, long most) {
        return sql.fetchCount(DSL.selectOne()
                .from(DSL.table(table.sqlName()))
                .where(inView)
                .and(stretch.within())
                .orderBy(stretch.order())
                .limit(DSL.inline(most)));
    }

    @Override
    public Page page(Optional<String> after, int limit) {
        var cursor = after.map(this::cursor);
        boolean back = cursor.filter(Cursor::back).isPresent();
        var found = take(cursor.map(ordering::from).orElseGet(() -> ordering.all(false)), 0, limit + 1);
        return page(found, limit, back, cursor.isPresent());
    }

    @Override
    public Page pageFrom(long from, int limit) {
        return page(take(ordering.all(false), from - 1, limit + 1), limit, false, from > 1);
    }

    /** One more than asked for tells whether it goes on; that something lies behind is known. */
    private Page page(List<Record> found, int limit, boolean back, boolean behind) {
        boolean onwards = found.size() > limit;
        var records = new ArrayList<>(onwards ? found.subList(0, limit) : found);
        if (back) {
            Collections.reverse(records);
        }
        if (records.isEmpty()) {
            return new Page(List.of(), Optional.empty(), Optional.empty(), total);
        }
        var first = ordering.cursor(records.getFirst()).backwards();
        var last = ordering.cursor(records.getLast());
        return new Page(
                records.stream().map(row -> RecordRows.of(table, row)).toList(),
                (back ? behind : onwards) ? Optional.of(last) : Optional.empty(),
                (back ? onwards : behind) ? Optional.of(first) : Optional.empty(),
                total);
    }

    private Cursor cursor(String wire) {
        return Cursor.read(wire, ordering.columns());
    }

    /** The first records of these stretches, after leaving some out. */
    private List<Record> take(List<Stretch> stretches, long leaveOut, int limit) {
        var taken = new ArrayList<Record>();
        long left = leaveOut;
        for (var stretch : stretches) {
            var rows = sql.select(RecordRows.fields(table))
                    .select(ordering.selected())
                    .from(DSL.table(table.sqlName()))
                    .where(inView)
                    .and(stretch.within())
                    .orderBy(stretch.order())
                    .limit(DSL.inline(left), DSL.inline((long) limit - taken.size()))
                    .fetch();
            taken.addAll(rows);
            if (taken.size() == limit) {
                break;
            }
            left = rows.isEmpty() && left > 0 ? left - count(stretch, left) : 0;
        }
        return taken;
    }
}
