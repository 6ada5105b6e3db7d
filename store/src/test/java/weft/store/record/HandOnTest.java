package weft.store.record;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.store.Given.text;
import static weft.store.Given.values;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weft.core.rule.Numbering;
import weft.store.Given;
import weft.store.TestDatabase;
import weft.store.record.EntryWriter.Entry;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/** Entries that hand on to each other's tables, while others are keyed into both. */
@ExtendWith(TestDatabase.class)
class HandOnTest {

    private static final int CLIENTS = 8;
    private static final int ENTRIES = 15;

    private final Records records = new Records(TestDatabase.get().sql());

    private static Entry entry(StoredTable table, boolean numbered) {
        return new Entry(
                "form",
                table,
                values("site", text("keyed")),
                OptionalLong.empty(),
                0,
                Optional.empty(),
                numbered ? List.of(new Numbering("number", "{000}")) : List.of(),
                LocalDate.of(2026, 8, 1),
                "tester");
    }

    private static long deadlocks() {
        return TestDatabase.get()
                .sql()
                .fetchSingle("select deadlocks from pg_stat_database where datname = current_database()")
                .get(0, Long.class);
    }

    @ParameterizedTest
    @ValueSource(strings = {"after-last", "first-free"})
    @Timeout(60)
    void twoThatHandOnToEachOtherNeverWaitInACircle(String placement) throws Exception {
        var one = Given.table(placement, "site text", "number text");
        var two = Given.table(placement, "site text", "number text");
        for (var table : List.of(one, two)) {
            for (int i = 0; i < 20; i++) {
                var row = Given.saved(table, values("site", text("old")), Optional.empty(), "t");
                if (i % 2 == 0) {
                    records.delete(table, row.id(), row.version(), "t");
                }
            }
        }
        long before = deadlocks();
        // Two servers.
        var writers = List.of(
                Given.writer(),
                new EntryWriter(
                        TestDatabase.get(), new Tables(TestDatabase.get().sql())::find));
        var all = new ArrayList<Callable<Integer>>();
        for (int client = 0; client < CLIENTS; client++) {
            var table = client % 2 == 0 ? one : two;
            var following = client >= CLIENTS - 2
                    ? Following.NOTHING
                    : Given.alsoTo(client % 2 == 0 ? two : one, _ -> text("handed on"));
            var writer = writers.get(client / 2 % 2);
            all.add(() -> {
                for (int i = 0; i < ENTRIES; i++) {
                    writer.save(entry(table, following != Following.NOTHING), following);
                }
                return ENTRIES;
            });
        }
        try (var pool = Executors.newFixedThreadPool(CLIENTS)) {
            for (var done : pool.invokeAll(all)) {
                assertThat(done.get()).isEqualTo(ENTRIES);
            }
        }
        assertThat(deadlocks()).isEqualTo(before);
        var counts = List.of(one, two).stream()
                .map(table -> TestDatabase.get().sql().fetchCount(DSL.table(table.sqlName())))
                .toList();
        // Each table got what was keyed into it and what the three others handed on.
        assertThat(counts).allMatch(count -> count >= ENTRIES * (CLIENTS / 2));
        assertThat(counts.get(0) + counts.get(1)).isGreaterThanOrEqualTo(ENTRIES * (CLIENTS + CLIENTS - 2));
    }
}
