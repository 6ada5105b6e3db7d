package weft.store.record;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static weft.store.Given.text;
import static weft.store.Given.values;

import java.io.StringReader;
import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Random;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import java.util.stream.LongStream;
import org.jooq.DSLContext;
import org.jooq.SQLDialect;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.postgresql.PGConnection;
import weft.core.record.StoredRow;
import weft.core.table.Column;
import weft.core.table.Link;
import weft.core.value.ColumnType;
import weft.core.value.Value;
import weft.core.value.Wire;
import weft.store.Given;
import weft.store.TestDatabase;
import weft.store.event.Change;
import weft.store.table.ColumnSql;
import weft.store.table.Columns;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/** What other programs write with plain SQL gets its row, version and history, and is heard of, as what Weft writes is. */
@ExtendWith(TestDatabase.class)
class OtherWritersTest {

    private final DSLContext sql = TestDatabase.get().sql();
    private final Records records = new Records(sql);
    private final History history = new History(sql);
    private final Tables tables = new Tables(sql);
    private StoredTable table;
    private String name;
    private Connection program;
    private DSLContext other;

    @BeforeEach
    void given() throws SQLException {
        of(Given.table("after-last", "site text unique", "depth decimal", "taken_on date"));
        program = TestDatabase.program("nightly load");
        other = DSL.using(program, SQLDialect.POSTGRES);
    }

    private void of(StoredTable made) {
        table = made;
        name = sql.render(made.sqlName());
    }

    @AfterEach
    void done() throws SQLException {
        program.close();
    }

    private List<Long> rows() {
        return sql.fetch("select _row from " + name + " order by _row").getValues(0, Long.class);
    }

    private List<History.Entry> told(long row) {
        return history.of(SeenTable.all(table), idOf(row));
    }

    @Test
    void aRecordOfAnotherProgramIsOneLikeAny() {
        Given.saved(table, values("site", text("Quill")), Optional.empty(), "Odile");
        other.execute("insert into " + name
                + " (site, depth, taken_on) values ('Reed', 1.5, '2026-08-01'), ('Fen', 0, null)");
        Given.saved(table, values("site", text("Mill")), Optional.empty(), "Odile");
        assertThat(rows()).containsExactly(1L, 2L, 3L, 4L);
        other.execute("update " + name + " set depth = 2.5 where site = 'Reed'");
        var entries = told(2);
        assertThat(entries)
                .extracting(History.Entry::action)
                .containsExactly(History.Action.CHANGED, History.Action.SAVED);
        assertThat(entries).extracting(History.Entry::by).allMatch(by -> by.equals("weft (nightly load)"));
        assertThat(entries.getFirst().before())
                .contains(Map.of("site", "Reed", "depth", "1.5", "taken_on", "2026-08-01"));
        assertThat(entries.getFirst().after().orElseThrow()).containsEntry("depth", "2.5");
        assertThat(sql.fetchSingle("select _version, _entered_by, _changed_by from " + name + " where _row = 2")
                        .intoList())
                .containsExactly(2, "weft (nightly load)", "weft (nightly load)");
        other.execute("delete from " + name + " where site = 'Reed'");
        var removed = history.removed(SeenTable.all(table), Optional.empty(), OptionalLong.empty(), 10);
        assertThat(removed).singleElement().satisfies(each -> {
            assertThat(each.row()).isEqualTo(2);
            assertThat(each.values()).containsEntry("depth", "2.5");
        });
        assertThat(history.restore(SeenTable.all(table), removed.getFirst().id(), "Odile")
                        .orElseThrow()
                        .row())
                .isEqualTo(2);
    }

