package weft.store.imports;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static weft.store.Given.saved;
import static weft.store.Given.text;
import static weft.store.Given.values;

import java.io.ByteArrayInputStream;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weft.core.alike.Likeness;
import weft.core.record.StoredRow;
import weft.core.rule.Check;
import weft.core.rule.Check.For;
import weft.core.rule.Rules;
import weft.core.usual.Counts;
import weft.core.usual.Grouping;
import weft.core.usual.Unusual;
import weft.core.value.Conventions;
import weft.core.value.Value;
import weft.core.value.Wire;
import weft.store.Database;
import weft.store.Given;
import weft.store.TestDatabase;
import weft.store.form.Definitions;
import weft.store.form.FormDocument;
import weft.store.form.Forms;
import weft.store.imports.Imports.Brought;
import weft.store.imports.Into.Doubles;
import weft.store.record.Records;
import weft.store.table.StoredTable;
import weft.store.table.Tables;
import weft.store.usual.UsualCounts;

/** Which rows of a file are asked about, held against each of them looked at against each record. The columns are called as the statements call theirs. */
@ExtendWith(TestDatabase.class)
class AsksTest {

    private static final List<String> NAMES =
            List.of("Maria Bergmann", "Johanna Tolley", "Elinor Keane", "Kate Quarrie", "Samir Brandreth");

    private static final List<Check> RULES = List.of(
            check(new Check.Alike(List.of("value"), false, false)),
            check(new Check.Usual("record", List.of(new For("odd", For.Of.VALUE)), false)),
            new Check("rare", new Check.Usual("odd", List.of(), false), true, false, ""));

    private final Database database = TestDatabase.get();
    private final DSLContext sql = database.sql();
    private final Tables tables = new Tables(sql);
    private final Forms forms = new Forms(sql);
    private final Records records = new Records(sql);
    private final Imports imports = new Imports(sql, tables, forms, Records::anyTable, Clock.systemDefaultZone());
    private Random random = new Random();

    private static Check check(Check.Rule rule) {
        return new Check(Wire.word(rule.getClass()), rule, true, false, "");
    }

    private StoredTable ruled() {
        var table = Given.table("after-last", "code text unique", "value text", "record decimal", "odd choice");
        var form = forms.make(table, Conventions.DEFAULT).form();
        forms.change(1, FormDocument.checked(form.ruled(Rules.NONE.with(RULES, List.of()))), "odile");
        forms.publish(form.id(), "odile");
        return table;
    }

    private String slipped(String name) {
        int at = random.nextInt(name.length() - 1);
        return switch (random.nextInt(4)) {
            case 0 -> name.substring(0, at) + name.charAt(at + 1) + name.charAt(at) + name.substring(at + 2);
            case 1 -> name.substring(0, at) + name.substring(at + 1);
            default -> name;
        };
    }

