package weft.store.record;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static weft.store.Given.text;
import static weft.store.Given.values;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.jooq.exception.DataAccessException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weft.store.Database;
import weft.store.Given;
import weft.store.TestDatabase;
import weft.store.record.EntryWriter.Entry;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/** The first free row is found right however the database goes about it. */
@ExtendWith(TestDatabase.class)
class FirstFreeRowTest {

    private static final int CLIENTS = 32;

    private final Records records = new Records(TestDatabase.get().sql());

    /** A table of so many rows, of which every third was removed. */
    private StoredTable holed(int rows) {
        var table = Given.table("first-free", "site text");
        var saved = IntStream.rangeClosed(1, rows)
                .mapToObj(i -> Given.saved(table, values("site", text("s" + i)), Optional.empty(), "tester"))
                .toList();
        saved.stream()
                .filter(row -> row.row() % 3 == 0)
                .forEach(row -> records.delete(table, row.id(), row.version(), "tester"));
        return table;
    }

    private static List<Long> rowsOf(StoredTable table) {
        return TestDatabase.get()
                .sql()
                .fetch("select _row from " + TestDatabase.get().sql().render(table.sqlName()) + " order by _row")
                .getValues(0, Long.class);
    }

    private static EntryWriter under(Database database) {
        return new EntryWriter(database, new Tables(database.sql())::find);
    }

    private static Entry entry(StoredTable table, String site) {
        return new Entry(
                "form",
                table,
                values("site", text(site)),
                OptionalLong.empty(),
                0,
                Optional.empty(),
                List.of(),
                LocalDate.of(2026, 8, 1),
                "tester");
    }

    /** Whatever joins are forbidden to the planner, with statistics of a table whose rows all went. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "hashjoin mergejoin material hashagg",
                "hashjoin nestloop",
                "mergejoin nestloop",
                "hashjoin mergejoin indexscan bitmapscan indexonlyscan material",
                "seqscan hashagg sort"
            })
    void ofThirtyTwoClientsEachGetsARowOfItsOwnAndTheFreedOnesGoFirst(String without) throws Exception {
        var options = Stream.concat(
                        Stream.of(without.split(" "))
                                .filter(name -> !name.isEmpty())
                                .map(name -> "-c enable_" + name + "=off"),
                        Stream.of("-c plan_cache_mode=force_generic_plan"))
                .collect(Collectors.joining(" "));
        var emptied = holed(70);
        for (var row : TestDatabase.get()
                .sql()
                .fetch("select _id, _version from " + TestDatabase.get().sql().render(emptied.sqlName()))) {
            records.delete(emptied, row.get(0, Long.class), row.get(1, Integer.class), "tester");
        }
        TestDatabase.get().sql().execute("analyze weft.free_row");
        TestDatabase.get().sql().execute("analyze weft.row_counter");
        var table = holed(30);
        try (var database = TestDatabase.another(options, 8);
                var other = TestDatabase.another(options, 8);
                var pool = Executors.newFixedThreadPool(CLIENTS)) {
            // As two servers would: each has lanes of its own.
            var writers = List.of(under(database), under(other));
            var tried = new ArrayList<Callable<Long>>();
            for (int i = 0; i < CLIENTS; i++) {
                int each = i;
                tried.add(() -> writers.get(each % 2)
                        .save(entry(table, "c" + each), Following.NOTHING)
                        .record()
                        .row());
            }
            var given = new ArrayList<Long>();
            for (Future<Long> one : pool.invokeAll(tried)) {
                given.add(one.get());
            }
            var freed = IntStream.rangeClosed(1, 10).mapToObj(i -> i * 3L).toList();
            assertThat(given).doesNotHaveDuplicates().hasSize(CLIENTS).containsAll(freed);
            assertThat(rowsOf(table))
                    .isEqualTo(LongStream.rangeClosed(1, 20 + CLIENTS).boxed().toList());
            assertThat(records.nextRow(table)).isEqualTo(21 + CLIENTS);
        }
    }

    @Test
    void aCounterNeverStepsBack() {
        var table = holed(3);
        assertThatThrownBy(() -> TestDatabase.get()
                        .sql()
                        .execute("update weft.row_counter set next_row = next_row - 1 where table_id = " + table.id()))
                .isInstanceOf(DataAccessException.class)
                .hasMessageContaining("would step back");
    }
}
