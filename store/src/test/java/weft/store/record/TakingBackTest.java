package weft.store.record;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static weft.store.Given.text;
import static weft.store.Given.values;

import java.time.Clock;
import java.time.LocalDate;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.core.entry.step.Write;
import weft.core.record.StoredRow;
import weft.core.value.Value;
import weft.store.Given;
import weft.store.TestDatabase;
import weft.store.message.Outbox;
import weft.store.record.EntryWriter.Entry;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;

/** Entries with whatever they may write elsewhere, taken back and put back. */
@ExtendWith(TestDatabase.class)
class TakingBackTest {

    private static final int ROUNDS = 4;
    private static final int ENTRIES = 8;

    private final DSLContext sql = TestDatabase.get().sql();
    private final Records records = new Records(sql);
    private final TakingBack takingBack = new TakingBack(sql, Clock.systemDefaultZone());
    private final Outbox outbox = new Outbox(sql, Clock.systemDefaultZone());
    private final StoredTable own = Given.table("after-last", "site text", "ph decimal");
    private final StoredTable other =
            Given.table("first-free", "site text", "river text", "ph decimal", "code text unique");

    /** All that stands in both tables, by identity. */
    private Map<String, Object> all() {
        var all = new TreeMap<String, Object>();
        for (var table : List.of(own, other)) {
            for (var row : records.latest(SeenTable.all(table), 1_000)) {
                all.put(table.definition().name() + " " + row.id(), row.row() + " " + row.values());
            }
        }
        all.put(
                "messages",
                outbox.latest(0, 1_000).stream()
                        .filter(message -> message.state() == Outbox.State.WAITING)
                        .filter(message -> message.to().equals(own.definition().name()))
                        .count());
        return all;
    }

    private StoredRow saved(Write... writes) {
        var entry = new Entry(
                "form",
                own,
                values("site", text("keyed")),
                OptionalLong.empty(),
                0,
                Optional.empty(),
                List.of(),
                LocalDate.of(2026, 8, 1),
                "kim");
        return Given.writer()
                .save(entry, Following.of(Set.of(other.definition().name()), (_, _) -> Given.writing(writes)))
                .record();
    }

    private List<StoredRow> others() {
        return records.latest(SeenTable.all(other), 1_000);
    }

    private Write change(StoredRow row, Map<String, Value> set) {
        return new Write.Change(other.definition().name(), row.id(), row.version(), row.row(), set);
    }

    /** Each on a row of its own, since a write says the version that it saw. */
    private Write[] writes(Random random) {
        var name = other.definition().name();
        var writes = new ArrayList<Write>();
        var rows = new ArrayDeque<>(others());
        for (int i = random.nextInt(5); i > 0; i--) {
            var row = random.nextInt(3) == 0 ? null : rows.poll();
            var site = text(random.nextInt(3) == 0 ? "Wen" : "s" + random.nextInt());
            writes.add(
                    switch (row == null ? random.nextInt(3) : 3 + random.nextInt(3)) {
                        case 0 -> new Write.Message(own.definition().name(), "subject", "text");
                        case 1 ->
                            new Write.AddAll(
                                    name, List.of(values("site", site), values("site", site, "river", text("b"))));
                        case 2 -> new Write.Add(name, values("site", site, "code", text("c" + random.nextLong())));
                        case 3 -> new Write.Remove(name, row.id(), row.version(), row.row());
                        case 4 -> change(row, values("site", site, "river", Value.EMPTY));
                        default -> change(row, values("river", site));
                    });
        }
        return writes.toArray(Write[]::new);
    }

    @Test
    void whatIsTakenBackIsAsItWasBeforeAndWhatIsPutBackAsItWasAfter() {
        long seed = new Random().nextLong();
        var random = new Random(seed);
        for (int i = 0; i < 6; i++) {
            Given.saved(other, values("site", text("old" + i)), Optional.empty(), "t");
        }
        for (int round = 0; round < ROUNDS; round++) {
            var entries = new ArrayList<StoredRow>();
            var states = new ArrayList<>(List.of(all()));
            for (int i = 0; i < ENTRIES; i++) {
                entries.add(saved(writes(random)));
                states.add(all());
            }
            int back = random.nextInt(ENTRIES);
            boolean together = random.nextBoolean();
            if (together) {
                takeBack(entries.subList(back, ENTRIES));
            }
            for (int i = ENTRIES - 1; !together && i >= back; i--) {
                takeBack(List.of(entries.get(i)));
                assertThat(all()).as("seed %d, entry %d taken back", seed, i).isEqualTo(states.get(i));
            }
            assertThat(all()).as("seed %d", seed).isEqualTo(states.get(back));
            for (int i = back; i < ENTRIES; i++) {
                assertThat(takingBack.putBack(own, entries.get(i).id(), "kim", List.of()))
                        .isPresent();
                assertThat(all()).as("seed %d, entry %d put back", seed, i).isEqualTo(states.get(i + 1));
            }
            // And once more, from the versions that they have now.
            for (int i = ENTRIES - 1; i >= back; i--) {
                takeBack(List.of(
                        records.find(SeenTable.all(own), entries.get(i).id()).orElseThrow()));
            }
            assertThat(all()).as("seed %d, again", seed).isEqualTo(states.get(back));
        }
    }

