package weft.store.imports;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.SQLDialect;
import org.jooq.impl.DSL;
import weft.core.form.Form;
import weft.core.table.Column;
import weft.core.table.Constraint;
import weft.core.table.Table.Placement;
import weft.core.value.Value;
import weft.store.event.Change;
import weft.store.event.Telling;
import weft.store.imports.Into.Appended;
import weft.store.imports.Into.Came;
import weft.store.imports.Into.Doubles;
import weft.store.record.ChangeSets;
import weft.store.table.ColumnSql;

/**
 * Brings rows into a table that exists, within one transaction. They are read into a temporary table first and held against the
 * records there, so that nobody who keys waits for that; only then the table's counter is taken, and all of them are written at
 * once.
 */
final class Appending {

    private static final int EXAMPLES = 20;
    /** So many are told of one by one. */
    private static final int NAMED = 5;

    private final DSLContext within;
    private final Into into;
    private final String table;
    private final long id;

    Appending(DSLContext within, Into into) {
        this.within = within;
        this.into = into;
        this.table = DSL.using(SQLDialect.POSTGRES).render(into.table().sqlName());
        this.id = into.table().id();
    }

    /** What gives each row, with the line that it begins on. */
    interface Rows {
        void each(Taker taker);
    }

    /** Takes a row's values, in the order of the columns. */
    interface Taker {
        void take(long line, List<Value> values);
    }

    private List<Column> columns() {
        return into.columns().stream().map(ImportColumn::column).toList();
    }

    private static String named(Column column) {
        return DSL.using(SQLDialect.POSTGRES).render(DSL.name(column.name()));
    }

    private String each(String pattern, String between) {
        return columns().stream()
                .map(column -> pattern.replace("$", named(column)))
                .collect(Collectors.joining(between));
    }

    private String keys(String pattern, String between) {
        return columns().stream()
                .filter(column -> into.key().contains(column.name()))
                .map(column -> pattern.replace("$", named(column)))
                .collect(Collectors.joining(between));
    }

    /** Reads the rows, and says what writing them would come to. Nothing is written, and nobody waits. */
    Came look(Rows rows, Look.Misfits misfits, List<Form> forms) {
        within.execute(
                "create temporary table weft_brought (_place bigint, _line bigint, _record bigint, _row_no bigint, _again boolean not null default false, "
                        + columns().stream()
                                .map(column -> named(column) + " "
                                        + ColumnSql.type(column).getCastTypeName(within.configuration()))
                                .collect(Collectors.joining(", "))
                        + ") on commit drop");
        var preview = new ArrayList<List<Value>>();
        long read = within.connectionResult(connection -> {
            var to = "weft_brought (_place, _line"
                    + columns().stream().map(column -> ", " + named(column)).collect(Collectors.joining()) + ")";
            try (var copy = new CopyRows(connection, to)) {
                rows.each((line, values) -> {
                    copy.write(List.of(Long.toString(line)), values);
                    if (preview.size() < Look.PREVIEWED) {
                        preview.add(values);
                    }
                });
                return copy.end();
            } catch (SQLException e) {
                throw new IllegalStateException(e);
            }
        });
        within.execute("analyze weft_brought");
        var faults = new ArrayList<String>();
        missing().ifPresent(faults::add);
        long repeated = into.key().isEmpty() ? 0 : find(faults);
        into.table().definition().columns().stream()
                .filter(column -> column.unique() && !into.key().equals(List.of(column.name())))
                .forEach(column -> alike(List.of(column.name()), column.title(), faults));
        into.table().definition().constraints().forEach(constraint -> {
            if (constraint instanceof Constraint.Unique unique && !sameAsKey(unique.columns())) {
                alike(unique.columns(), titles(unique.columns()), faults);
            }
        });
        var counts = within.fetchSingle("select count(*) filter (where _record is null and not _again),"
                + " count(*) filter (where _record is not null) from weft_brought");
        long doubles = counts.get(1, Long.class);
        long changing = doubles == 0
                ? 0
                : within.fetchSingle("select count(*) " + changed()).get(0, Long.class);
        if (into.doubles() == Doubles.REFUSE && doubles + repeated > 0) {
            faults.add("%,d rows are there already, by %s.".formatted(doubles + repeated, titles(into.key())));
        }
        boolean clear = faults.isEmpty() && misfits.counts().isEmpty();
        return new Came(
                read,
                counts.get(0, Long.class),
                doubles,
                changing,
                examples(),
                repeated,
                misfits.listed(),
                misfits.counts(),
                faults,
                clear ? new Asks(within, into).by(forms) : Into.Asked.NONE,
                preview);
    }

