package weft.store.usual;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.store.Given.text;
import static weft.store.Given.values;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.json.JsonMapper;
import weft.core.record.StoredRow;
import weft.core.rule.Check;
import weft.core.rule.Check.For;
import weft.core.rule.Rules;
import weft.core.table.Column;
import weft.core.usual.Counts;
import weft.core.usual.Grouping;
import weft.core.usual.Unusual;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Value;
import weft.core.value.Wire;
import weft.store.Database;
import weft.store.Given;
import weft.store.TestDatabase;
import weft.store.entry.Looking;
import weft.store.form.Definitions;
import weft.store.form.FormDocument;
import weft.store.form.Forms;
import weft.store.record.Records;
import weft.store.table.Columns;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;
import weft.store.table.Tables;
import weft.store.table.UsualSql;

/** What is counted by each write, against all records looked at one by one. */
@ExtendWith(TestDatabase.class)
class UsualCountsTest {

    private static final List<String> KINDS = List.of("beck", "Beck", "burn", "x".repeat(130));

    private final Database database = TestDatabase.get();
    private final DSLContext sql = database.sql();
    private final Tables tables = new Tables(sql);
    private final Forms forms = new Forms(sql);
    private final Records records = new Records(sql);
    private final Definitions definitions = new Definitions(forms, tables, database.changes());
    private final UsualCounts counts = new UsualCounts(database, tables, forms);
    private final Random random = new Random(31);
    private StoredTable table;
    private String form;

    @BeforeEach
    void given() {
        table = Given.table("after-last", "kind text", "taken date", "water decimal", "bank choice", "at time");
        form = forms.make(table, Conventions.DEFAULT).form().id();
        forms.change(
                1,
                FormDocument.checked(
                        forms.workingCopy(form).orElseThrow().form().ruled(Rules.NONE.with(rules(), List.of()))),
                "odile");
        forms.publish(form, "odile");
    }

    private static List<Check> rules() {
        return List.of(
                usual("water", new For("kind", For.Of.VALUE), new For("taken", For.Of.MONTH)),
                usual("bank", new For("kind", For.Of.VALUE)),
                usual("taken"),
                usual("at", new For("taken", For.Of.WEEKDAY), new For("bank", For.Of.VALUE)),
                usual("bank", new For("at", For.Of.HOUR)));
    }

    private static Check usual(String column, For... by) {
        return new Check(
                Stream.concat(Stream.of(column), Stream.of(by).map(For::column)).collect(Collectors.joining("_")),
                new Check.Usual(column, List.of(by), false),
                true,
                false,
                "");
    }

    private StoredTable now() {
        return tables.find(table.definition().name()).orElseThrow();
    }

    private List<Grouping> groupings() {
        return forms.publishedOn(table.definition().name()).stream()
                .flatMap(each -> each.rules().checks().stream())
                .map(check -> Grouping.of((Check.Usual) check.rule(), now().definition())
                        .orElseThrow())
                .toList();
    }

    private List<StoredRow> all() {
        return records.rowsOf(now(), definitions).matching(table.definition().name(), Map.of(), 100_000);
    }

    private static Map<String, Map<String, Long>> fresh(Grouping grouping, List<StoredRow> rows) {
        var groups = new TreeMap<String, Map<String, Long>>();
        for (var row : rows) {
            grouping.place(column -> row.of(column.name()))
                    .ifPresent(place -> place.groups()
                            .forEach(group -> groups.computeIfAbsent(group, _ -> new TreeMap<>())
                                    .merge(place.key(), 1L, Long::sum)));
        }
        return groups;
    }

    private Map<String, Map<String, Long>> counted(Grouping grouping) {
        var groups = new TreeMap<String, Map<String, Long>>();
        sql.resultQuery(
                        "select of_group, value, sum(times) from weft.usual_count where usual_id = (select id from weft.usual"
                                + " where table_id = {0} and column_id = {1} and part_columns = {2} and part_of = {3}::varchar[] and counted)"
                                + " group by 1, 2 having sum(times) <> 0",
                        DSL.inline(table.id()),
                        DSL.inline(now().columnId(grouping.column().name())),
                        DSL.inline(grouping.by().stream()
                                .map(part -> now().columnId(part.column().name()))
                                .toArray(Long[]::new)),
                        DSL.inline(grouping.by().stream()
                                .map(part -> part.of().name().toLowerCase(Locale.ROOT))
                                .toArray(String[]::new)))
                .forEach(row -> groups.computeIfAbsent(row.get(0, String.class), _ -> new TreeMap<>())
                        .put(row.get(1, String.class), row.get(2, Long.class)));
        return groups;
    }