    @Test
    void noRowIsGivenToWhatIsNotWritten() throws Exception {
        other.execute("insert into " + name + " (site) values ('a'), ('b')");
        other.execute(
                "insert into " + name + " (site) values ('b'), ('c'), ('a'), ('d'), ('b') on conflict do nothing");
        assertThat(rows()).containsExactly(1L, 2L, 3L, 4L);
        other.execute(
                "insert into " + name
                        + " (site, depth) values ('e', 1), ('a', 2), ('f', 3), ('b', 4) on conflict (site) do update set depth = excluded.depth");
        assertThat(rows()).containsExactly(1L, 2L, 3L, 4L, 5L, 6L);
        assertThatThrownBy(() -> other.execute("insert into " + name + " (site) values ('g'), ('a')"))
                .hasMessageContaining("unique");
        other.transaction(inner -> {
            inner.dsl().execute("insert into " + name + " (site) values ('g')");
            try {
                inner.dsl().transaction(deeper -> {
                    deeper.dsl().execute("insert into " + name + " (site) values ('h'), ('i')");
                    throw new IllegalStateException("given up");
                });
            } catch (IllegalStateException givenUp) {
                inner.dsl()
                        .execute("insert into " + name
                                + " (site) select 'x' || n from generate_series(1, 300) n order by n desc");
            }
        });
        program.unwrap(PGConnection.class)
                .getCopyAPI()
                .copyIn("copy " + name + " (site, depth) from stdin", new StringReader("j\t1\nk\t\\N\n"));
        other.transaction(inner -> {
            inner.dsl().execute("insert into " + name + " (site) values ('a') on conflict do nothing");
            inner.dsl().execute("set constraints all immediate");
            inner.dsl().execute("insert into " + name + " (site) values ('o'), ('p')");
            inner.dsl().execute("insert into " + name + " (site) values ('q')");
        });
        other.transaction(inner -> {
            // Deleted again in the same transaction: its row is free, and not given twice.
            inner.dsl().execute("insert into " + name + " (site) values ('r')");
            inner.dsl().execute("delete from " + name + " where site = 'r'");
            inner.dsl().execute("insert into " + name + " (site) values ('s')");
        });
        other.execute("with one as (insert into " + name + " (site) values ('l') returning 1) insert into " + name
                + " (site) select 'm' from one");
        Given.saved(table, values("site", text("n")), Optional.empty(), "Odile");
        assertThat(rows())
                .isEqualTo(LongStream.rangeClosed(1, 317)
                        .filter(row -> row != 313)
                        .boxed()
                        .toList());
        assertThat(tables.rows(table)).isEqualTo(316);
        assertThat(told(317)).extracting(History.Entry::by).containsExactly("Odile");
    }

    private long idOf(long row) {
        return sql.fetchSingle("select _id from " + name + " where _row = " + row)
                .get(0, Long.class);
    }

    @Test
    void freedRowsAreFilledFirstWhereTheTableWantsIt() {
        of(Given.table("first-free", "site text unique"));
        other.execute("insert into " + name + " (site) select 's' || n from generate_series(1, 6) n");
        other.execute("delete from " + name + " where _row in (2, 4, 5)");
        other.execute("insert into " + name + " (site) values ('a'), ('s1'), ('b'), ('s3') on conflict do nothing");
        assertThat(sql.fetch("select site from " + name + " order by _row").getValues(0, String.class))
                .containsExactly("s1", "a", "s3", "b", "s6");
        assertThat(Given.saved(table, values("site", text("c")), Optional.empty(), "Odile")
                        .row())
                .isEqualTo(5);
        assertThat(Given.saved(table, values("site", text("d")), Optional.empty(), "Odile")
                        .row())
                .isEqualTo(7);
    }

    /** Rows of a file have no history of their own. */
    @Test
    void who_entered_a_record_and_when_stays_known_while_it_is_removed_whoever_removes_it() {
        sql.execute("insert into " + name + " (_row, _version, _entered_at, _entered_by, site)"
                + " select n, 1, '2024-05-01T10:00:00Z', 'file', 'Site ' || n from generate_series(1, 3) n");
        records.delete(table, idOf(1), 1, "Imre");
        other.execute("delete from " + name + " where _row = 2");
        other.execute("truncate " + name);
        var removed = history.removed(SeenTable.all(table), Optional.empty(), OptionalLong.empty(), 10);
        assertThat(removed).hasSize(3);
        for (var each : removed) {
            assertThat(history.of(SeenTable.all(table), each.id()))
                    .extracting(entry -> Wire.word(entry.action()) + " by " + entry.by())
                    .hasSize(2)
                    .endsWith("saved by file");
            history.restore(SeenTable.all(table), each.id(), "Odile");
        }
        assertThat(sql.fetch("select distinct _entered_at = '2024-05-01T10:00:00Z', _entered_by from " + name)
                        .intoMaps())
                .singleElement()
                .satisfies(kept -> assertThat(kept.values()).containsExactly(true, "file"));
    }

