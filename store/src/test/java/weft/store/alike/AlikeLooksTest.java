package weft.store.alike;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static weft.store.schema.Tables.ALIKE_LOOK;

import java.time.Clock;
import java.time.Duration;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.core.alike.AlikeGroups.Group;
import weft.core.alike.Likeness;
import weft.core.record.StoredRow;
import weft.core.table.Column;
import weft.core.table.Faults;
import weft.core.value.Value;
import weft.store.Busy;
import weft.store.Given;
import weft.store.TestDatabase;
import weft.store.alike.AlikeLooks.AlikeLook;
import weft.store.alike.AlikeLooks.State;
import weft.store.record.Records;
import weft.store.record.SaidDifferent;
import weft.store.record.SaidDifferent.PairOf;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;

/** A look over all records, against each record held to each. */
@ExtendWith(TestDatabase.class)
class AlikeLooksTest {

    private static final List<String> LETTERS = List.of("a", "b", "É", "n", "1", " ", "-", "\uD835\uDC00");

    private final DSLContext sql = TestDatabase.get().sql();
    private final StoredTable table = Given.table("after-last", "name text", "born date", "many whole");
    private final SaidDifferent different = new SaidDifferent(sql, Clock.systemUTC());

    private StoredRow saved(String name, LocalDate born, long many) {
        var values = new LinkedHashMap<String, Value>();
        values.put("name", name.isEmpty() ? Value.EMPTY : new Value.Text(name));
        values.put("born", new Value.Day(born));
        values.put("many", new Value.Whole(many));
        return Given.saved(table, values, Optional.empty(), "t");
    }

    private StoredRow saved(String name) {
        return saved(name, LocalDate.of(1990, 5, 3), 1);
    }

    private List<Column> columns(List<String> names) {
        return names.stream()
                .map(name -> table.definition().column(name).orElseThrow())
                .toList();
    }

    private AlikeSweep sweep(List<String> names, boolean sound, int most) {
        return new AlikeSweep(sql, table, columns(names), sound, different, most);
    }

    private AlikeLooks looks(Clock clock) {
        return new AlikeLooks(sql, TestDatabase.get().longSql(), different, clock);
    }

    /** Whatever is compared, in whatever blocks, and but for what was said to be different. */
    @Test
    void aLookFindsWhatALookAtEachFinds() {
        var random = new Random(4711);
        for (int i = 0; i < 160; i++) {
            var name = new StringBuilder(i % 40 == 0 ? "" : "ab");
            for (int at = i % 40 == 0 ? 0 : random.nextInt(6); at > 0; at--) {
                name.append(LETTERS.get(random.nextInt(LETTERS.size())));
            }
            saved(
                    name.toString(),
                    LocalDate.of(2026, 1 + random.nextInt(12), 1 + random.nextInt(12)),
                    random.nextInt(90));
        }
        var all = new Records(sql).latest(SeenTable.all(table), 160);
        int found = 0;
        for (var names :
                List.of(List.of("name"), List.of("born"), List.of("many", "born"), List.of("name", "born", "many"))) {
            for (boolean sound : List.of(false, true)) {
                var plainly = plainly(all, columns(names), sound);
                found += plainly.size();
                var apart = plainly.stream().filter(_ -> random.nextInt(3) == 0).toList();
                different.say(table, apart, "t");
                plainly.removeAll(apart);
                for (int most : List.of(7, 1_000)) {
                    var sweep = sweep(names, sound, most);
                    assertThat(sweep.run((done, whole) -> done <= whole)).isEqualTo(State.DONE);
                    assertThat(sweep.found()).as("%s", names).isEqualTo(plainly.size());
                    assertThat(sweep.groups().stream()
                                    .map(Group::records)
                                    .map(Set::copyOf)
                                    .collect(Collectors.toSet()))
                            .isEqualTo(together(plainly));
                }
                different.forget(table, apart);
            }
        }
        assertThat(found).isGreaterThan(200);
    }

    private static Set<PairOf> plainly(List<StoredRow> all, List<Column> columns, boolean sound) {
        var pairs = new HashSet<PairOf>();
        for (var one : all) {
            for (var other : all) {
                if (one.id() < other.id()
                        && Likeness.of(columns, one.values(), other, sound).isPresent()) {
                    pairs.add(PairOf.of(one.id(), other.id()));
                }
            }
        }
        return pairs;
    }

    /** What hangs together by pairs. */
    private static Set<Set<Long>> together(Set<PairOf> pairs) {
        var groups = new ArrayList<Set<Long>>();
        for (var pair : pairs) {
            var joined = new TreeSet<>(Set.of(pair.one(), pair.other()));
            groups.removeIf(group -> {
                boolean touches = group.contains(pair.one()) || group.contains(pair.other());
                if (touches) {
                    joined.addAll(group);
                }
                return touches;
            });
            groups.add(joined);
        }
        return new HashSet<>(groups);
    }

