package weft.store.record;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDate;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Random;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.core.alike.Likeness;
import weft.core.record.StoredRow;
import weft.core.record.StoredRows;
import weft.core.table.Column;
import weft.core.value.Value;
import weft.store.Given;
import weft.store.TestDatabase;
import weft.store.table.NearSql;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/** What the database finds to be nearly the same, against each record held to each. */
@ExtendWith(TestDatabase.class)
class NearRowsTest {

    private static final int RECORDS = 200;
    /** Few letters and signs, so that much is near; with some that are folded, and some beyond the first plane. */
    private static final List<String> SIGNS =
            List.of("a", "b", "É", "ß", "ñ", "Σ", "İ", "1", "2", " ", "-", ".", "’", "L", "\uD835\uDC00");

    private final DSLContext sql = TestDatabase.get().sql();
    private final StoredTable table = Given.table("after-last", "name text", "born date", "many whole", "secret text");
    private final List<StoredRow> all = saved(new Random(4711));

    private List<StoredRow> saved(Random random) {
        for (int i = 0; i < RECORDS; i++) {
            var values = new LinkedHashMap<String, Value>();
            var name = new StringBuilder("a");
            for (int at = random.nextInt(9); at > 0; at--) {
                name.append(SIGNS.get(random.nextInt(SIGNS.size())));
            }
            if (i % 20 == 0) {
                // Longer than what is kept in an index.
                name.insert(1, "xyz ".repeat(70)).append("xyz ".repeat(70));
            }
            values.put("name", new Value.Text(name.append("b").toString()));
            values.put("born", new Value.Day(LocalDate.of(2026, 1 + random.nextInt(12), 1 + random.nextInt(12))));
            values.put("many", new Value.Whole(random.nextInt(200) - 50));
            values.put("secret", new Value.Text(i % 3 == 0 ? "seen" : "hidden"));
            Given.saved(table, values, Optional.empty(), "t");
        }
        return new Records(sql).latest(SeenTable.all(table), RECORDS);
    }

    private List<Column> columns(String... names) {
        return List.of(names).stream()
                .map(name -> table.definition().column(name).orElseThrow())
                .toList();
    }

    private static List<Long> near(List<Column> columns, StoredRow of, boolean sound, List<StoredRow> among) {
        return among.stream()
                .filter(row -> row.id() != of.id())
                .filter(row -> Likeness.of(columns, of.values(), row, sound).isPresent())
                .map(StoredRow::id)
                .sorted()
                .toList();
    }

    private StoredRows rows(SeenTable seen) {
        return new Records(sql).rowsOf(table, seen, new Tables(sql)::find);
    }

    @Test
    void theDatabaseFindsAllThatIsNear() {
        var rows = rows(SeenTable.all(table));
        int found = 0;
        for (var columns : List.of(columns("name"), columns("born"), columns("many"), columns("name", "born"))) {
            for (var record : all) {
                var plainly = near(columns, record, false, all);
                assertThat(near(
                                columns,
                                record,
                                false,
                                rows.near(columns, record.values(), false, OptionalLong.of(record.id()))))
                        .as("%s of %s", columns, record)
                        .isEqualTo(plainly);
                found += plainly.size();
            }
        }
        assertThat(found).isGreaterThan(RECORDS / 2);
    }

    @Test
    void whatOnlySoundsAlikeIsFoundWhereItIsAskedFor() {
        var other = Given.table("after-last", "name text");
        Given.saved(other, Map.of("name", new Value.Text("Stephen Meier")), Optional.empty(), "t");
        var rows = new Records(sql).rowsOf(other, new Tables(sql)::find);
        var name = List.of(other.definition().column("name").orElseThrow());
        var typed = Map.<String, Value>of("name", new Value.Text("Mayer, Steven"));
        assertThat(rows.near(name, typed, false, OptionalLong.empty())).isEmpty();
        assertThat(rows.near(name, typed, true, OptionalLong.empty())).hasSize(1);
    }

    @Test
    void ofWhatIsOutOfViewNothingIsFound() {
        var secret = DSL.field(DSL.name("secret"), String.class);
        var seen = SeenTable.part(
                table,
                table.definition().with(columns("name", "born", "many")),
                Optional.of(secret.eq("seen")),
                Optional.of("t"));
        var name = columns("name");
        for (var record : all) {
            var shown = rows(seen).near(name, record.values(), false, OptionalLong.empty());
            assertThat(shown).allMatch(row -> !row.values().containsKey("secret"));
            assertThat(rows(seen).nearUnseen(name, record.values(), false, OptionalLong.of(record.id())))
                    .isEqualTo(near(
                                    name,
                                    record,
                                    false,
                                    all.stream()
                                            .filter(row ->
                                                    !row.of("secret").plain().equals("seen"))
                                            .toList())
                            .size());
            assertThat(rows(seen).nearUnseen(columns("name", "secret"), record.values(), false, OptionalLong.empty()))
                    .isZero();
            assertThat(near(name, record, false, shown))
                    .isEqualTo(near(
                            name,
                            record,
                            false,
                            all.stream()
                                    .filter(row -> row.of("secret").plain().equals("seen"))
                                    .toList()));
            assertThat(rows(seen).near(columns("name", "secret"), record.values(), false, OptionalLong.empty()))
                    .isEmpty();
        }
    }

    /** While its indexes are being built, or where none can be. */
    @Test
    void inALargeTableWithoutItsIndexesNobodyWaits() {
        sql.execute(
                "insert into " + sql.render(table.sqlName()) + " (_row, _version, _entered_by, name, secret)"
                        + " select 1000 + n, 1, 't', 'Wenna Sedge ' || n, repeat('filler ', 40) from generate_series(1, 6000) n");
        var asked = Map.<String, Value>of("name", new Value.Text("Wena Sedge 77"));
        var name = columns("name");
        assertThat(rows(SeenTable.all(table)).near(name, asked, false, OptionalLong.empty()))
                .isEmpty();
        sql.execute("create index " + NearSql.index(table, name.getFirst()) + " on " + sql.render(table.relation())
                + " " + NearSql.indexed(name.getFirst()));
        assertThat(rows(SeenTable.all(table)).near(name, asked, false, OptionalLong.empty()))
                .extracting(row -> row.of("name").plain())
                .contains("Wenna Sedge 77");
    }
}
