package weft.store.record;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowable;
import static weft.store.Given.text;
import static weft.store.Given.values;

import java.time.Clock;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.core.entry.step.Write;
import weft.core.rule.Numbering;
import weft.core.table.Constraint;
import weft.core.table.Faults;
import weft.core.value.Value;
import weft.store.Given;
import weft.store.TableChanged;
import weft.store.TestDatabase;
import weft.store.event.Change;
import weft.store.message.Outbox;
import weft.store.record.EntryWriter.Entry;
import weft.store.table.Columns;
import weft.store.table.Constraints;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

@ExtendWith(TestDatabase.class)
class EntryWriterTest {

    private static final LocalDate DAY = LocalDate.of(2026, 8, 1);

    private final Tables tables = new Tables(TestDatabase.get().sql());
    private final Constraints constraints = new Constraints(TestDatabase.get().sql());
    private final Records records = new Records(TestDatabase.get().sql());
    private final EntryWriter entries = Given.writer();
    private final Clock clock = Clock.systemDefaultZone();
    private final Outbox outbox = new Outbox(TestDatabase.get().sql(), clock);

    private static Entry entry(StoredTable table, Map<String, Value> values, Numbering... numbers) {
        return new Entry(
                "form", table, values, OptionalLong.empty(), 0, Optional.empty(), List.of(numbers), DAY, "tester");
    }

    private static Value at(int hour) {
        return new Value.Moment(LocalDateTime.of(2026, 8, 1, hour, 0));
    }

    private StoredTable found(StoredTable table) {
        return tables.find(table.definition().name()).orElseThrow();
    }

    /** How many of those who try at once get through; the others are refused. */
    private static int allAtOnce(int clients, java.util.function.IntConsumer tried) throws Exception {
        try (var pool = Executors.newFixedThreadPool(clients)) {
            var all = new ArrayList<Future<Boolean>>();
            for (int i = 0; i < clients; i++) {
                int each = i;
                all.add(pool.submit(() -> {
                    try {
                        tried.accept(each);
                        return true;
                    } catch (NotSaved refused) {
                        assertThat(refused.reason()).isEqualTo(NotSaved.Reason.NOT_ALONE);
                        return false;
                    }
                }));
            }
            int through = 0;
            for (var one : all) {
                through += one.get() ? 1 : 0;
            }
            return through;
        }
    }

    @Test
    void ofThirtyTwoWhoBookTheSameAtOnceExactlyOneWins() throws Exception {
        var table = Given.table("after-last", "tag text", "starts datetime", "ends datetime", "who text");
        constraints.add(table, new Constraint.NoOverlap("", List.of("tag"), "starts", "ends", ""));
        constraints.add(table, new Constraint.Unique("", List.of("tag", "who"), ""));
        var held = found(table);
        assertThat(held.definition().constraints()).hasSize(2);
        int through = allAtOnce(
                32,
                i -> Given.saved(
                        held,
                        values("tag", text("K-07"), "starts", at(i % 8), "ends", at(23), "who", text("p" + i)),
                        Optional.empty(),
                        "tester"));
        assertThat(through).isEqualTo(1);
        assertThat(records.nextRow(held)).isEqualTo(2);
        assertThat(allAtOnce(
                        32,
                        i -> entries.save(
                                entry(held, values("tag", text("K-08"), "who", text("same"))), Following.NOTHING)))
                .isEqualTo(1);
        // A time without an end is no time yet, and in nobody's way.
        Given.saved(held, values("tag", text("K-09"), "starts", at(1)), Optional.empty(), "tester");
        // Back to back is no overlap, and another tag is another thing.
        Given.saved(held, values("tag", text("K-09"), "starts", at(9), "ends", at(10)), Optional.empty(), "tester");
        Given.saved(held, values("tag", text("K-09"), "starts", at(10), "ends", at(11)), Optional.empty(), "tester");
        var rows = records.rowsOf(held, tables::find);
        var overlap = (Constraint.NoOverlap) held.definition().constraints().getFirst();
        assertThat(rows.overlapping(
                                overlap,
                                values("tag", text("K-09"), "starts", at(10), "ends", at(12)),
                                OptionalLong.empty())
                        .orElseThrow()
                        .values()
                        .get("starts"))
                .isEqualTo(at(10));
        assertThat(rows.overlapping(
                        overlap, values("tag", text("K-09"), "starts", at(11), "ends", at(12)), OptionalLong.empty()))
                .isEmpty();
    }