    private void assertCounted() {
        var rows = all();
        for (var grouping : groupings()) {
            assertThat(counted(grouping)).as(grouping.toString()).isEqualTo(fresh(grouping, rows));
        }
    }

    private Map<String, Value> some() {
        var water = random.nextInt(30) == 0 ? random.nextInt(141) : 40 + random.nextInt(12);
        return values(
                "kind",
                random.nextInt(12) == 0 ? Value.EMPTY : text(KINDS.get(random.nextInt(KINDS.size()))),
                "taken",
                random.nextInt(12) == 0
                        ? Value.EMPTY
                        : new Value.Day(LocalDate.of(1968, 12, 1).plusDays(random.nextInt(90))),
                "water",
                random.nextInt(12) == 0 ? Value.EMPTY : new Value.Decimal(BigDecimal.valueOf(water, 1)),
                "bank",
                text(random.nextInt(150) == 0 ? "it's high" : "low"),
                "at",
                new Value.Hour(LocalTime.of(9 + random.nextInt(2), random.nextInt(60), random.nextInt(60))));
    }

    private void write() {
        switch (random.nextInt(8)) {
            case 0, 1, 2 -> Given.saved(now(), some(), Optional.empty(), "odile");
            case 3 -> any().ifPresent(row -> Given.changed(now(), row.id(), row.version(), some(), "odile"));
            case 4 -> any().ifPresent(row -> records.delete(now(), row.id(), row.version(), "odile"));
            case 5 -> becks(60);
            case 6 ->
                sql.execute(
                        "update {0} set water = case when _row % 2 = 0 then water else null end, kind = 'burn' where _row % 11 = {1}",
                        DSL.table(table.sqlName()), DSL.inline(random.nextInt(11)));
            default ->
                sql.execute(
                        "delete from {0} where _row % 17 = {1}",
                        DSL.table(table.sqlName()), DSL.inline(random.nextInt(17)));
        }
    }

    private void becks(int many) {
        sql.execute(
                "insert into {0} (_row, _version, _entered_by, kind, taken, water, bank, at)"
                        + " select 100000 + (select coalesce(max(_row), 0) from {0}) + i, 1, 'x', 'beck', date '1969-01-01' + i, i % 90 / 7.0,"
                        + " 'low', time '09:00' + i * interval '11 seconds' from generate_series(1, {1}) i",
                DSL.table(table.sqlName()), DSL.inline(many));
    }

    private Optional<StoredRow> any() {
        var rows = all();
        return rows.isEmpty() ? Optional.empty() : Optional.of(rows.get(random.nextInt(rows.size())));
    }

    @Test
    void afterAnyWritesTheSameIsCountedAsIsThere() {
        for (int i = 0; i < 20; i++) {
            write();
        }
        counts.keep();
        // What other programs may write, and nobody means, breaks no write.
        sql.execute(
                "insert into {0} (_row, _version, _entered_by, kind, taken) values (1000000, 1, 'x', 'beck', 'infinity'),"
                        + " (1000001, 1, 'x', 'beck', '-infinity')",
                DSL.table(table.sqlName()));
        sql.execute("delete from {0} where _row >= 1000000", DSL.table(table.sqlName()));
        assertCounted();
        var columns = new Columns(sql, Records::anyTable);
        for (int round = 0; round < 12; round++) {
            for (int i = 0; i < 8; i++) {
                write();
            }
            if (round == 4) {
                var named = now().definition().column("taken").orElseThrow();
                columns.change(
                        table.definition().name(),
                        "taken",
                        Column.plain("taken", "Taken on", ColumnType.DATE).required(named.required()),
                        Optional.empty());
            }
            assertCounted();
            counts.sumUp();
            assertCounted();
        }
        columns.change(
                table.definition().name(), "water", Column.plain("water", "Water", ColumnType.TEXT), Optional.empty());
        assertThat(sql.fetchCount(DSL.table("weft.usual"), DSL.condition("table_id = " + table.id())))
                .isEqualTo(4);
        sql.execute("truncate {0}", DSL.table(table.sqlName()));
        assertThat(sql.fetchCount(
                        DSL.table("weft.usual_count"),
                        DSL.condition("usual_id in (select id from weft.usual where table_id = " + table.id() + ")")))
                .isZero();
    }

