package weft.store.record;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static weft.store.Given.text;
import static weft.store.Given.values;

import java.time.Clock;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import org.jooq.DSLContext;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.core.record.Links;
import weft.core.record.StoredRow;
import weft.core.record.StoredRows;
import weft.core.table.Column;
import weft.core.table.Link;
import weft.core.table.Link.Removed;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Reading;
import weft.core.value.Value;
import weft.store.Given;
import weft.store.TestDatabase;
import weft.store.record.MadeOne.Made;
import weft.store.record.TakingBack.AtVersion;
import weft.store.table.Columns;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/** Records made one and taken back, over random tables, with other people's changes between. */
@ExtendWith(TestDatabase.class)
class MadeOneTest {

    private static final int PEOPLE = 8;
    private static final int ROUNDS = 12;

    private final DSLContext sql = TestDatabase.get().sql();
    private final Records records = new Records(sql);
    private final MadeOne madeOne = new MadeOne(sql, Given.writer(), Clock.systemUTC());
    private final StoredTable plain = Given.table("first-free", "name text", "code text unique", "site text");
    private final StoredTable people = linking(plain, "leader", plain, Removed.EMPTY);
    private final StoredTable bookings = linking(Given.table("after-last", "item text"), "by", people, Removed.REFUSE);

    private StoredTable linking(StoredTable table, String name, StoredTable to, Removed removed) {
        var column = Column.plain(name, name, ColumnType.LINK)
                .leading(new Link(
                        to.definition().name(),
                        to.definition().title(),
                        List.of(to.definition().column("name").orElseThrow()),
                        removed));
        new Columns(sql, Records::anyTable).add(table.definition().name(), List.of(column));
        return new Tables(sql).find(table.id()).orElseThrow();
    }

    private List<StoredRow> all(StoredTable table) {
        return records.latest(SeenTable.all(table), 1_000);
    }

    private static Value link(StoredRow to) {
        return new Value.Link(to.id(), to.row(), "");
    }

    /** What every record holds, whatever its version and row. */
    private Map<String, Object> state() {
        var state = new TreeMap<String, Object>();
        for (var table : List.of(people, bookings)) {
            all(table)
                    .forEach(record -> state.put(
                            table.definition().name() + " " + record.id(),
                            record.values().toString()));
        }
        return state;
    }

    private static AtVersion at(StoredRow record) {
        return new AtVersion(record.id(), record.version());
    }

    private static <T> T one(Random random, List<T> all) {
        return all.get(random.nextInt(all.size()));
    }

    private StoredRow change(StoredTable table, StoredRow record, Map<String, Value> set) {
        var now = records.find(SeenTable.all(table), record.id()).orElseThrow();
        return Given.changed(table, now.id(), now.version(), set, "other");
    }

    private Optional<Value> linked(StoredTable table, StoredRow record, String column) {
        return records.find(SeenTable.all(table), record.id()).map(now -> now.of(column));
    }

    @Test
    void allThatLedToThemLeadsToTheOneAndBackAgain() {
        long seed = new Random().nextLong();
        var random = new Random(seed);
        for (int i = 0; i < PEOPLE; i++) {
            Given.saved(people, values("name", text("n" + i), "code", text("c" + i)), Optional.empty(), "t");
        }
        for (int i = 0; i < 3 * PEOPLE; i++) {
            change(people, one(random, all(people)), values("leader", link(one(random, all(people)))));
            Given.saved(
                    bookings,
                    values("item", text("i" + i), "by", link(one(random, all(people)))),
                    Optional.empty(),
                    "t");
        }
        for (int round = 0; round < ROUNDS; round++) {
            var before = state();
            var rest = new ArrayList<>(all(people));
            Collections.shuffle(rest, random);
            var stays = rest.removeFirst();
            var others = List.copyOf(rest.subList(0, 1 + random.nextInt(2)));
            var gone = others.stream().map(StoredRow::id).toList();
            // A code that no two may share is taken over from one that goes.
            var chosen = values("code", others.getFirst().of("code"), "site", text("s" + round));
            var would = make(stays, others, chosen, false);
            assertThat(state()).as("seed %d: rehearsed", seed).isEqualTo(before);
            var made = make(stays, others, chosen, true);
            assertThat(made.moved()).isEqualTo(would.moved());
            assertThat(made.record().of("code")).isEqualTo(others.getFirst().of("code"));
            assertThat(all(people)).extracting(StoredRow::id).doesNotContainAnyElementsOf(gone);
            assertThat(all(bookings)).allMatch(each -> !gone.contains(((Value.Link) each.of("by")).id()));
            assertThat(madeOne.of(SeenTable.all(people), stays.id())
                            .get(made.record().version())
                            .rows())
                    .containsExactlyElementsOf(
                            others.stream().map(StoredRow::row).toList());

            // Somebody changes what was not touched, and sometimes what was.
            var booking = one(random, all(bookings));
            var item = text("changed " + round);
            change(bookings, booking, values("item", item));
            boolean touched = random.nextInt(3) == 0;
            if (touched) {
                change(people, made.record(), values("site", text("mine")));
                var now = state();
                assertThatThrownBy(() -> madeOne.takeBack(people, made.id(), "t"))
                        .as("seed %d", seed)
                        .isInstanceOf(ChangedBeside.class);
                assertThat(state()).as("seed %d: refused", seed).isEqualTo(now);
                change(people, made.record(), values("site", text("s" + round)));
            }
            assertThat(madeOne.takeBack(people, made.id(), "t")).isPresent();
            assertThat(linked(bookings, booking, "item")).contains(item);
            change(bookings, booking, values("item", booking.of("item")));
            assertThat(state()).as("seed %d, round %d", seed, round).isEqualTo(before);
            assertThat(madeOne.takeBack(people, made.id(), "t")).as("once only").isEmpty();
        }
    }