    @Test
    void aConstraintThatStoredRowsBreakIsNotHeldAndSaysWhichTheyAre() {
        var table = Given.table("after-last", "tag text", "starts datetime", "ends datetime");
        for (int hour : new int[] {9, 10, 20}) {
            Given.saved(
                    table, values("tag", text("K"), "starts", at(hour), "ends", at(hour + 2)), Optional.empty(), "t");
        }
        var overlap = new Constraint.NoOverlap("", List.of("tag"), "starts", "ends", "");
        assertThat(constraints.check(table, overlap)).isEqualTo(new Constraints.Breaches(1, List.of(2L)));
        assertThatThrownBy(() -> constraints.add(table, overlap))
                .isInstanceOf(Faults.class)
                .hasMessageContaining("1 stored records break it, such as row 2");
        assertThatThrownBy(() -> constraints.add(table, new Constraint.NoOverlap("", List.of(), "tag", "ends", "")))
                .isInstanceOf(Faults.class);
    }

    @Test
    void runningNumbersAreGivenOnceEachWithoutHolesAndBeginAnewInEachPeriod() throws Exception {
        var table = Given.table("after-last", "number text unique", "depth whole");
        var numbering = new Numbering("number", "S-{year}-{0000}");
        allAtOnce(16, i -> {
            for (int n = 0; n < 10; n++) {
                try {
                    entries.save(
                            entry(table, values("depth", new Value.Whole(i)), numbering),
                            Following.of(Set.of(), (saved, _) -> {
                                if (saved.row() % 7 == 0 && Math.random() < 0.5) {
                                    throw new IllegalStateException("given up");
                                }
                                return Given.writing();
                            }));
                } catch (IllegalStateException givenUp) {
                    // Its number goes to the next.
                }
            }
        });
        var numbers = TestDatabase.get()
                .sql()
                .fetch("select number from {0} order by _row", org.jooq.impl.DSL.table(table.sqlName()))
                .getValues(0, String.class);
        assertThat(numbers)
                .isEqualTo(IntStream.rangeClosed(1, numbers.size())
                        .mapToObj("S-2026-%04d"::formatted)
                        .toList());
        // Where there are numbers already, the first one given follows them.
        Given.saved(table, values("number", text("S-2030-0041")), Optional.empty(), "t");
        var later = new Entry(
                "form",
                table,
                values(),
                OptionalLong.empty(),
                0,
                Optional.empty(),
                List.of(numbering),
                DAY.plusYears(4),
                "t");
        assertThat(entries.save(later, Following.NOTHING).record().of("number")).isEqualTo(text("S-2030-0042"));
        var nextYear = new Entry(
                "form",
                table,
                values(),
                OptionalLong.empty(),
                0,
                Optional.empty(),
                List.of(numbering),
                DAY.plusYears(1),
                "t");
        assertThat(entries.save(nextYear, Following.NOTHING).record().of("number"))
                .isEqualTo(text("S-2027-0001"));
    }

    @Test
    void anEntryAndItsHandOnsAreKeptTogetherOrNotAtAll() {
        var samples = Given.table("after-last", "site text");
        var incidents = Given.table("after-last", "place text required", "seen whole");
        var name = incidents.definition().name();
        Following following = Following.of(
                Set.of(),
                (saved, _) -> Given.writing(
                        new Write.Add(name, values("place", text("QB-03"), "seen", new Value.Whole(saved.row()))),
                        new Write.Message("i@example.org", "Sample " + saved.row(), "Thank you.")));
        var kept = entries.save(entry(samples, values("site", text("QB-03"))), following);
        assertThat(kept.beside()).extracting(EntryWriter.DoneBeside::row).containsExactly(1L, 0L);
        assertThat(outbox.latest(0, 1)).extracting(Outbox.Message::subject).containsExactly("Sample 1");
        // The other table refuses it: nothing of the entry is there either, and no row was used up.
        assertThatThrownBy(() -> entries.save(
                        entry(samples, values("site", text("QB-04"))),
                        Following.of(
                                Set.of(),
                                (_, _) -> Given.writing(
                                        new Write.Message("i@example.org", "never", ""),
                                        new Write.Add(name, values("seen", new Value.Whole(1)))))))
                .isInstanceOfSatisfying(NotSaved.class, refused -> {
                    assertThat(refused.elsewhere())
                            .isEqualTo(incidents.definition().title());
                    assertThat(refused.column()).contains("place");
                });
        assertThat(records.nextRow(samples)).isEqualTo(2);
        assertThat(records.nextRow(incidents)).isEqualTo(2);
        assertThat(outbox.latest(0, 1)).extracting(Outbox.Message::subject).containsExactly("Sample 1");
        // A rehearsal does all of it, with the rows it would have, and keeps nothing.
        var rehearsed = entries.rehearse(entry(samples, values("site", text("QB-05"))), following);
        assertThat(rehearsed.record().row()).isEqualTo(2);
        assertThat(rehearsed.beside()).extracting(EntryWriter.DoneBeside::row).containsExactly(2L, 0L);
        assertThat(records.nextRow(samples)).isEqualTo(2);
        assertThat(records.nextRow(incidents)).isEqualTo(2);
    }