    @Test
    void whatIsWeftsToSayIsRefusedAndWhatNoColumnHoldsIsToo() {
        other.execute("insert into " + name + " (site) values ('a')");
        assertThatThrownBy(() -> other.execute("insert into " + name + " (_row, site) values (9, 'b')"))
                .hasMessageContaining("Row numbers are given by Weft. Leave _row out.");
        assertThatThrownBy(() -> other.execute("update " + name + " set _row = 9"))
                .hasMessageContaining("The identity and the row of a record stay.");
        assertThatThrownBy(() -> other.execute("update " + name + " set taken_on = 'infinity'"))
                .hasMessageContaining("The column taken_on cannot hold infinity. It holds the years 0001 to 9999.");
        assertThatThrownBy(() -> other.execute("update " + name + " set taken_on = '0044-03-15 BC'"))
                .hasMessageContaining("0001 to 9999");
        assertThatThrownBy(() -> other.execute("insert into " + name + " (depth) values ('NaN')"))
                .hasMessageContaining("cannot hold NaN");
        other.execute("update " + name + " set site = site, _version = 7, _entered_by = 'me'");
        assertThat(told(1)).as("nothing was changed").hasSize(1);
        assertThat(records.find(SeenTable.all(table), idOf(1)).orElseThrow().version())
                .isEqualTo(1);
        other.execute("update " + name + " set site = ''");
        assertThat(records.find(SeenTable.all(table), idOf(1)).orElseThrow().of("site"))
                .isEqualTo(Value.EMPTY);
        other.execute("truncate " + name);
        assertThat(history.removed(SeenTable.all(table), Optional.empty(), OptionalLong.empty(), 10))
                .hasSize(1);
        assertThat(tables.rows(table)).isZero();
        assertThat(Given.saved(table, values("site", text("b")), Optional.empty(), "Odile")
                        .row())
                .isEqualTo(2);
    }

    /** The same values are kept alike in history, whoever wrote them. */
    @Test
    void historyIsTheSameWhoeverWrote() {
        var linked = Given.table("after-last", "number text", "on_day date", "level decimal");
        Given.saved(
                linked,
                values(
                        "number",
                        text("S-1"),
                        "on_day",
                        new Value.Day(LocalDate.of(2026, 8, 1)),
                        "level",
                        new Value.Decimal(new BigDecimal("7.50"))),
                Optional.empty(),
                "Odile");
        of(Given.table(
                "after-last",
                "a text",
                "b longtext",
                "c whole",
                "d decimal",
                "e yesno",
                "f date",
                "g time",
                "h datetime",
                "i choice"));
        var to = linked.definition();
        new Columns(sql, Records::anyTable)
                .add(
                        table.definition().name(),
                        List.of(Column.plain("j", "J", ColumnType.LINK)
                                .leading(new Link(to.name(), to.title(), to.columns(), Link.Removed.EMPTY))));
        table = tables.find(table.id()).orElseThrow();
        var random = new Random(3);
        for (int i = 0; i < 60; i++) {
            var row = Given.saved(table, random(random), Optional.empty(), "Odile");
            var stored = records.find(SeenTable.all(table), row.id()).orElseThrow();
            write(stored);
            assertThat(told(row.row() + 1).getFirst().after().orElseThrow()).isEqualTo(ValuesJson.of(stored.values()));
        }
        other.execute("delete from " + sql.render(linked.sqlName()));
        assertThat(sql.fetchSingle("select count(*) from " + name + " where j is not null")
                        .get(0, Long.class))
                .isZero();
        assertThat(sql.fetch("select _row, _version from " + name + " order by _row"))
                .allSatisfy(row -> assertThat(
                                told(row.get(0, Long.class)).getFirst().version())
                        .as("links that were emptied with their record are told of")
                        .isEqualTo(row.get(1, Integer.class)));
    }

    private Map<String, Value> random(Random random) {
        var values = new LinkedHashMap<String, Value>();
        for (var column : table.definition().columns()) {
            values.put(column.name(), random.nextInt(5) == 0 ? Value.EMPTY : random(column, random));
        }
        return values;
    }

    private static Value random(Column column, Random random) {
        var at = LocalDateTime.of(2026, 1, 1, 0, 0).plusSeconds(random.nextInt(30_000_000));
        return switch (column.type()) {
            case TEXT -> text(List.of("x", "it's", "\"q\"", "a\\b", "水", "null").get(random.nextInt(6)));
            case LONGTEXT -> text("two\nlines\tof " + random.nextInt());
            case WHOLE -> new Value.Whole(random.nextLong());
            case DECIMAL -> new Value.Decimal(BigDecimal.valueOf(random.nextInt(141), 1));
            case YESNO -> new Value.YesNo(random.nextBoolean());
            case DATE -> new Value.Day(at.toLocalDate());
            case TIME -> new Value.Hour(random.nextBoolean() ? at.toLocalTime() : LocalTime.of(9, 30, 0, 500_000_000));
            case DATETIME -> new Value.Moment(random.nextBoolean() ? at : at.withSecond(0));
            case CHOICE -> text(random.nextBoolean() ? "low" : "it's high");
            case LINK -> new Value.Link(1, 1, "");
            case PICTURE -> Value.EMPTY;
        };
    }

    private void write(StoredRow row) {
        var columns = table.definition().columns();
        other.execute("insert into " + name + " ("
                + columns.stream().map(Column::name).collect(Collectors.joining(", ")) + ") values ("
                + columns.stream()
                        .map(column -> sql.renderInlined(
                                DSL.cast(DSL.val(ColumnSql.spelled(row.of(column.name()))), ColumnSql.type(column))))
                        .collect(Collectors.joining(", "))
                + ")");
    }

