package weft.core.alike;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.function.Function;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weft.core.record.StoredRow;
import weft.core.table.Column;
import weft.core.value.ColumnType;
import weft.core.value.Value;

class NearTest {

    private static final Column NAME = Column.plain("name", "Name", ColumnType.TEXT);
    private static final Column BORN = Column.plain("born", "Born on", ColumnType.DATE);

    private static Value text(String text) {
        return new Value.Text(text);
    }

    @ParameterizedTest
    @CsvSource(textBlock = """
            Anna Berg          | anna  bérg          | SAME
            O'Neill, Pat       | ONEILL PAT          | SAME
            Van der Berg       | Vanderberg          | SAME
            Anna Berg          | Berg, Anna          | ORDER
            Anna Berg          | Ana Berg            | LETTER
            Anna Berg          | Annna Berg          | LETTER
            Anna Berg          | Anna Borg           | LETTER
            Anna Berg          | Anna Begr           | LETTER
            Olive Novak        | Plive Novak         | LETTER
            12 Mill Lane       | 21 Mill Lane        | LETTER
            12 Mill Lane       | 13 Mill Lane        |
            12 Mill Lane       | 112 Mill Lane       |
            Anna Berg          | Hanna Borg          |
            Kim                | Tim                 |
            Kim                | Mik                 |
            Meier Stephen      | Mayer Steven        | SOUND
            Meier Stephen      | Miller Steven       |
            -                  | -                   | SAME
            -                  | .                   |
            """, delimiter = '|')
    void textsAreNearByWhatStandsBetweenThem(String one, String other, Near near) {
        assertThat(Near.of(text(one), text(other), true)).isEqualTo(Optional.ofNullable(near));
        assertThat(Near.of(text(other), text(one), true)).isEqualTo(Optional.ofNullable(near));
        assertThat(Near.of(text(one), text(other), false))
                .isEqualTo(Optional.ofNullable(near).filter(each -> each != Near.SOUND));
    }

    @Test
    void datesAndNumbersAreNearWhereTheyAreTurned() {
        var day = new Value.Day(LocalDate.of(2026, 3, 12));
        assertThat(Near.of(day, new Value.Day(LocalDate.of(2026, 12, 3)), false))
                .contains(Near.DAY_AND_MONTH);
        assertThat(Near.of(day, new Value.Day(LocalDate.of(2026, 3, 21)), false))
                .contains(Near.DIGITS);
        assertThat(Near.of(day, new Value.Day(LocalDate.of(2062, 3, 12)), false))
                .contains(Near.DIGITS);
        assertThat(Near.of(day, new Value.Day(LocalDate.of(2026, 3, 13)), false))
                .isEmpty();
        assertThat(Near.of(new Value.Whole(1234), new Value.Whole(1324), false)).contains(Near.DIGITS);
        assertThat(Near.of(new Value.Whole(1234), new Value.Whole(1235), false)).isEmpty();
        assertThat(Near.of(new Value.Whole(1234), new Value.Whole(-1234), false))
                .isEmpty();
        assertThat(Near.of(new Value.Decimal(new BigDecimal("74.1")), new Value.Decimal(new BigDecimal("47.1")), false))
                .contains(Near.DIGITS);
        assertThat(Near.of(new Value.Decimal(new BigDecimal("7.4")), new Value.Decimal(new BigDecimal("74")), false))
                .isEmpty();
        for (var value : List.of(day, new Value.Whole(-1203), new Value.Decimal(new BigDecimal("20.53")))) {
            assertThat(Near.around(value))
                    .contains(value)
                    .allMatch(near -> Near.of(value, near, false).isPresent());
        }
    }

    @Test
    void whyIsSaidInWords() {
        var record = new StoredRow(
                1, 12, 1, Map.of("name", text("Ana Berg"), "born", new Value.Day(LocalDate.of(1990, 3, 5))));
        var entry = Map.of("name", text("Anna Berg"), "born", (Value) new Value.Day(LocalDate.of(1990, 5, 3)));
        var likeness = Likeness.of(List.of(NAME, BORN), entry, record, false).orElseThrow();
        assertThat(likeness.why(column -> column.equals(NAME) ? "Name" : "Born on"))
                .isEqualTo("Name one letter apart, Born on with day and month turned");
        assertThat(Likeness.of(List.of(NAME, BORN), Map.of("name", text("Anna Berg")), record, false))
                .isEmpty();
    }