    @Test
    void whatIsTypedOfThoseThatWentLeadsToTheOneThatStayed() {
        var a = Given.saved(people, values("name", text("Ánna"), "code", text("A")), Optional.empty(), "t");
        var b = Given.saved(people, values("name", text("Anna B"), "code", text("B")), Optional.empty(), "t");
        var c = Given.saved(people, values("name", text("Cleo"), "code", text("C")), Optional.empty(), "t");
        var d = Given.saved(people, values("name", text("Dora"), "code", text("D")), Optional.empty(), "t");
        assertThat(stayed("name", "anna")).isEmpty();
        make(b, List.of(a), Map.of(), true);
        assertThat(stayed("name", "anna")).contains(b.id());
        assertThat(stayed("code", "a")).contains(b.id());
        assertThat(stayed("site", "a")).isEmpty();
        // The one that stayed goes as well, and whoever is called so leads along both.
        var over = make(records.find(SeenTable.all(people), c.id()).orElseThrow(), List.of(now(b)), Map.of(), true);
        assertThat(stayed("code", "A")).contains(c.id());
        assertThat(stayed("code", "B")).contains(c.id());
        assertThat(linkTo("B").plain()).isEqualTo("Cleo, C");
        assertThat(madeOne.takeBack(people, over.id(), "t")).isPresent();
        assertThat(stayed("code", "A")).contains(b.id());
        assertThat(stayed("code", "B")).isEmpty();
        // What is put back by hand is no longer gone.
        make(now(c), List.of(now(b)), Map.of(), true);
        new History(sql).restore(SeenTable.all(people), b.id(), "t");
        assertThat(stayed("code", "A")).contains(b.id());
        // Two that went were called so, and different ones stayed.
        var e = Given.saved(people, values("name", text("anna"), "code", text("E")), Optional.empty(), "t");
        make(d, List.of(e), Map.of(), true);
        assertThat(stayed("name", "Anna")).isEmpty();
        assertThat(stayed("code", "E")).contains(d.id());
        records.delete(people, d.id(), now(d).version(), "t");
        assertThat(stayed("code", "E")).isEmpty();
    }

    private StoredRow now(StoredRow record) {
        return records.find(SeenTable.all(people), record.id()).orElseThrow();
    }

    private Optional<Long> stayed(String column, String typed) {
        return rows().stayed(people.definition().name(), Map.of(column, text(typed)))
                .map(StoredRow::id);
    }

    private StoredRows rows() {
        return records.rowsOf(people, name -> new Tables(sql).find(name));
    }

    /** What those words come to in a link by the code. */
    private Value linkTo(String typed) {
        var code = people.definition().column("code").orElseThrow();
        var name = people.definition().column("name").orElseThrow();
        var link = Column.plain("to", "To", ColumnType.LINK)
                .leading(new Link(people.definition().name(), "People", List.of(name, code), Removed.REFUSE));
        return ((Reading.Read) new Links(rows(), Conventions.DEFAULT)
                        .meant(link, new Reading.Read(text(typed), ""), Value.EMPTY))
                .value();
    }

    private Made make(StoredRow stays, List<StoredRow> others, Map<String, Value> chosen, boolean keeps) {
        return madeOne.make(
                people,
                at(stays),
                others.stream().map(MadeOneTest::at).toList(),
                "t",
                (within, now) -> {
                    assertThat(within.find(
                                    SeenTable.all(people), others.getFirst().id()))
                            .isEmpty();
                    assertThat(now.id()).isEqualTo(stays.id());
                    return new EntryWriter.WholeEntry(
                            EntryWriter.Entry.over(
                                    people, now.id(), now.version(), chosen, LocalDate.of(2026, 8, 1), "t"),
                            Following.NOTHING);
                },
                keeps);
    }

    @Test
    void whatWasChangedMeanwhileIsNotMadeOne() {
        var one = Given.saved(people, values("name", text("a")), Optional.empty(), "t");
        var other = Given.saved(people, values("name", text("b")), Optional.empty(), "t");
        change(people, other, values("name", text("bb")));
        var before = state();
        assertThatThrownBy(() -> make(one, List.of(other), Map.of(), true)).isInstanceOf(Stale.class);
        assertThat(state()).isEqualTo(before);
    }
}