    /** Where a value is counted, by the database and by the core, of whatever it may hold. */
    @Test
    void theDatabaseAndTheCoreCountAValueAtTheSamePlace() {
        var types = List.of(
                ColumnType.WHOLE,
                ColumnType.DECIMAL,
                ColumnType.DATE,
                ColumnType.DATETIME,
                ColumnType.TIME,
                ColumnType.CHOICE,
                ColumnType.YESNO,
                ColumnType.TEXT);
        for (int i = 0; i < 4_000; i++) {
            var held = Column.plain("held", "Held", types.get(random.nextInt(types.size() - 1)));
            var values = new HashMap<Column, Value>(Map.of(held, value(held.type())));
            var by = new ArrayList<Grouping.Part>();
            for (int part = random.nextInt(4); part > 0; part--) {
                var of = For.Of.values()[random.nextInt(For.Of.values().length)];
                var fitting = types.stream()
                        .filter(type -> Grouping.Part.fits(type, of))
                        .toList();
                var column = Column.plain("by" + part, "By", fitting.get(random.nextInt(fitting.size())));
                by.add(new Grouping.Part(column, of));
                values.put(column, random.nextInt(20) == 0 ? Value.EMPTY : value(column.type()));
            }
            var grouping = new Grouping(held, by, false);
            var row = new LinkedHashMap<String, String>();
            values.forEach((column, value) -> row.put(
                    column.name(),
                    value.isEmpty()
                            ? null
                            : column.type().isDated() ? value.plain().replace("+", "") : value.plain()));
            var placed = sql.fetch(
                    "select of_group, value from weft.usual_places({0}::jsonb, 'held', {1}, {2}::text[], {3}::text[]) order by depth desc",
                    DSL.inline(JsonMapper.shared().writeValueAsString(row)),
                    DSL.inline(Wire.word(held.type())),
                    DSL.inline(by.stream().map(part -> part.column().name()).toArray(String[]::new)),
                    DSL.inline(by.stream().map(part -> Wire.word(part.of())).toArray(String[]::new)));
            var expected = grouping.place(values::get);
            assertThat(placed.getValues(0, String.class))
                    .as(row.toString())
                    .isEqualTo(expected.map(Grouping.Place::groups).orElse(List.of()));
            assertThat(placed.getValues(1, String.class))
                    .as(row.toString())
                    .allMatch(expected.map(Grouping.Place::key).orElse("")::equals);
        }
    }

    private Value value(ColumnType type) {
        return switch (type) {
            case WHOLE -> new Value.Whole(random.nextBoolean() ? random.nextLong() : random.nextInt(-20_000, 20_000));
            case DECIMAL ->
                new Value.Decimal(
                        new BigDecimal(new BigInteger(1 + random.nextInt(60), random), random.nextInt(-45, 60))
                                .multiply(BigDecimal.valueOf(random.nextInt(-1, 2))));
            case DATE ->
                new Value.Day(LocalDate.of(random.nextInt(1, 12_000), 1, 1).plusDays(random.nextInt(366)));
            case DATETIME ->
                new Value.Moment(LocalDate.of(random.nextInt(1, 9_000), 1, 1)
                        .plusDays(random.nextInt(366))
                        .atTime(hour()));
            case TIME -> new Value.Hour(hour());
            case YESNO -> new Value.YesNo(random.nextBoolean());
            case TEXT, CHOICE, LONGTEXT, PICTURE, LINK ->
                text(new String(
                                random.ints(1 + random.nextInt(130), 33, 0x1F600)
                                        .filter(each -> each < 0xD800 || each > 0xDFFF)
                                        .toArray(),
                                0,
                                1)
                        + "ß𝒜".repeat(random.nextInt(70)));
        };
    }

    private LocalTime hour() {
        return LocalTime.of(random.nextInt(24), random.nextInt(60), random.nextInt(60));
    }

    /** 200 of any values, and becks before and after one of that kind whose bank is rare. */
    private void filled(int before, String kind, int after) {
        for (int i = 0; i < 200; i++) {
            Given.saved(now(), some(), Optional.empty(), "odile");
        }
        becks(before);
        Given.saved(now(), values("kind", text(kind), "bank", text("it's high")), Optional.empty(), "odile");
        becks(after);
    }