    /** Columns that need a value in every record, into which nothing goes. */
    private Optional<String> missing() {
        var names = columns().stream().map(Column::name).toList();
        var missing = into.table().definition().columns().stream()
                .filter(column -> column.required() && !names.contains(column.name()))
                .map(Column::title)
                .toList();
        return missing.isEmpty()
                ? Optional.empty()
                : Optional.of("%s must have a value in every record, and no column of the file goes into %s."
                        .formatted(String.join(", ", missing), missing.size() == 1 ? "it" : "them"));
    }

    private boolean sameAsKey(List<String> columns) {
        return into.key().size() == columns.size() && into.key().containsAll(columns);
    }

    private String titles(List<String> columns) {
        return columns.stream()
                .flatMap(name -> into.table().definition().column(name).stream())
                .map(Column::title)
                .collect(Collectors.joining(" and "));
    }

    /** Finds the record that each row is, and which rows come again in the file; says how many of those. */
    private long find(List<String> faults) {
        var twice = within.fetch("select b._line, count(*) from weft_brought b join " + table + " t on "
                + keys("t.$ = b.$", " and ")
                + " group by b._place, b._line having count(*) > 1 order by b._place limit "
                + NAMED);
        if (twice.isNotEmpty() && into.doubles() == Doubles.REPLACE) {
            faults.add("Line %s is in more than one record, by %s. Choose a key that no two records share."
                    .formatted(
                            twice.getValues(0, String.class).stream().collect(Collectors.joining(", ")),
                            titles(into.key())));
        }
        within.execute("update weft_brought b set _record = (select min(t._id) from " + table + " t where "
                + keys("t.$ = b.$", " and ") + ")");
        // A row that lacks part of the key is known to be no other.
        int repeated = within.execute(
                "update weft_brought b set _again = true, _record = null from (select _place, row_number() over"
                        + " (partition by " + keys("$", ", ") + " order by _place) as n from weft_brought where "
                        + keys("$ is not null", " and ") + ") r where r._place = b._place and r.n > 1");
        if (repeated > 0 && into.doubles() == Doubles.REPLACE) {
            faults.add(
                    "%,d rows come again in the file itself, by %s, such as line %s. Mend the file, or leave doubles out."
                            .formatted(
                                    repeated,
                                    titles(into.key()),
                                    within.fetchSingle("select min(_line) from weft_brought where _again")
                                            .get(0, String.class)));
        }
        return repeated;
    }

    /** Rows that would be new and have in these columns what another row or record has. */
    private void alike(List<String> columns, String titles, List<String> faults) {
        var there = columns().stream()
                .filter(column -> columns.contains(column.name()))
                .toList();
        if (there.size() < columns.size()) {
            return;
        }
        var same = there.stream()
                .map(column -> "t." + named(column) + " = b." + named(column))
                .collect(Collectors.joining(" and "));
        var found = within.fetch("select b._line, min(t._row) from weft_brought b join " + table + " t on " + same
                + " where not b._again and t._id is distinct from b._record"
                + (into.doubles() == Doubles.SKIP ? " and b._record is null" : "")
                + " group by b._place, b._line order by b._place limit " + NAMED);
        found.forEach(row -> faults.add("Line %s has the %s of row %s, and no two records may share it."
                .formatted(row.get(0, String.class), titles, row.get(1, String.class))));
        var names = there.stream().map(Appending::named).collect(Collectors.joining(", "));
        var given = there.stream().map(column -> named(column) + " is not null").collect(Collectors.joining(" and "));
        within.fetch("select _line, first from (select _place, _line, min(_line) over (partition by " + names
                        + ") as first,"
                        + " row_number() over (partition by " + names
                        + " order by _place) as n from weft_brought where not _again and "
                        + given + (into.doubles() == Doubles.SKIP ? " and _record is null" : "")
                        + ") d where n > 1 order by _place limit " + NAMED)
                .forEach(row ->
                        faults.add("Lines %s and %s of the file have the same %s, and no two records may share it."
                                .formatted(row.get(1, String.class), row.get(0, String.class), titles)));
    }

