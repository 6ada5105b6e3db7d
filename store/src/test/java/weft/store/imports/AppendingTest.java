package weft.store.imports;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static weft.store.Given.saved;
import static weft.store.Given.text;
import static weft.store.Given.values;

import java.io.ByteArrayInputStream;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import org.jooq.DSLContext;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weft.core.table.Column;
import weft.core.table.Link;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.core.value.Value;
import weft.store.Given;
import weft.store.TestDatabase;
import weft.store.form.Forms;
import weft.store.imports.Imports.Brought;
import weft.store.imports.Into.Doubles;
import weft.store.record.ChangeSets;
import weft.store.record.ChangeSets.ChangedSince;
import weft.store.record.History;
import weft.store.record.LinkedTo;
import weft.store.record.Records;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/** Rows of a file brought into a table that exists, held against a list in memory that does the same. */
@ExtendWith(TestDatabase.class)
class AppendingTest {

    private final DSLContext sql = TestDatabase.get().sql();
    private final Tables tables = new Tables(sql);
    private final Imports imports =
            new Imports(sql, tables, new Forms(sql), Records::anyTable, Clock.systemDefaultZone());
    private final ChangeSets changes = new ChangeSets(sql, Clock.systemDefaultZone());
    private final Records records = new Records(sql);

    private Brought file(String... lines) {
        return imports.bring(
                "rows.csv", new ByteArrayInputStream(String.join("\n", lines).getBytes(StandardCharsets.UTF_8)));
    }

    private static Into into(Brought file, StoredTable table, Doubles doubles, String... key) {
        var columns = file.columns().stream()
                .flatMap(from -> table.definition().column(from.column().name()).stream()
                        .map(column -> from.into(column, Optional.empty(), Optional.empty())))
                .toList();
        return new Into(table, columns, List.of(key), doubles);
    }

    /** What is stored, by row. */
    private Map<Long, Map<String, Value>> stored(StoredTable table) {
        var rows = new TreeMap<Long, Map<String, Value>>();
        sql.fetch("select _id from " + sql.render(table.sqlName()))
                .getValues(0, Long.class)
                .forEach(id -> {
                    var record = records.find(SeenTable.all(table), id).orElseThrow();
                    rows.put(record.row(), record.values());
                });
        return rows;
    }