    /** What the database finds in one pass is what the engine would say of each record, before and after it is counted. */
    @Test
    void theSameRecordsAreUnusualByTheDatabaseByTheEngineAndOneByOne() {
        filled(98, "beck", 300);
        var looking = Given.looking(definitions);
        var rows = all();
        var ready = definitions.published(form).orElseThrow();
        var found = new HashMap<String, Looking.Looked>();
        for (boolean counted : new boolean[] {false, true}) {
            if (counted) {
                counts.keep();
            }
            for (var check : rules()) {
                var grouping = Grouping.of((Check.Usual) check.rule(), now().definition())
                        .orElseThrow();
                var fresh = fresh(grouping, rows);
                var expected = rows.stream()
                        .filter(row -> oneByOne(grouping, fresh, row).isPresent())
                        .map(StoredRow::row)
                        .sorted()
                        .toList();
                var look = looking.look(ready, check, Optional.empty(), 0, Duration.ofMinutes(1));
                assertThat(look.broken()).as(check.id()).isEqualTo(expected.size());
                assertThat(look.examples().stream().map(each -> each.record().row()))
                        .isEqualTo(expected.stream().limit(Looking.SHOWN).toList());
                assertThat(look.examples())
                        .allSatisfy(each -> assertThat(each.said()).contains(" records"));
                var before = found.put(check.id(), look);
                if (counted) {
                    assertThat(look).isEqualTo(before);
                    var asked = records.rowsOf(now(), definitions);
                    assertThat(rows.stream()
                                    .filter(row -> grouping.place(column -> row.of(column.name()))
                                            .flatMap(place -> asked.usual(grouping, place)
                                                    .flatMap(all -> Unusual.of(
                                                            grouping,
                                                            place,
                                                            all,
                                                            row.of(grouping.column()
                                                                    .name()))))
                                            .isPresent())
                                    .map(StoredRow::row)
                                    .sorted()
                                    .toList())
                            .isEqualTo(expected);
                }
            }
        }
        assertThat(found.get("water_kind_taken").broken()).isPositive();
        assertThat(found.get("bank_kind").broken()).isPositive();
    }

    /** Without a rule: what is unusual in the narrowest group and in no wider one, the worst first, by pages. */
    @Test
    void theSameIsFoundWithoutARule() {
        filled(198, "burn", 400);
        var looks = new UnusualLooks(database);
        var lookable = looks.lookable(now());
        assertThat(lookable.columns()).extracting(Column::name).containsExactly("taken", "water", "bank", "at");
        assertThat(lookable.parts())
                .extracting(part -> part.column().name() + " " + Wire.word(part.of()))
                .containsExactly("kind value", "taken month", "taken weekday", "bank value", "at hour");
        var rows = all();
        int found = 0;
        for (var column : lookable.columns()) {
            for (var parts : Stream.concat(
                            Stream.of(List.<Grouping.Part>of()),
                            lookable.parts().stream().map(List::of))
                    .toList()) {
                var grouping = new Grouping(column, parts, false);
                if (grouping.wrong().isPresent()) {
                    continue;
                }
                var fresh = fresh(grouping, rows);
                var expected = rows.stream()
                        .filter(row -> oddOnlyAt(parts.size(), grouping, fresh, row))
                        .map(StoredRow::row)
                        .toList();
                found += expected.size();
                var seen = new ArrayList<UnusualLooks.Odd>();
                var page = looks.look(now(), grouping, Optional.empty(), 3);
                assertThat(page.many()).as(grouping.toString()).isEqualTo(expected.size());
                boolean often = expected.size() > 10 && expected.size() * 50 > rows.size();
                assertThat(page.often()).isEqualTo(often);
                seen.addAll(page.shown());
                while (page.more()) {
                    var last = seen.getLast();
                    page = looks.look(
                            now(),
                            grouping,
                            Optional.of(new UnusualLooks.After(
                                    last.beyond(), last.record().row())),
                            3);
                    seen.addAll(page.shown());
                }
                if (!often) {
                    assertThat(seen.stream().map(each -> each.record().row()))
                            .as(grouping.toString())
                            .containsExactlyInAnyOrderElementsOf(expected);
                }
                assertThat(seen.stream().map(UnusualLooks.Odd::beyond))
                        .isSortedAccordingTo(Comparator.reverseOrder())
                        .allMatch(beyond -> beyond >= 1);
                assertThat(seen)
                        .allSatisfy(each -> assertThat(each.finding().message()).contains(" records"));
            }
        }
        assertThat(found).isGreaterThan(5);
    }