    @Test
    void aRowThatIsHandedOnToIsLookedAtAnewWhenSomebodyChangesItMeanwhile() throws Exception {
        var samples = Given.table("after-last", "site text");
        var counts = Given.table("after-last", "site text", "samples whole");
        var name = counts.definition().name();
        Given.saved(counts, values("site", text("QB-03"), "samples", new Value.Whole(0)), Optional.empty(), "t");
        allAtOnce(8, _ -> {
            for (int n = 0; n < 3; n++) {
                entries.save(entry(samples, values("site", text("QB-03"))), Following.of(Set.of(), (_, rows) -> {
                    var row = rows.matching(name, values("site", text("QB-03")), 2)
                            .getFirst();
                    long before = ((Value.Whole) row.values().get("samples")).number();
                    return Given.writing(new Write.Change(
                            name, row.id(), row.version(), row.row(), values("samples", new Value.Whole(before + 1))));
                }));
            }
        });
        assertThat(records.find(SeenTable.all(counts), 1).orElseThrow().of("samples"))
                .isEqualTo(new Value.Whole(24));
    }

    @Test
    void aMessageIsSentOnceAndTriedAgainWhenItFails() {
        var table = Given.table("after-last", "site text");
        while (outbox.sendNext(_ -> {})) {
            // What other tests wrote.
        }
        entries.save(
                entry(table, values()),
                Following.of(Set.of(), (_, _) -> Given.writing(new Write.Message("i@example.org", "one", "text"))));
        assertThat(outbox.sendNext(_ -> {
                    throw new IllegalStateException("no such host");
                }))
                .isTrue();
        assertThat(outbox.sendNext(_ -> {})).as("it waits for its next try").isFalse();
        var failed = outbox.latest(0, 1).getFirst();
        assertThat(failed.state()).isEqualTo(Outbox.State.WAITING);
        assertThat(failed.failure()).isEqualTo("no such host");
        assertThat(outbox.again(failed.id())).isTrue();
        var sent = new ArrayList<String>();
        while (outbox.sendNext(message -> sent.add(message.subject()))) {
            // Until none is left.
        }
        assertThat(sent).containsExactly("one");
        assertThat(outbox.latest(0, 1).getFirst().state()).isEqualTo(Outbox.State.SENT);
        assertThat(outbox.again(failed.id())).isFalse();
    }

    @Test
    void aMessageThatCannotBeSentIsTriedEightTimesInLongerAndLongerPauses() {
        while (outbox.sendNext(_ -> {})) {
            // What other tests wrote.
        }
        outbox.write("i@example.org", "never", "text", "tester");
        var at = Duration.ZERO;
        for (int tries = 1; tries <= Outbox.TRIES; tries++) {
            assertThat(outbox.latest(0, 1).getFirst().state()).isEqualTo(Outbox.State.WAITING);
            var then = new Outbox(TestDatabase.get().sql(), Clock.offset(clock, at));
            assertThat(then.sendNext(_ -> {
                        throw new IllegalStateException("no such host");
                    }))
                    .as("try %d", tries)
                    .isTrue();
            assertThat(then.sendNext(_ -> {})).as("after try %d", tries).isFalse();
            at = at.plus(Duration.ofSeconds(6).multipliedBy(1L << (2 * tries - 2)));
        }
        assertThat(outbox.latest(0, 1).getFirst().state()).isEqualTo(Outbox.State.GIVEN_UP);
        var late = new Outbox(TestDatabase.get().sql(), Clock.offset(clock, at.plusDays(30)));
        assertThat(late.sendNext(_ -> {})).isFalse();
    }