    @Test
    void theyAreHeardOfOneByOneAndManyAsMany() throws Exception {
        var heard = new LinkedBlockingQueue<Change>();
        TestDatabase.get().changes().listen(change -> {
            if (change instanceof Change.OfRecord(long of, var _, long _, long _) && of == table.id()
                    || change.equals(new Change.OfRecords(table.id()))) {
                heard.add(change);
            }
        });
        other.execute("insert into " + name + " (site) values ('a')");
        other.execute("delete from " + name);
        other.execute("insert into " + name + " (site) select 'x' || n from generate_series(1, 5000) n");
        var all = new ArrayList<Change>();
        do {
            all.add(heard.poll(20, TimeUnit.SECONDS));
        } while (!new Change.OfRecords(table.id()).equals(all.getLast()));
        assertThat(all)
                .hasSize(103)
                .startsWith(
                        new Change.OfRecord(table.id(), Change.Kind.SAVED, 1, 1),
                        new Change.OfRecord(table.id(), Change.Kind.DELETED, 1, 1));
        assertThat(heard).isEmpty();
    }

    /** Whoever may write to the table and to nothing else can do so; all of it holds with many at once. */
    @Test
    void manyWritersOfBothKindsAgree() throws Exception {
        other.execute("drop role if exists loader");
        other.execute("create role loader login password 'reed'");
        other.execute("grant usage on schema records to loader");
        other.execute("grant select, insert, update, delete on " + name + " to loader");
        try (var pool = Executors.newFixedThreadPool(8)) {
            var work = new ArrayList<Callable<Void>>();
            for (int writer = 0; writer < 8; writer++) {
                int seed = writer;
                work.add(() -> {
                    if (seed % 2 == 0) {
                        byWeft(new Random(seed), seed);
                    } else {
                        byLoader(new Random(seed), seed);
                    }
                    return null;
                });
            }
            for (var done : pool.invokeAll(work)) {
                done.get();
            }
        }
        var free = sql.fetch("select row_no from weft.free_row where table_id = " + table.id())
                .getValues(0, Long.class);
        var all = new ArrayList<>(rows());
        all.addAll(free);
        assertThat(all.stream().sorted().toList())
                .as("each row number is a record's or free, none is left out or given twice")
                .isEqualTo(
                        LongStream.rangeClosed(1, tables.lastRow(table)).boxed().toList());
        for (var row : sql.fetch("select _id, _version from " + name)) {
            var told = history.of(SeenTable.all(table), row.get(0, Long.class));
            assertThat(told).extracting(History.Entry::version).doesNotHaveDuplicates();
            assertThat(told.getFirst().version()).isEqualTo(row.get(1, Integer.class));
            assertThat(told.getFirst().after())
                    .contains(ValuesJson.of(records.find(SeenTable.all(table), row.get(0, Long.class))
                            .orElseThrow()
                            .values()));
        }
        other.execute("drop owned by loader");
        other.execute("drop role loader");
    }

    private static Map<String, Value> site(String site) {
        return values("site", text(site), "depth", Value.EMPTY, "taken_on", Value.EMPTY);
    }

    private void byWeft(Random random, int seed) {
        var mine = new ArrayList<StoredRow>();
        for (int i = 0; i < 60; i++) {
            int at = mine.isEmpty() ? 0 : random.nextInt(mine.size());
            if (mine.isEmpty() || random.nextInt(3) == 0) {
                mine.add(Given.saved(table, site(seed + "-" + i), Optional.empty(), "Odile"));
            } else if (random.nextBoolean()) {
                var row = mine.get(at);
                mine.set(at, Given.changed(table, row.id(), row.version(), site(seed + "+" + i), "Odile"));
            } else {
                var row = mine.remove(at);
                records.delete(table, row.id(), row.version(), "Odile");
            }
        }
    }

    private void byLoader(Random random, int seed) throws SQLException {
        try (var connection = TestDatabase.program("")) {
            var loader = DSL.using(connection, SQLDialect.POSTGRES);
            loader.execute("set session authorization loader");
            for (int i = 0; i < 60; i++) {
                var like = " where site like '" + seed + "-%'";
                loader.execute(
                        switch (random.nextInt(4)) {
                            case 0 -> "delete from " + name + like + " and _row % 3 = 0";
                            case 1 -> "update " + name + " set depth = " + random.nextInt(9) + like;
                            case 2 ->
                                "insert into " + name + " (site) select '" + seed + "-' || n from generate_series(" + i
                                        + ", " + (i + 5) + ") n on conflict do nothing";
                            default ->
                                "insert into " + name + " (site) values ('" + seed + "-" + i
                                        + "') on conflict (site) do update set depth = 5";
                        });
            }
        }
    }
}
