package weft.store.find;

import java.util.ArrayList;
import java.util.List;
import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.SortField;
import org.jooq.SortOrder;
import org.jooq.impl.DSL;
import weft.core.find.Sort;
import weft.core.table.Column;
import weft.store.table.SeenTable;
import weft.store.table.TableSql;

/**
 * An order of a table's records, and how one walks along it: in stretches, each of which one index serves, since it holds
 * nothing but values on one side of a value, or nothing but empties.
 */
final class Ordering {

    private final List<Column> columns;
    private final List<Field<Object>> keys;
    private final List<Boolean> down;
    private final boolean rowsDown;

    /** A part of the records that follow one another, with the order within it. */
    record Stretch(Condition within, List<SortField<?>> order) {}

    Ordering(SeenTable table, Sort sort) {
        this.columns = sort.levels().stream()
                .map(level -> table.definition().column(level.column()).orElseThrow())
                .toList();
        this.keys = FindSql.keys(columns);
        this.down = sort.levels().stream().map(Sort.Level::down).toList();
        this.rowsDown = sort.rowsDown();
    }

    List<Column> columns() {
        return columns;
    }

    List<Field<Object>> keys() {
        return keys;
    }

    boolean byRow() {
        return keys.isEmpty();
    }

    boolean rowsDown() {
        return rowsDown;
    }

    /** What a record is sorted by, under names that no column has. */
    List<Field<Object>> selected() {
        var selected = new ArrayList<Field<Object>>();
        for (int level = 0; level < keys.size(); level++) {
            selected.add(keys.get(level).as(named(level)));
        }
        return selected;
    }

    private static String named(int level) {
        return "_key" + level;
    }

    /** The keys under those names, as of a query within. */
    Ordering ofSelected() {
        var named = new ArrayList<Field<Object>>();
        for (int level = 0; level < keys.size(); level++) {
            named.add(DSL.field(DSL.name(named(level)), keys.get(level).getDataType()));
        }
        return new Ordering(columns, named, down, rowsDown);
    }

    private Ordering(List<Column> columns, List<Field<Object>> keys, List<Boolean> down, boolean rowsDown) {
        this.columns = columns;
        this.keys = keys;
        this.down = down;
        this.rowsDown = rowsDown;
    }

    /** Where a fetched record stands. */
    Cursor cursor(Record row) {
        var at = new ArrayList<>();
        for (int level = 0; level < keys.size(); level++) {
            at.add(row.get(named(level)));
        }
        return new Cursor(at, row.get(TableSql.ROW), false);
    }

    /** The whole order, empties last. */
    List<SortField<?>> whole() {
        return order(-1, false);
    }

    /** All records, from the beginning or, going back, from the end. */
    List<Stretch> all(boolean back) {
        if (keys.isEmpty() || columns.getFirst().required()) {
            return List.of(new Stretch(DSL.noCondition(), order(0, back)));
        }
        var filled = new Stretch(keys.getFirst().isNotNull(), order(0, back));
        var empty = new Stretch(keys.getFirst().isNull(), order(0, back));
        return back ? List.of(empty, filled) : List.of(filled, empty);
    }

    /** The records after a place; before it, going back. */
    List<Stretch> from(Cursor at) {
        boolean back = at.back();
        var stretches = new ArrayList<Stretch>();
        stretches.add(new Stretch(alike(at, keys.size()).and(rowBeyond(at)), order(keys.size() - 1, back)));
        for (int level = keys.size() - 1; level >= 0; level--) {
            var alike = alike(at, level);
            for (var beyond : beyond(at, level)) {
                stretches.add(new Stretch(alike.and(beyond), order(level, back)));
            }
        }
        return stretches;
    }

    /** The same in one condition. */
    Condition beyond(Cursor at) {
        return DSL.or(from(at).stream().map(Stretch::within).toArray(Condition[]::new));
    }

    private Condition alike(Cursor at, int levels) {
        var alike = DSL.noCondition();
        for (int level = 0; level < levels; level++) {
            alike = alike.and(
                    at.keys().get(level) == null
                            ? keys.get(level).isNull()
                            : keys.get(level).eq(literal(at, level)));
        }
        return alike;
    }

    private Condition rowBeyond(Cursor at) {
        var row = DSL.inline(at.row());
        return rowsDown != at.back() ? TableSql.ROW.lt(row) : TableSql.ROW.gt(row);
    }

    /** Empty values come after all others. */
    private List<Condition> beyond(Cursor at, int level) {
        var key = keys.get(level);
        if (at.keys().get(level) == null) {
            return at.back() ? List.of(key.isNotNull()) : List.of();
        }
        var further = down.get(level) != at.back() ? key.lt(literal(at, level)) : key.gt(literal(at, level));
        return at.back() || columns.get(level).required() ? List.of(further) : List.of(further, key.isNull());
    }

    private Field<Object> literal(Cursor at, int level) {
        return FindSql.keyLiteral(columns.get(level), at.keys().get(level));
    }

    /** Up to the level that a stretch is cut at, no mixture of empties and others is left, and an index's own order does. */
    private List<SortField<?>> order(int cutAt, boolean back) {
        var order = new ArrayList<SortField<?>>();
        for (int level = 0; level < keys.size(); level++) {
            var key = keys.get(level).sort(down.get(level) != back ? SortOrder.DESC : SortOrder.ASC);
            order.add(level <= cutAt ? key : back ? key.nullsFirst() : key.nullsLast());
        }
        order.add(TableSql.ROW.sort(rowsDown != back ? SortOrder.DESC : SortOrder.ASC));
        return order;
    }
}