    private Map<String, Value> some(String code) {
        return values(
                "code",
                text(code),
                "value",
                random.nextInt(10) == 0
                        ? Value.EMPTY
                        : text(slipped(NAMES.get(random.nextInt(NAMES.size()))) + " " + random.nextInt(60)),
                "record",
                random.nextInt(10) == 0
                        ? Value.EMPTY
                        : new Value.Decimal(
                                BigDecimal.valueOf(random.nextInt(20) == 0 ? 139 : 40 + random.nextInt(20), 1)),
                "odd",
                text(random.nextInt(250) == 0 ? "it's high" : "low"));
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6})
    void whatAFileBringsIsAskedAboutAsWhatIsKeyedIs(long seed) {
        random = new Random(seed);
        var doubles = seed % 2 == 0 ? Doubles.REPLACE : Doubles.SKIP;
        var table = ruled();
        for (int i = 0; i < 230; i++) {
            saved(table, some("c" + i), Optional.empty(), "Odile");
        }
        new UsualCounts(database, tables, forms).keep();
        var definitions = new Definitions(forms, tables, database.changes());
        var stored =
                records.rowsOf(table, definitions).matching(table.definition().name(), Map.of(), 1_000);
        var byCode = stored.stream().collect(Collectors.toMap(row -> row.of("code"), row -> row));
        var lines = new ArrayList<>(List.of("value,code,odd,record"));
        var coming = new TreeMap<Long, StoredRow>();
        var own = new HashMap<Long, StoredRow>();
        for (int i = 0; i < 40; i++) {
            var code = "c" + (200 + i);
            var row = i % 5 == 0 && byCode.containsKey(text(code))
                    ? byCode.get(text(code)).values()
                    : some(code);
            lines.add(List.of("value", "code", "odd", "record").stream()
                    .map(column -> row.get(column).plain())
                    .collect(Collectors.joining(",")));
            var there = byCode.get(text(code));
            if (there == null || doubles == Doubles.REPLACE && !there.values().equals(row)) {
                coming.put(i + 2L, StoredRow.line(i + 2, row));
                if (there != null) {
                    own.put(i + 2L, there);
                }
            }
        }
        var file = imports.bring(
                "rows.csv", new ByteArrayInputStream(String.join("\n", lines).getBytes(StandardCharsets.UTF_8)));
        var into = into(file, table, doubles);
        var expected = new TreeSet<Long>();
        coming.forEach((line, row) -> {
            var others = new ArrayList<>(stored);
            others.remove(own.get(line));
            others.addAll(coming.headMap(line).values());
            if (alike(table, row, others) || unusual(table, row, stored)) {
                expected.add(line);
            }
        });
        var came = imports.rehearse(file, into);
        assertThat(came.asked().first().stream().map(Into.AskedOf::line)).containsExactlyElementsOf(expected);
        assertThat(came.asked().many()).isEqualTo(expected.size()).isPositive();
        assertThat(came.asked().first())
                .allSatisfy(each -> assertThat(each.finding().message()).containsAnyOf("nearly the same", " records"));
        // Unanswered, or with fewer answered than there are, nothing is written.
        assertThatThrownBy(() -> imports.append(file, into, expected.size() - 1, "Bram"))
                .isInstanceOf(Into.InTheWay.class);
        assertThat(records.rowsOf(table, definitions)
                        .matching(table.definition().name(), Map.of(), 1_000))
                .isEqualTo(stored);
        var done = imports.append(file, into, expected.size(), "Bram");
        assertThat(done.added() + done.replaced()).isEqualTo(coming.size());
    }

    private static Into into(Brought file, StoredTable table, Doubles doubles) {
        var columns = file.columns().stream()
                .map(from -> from.into(
                        table.definition().column(from.column().name()).orElseThrow(),
                        Optional.empty(),
                        Optional.empty()))
                .toList();
        return new Into(table, columns, List.of("code"), doubles);
    }

    private static boolean alike(StoredTable table, StoredRow row, List<StoredRow> others) {
        var columns = List.of(table.definition().column("value").orElseThrow());
        return !row.of("value").isEmpty()
                && others.stream()
                        .anyMatch(other -> !other.of("value").isEmpty()
                                && Likeness.of(columns, row.values(), other, false)
                                        .isPresent());
    }

    private static boolean unusual(StoredTable table, StoredRow row, List<StoredRow> stored) {
        return RULES.stream().map(Check::rule).anyMatch(rule -> {
            if (!(rule instanceof Check.Usual usual)) {
                return false;
            }
            var grouping = Grouping.of(usual, table.definition()).orElseThrow();
            return grouping.place(column -> row.of(column.name()))
                    .flatMap(place -> place.groups().stream()
                            .map(group -> counts(grouping, group, stored))
                            .filter(counts -> counts.speaks(grouping.ofAmounts()))
                            .findFirst()
                            .flatMap(counts -> Unusual.of(
                                    grouping,
                                    place,
                                    counts,
                                    row.of(grouping.column().name()))))
                    .isPresent();
        });
    }

    private static Counts counts(Grouping grouping, String group, List<StoredRow> stored) {
        var times = new TreeMap<String, Long>();
        for (var row : stored) {
            grouping.place(column -> row.of(column.name()))
                    .filter(place -> place.groups().contains(group))
                    .ifPresent(place -> times.merge(place.key(), 1L, Long::sum));
        }
        return new Counts(0, times);
    }
}
