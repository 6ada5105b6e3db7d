package weft.core.record;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;
import weft.core.entry.Rows;
import weft.core.table.Column;
import weft.core.table.Link;
import weft.core.table.Link.Removed;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Reading;
import weft.core.value.Reading.Read;
import weft.core.value.Reading.Refused;
import weft.core.value.Value;
import weft.core.value.Value.Day;
import weft.core.value.Value.Text;

class LinksTest {

    private static final Link TO_SAMPLES = new Link(
            "samples",
            "Samples",
            List.of(
                    Column.plain("number", "Number", ColumnType.TEXT),
                    Column.plain("site", "Site", ColumnType.TEXT),
                    Column.plain("taken_on", "Taken on", ColumnType.DATE)),
            Removed.REFUSE);
    private static final Column SAMPLE =
            Column.plain("sample", "Sample", ColumnType.LINK).leading(TO_SAMPLES);

    private static Map<String, Value> sample(String number, String site, String day) {
        return Map.of(
                "number", number.isEmpty() ? Value.EMPTY : new Text(number),
                "site", site.isEmpty() ? Value.EMPTY : new Text(site),
                "taken_on", day.isEmpty() ? Value.EMPTY : new Day(LocalDate.parse(day)));
    }

    private static final Rows SAMPLES = new Rows()
            .with("samples", 1, sample("S-1", "Stepping stones", "2026-08-01"))
            .with("samples", 2, sample("s-1", "Mill, lower", "2026-08-02"))
            .with("samples", 3, sample("S-2", "Mill, lower", ""))
            .with("samples", 4, sample("S-3", "Mill, lower", "2026-08-04"))
            .with("samples", 5, sample("", "", ""))
            .with("samples", 6, sample("S-3", "Mill, lower", "2026-08-04"));

    private static Reading typed(String words) {
        return meant(new Text(words), Value.EMPTY);
    }

    private static Reading meant(Value value, Value before) {
        return new Links(SAMPLES, Conventions.DEFAULT).meant(SAMPLE, new Read(value, ""), before);
    }

    private static long id(Reading reading) {
        return reading instanceof Read(Value.Link link, var _) ? link.id() : -1;
    }

    private static String refusal(Reading reading) {
        return reading instanceof Refused(var refusal) ? refusal.words() : "";
    }

    @Test
    void aRecordIsMeantByOneOfItsWordsOrByAllOfThem() {
        assertThat(id(typed("S-2"))).isEqualTo(3);
        assertThat(id(typed("stepping STONES"))).as("case is put aside").isEqualTo(1);
        assertThat(id(typed("2026-08-02"))).isEqualTo(2);
        assertThat(id(typed("s-1, mill, lower, Sun 2 Aug 2026")))
                .as("words with commas")
                .isEqualTo(2);
        assertThat(id(typed("S-2, Mill, lower"))).isEqualTo(3);
        assertThat(typed("S-2")).isEqualTo(new Read(new Value.Link(3, 3, ""), "S-2, Mill, lower"));
    }

    @Test
    void whatIsWrittenJustSoComesBeforeWhatIsAlike() {
        assertThat(id(typed("S-1"))).isEqualTo(1);
        assertThat(id(typed("s-1"))).isEqualTo(2);
        assertThat(id(typed("Ś-1"))).as("like both").isEqualTo(-1);
    }

    @Test
    void ofSeveralTheRowSaysWhich() {
        assertThat(refusal(typed("S-3")))
                .isEqualTo("2 records of Samples are called “S-3”: rows 4, 6. Add which, such as “S-3 (row 4)”.");
        assertThat(id(typed("S-3 (row 6)"))).isEqualTo(6);
        assertThat(id(typed("S-3, Mill, lower, Tue 4 Aug 2026 (row 4)"))).isEqualTo(4);
        assertThat(id(typed("row 5"))).as("it has no words of its own").isEqualTo(5);
        assertThat(refusal(typed("S-2 (row 4)"))).startsWith("Samples has no record");
        assertThat(refusal(typed("row 4"))).as("it has words").startsWith("Samples has no record");
        assertThat(refusal(typed("S-9")))
                .isEqualTo("Samples has no record “S-9”. Type its Number, or choose it from the list.");
    }

    @Test
    void whatIsThereAlreadyIsMeantByItsOwnWords() {
        var before = new Value.Link(6, 6, "S-3, Mill, lower, Tue 4 Aug 2026");
        assertThat(id(meant(new Text(before.shown()), before))).isEqualTo(6);
        assertThat(id(meant(new Value.Link(6, 0, ""), before))).isEqualTo(6);
        var gone = new Value.Link(77, 7, "S-77");
        assertThat(id(meant(new Text("S-77"), gone))).as("it is not looked up").isEqualTo(77);
        assertThat(refusal(meant(new Value.Link(99, 0, ""), gone)))
                .isEqualTo("The record chosen is in Samples no more. Choose another.");
        assertThat(meant(Value.EMPTY, gone)).isEqualTo(new Read(Value.EMPTY, ""));
    }

    /** Whatever is typed means a record only if it alone is called so: held against looking at each of them. */
    @Property
    void oneThatIsMeantIsTheOnlyOneCalledSo(
            @ForAll @Size(max = 12) List<@IntRange(max = 3) Integer> numbers, @ForAll @IntRange(max = 3) int asked) {
        var rows = new Rows();
        IntStream.range(0, numbers.size())
                .forEach(at -> rows.with("samples", at + 1, sample(named(numbers.get(at)), "", "")));
        var exactly = IntStream.range(0, numbers.size())
                .filter(at -> named(numbers.get(at)).equals(named(asked)))
                .mapToObj(at -> at + 1L)
                .toList();
        var alike = IntStream.range(0, numbers.size())
                .filter(at -> named(numbers.get(at)).equalsIgnoreCase(named(asked)))
                .mapToObj(at -> at + 1L)
                .toList();
        var reading =
                new Links(rows, Conventions.DEFAULT).meant(SAMPLE, new Read(new Text(named(asked)), ""), Value.EMPTY);
        var wanted = exactly.size() == 1 ? exactly : alike;
        assertThat(id(reading)).isEqualTo(wanted.size() == 1 ? wanted.getFirst() : -1L);
    }

    /** Two numbers in two spellings. */
    private static String named(int number) {
        return (number % 2 == 0 ? "S-" : "s-") + number / 2;
    }
}