    private int takeBack(List<StoredRow> entries) {
        return takingBack.takeBack(
                own,
                entries.stream()
                        .map(each -> new TakingBack.AtVersion(each.id(), each.version()))
                        .toList(),
                "kim",
                List.of());
    }

    @Test
    void whatOthersChangedSinceIsLeftAndTheEntryWithItButNotWhatTheyChangedBesideIt() {
        var stock = Given.saved(other, values("site", text("12"), "river", text("a")), Optional.empty(), "t");
        var entry = saved(
                new Write.Add(other.definition().name(), values("site", text("handed on"))),
                change(stock, values("site", text("7"))));
        var beside = Given.changed(other, stock.id(), stock.version() + 1, values("river", text("b")), "t");
        var over = Given.changed(other, stock.id(), beside.version(), values("site", text("3")), "t");
        var before = all();
        assertThatThrownBy(() -> takeBack(List.of(entry))).isInstanceOfSatisfying(ChangedBeside.class, e -> {
            assertThat(e.row()).isEqualTo(stock.row());
            assertThat(e.table()).isEqualTo(other.definition().title());
        });
        assertThat(all()).isEqualTo(before);
        Given.changed(other, stock.id(), over.version(), values("site", text("7")), "t");
        takeBack(List.of(entry));
        assertThat(others())
                .hasSize(1)
                .first()
                .satisfies(row -> assertThat(row.values())
                        .containsEntry("site", text("12"))
                        .containsEntry("river", text("b")));
        // Somebody takes the value that is to be put there again.
        Given.changed(other, stock.id(), over.version() + 2, values("site", text("1")), "t");
        var taken = all();
        assertThatThrownBy(() -> takingBack.putBack(own, entry.id(), "kim", List.of()))
                .isInstanceOf(ChangedBeside.class);
        assertThat(all()).isEqualTo(taken);
        // Alone it comes back, and what was undone elsewhere is nobody's any more.
        assertThat(new History(sql).restore(SeenTable.all(own), entry.id(), "kim"))
                .isPresent();
        assertThat(takeBack(records.latest(SeenTable.all(own), 1))).isZero();
        assertThat(others()).hasSize(1);
    }

    @Test
    void aMessageThatWaitsIsHeldAndOneThatHasGoneOutIsCounted() {
        var to = own.definition().name();
        var first = saved(new Write.Message(to, "first", "text"));
        assertThat(takeBack(List.of(first))).isZero();
        var sent = new ArrayList<String>();
        while (outbox.sendNext(message -> sent.add(message.subject()))) {
            assertThat(sent).doesNotContain("first");
        }
        assertThat(outbox.again(outbox.latest(0, 1).getFirst().id())).isFalse();
        takingBack.putBack(own, first.id(), "kim", List.of());
        while (outbox.sendNext(message -> sent.add(message.subject()))) {
            assertThat(sent).contains("first");
        }
        assertThat(takeBack(records.latest(SeenTable.all(own), 1))).isEqualTo(1);
        assertThat(sql.fetchCount(DSL.table(own.sqlName()))).isZero();
    }

    @Test
    void whatAnotherTableDoesNotTakeBackKeepsTheEntry() {
        var held = Given.saved(other, values("code", text("K-07")), Optional.empty(), "t");
        var entry = saved(change(held, values("code", text("K-08"))));
        Given.saved(other, values("code", text("K-07")), Optional.empty(), "t");
        var before = all();
        assertThatThrownBy(() -> takeBack(List.of(entry)))
                .isInstanceOfSatisfying(
                        NotSaved.class,
                        e -> assertThat(e.elsewhere())
                                .isEqualTo(other.definition().title()));
        assertThat(all()).isEqualTo(before);
    }
}