    private static Entry keyed(StoredTable table, String site, SaveKey key) {
        return new Entry(
                "form",
                table,
                values("site", text(site)),
                OptionalLong.empty(),
                0,
                Optional.of(key),
                List.of(),
                DAY,
                "tester");
    }

    @Test
    void entriesForATableThatWasDeletedAndMadeAgainEndWithThatAndHoldNobodyUp() throws Exception {
        var old = Given.table("after-last", "site text");
        entries.save(entry(old, values("site", text("QB-01"))), Following.NOTHING);
        new Columns(TestDatabase.get().sql(), Records::anyTable)
                .delete(old.definition().name());
        tables.make(old.definition());
        var made = found(old);
        try (var pool = Executors.newFixedThreadPool(32)) {
            var came = IntStream.range(0, 32)
                    .mapToObj(i -> pool.submit(() -> catchThrowable(() -> entries.save(
                            entry(i % 2 == 0 ? old : made, values("site", text("QB-" + i))), Following.NOTHING))))
                    .toList();
            for (int i = 0; i < came.size(); i++) {
                var failure = came.get(i).get(20, TimeUnit.SECONDS);
                if (i % 2 == 0) {
                    assertThat(failure).isInstanceOf(TableChanged.class);
                } else {
                    assertThat(failure).isNull();
                }
            }
        }
        assertThat(records.nextRow(made)).isEqualTo(17);
    }

    @Test
    @Timeout(60)
    void anEntryThatCannotEvenBeSentLeavesNoneOfThoseThatWaitWithItUnanswered() throws Exception {
        var heard = ConcurrentHashMap.<Long>newKeySet();
        TestDatabase.get().changes().listen(change -> {
            if (change instanceof Change.OfTable(long made)) {
                heard.add(made);
            }
        });
        var table = Given.table("after-last", "site text");
        // Until it is heard that the table was made: that lets its lane go, and a second one would begin.
        while (!heard.contains(table.id())) {
            Thread.sleep(1);
        }
        var failures = new ConcurrentHashMap<Integer, Throwable>();
        var threads = new ArrayList<Thread>();
        try (var connection = TestDatabase.get().source().getConnection()) {
            connection.setAutoCommit(false);
            try (var statement = connection.createStatement()) {
                // The first entry waits for the table's counter, and the others for the first.
                statement.execute("select 1 from weft.row_counter where table_id = " + table.id() + " for update");
                for (int i = 0; i < 9; i++) {
                    int each = i;
                    var key = new SaveKey("k" + i, i == 4 ? null : new byte[] {1});
                    threads.add(Thread.ofPlatform()
                            .start(() -> Optional.ofNullable(catchThrowable(
                                            () -> entries.save(keyed(table, "QB-" + each, key), Following.NOTHING)))
                                    .ifPresent(failure -> failures.put(each, failure))));
                    while (waiting(threads) < i) {
                        assertThat(threads.subList(0, i)).as("wait still").allMatch(Thread::isAlive);
                        Thread.sleep(1);
                    }
                }
                connection.commit();
            }
        }
        for (var thread : threads) {
            assertThat(thread.join(Duration.ofSeconds(20))).isTrue();
        }
        assertThat(failures).containsOnlyKeys(4);
        assertThat(failures.get(4)).isInstanceOf(NullPointerException.class);
        assertThat(records.nextRow(table)).isEqualTo(9);
    }

    private static long waiting(List<Thread> threads) {
        return threads.stream()
                .filter(thread -> thread.getState() == Thread.State.WAITING)
                .count();
    }

    @Test
    void aKeyIsAnsweredOnceWhicheverWayAnEntryIsWritten() {
        var table = Given.table("after-last", "site text");
        var key = new SaveKey("once", new byte[] {1});
        Following message =
                Following.of(Set.of(), (_, _) -> Given.writing(new Write.Message("i@example.org", "once", "text")));
        var first = entries.save(keyed(table, "QB-03", key), message);
        assertThat(entries.save(keyed(table, "QB-03", key), message).record()).isEqualTo(first.record());
        assertThat(entries.save(keyed(table, "QB-03", key), Following.NOTHING).record())
                .isEqualTo(first.record());
        assertThat(records.nextRow(table)).isEqualTo(2);
        assertThat(outbox.latest(0, 100).stream().filter(each -> each.subject().equals("once")))
                .hasSize(1);
    }
}