    private static Value decimal(String number) {
        return new Value.Decimal(new BigDecimal(number));
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16, 17, 18})
    void whatIsBroughtInIsWhatAListInMemorySaysAndIsTakenBackWhole(long seed) {
        var random = new Random(seed);
        var doubles = Doubles.values()[(int) (seed % 3)];
        var table =
                Given.table(seed % 2 == 0 ? "first-free" : "after-last", "code text unique", "n whole", "d decimal");
        for (int i = 0; i < 12; i++) {
            saved(table, values("code", text("c" + i), "n", new Value.Whole(i)), Optional.empty(), "Odile");
        }
        for (long id : sql.fetch("select _id from " + sql.render(table.sqlName()) + " where _row in (3, 7)")
                .getValues(0, Long.class)) {
            records.delete(table, id, 1, "Odile");
        }
        var before = stored(table);
        // A file of its own order, with some that are there, some that come again, and some without a code.
        var lines = new ArrayList<>(List.of("d,code,other"));
        var rows = new ArrayList<Map<String, Value>>();
        var pool = doubles == Doubles.REFUSE && random.nextBoolean() ? 100 : 30;
        for (int i = 0; i < 20; i++) {
            int which = random.nextInt(pool);
            var code = which == 0 ? "" : doubles == Doubles.REPLACE ? "c" + (i + which % 3 * 20) : "c" + which;
            var d = random.nextInt(4) == 0
                    ? ""
                    : BigDecimal.valueOf(random.nextInt(140), 1).toPlainString();
            lines.add(d + "," + code + ",x" + i);
            rows.add(values(
                    "code", code.isEmpty() ? Value.EMPTY : text(code), "d", d.isEmpty() ? Value.EMPTY : decimal(d)));
        }
        var byCode = new HashMap<Value, Long>();
        before.forEach((row, values) -> byCode.put(values.get("code"), row));
        var expected = new TreeMap<>(before);
        var seen = new HashSet<Value>();
        long next = 13;
        var free = new ArrayList<>(seed % 2 == 0 ? List.of(3L, 7L) : List.<Long>of());
        boolean clear = true;
        for (var row : rows) {
            var code = row.get("code");
            boolean again = !code.isEmpty() && !seen.add(code);
            if (again || byCode.containsKey(code)) {
                clear &= doubles == Doubles.SKIP || doubles == Doubles.REPLACE && !again;
                if (!again && doubles == Doubles.REPLACE) {
                    var over = new LinkedHashMap<>(expected.get(byCode.get(code)));
                    over.put("d", row.get("d"));
                    expected.put(byCode.get(code), over);
                }
            } else {
                var fresh = new LinkedHashMap<String, Value>();
                fresh.put("code", code);
                fresh.put("n", Value.EMPTY);
                fresh.put("d", row.get("d"));
                expected.put(free.isEmpty() ? next++ : free.removeFirst(), fresh);
            }
        }
        var file = file(lines.toArray(String[]::new));
        var into = into(file, table, doubles, "code");
        var came = imports.rehearse(file, into);
        assertThat(came.clear()).as(came.faults().toString()).isEqualTo(clear);
        assertThat(stored(table)).isEqualTo(before);
        if (!clear) {
            assertThatThrownBy(() -> imports.append(file, into, 0, "Bram")).isInstanceOf(Into.InTheWay.class);
            assertThat(stored(table)).isEqualTo(before);
            return;
        }
        var done = imports.append(file, into, 0, "Bram");
        assertThat(stored(table)).isEqualTo(expected);
        assertThat(done.added()).isEqualTo(came.added()).isEqualTo(expected.size() - before.size());
        assertThat(done.replaced()).isEqualTo(doubles == Doubles.REPLACE ? came.changing() : 0);
        assertThat(done.added() + done.replaced() + done.left()).isEqualTo(20);
        assertThat(records.nextRow(table)).isEqualTo(free.isEmpty() ? next : free.getFirst());
        assertThatThrownBy(() -> imports.append(file, into, 0, "Bram")).isInstanceOf(Imports.LoadedOnce.class);
        assertThat(changes.takeBack(table, done.change().orElseThrow(), "Odile", _ -> true))
                .isEmpty();
        assertThat(changes.takeBack(table, done.change().orElseThrow(), "Bram", _ -> true))
                .hasValue((int) (done.added() + done.replaced()));
        assertThat(stored(table)).isEqualTo(before);
    }

    @Test
    void replacedRecordsKeepTheirHistory() {
        var table = Given.table("after-last", "code text unique", "d decimal");
        var first = saved(table, values("code", text("a"), "d", decimal("1.5")), Optional.empty(), "Odile");
        saved(table, values("code", text("b"), "d", decimal("2")), Optional.empty(), "Odile");
        var file = file("code,d", "a,7.5", "b,2.0");
        var done = imports.append(file, into(file, table, Doubles.REPLACE, "code"), 0, "Bram");
        // What says the same stays as it is.
        assertThat(done.replaced()).isEqualTo(1);
        var entry = new History(sql).of(SeenTable.all(table), first.id()).getFirst();
        assertThat(entry.by()).isEqualTo("Bram");
        assertThat(entry.before().orElseThrow()).containsEntry("d", "1.5");
        assertThat(entry.after().orElseThrow()).containsEntry("d", "7.5");
        Given.changed(table, first.id(), 2, values("d", decimal("8")), "Odile");
        assertThatThrownBy(() -> changes.takeBack(table, done.change().orElseThrow(), "Bram", _ -> true))
                .isInstanceOf(ChangedSince.class);
    }

    @Test
    void whatIsInTheWayIsSaidByItsLine() {
        var table = Given.table("after-last", "code text unique", "name text unique", "n whole required");
        saved(
                table,
                values("code", text("a"), "name", text("Ann"), "n", new Value.Whole(1)),
                Optional.empty(),
                "Odile");
        var file = file("code,name,n", "b,Ann,2", "c,Cy,x", "d,Di,", "e,Cy,5", "a,Ann,6");
        var came = imports.rehearse(file, into(file, table, Doubles.SKIP, "code"));
        assertThat(came.added()).isEqualTo(4);
        assertThat(came.doubles()).isEqualTo(1);
        assertThat(came.examples()).containsExactly(new Into.Double(6, 1, true));
        assertThat(came.misfits()).extracting(Misfit::line).containsExactly(3L, 4L);
        assertThat(came.faults())
                .containsExactly(
                        "Line 2 has the Name of row 1, and no two records may share it.",
                        "Lines 3 and 5 of the file have the same Name, and no two records may share it.");
        var lacking = file("code", "z");
        assertThat(imports.rehearse(lacking, into(lacking, table, Doubles.SKIP, "code"))
                        .faults())
                .containsExactly("N must have a value in every record, and no column of the file goes into it.");
    }

    @Test
    void whatOthersLinkToIsNotTakenBack() {
        var table = Given.table("after-last", "code text unique");
        var file = file("code", "a", "b");
        var done = imports.append(file, into(file, table, Doubles.SKIP, "code"), 0, "Bram");
        var linking = tables.make(new Table(
                "leads_" + table.id(),
                "Leads",
                List.of(Column.plain("to_it", "To it", ColumnType.LINK)
                        .leading(new Link(
                                table.definition().name(),
                                table.definition().title(),
                                Link.usual(table.definition()),
                                Link.Removed.EMPTY))),
                Table.Placement.AFTER_LAST));
        saved(linking, values("to_it", new Value.Link(1, 1, "a")), Optional.empty(), "Odile");
        assertThatThrownBy(() -> changes.takeBack(table, done.change().orElseThrow(), "Bram", _ -> true))
                .isInstanceOf(LinkedTo.class);
        assertThat(stored(table)).hasSize(2);
    }
}