    /** The records that would be other ones by a row. */
    private String changed() {
        return "from weft_brought b join " + table + " t on t._id = b._record where row(" + each("t.$", ", ")
                + ") is distinct from row(" + each("b.$", ", ") + ")";
    }

    private List<Into.Double> examples() {
        return within.fetch("select b._line, t._row, row(" + each("t.$", ", ") + ") is distinct from row("
                        + each("b.$", ", ") + ") from weft_brought b join " + table
                        + " t on t._id = b._record order by b._place limit " + EXAMPLES)
                .map(row -> new Into.Double(row.get(0, Long.class), row.get(1, Long.class), row.get(2, Boolean.class)));
    }

    /** Writes what was looked at, if nothing is in its way. */
    Appended write(Came came, String by) {
        long replaced = into.doubles() == Doubles.REPLACE ? replace(by) : 0;
        long added = came.added() == 0 ? 0 : add(came.added(), by);
        if (added + replaced == 0) {
            return new Appended(0, 0, came.rows(), Optional.empty());
        }
        within.execute("analyze weft_brought");
        long change = ChangeSets.keep(
                within,
                into.table(),
                by,
                "select t._id, t._version from " + table
                        + " t join weft_brought b on t._id = b._record where b._row_no is not null or b._again");
        Telling.tell(within, new Change.OfRecords(id));
        return new Appended(added, replaced, came.rows() - added - replaced, Optional.of(change));
    }

    private long add(long many, String by) {
        // The counter's row first, as whoever writes takes it.
        long next = within.fetchSingle(
                        "select next_row from weft.row_counter where table_id = {0} for update", DSL.val(id))
                .get(0, Long.class);
        long freed = into.table().definition().placement() == Placement.FIRST_FREE ? free(many) : 0;
        within.execute(
                "update weft_brought b set _row_no = {0} + n.n - 1 from (select _place, row_number() over (order by _place) as n"
                        + " from weft_brought where _record is null and not _again and _row_no is null) n where n._place = b._place",
                DSL.val(next));
        within.execute(
                "update weft.row_counter set next_row = next_row + {0} where table_id = {1}",
                DSL.val(many - freed), DSL.val(id));
        within.execute(
                "insert into " + table + " (_row, _version, _entered_by" + each(", $", "") + ") select _row_no, 1, {0}"
                        + each(", $", "") + " from weft_brought where _row_no is not null order by _row_no",
                DSL.val(by));
        within.execute("update weft_brought b set _record = t._id from " + table + " t where t._row = b._row_no");
        return many;
    }

    /** Takes rows that were set free, the lowest first, and says how many. */
    private long free(long many) {
        return within.execute(
                "with free as (delete from weft.free_row where table_id = {0} and row_no in (select row_no from weft.free_row"
                        + " where table_id = {0} order by row_no limit {1}) returning row_no),"
                        + " numbered as (select row_no, row_number() over (order by row_no) as n from free),"
                        + " new as (select _place, row_number() over (order by _place) as n from weft_brought where _record is null and not _again)"
                        + " update weft_brought b set _row_no = numbered.row_no from numbered join new using (n) where new._place = b._place",
                DSL.val(id), DSL.val(many));
    }

    /** Puts the values of rows into the records that they are, with history; says how many became other ones. */
    private long replace(String by) {
        within.execute(
                "create temporary table weft_before on commit drop as select t._id, t._row, t._version,"
                        + " weft.values_json({0}, to_jsonb(t)) as before " + changed() + " for update of t",
                DSL.val(id));
        within.execute(
                "update " + table + " t set _version = t._version + 1, _changed_at = now(), _changed_by = {0}"
                        + each(", $ = b.$", "")
                        + " from weft_brought b, weft_before w where w._id = b._record and t._id = b._record",
                DSL.val(by));
        within.execute(
                "insert into weft.history (table_id, record_id, row_no, version, action, by, before, after)"
                        + " select {0}, t._id, t._row, t._version, 'changed', {1}, w.before, weft.values_json({0}, to_jsonb(t))"
                        + " from " + table + " t join weft_before w using (_id)",
                DSL.val(id),
                DSL.val(by));
        // Those are what is taken back.
        return within.execute("update weft_brought b set _again = true from weft_before w where w._id = b._record");
    }
}
