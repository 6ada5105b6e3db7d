package weft.store.record;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static weft.store.Given.text;
import static weft.store.Given.values;
import static weft.store.schema.Tables.HISTORY;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.core.find.Sort;
import weft.core.find.View;
import weft.core.record.StoredRow;
import weft.core.value.Value;
import weft.store.Given;
import weft.store.TestDatabase;
import weft.store.find.Views;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

@ExtendWith(TestDatabase.class)
class RecordsTest {

    private final Records records = new Records(TestDatabase.get().sql());

    private StoredRow save(StoredTable table, Map<String, Value> values) {
        return Given.saved(table, values, Optional.empty(), "tester");
    }

    private static SaveKey key(String key, String body) {
        return new SaveKey(key, body.getBytes());
    }

    private static <T> List<T> allAtOnce(int threads, Callable<T> work) throws Exception {
        try (var pool = Executors.newFixedThreadPool(threads)) {
            var results = new ArrayList<T>();
            for (var future : pool.invokeAll(Collections.nCopies(threads, work))) {
                results.add(future.get());
            }
            return results;
        }
    }

    @Test
    void everyTypeOfValueComesBackAsItWasSaved() {
        var table = Given.table(
                "after-last",
                "a text",
                "b longtext",
                "c whole",
                "d decimal",
                "e yesno",
                "f date",
                "g time",
                "h datetime",
                "i choice");
        var values = values(
                "a", text("tab\t\"quote\" \\ ’ 水"),
                "b", text("two\nlines"),
                "c", new Value.Whole(Long.MAX_VALUE),
                "d", new Value.Decimal(new BigDecimal("7.4")),
                "e", new Value.YesNo(false),
                "f", new Value.Day(LocalDate.of(1, 1, 1)),
                "g", new Value.Hour(LocalTime.of(23, 59, 59)),
                "h", new Value.Moment(LocalDateTime.of(9999, 12, 31, 0, 0)),
                "i", text("it's high"));
        var saved = save(table, values);
        assertThat(records.find(SeenTable.all(table), saved.id())).contains(saved);
        var empty = save(table, values("a", Value.EMPTY, "d", Value.EMPTY, "f", Value.EMPTY));
        assertThat(records.find(SeenTable.all(table), empty.id())
                        .orElseThrow()
                        .values()
                        .values())
                .containsOnly(Value.EMPTY);
        assertThat(empty.row()).isEqualTo(2);
    }

    @Test
    void sixteenClientsSavingAtOnceLeaveNoHoleAndNoDouble() throws Exception {
        var table = Given.table("after-last", "a text");
        allAtOnce(
                16,
                () -> IntStream.range(0, 200)
                        .mapToObj(i -> save(table, values("a", text("x" + i))))
                        .toList());
        var rows = new ArrayList<Long>();
        new Views(TestDatabase.get(), new Tables(TestDatabase.get().sql()))
                .each(SeenTable.all(table), View.all(Sort.BY_ROW), _ -> {}, record -> rows.add(record.row()));
        assertThat(rows)
                .containsExactlyElementsOf(
                        LongStream.rangeClosed(1, 3_200).boxed().toList());
        assertThat(records.nextRow(table)).isEqualTo(3_201);
        assertThat(new Tables(TestDatabase.get().sql()).rows(table)).isEqualTo(3_200);
    }

    @Test
    void aSaveThatFailsUsesNoRowNumber() {
        var table = Given.table("after-last", "code text unique", "site text required", "ph decimal");
        save(table, values("code", text("A"), "site", text("x")));
        for (var bad : List.of(
                values("code", text("A"), "site", text("x")),
                values("code", text("B")),
                values("code", text("B"), "site", text("x"), "ph", new Value.Decimal(new BigDecimal("15"))))) {
            assertThatThrownBy(() -> save(table, bad)).isInstanceOf(NotSaved.class);
        }
        assertThat(save(table, values("code", text("B"), "site", text("x"))).row())
                .isEqualTo(2);
    }

    @Test
    void aRefusalNamesTheColumnAndTheReason() {
        var table = Given.table("after-last", "code text unique", "ph decimal", "flow choice");
        save(table, values("code", text("A")));
        assertThatThrownBy(() -> save(table, values("code", text("A"))))
                .isInstanceOfSatisfying(NotSaved.class, refused -> {
                    assertThat(refused.reason()).isEqualTo(NotSaved.Reason.NOT_UNIQUE);
                    assertThat(refused.column()).contains("code");
                });
        assertThatThrownBy(() -> save(table, values("flow", text("none"))))
                .isInstanceOfSatisfying(
                        NotSaved.class, refused -> assertThat(refused.column()).contains("flow"));
    }