    /** Against each held to each: what lies in memory finds all that is near, and people find what they keyed twice. */
    @Test
    void whatIsKeyedAgainIsFoundAndLittleElse() {
        long seed = new Random().nextLong();
        var random = new Random(seed);
        var slips = new Slips(random);
        var likes = new LikesBefore();
        var all = new ArrayList<StoredRow>();
        var twin = new HashMap<Long, Long>();
        for (int i = 0; i < 600; i++) {
            var name = slips.name();
            var record = record(all.size(), name);
            all.add(record);
            likes.learn(record);
            if (random.nextInt(10) == 0) {
                var again = record(all.size(), slips.again(name));
                twin.put(again.id(), record.id());
                all.add(again);
                likes.learn(again);
            }
        }
        int found = 0;
        int right = 0;
        int told = 0;
        for (var record : all) {
            Function<List<StoredRow>, List<Long>> near = rows -> rows.stream()
                    .filter(row -> row.id() != record.id())
                    .filter(row -> Likeness.of(List.of(NAME), record.values(), row, false)
                            .isPresent())
                    .map(StoredRow::id)
                    .sorted()
                    .toList();
            var plainly = near.apply(all);
            assertThat(near.apply(likes.near(List.of(NAME), record.values(), false)))
                    .as("seed %d, %s", seed, record.values())
                    .isEqualTo(plainly);
            var of = twin.get(record.id());
            found += of != null && plainly.contains(of) ? 1 : 0;
            told += plainly.size();
            right += new HashSet<>(plainly)
                    .stream()
                            .mapToInt(id ->
                                    id.equals(of) || Long.valueOf(record.id()).equals(twin.get(id)) ? 1 : 0)
                            .sum();
        }
        double recall = (double) found / twin.size();
        double precision = (double) right / told;
        System.out.printf("alike: recall %.3f, precision %.3f over %d names%n", recall, precision, all.size());
        assertThat(recall).as("seed %d", seed).isGreaterThanOrEqualTo(0.98);
        assertThat(precision).as("seed %d", seed).isGreaterThanOrEqualTo(0.9);
    }

    /** By every kind of column, and by sound: as many are found as by a look at each. */
    @Test
    void linesAreFoundByWhateverARuleCompares() {
        var random = new Random(4711);
        var slips = new Slips(random);
        var likes = new LikesBefore();
        var many = Column.plain("many", "Many", ColumnType.WHOLE);
        var all = new ArrayList<StoredRow>();
        for (int i = 0; i < 250; i++) {
            var name = i % 3 == 0 || all.isEmpty()
                    ? slips.name()
                    : slips.again(all.get(random.nextInt(all.size())).of("name").plain());
            var values = Map.of(
                    "name", text(name),
                    "born", new Value.Day(LocalDate.of(2026, 1 + random.nextInt(12), 1 + random.nextInt(12))),
                    "many", new Value.Whole(random.nextInt(300)));
            for (var columns :
                    List.of(List.of(NAME), List.of(BORN), List.of(many), List.of(BORN, many), List.of(BORN, NAME))) {
                for (boolean sound : List.of(true, false)) {
                    Function<List<StoredRow>, List<Long>> near = rows -> rows.stream()
                            .filter(row ->
                                    Likeness.of(columns, values, row, sound).isPresent())
                            .map(StoredRow::id)
                            .sorted()
                            .toList();
                    assertThat(near.apply(likes.near(columns, values, sound)))
                            .as("%s of %s", columns, values)
                            .isEqualTo(near.apply(all));
                    var block = new AlikeBlock(columns, sound, AlikeKeys.of(columns, sound, all), 1_000);
                    all.forEach(block::add);
                    var held = new ArrayList<Long>();
                    block.alike(
                            new StoredRow(-1, 1, 1, values),
                            likeness -> held.add(likeness.record().id()));
                    assertThat(held)
                            .as("%s of %s", columns, values)
                            .containsExactlyInAnyOrderElementsOf(near.apply(all));
                }
            }
            var record = new StoredRow(i, i + 1, 1, values);
            all.add(record);
            likes.learn(record);
        }
    }

    private static StoredRow record(long id, String name) {
        return new StoredRow(id, id + 1, 1, Map.of("name", text(name)));
    }

    /** Texts about as long as those that are found letter by letter. */
    @Test
    void longTextsAreFoundToo() {
        var slips = new Slips(new Random(7));
        var long200 = "ab".repeat(100);
        for (int length = 196; length <= 204; length++) {
            var text = (long200 + "cdefg").substring(0, length);
            for (int i = 0; i < 40; i++) {
                var again = slips.again(text.substring(0, 90) + " " + text.substring(90));
                var block = new AlikeBlock(List.of(NAME), false, AlikeKeys.of(List.of(NAME), false, List.of()), 10);
                block.add(record(1, again));
                var found = new ArrayList<Likeness>();
                block.alike(record(0, text), found::add);
                assertThat(found)
                        .as(again)
                        .hasSameSizeAs(
                                Near.of(text(text), text(again), false).stream().toList());
            }
        }
    }

    @Test
    void groupsAreMadeOfPairsTheNearestFirst() {
        var groups = new AlikeGroups();
        groups.join(new AlikeGroups.Pair(7, 9, 1, "Name one letter apart"));
        groups.join(new AlikeGroups.Pair(2, 3, 0, "same Name"));
        groups.join(new AlikeGroups.Pair(9, 12, 1, "Name sounds alike"));
        groups.join(new AlikeGroups.Pair(20, 21, 1, "Name in another order"));
        groups.join(new AlikeGroups.Pair(4, 12, 2, "Name and Born on one letter apart"));
        assertThat(groups.worstFirst())
                .containsExactly(
                        new AlikeGroups.Group(List.of(2L, 3L), 0, "same Name"),
                        new AlikeGroups.Group(List.of(4L, 7L, 9L, 12L), 1, "Name one letter apart"),
                        new AlikeGroups.Group(List.of(20L, 21L), 1, "Name in another order"));
    }
}