    /** Columns may be called as the statements call theirs. */
    @Test
    void noColumnIsTakenForAnother() {
        var named = Given.table("after-last", "value decimal", "odd choice", "depth text");
        for (int i = 0; i < 30; i++) {
            var values = values(
                    "value",
                    new Value.Decimal(BigDecimal.valueOf(i == 7 ? 14 : 3 + i % 3)),
                    "odd",
                    text("low"),
                    "depth",
                    text("d"));
            Given.saved(named, values, Optional.empty(), "odile");
        }
        var definition = named.definition();
        var parts = List.of(
                new Grouping.Part(definition.column("odd").orElseThrow(), For.Of.VALUE),
                new Grouping.Part(definition.column("depth").orElseThrow(), For.Of.VALUE));
        for (int many = 0; many <= parts.size(); many++) {
            var grouping = new Grouping(definition.column("value").orElseThrow(), parts.subList(0, many), false);
            assertThat(new UnusualLooks(database)
                            .look(named, grouping, Optional.empty(), 5)
                            .many())
                    .isEqualTo(many == 0 ? 1 : 0);
            assertThat(sql.fetchCount(DSL.table(named.sqlName()), UsualSql.unusual(named, grouping)))
                    .isEqualTo(1);
        }
    }

    private static boolean oddOnlyAt(
            int depth, Grouping grouping, Map<String, Map<String, Long>> fresh, StoredRow row) {
        return grouping.place(column -> row.of(column.name())).stream().anyMatch(place -> {
            var odd = place.groups().stream()
                    .map(group -> new Counts(0, fresh.get(group)))
                    .map(each -> each.speaks(grouping.ofAmounts())
                            && Unusual.of(
                                            grouping,
                                            place,
                                            each,
                                            row.of(grouping.column().name()))
                                    .isPresent())
                    .toList();
            return odd.getFirst() && odd.stream().skip(1).noneMatch(wider -> wider);
        });
    }

    private static Optional<Unusual> oneByOne(Grouping grouping, Map<String, Map<String, Long>> fresh, StoredRow row) {
        return grouping.place(column -> row.of(column.name()))
                .flatMap(place -> place.groups().stream()
                        .map(group -> new Counts(0, fresh.get(group)))
                        .filter(each -> each.speaks(grouping.ofAmounts()))
                        .findFirst()
                        .flatMap(each -> Unusual.of(
                                grouping, place, each, row.of(grouping.column().name()))));
    }

    @Test
    void whoWritesWhileItIsBegunIsCountedOnce() throws Exception {
        try (var others = Executors.newFixedThreadPool(3)) {
            var ends = new AtomicBoolean();
            var writing = others.submit(() -> {
                while (!ends.get()) {
                    Given.saved(now(), values("kind", text("beck"), "bank", text("low")), Optional.empty(), "odile");
                }
            });
            var one = others.submit(counts::keep);
            new UsualCounts(database, tables, forms).keep();
            one.get();
            one = others.submit(counts::sumUp);
            counts.sumUp();
            one.get();
            ends.set(true);
            writing.get();
        }
        counts.keep();
        assertCounted();
    }

    /** Whoever does not see all records learns nothing of the others, unless the rule says so. */
    @Test
    void whereNotAllIsToBeSeenNothingIsTold() {
        for (int i = 0; i < 60; i++) {
            Given.saved(now(), some(), Optional.empty(), "odile");
        }
        counts.keep();
        var grouping = new Grouping(now().definition().column("taken").orElseThrow(), List.of(), false);
        var place = new Grouping.Place("0", List.of("0"));
        var part = SeenTable.part(now(), now().definition(), Optional.of(DSL.condition("_row = 1")), Optional.empty());
        var whole = SeenTable.part(now(), now().definition(), Optional.empty(), Optional.empty());
        assertThat(records.rowsOf(now(), whole, definitions).usual(grouping, place))
                .isPresent();
        assertThat(records.rowsOf(now(), part, definitions).usual(grouping, place))
                .isEmpty();
        assertThat(records.rowsOf(now(), part, definitions).usual(grouping.ofAll(), place))
                .isPresent();
    }

    @Test
    void whatNoRuleNeedsIsCountedNoLonger() {
        counts.keep();
        forms.change(
                forms.workingCopy(form).orElseThrow().revision(),
                FormDocument.checked(
                        forms.workingCopy(form).orElseThrow().form().ruled(Rules.NONE)),
                "odile");
        forms.publish(form, "odile");
        counts.keep();
        assertThat(sql.fetchExists(DSL.table("weft.usual"), DSL.condition("table_id = " + table.id())))
                .isFalse();
        assertThat(sql.fetchExists(
                        DSL.table("pg_trigger"),
                        DSL.condition(
                                "tgrelid = {0}::regclass and tgname like 'zz_weft_usual%'",
                                DSL.inline(sql.render(table.sqlName())))))
                .isFalse();
    }
}