    @Test
    void itTellsHowFarItIsAndEndsWhenItIsTold() {
        for (int i = 0; i < 30; i++) {
            saved("Wenna Sedge");
        }
        var told = new ArrayList<Long>();
        assertThat(sweep(List.of("name"), false, 10).run((done, whole) -> {
                    told.add(done);
                    assertThat(done).isLessThanOrEqualTo(whole);
                    return false;
                }))
                .isEqualTo(State.ENDED);
        // Three blocks of ten, to which ten, twenty and thirty are held.
        assertThat(told.getLast()).isEqualTo(30 + 10 + 20 + 30);
    }

    @Test
    void whatTellsNothingApartIsGivenUp() {
        sql.execute("insert into {0} (_row, _version, _entered_at, _entered_by, name, born, many)"
                        .replace("{0}", sql.render(table.relation()))
                + " select n, 1, now(), 't', 'same', date '2026-01-01', 1 from generate_series(1, 1000) n");
        var sweep = sweep(List.of("name"), false, 1_000);
        assertThat(sweep.run((_, _) -> true)).isEqualTo(State.TOO_MANY);
        assertThat(sweep.found()).isBetween(1, AlikeSweep.MOST_PAIRS);
    }

    @Test
    void whatWasFoundIsThereByPagesUntilItIsToldApart() throws InterruptedException {
        var one = saved("Wenna Sedge");
        var other = saved("Wena Sedge");
        var third = saved("Joss Keane");
        var fourth = saved("Keane, Joss");
        saved("Tilda Hollin");
        var looks = looks(Clock.systemUTC());
        assertThatThrownBy(() -> looks.begin(table, List.of("nothing"), false, "t"))
                .isInstanceOf(Faults.class);
        assertThatThrownBy(() -> looks.begin(table, List.of(), false, "t")).isInstanceOf(Faults.class);
        var look = done(looks, looks.begin(table, List.of("name", "born"), false, "t"));
        assertThat(look.state()).isEqualTo(State.DONE);
        assertThat(look.found()).isEqualTo(2);
        assertThat(looks.latest(table, List.of("name", "born"), false)).contains(look);
        assertThat(looks.latest(table, List.of("name"), false)).isEmpty();
        var first = looks.groups(table, look.id(), 0, 1);
        assertThat(first).singleElement().satisfies(group -> {
            assertThat(group.records()).extracting(StoredRow::id).containsExactly(one.id(), other.id());
            assertThat(group.why()).isEqualTo("Name one letter apart, same Born");
        });
        assertThat(looks.groups(table, look.id(), first.getFirst().place(), 1))
                .singleElement()
                .satisfies(group ->
                        assertThat(group.records()).extracting(StoredRow::id).containsExactly(third.id(), fourth.id()));
        var pair = List.of(PairOf.of(other.id(), one.id()));
        different.say(table, pair, "t");
        different.say(table, pair, "somebody else");
        assertThat(looks.groups(table, look.id(), 0, 5)).hasSize(1);
        new Records(sql).delete(table, fourth.id(), 1, "t");
        assertThat(looks.groups(table, look.id(), 0, 5)).isEmpty();
        different.forget(table, pair);
        assertThat(looks.groups(table, look.id(), 0, 5)).hasSize(1);
    }

    @Test
    void oneLookAtATimeGoesOverATableAndOneThatDiedStopsNone() {
        var began = Clock.systemUTC();
        sql.execute("insert into weft.alike_look (table_id, columns, sound, state, begun_at, begun_by, alive_at)"
                + " values (%d, '{name}', false, 'running', now(), 't', now())".formatted(table.id()));
        var looks = looks(began);
        var running = looks.begin(table, List.of("born"), false, "t");
        assertThat(running.columns()).containsExactly("name");
        assertThat(looks.latest(table).map(AlikeLook::state)).contains(State.RUNNING);
        var another = Given.table("after-last", "name text");
        for (var each : List.of(another, Given.table("after-last", "name text"))) {
            sql.execute("insert into weft.alike_look (table_id, columns, sound, state, begun_at, begun_by, alive_at)"
                    + " values (%d, '{name}', false, 'running', now(), 't', now())".formatted(each.id()));
        }
        assertThatThrownBy(() -> looks.begin(Given.table("after-last", "name text"), List.of("name"), false, "t"))
                .isInstanceOf(Busy.class);
        sql.deleteFrom(ALIKE_LOOK).where(ALIKE_LOOK.TABLE_ID.ne(table.id())).execute();
        var later = looks(Clock.offset(began, Duration.ofMinutes(2)));
        assertThat(later.latest(table).map(AlikeLook::state)).contains(State.ENDED);
        assertThat(later.begin(table, List.of("born"), false, "t").columns()).containsExactly("born");
        sql.deleteFrom(ALIKE_LOOK).execute();
    }

    private AlikeLook done(AlikeLooks looks, AlikeLook begun) throws InterruptedException {
        var look = begun;
        while (look.state() == State.RUNNING) {
            Thread.sleep(10);
            look = looks.find(table, begun.id()).orElseThrow();
        }
        return look;
    }
}
