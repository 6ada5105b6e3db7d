package weft.store.entry;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.core.entry.EntryEngine;
import weft.core.entry.draft.Draft;
import weft.core.rule.Numbering;
import weft.core.rule.Rules;
import weft.core.rule.Step;
import weft.core.rule.Step.Setting;
import weft.core.rule.Step.Steps;
import weft.core.value.Conventions;
import weft.core.value.Typed;
import weft.store.Database;
import weft.store.Given;
import weft.store.TestDatabase;
import weft.store.entry.SavingMany.LinesStopped;
import weft.store.entry.SavingMany.SavedLines;
import weft.store.entry.SavingMany.SentLine;
import weft.store.form.Definitions;
import weft.store.form.FormDocument;
import weft.store.form.Forms;
import weft.store.form.ReadyForm;
import weft.store.record.NotSaved;
import weft.store.record.Records;
import weft.store.record.SaveKey;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/** Many lines become many records, as one, against the real database. */
@ExtendWith(TestDatabase.class)
class SavingManyTest {

    private final Database database = TestDatabase.get();
    private final Tables tables = new Tables(database.sql());
    private final Forms forms = new Forms(database.sql());
    private final Records records = new Records(database.sql());
    private final Definitions definitions = new Definitions(forms, tables, database.changes());
    private final EntryEngine engine = new EntryEngine(Clock.systemUTC());
    private final SavingMany saving = new SavingMany(
            engine, new Saving(engine, records, Given.writer(), definitions, Clock.systemUTC()), Given.writer());

    private StoredTable counts;
    private StoredTable log;
    private ReadyForm form;

    @BeforeEach
    void given() {
        counts = Given.table("after-last", "site text required", "number text unique", "ph decimal");
        form = published(counts, Rules.NONE);
    }

    private ReadyForm published(StoredTable table, Rules rules) {
        var made = forms.make(table, Conventions.DEFAULT).form();
        forms.change(1, FormDocument.checked(made.ruled(rules)), "Bram");
        forms.publish(made.id(), "Bram");
        return definitions.published(made.id()).orElseThrow();
    }

    private SentLine line(int line, String... columnsAndTexts) {
        var typed = new HashMap<String, Typed>();
        for (int i = 0; i < columnsAndTexts.length; i += 2) {
            typed.put(columnsAndTexts[i], new Typed.Keyed(columnsAndTexts[i + 1]));
        }
        return new SentLine(
                line, new Sent(form, new Draft(typed, OptionalLong.empty()), 0, Optional.empty(), SavingTest.ODILE));
    }

    private SavedLines all(SentLine... lines) {
        return saving.save(List.of(lines), Optional.empty(), false);
    }

    private static Optional<SaveKey> key(String key, String body) {
        return Optional.of(new SaveKey(key, body.getBytes(StandardCharsets.UTF_8)));
    }

    private List<Long> rowsOf(SavedLines outcome) {
        return outcome.saved().values().stream().map(row -> row.row()).toList();
    }

    @Test
    void sixLinesBecomeOneBlockOfRowsInTheirOrder() {
        all(line(1, "site", "before"));
        var outcome = all(IntStream.rangeClosed(1, 6)
                .mapToObj(n -> line(n, "site", "s" + n, "ph", "7." + n))
                .toArray(SentLine[]::new));
        assertThat(rowsOf(outcome)).containsExactly(2L, 3L, 4L, 5L, 6L, 7L);
        assertThat(outcome.left()).isEmpty();
        assertThat(records.find(SeenTable.all(counts), outcome.saved().get(4).id())
                        .orElseThrow()
                        .of("site")
                        .plain())
                .isEqualTo("s4");
    }

    @Test
    void aStopInOneLineSavesNoneUnlessThoseThatPassAreWanted() {
        var lines = List.of(
                line(1, "site", "a", "number", "n1"),
                line(2, "site", "b", "ph", "99", "number", "n9"),
                line(4, "site", "c", "number", "n1"),
                line(5, "site", "d", "number", "n9"));
        var stopped = catchThrowableOfType(LinesStopped.class, () -> saving.save(lines, Optional.empty(), false));
        assertThat(stopped.findings().keySet()).containsExactly(2, 4, 5);
        assertThat(tables.rows(counts)).isZero();
        var outcome = saving.save(lines, Optional.empty(), true);
        assertThat(outcome.saved().keySet()).containsExactly(1, 5);
        assertThat(rowsOf(outcome)).containsExactly(1L, 2L);
        assertThat(outcome.left().get(4).all().getFirst().message())
                .isEqualTo("Line 1 already has n1. No two records may share it.");
    }

    @Test
    void theSameBatchTwiceIsSavedOnceAndAnsweredAlike() {
        var lines = List.of(line(1, "site", "a", "number", "n1"), line(3, "site", "b", "ph", "99"));
        var first = saving.save(lines, key("k", "body"), true);
        var second = saving.save(lines, key("k", "body"), true);
        assertThat(second.saved()).isEqualTo(first.saved());
        assertThat(second.left().keySet()).containsExactly(3);
        assertThat(tables.rows(counts)).isEqualTo(1);
        var reused = catchThrowableOfType(
                NotSaved.class, () -> saving.save(List.of(line(1, "site", "z")), key("k", "other"), false));
        assertThat(reused.reason()).isEqualTo(NotSaved.Reason.KEY_REUSED);
    }