    @Test
    void theSameKeyGivesTheFirstAnswerAgainAndWritesNothing() throws Exception {
        var table = Given.table("after-last", "a text");
        Callable<StoredRow> again =
                () -> Given.saved(table, values("a", text("x")), Optional.of(key("k", "x")), "tester");
        var answers = allAtOnce(8, again);
        assertThat(answers).containsOnly(answers.getFirst());
        assertThat(records.nextRow(table)).isEqualTo(2);
        var other = Optional.of(key("k", "y"));
        assertThatThrownBy(() -> Given.saved(table, values("a", text("y")), other, "tester"))
                .isInstanceOfSatisfying(
                        NotSaved.class, refused -> assertThat(refused.reason()).isEqualTo(NotSaved.Reason.KEY_REUSED));
        Given.writer().keys().forgetKeys(OffsetDateTime.now().plusSeconds(5));
        assertThat(again.call().row()).isEqualTo(2);
    }

    @Test
    void theFirstAnswerStaysWhatItWasAfterTheRecordChanged() {
        var table = Given.table("after-last", "a text", "b text");
        var key = Optional.of(key("k", "x"));
        var values = values("a", text("x"), "b", Value.EMPTY);
        var first = Given.saved(table, values, key, "tester");
        Given.changed(table, first.id(), 1, values("a", text("y")), "tester");
        assertThat(Given.saved(table, values, key, "tester")).isEqualTo(first);
    }

    @Test
    void freedRowsAreFilledFirstWhereTheTableSaysSo() throws Exception {
        var fills = Given.table("first-free", "a text");
        var appends = Given.table("after-last", "a text");
        for (var table : List.of(fills, appends)) {
            var saved = IntStream.range(0, 5)
                    .mapToObj(i -> save(table, values("a", text("x"))))
                    .toList();
            records.delete(table, saved.get(3).id(), 1, "tester");
            records.delete(table, saved.get(1).id(), 1, "tester");
        }
        assertThat(records.nextRow(fills)).isEqualTo(2);
        assertThat(records.nextRow(appends)).isEqualTo(6);
        assertThat(allAtOnce(4, () -> save(fills, values("a", text("y"))).row()))
                .containsExactlyInAnyOrder(2L, 4L, 6L, 7L);
        assertThat(save(appends, values("a", text("y"))).row()).isEqualTo(6);
        assertThat(new Tables(TestDatabase.get().sql()).rows(appends)).isEqualTo(4);
    }

    @Test
    void aChangeOnAStaleVersionWritesNothing() {
        var table = Given.table("after-last", "a text");
        var saved = save(table, values("a", text("x")));
        var changed = Given.changed(table, saved.id(), 1, values("a", text("y")), "tester");
        assertThat(changed.version()).isEqualTo(2);
        assertThatThrownBy(() -> Given.changed(table, saved.id(), 1, values("a", text("z")), "tester"))
                .isInstanceOfSatisfying(
                        Stale.class, stale -> assertThat(stale.now()).contains(changed));
        assertThatThrownBy(() -> records.delete(table, saved.id(), 1, "tester")).isInstanceOf(Stale.class);
        records.delete(table, saved.id(), 2, "tester");
        assertThatThrownBy(() -> records.delete(table, saved.id(), 2, "tester"))
                .isInstanceOfSatisfying(
                        Stale.class, stale -> assertThat(stale.now()).isEmpty());
    }

    @Test
    void everyChangeKeepsWhoBeforeAndAfter() {
        var table = Given.table("after-last", "a text");
        var saved = save(table, values("a", text("x")));
        Given.changed(table, saved.id(), 1, values("a", text("y")), "Odile");
        records.delete(table, saved.id(), 2, "Bram");
        var history = TestDatabase.get()
                .sql()
                .selectFrom(HISTORY)
                .where(HISTORY.TABLE_ID.eq(table.id()))
                .orderBy(HISTORY.ID)
                .fetch(row -> row.get(HISTORY.ACTION) + " " + row.get(HISTORY.BY) + " " + row.get(HISTORY.BEFORE) + " "
                        + row.get(HISTORY.AFTER));
        assertThat(history)
                .containsExactly(
                        "SAVED tester null {\"a\":\"x\"}",
                        "CHANGED Odile {\"a\":\"x\"} {\"a\":\"y\"}",
                        "DELETED Bram {\"a\":\"y\"} null");
    }

    @Test
    void namesThatAreSqlWordsAndQuotesInValuesAreJustNamesAndValues() {
        var table = Given.table("after-last", "select text unique", "order date");
        save(table, values("select", text("'); drop table weft.form; --")));
        assertThat(records.rowsOf(table, _ -> Optional.empty())
                        .with(Map.of("select", text("'); drop table weft.form; --")), OptionalLong.empty()))
                .map(row -> row.row())
                .contains(1L);
    }
}