    /** Sixteen send batches at once, some the same one, some that cannot all stand: no hole, nothing twice, all or none. */
    @Test
    void batchesOfManyAtOnceAreWholeBlocksWithoutHoles() throws Exception {
        Callable<List<SavedLines>> client = () -> {
            var outcomes = new ArrayList<SavedLines>();
            for (int batch = 0; batch < 5; batch++) {
                int of = batch;
                var lines = IntStream.rangeClosed(1, 6)
                        .mapToObj(n -> line(n, "site", Thread.currentThread().threadId() + "-" + of + "-" + n))
                        .toList();
                outcomes.add(saving.save(lines, Optional.empty(), false));
                try {
                    // One number that all of them want.
                    saving.save(
                            List.of(line(1, "site", "x"), line(2, "site", "y", "number", "wanted" + batch)),
                            Optional.empty(),
                            false);
                } catch (LinesStopped another) {
                    assertThat(another.findings().keySet()).containsExactly(2);
                }
                outcomes.add(saving.save(
                        List.of(line(1, "site", "same"), line(2, "site", "same")), key("same" + batch, "b"), false));
            }
            return outcomes;
        };
        var all = new ArrayList<SavedLines>();
        try (var clients = Executors.newFixedThreadPool(16)) {
            for (var outcomes : clients.invokeAll(java.util.Collections.nCopies(16, client))) {
                all.addAll(outcomes.get());
            }
        }
        all.forEach(outcome -> {
            var rows = rowsOf(outcome);
            assertThat(rows)
                    .isEqualTo(LongStream.range(rows.getFirst(), rows.getFirst() + rows.size())
                            .boxed()
                            .toList());
        });
        // 16 × 5 of six lines, 5 of two that all wanted, 5 of two that all sent.
        assertThat(tables.rows(counts)).isEqualTo(16 * 5 * 6 + 5 * 2 + 5 * 2);
        assertThat(tables.lastRow(counts)).isEqualTo(tables.rows(counts));
    }

    @Test
    void whatFollowsEachLineIsWrittenWithItOrNothingIs() {
        log = Given.table("after-last", "place text required", "seen whole unique");
        form = published(
                Given.table("first-free", "site text required", "number text unique", "times whole"),
                new Rules(
                        List.of(),
                        List.of(),
                        List.of(),
                        List.of(),
                        List.of(new Numbering("number", "N-{000}")),
                        List.of(new Steps(
                                Steps.SAVED,
                                List.of(new Step(
                                        "times > 0",
                                        new Step.AddRow(
                                                log.definition().name(),
                                                List.of(
                                                        new Setting("place", "site"),
                                                        new Setting("seen", "times"))))))),
                        List.of()));
        var outcome = all(line(1, "site", "a", "times", "1"), line(2, "site", "b"), line(3, "site", "c", "times", "2"));
        assertThat(outcome.saved().values())
                .extracting(row -> row.of("number").plain())
                .containsExactly("N-001", "N-002", "N-003");
        assertThat(tables.rows(log)).isEqualTo(2);
        // The second line hands on what is there already: none of the batch stays.
        var stopped = catchThrowableOfType(
                LinesStopped.class, () -> all(line(1, "site", "d"), line(2, "site", "e", "times", "2")));
        assertThat(stopped.findings()).hasSize(1);
        assertThat(tables.rows(form.table())).isEqualTo(3);
        assertThat(tables.rows(log)).isEqualTo(2);
        assertThat(all(line(1, "site", "f")).saved().get(1).of("number").plain())
                .isEqualTo("N-004");
    }

    @Test
    void rowsThatWereSetFreeAreFilledFirstWhereTheTableSaysSo() {
        form = published(Given.table("first-free", "site text required"), Rules.NONE);
        var first = all(
                IntStream.rangeClosed(1, 5).mapToObj(n -> line(n, "site", "s")).toArray(SentLine[]::new));
        for (int line : new int[] {2, 4}) {
            var row = first.saved().get(line);
            records.delete(form.table(), row.id(), 1, "odile");
        }
        assertThat(records.nextRows(form.table(), 4)).containsExactly(2L, 4L, 6L, 7L);
        var second = all(IntStream.rangeClosed(1, 4)
                .mapToObj(n -> line(n, "site", "t" + n))
                .toArray(SentLine[]::new));
        assertThat(rowsOf(second)).containsExactly(2L, 4L, 6L, 7L);
        assertThat(second.saved().get(2).of("site").plain()).isEqualTo("t2");
    }

    @Test
    void fiveThousandLinesAreOneStatement() {
        var outcome = saving.save(
                IntStream.rangeClosed(1, 5_000)
                        .mapToObj(n -> line(n, "site", "s" + n))
                        .toList(),
                Optional.empty(),
                false);
        assertThat(rowsOf(outcome))
                .isEqualTo(LongStream.rangeClosed(1, 5_000).boxed().toList());
        assertThat(Map.copyOf(outcome.saved()).get(4_321).of("site").plain()).isEqualTo("s4321");
    }
}
