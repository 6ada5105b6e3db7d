package weft.server.demo;

import static weft.server.demo.Columns.choice;
import static weft.server.demo.Columns.column;
import static weft.server.demo.Columns.gap;
import static weft.server.demo.Columns.number;
import static weft.server.demo.Columns.oneOf;
import static weft.server.demo.Columns.required;
import static weft.server.demo.Columns.text;
import static weft.server.demo.Columns.unique;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.stream.Stream;
import weft.core.find.Sort;
import weft.core.form.Field;
import weft.core.form.Field.Widget;
import weft.core.form.Form;
import weft.core.form.Form.Section;
import weft.core.form.FormLines;
import weft.core.rule.Check;
import weft.core.rule.Fill;
import weft.core.rule.Fill.Tie;
import weft.core.rule.Numbering;
import weft.core.rule.Practice;
import weft.core.rule.Practice.Outcome;
import weft.core.rule.Rules;
import weft.core.rule.Step;
import weft.core.rule.Step.Setting;
import weft.core.rule.Step.Steps;
import weft.core.table.Constraint;
import weft.core.table.Table;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Value;

/** Two years of water samples, with the gaps and odd values of real work. */
final class Samples {

    static final int COUNT = 2_412;

    private static final LocalDate FIRST_DAY = LocalDate.of(2024, 8, 3);
    private static final int DAYS = 728;
    private static final List<String> FLOW = List.of("low", "normal", "high", "flood");
    private static final List<String> WEATHER = List.of("dry", "cloudy", "rain", "snow", "fog");
    private static final List<String> REMARKS = List.of(
            "Foam below the weir.",
            "Cattle in the water upstream.",
            "Smell of diesel; reported.",
            "Meter read twice, second value kept.",
            "Kingfisher.",
            "Bank has slipped since last time.\nNew stake needed.");

    private Samples() {}

    static Table table() {
        return Columns.table(
                "samples",
                "Samples",
                unique(text("number", "Number", 12)),
                required(text("site_code", "Site", 6)),
                text("site_name", "Site name", 30),
                choice("river", "River", Sites.RIVERS),
                required(column("taken_on", "Taken on", ColumnType.DATE)),
                required(column("taken_at", "At", ColumnType.TIME)),
                choice("taken_by", "Taken by", Volunteers.SAMPLERS),
                number("water_c", "Water (°C)", 1, "-2", "35"),
                number("ph", "pH", 1, "0", "14"),
                number("oxygen_mg_l", "Oxygen (mg/l)", 1, "0", "25"),
                number("turbidity_ntu", "Turbidity (NTU)", 1, "0", "1000"),
                choice("flow", "Flow", FLOW),
                choice("weather", "Weather", WEATHER),
                column("remark", "Remark", ColumnType.LONGTEXT),
                column("photo", "Photo", ColumnType.PICTURE),
                column("needs_follow_up", "Needs follow-up", ColumnType.YESNO));
    }

    /** With these lines under what was measured. */
    static Form form(FormLines counts) {
        return new Form(
                "samples",
                "Samples",
                "samples",
                Conventions.DEFAULT,
                Form.Enter.SAVES,
                Form.Leaving.SAVES,
                Sort.BY_ROW,
                Form.Style.REGULAR,
                List.of(),
                List.of(
                        new Section(
                                "Where and when",
                                Section.USUAL_COLUMNS,
                                List.of(
                                        field("Site", "site_code", Widget.LINE, 3, ""),
                                        field("Site name", "site_name", Widget.LINE, 5, ""),
                                        field("River", "river", Widget.CHOICE, 4, ""),
                                        field("Taken on", "taken_on", Widget.DATE, 3, ""),
                                        field("At", "taken_at", Widget.TIME, 2, ""),
                                        field("Taken by", "taken_by", Widget.CHOICE, 4, ""),
                                        field("Number", "number", Widget.LINE, 3, ""))),
                        new Section(
                                "Readings",
                                Section.USUAL_COLUMNS,
                                List.of(
                                        field("Water", "water_c", Widget.NUMBER, 3, "°C"),
                                        field("pH", "ph", Widget.NUMBER, 3, ""),
                                        field("Oxygen", "oxygen_mg_l", Widget.NUMBER, 3, "mg/l"),
                                        field("Turbidity", "turbidity_ntu", Widget.NUMBER, 3, "NTU"),
                                        field("Flow", "flow", Widget.CHOICE, 3, ""),
                                        field("Weather", "weather", Widget.CHOICE, 4, ""),
                                        field("Needs follow-up", "needs_follow_up", Widget.YESNO, 5, ""),
                                        field("Remark", "remark", Widget.AREA, 8, ""),
                                        field("Photo", "photo", Widget.PICTURE, 4, ""))),
                        new Section("What was found", Section.USUAL_COLUMNS, List.of(counts))),
                rules());
    }

    /** No two samples at one site and time. */
    static Constraint constraint() {
        return new Constraint.Unique("", List.of("site_code", "taken_on", "taken_at"), "");
    }

    private static Rules rules() {
        var incidents = new Step(
                "needs_follow_up",
                new Step.AddRow(
                        "incidents",
                        List.of(
                                new Setting("site_code", "site_code"),
                                new Setting(
                                        "what",
                                        "if remark = null then \"Sample \" + number + \" needs a look\" else remark"),
                                new Setting("severity", "\"look at it\""),
                                new Setting("seen_on", "taken_on"),
                                new Setting("sample", "number"),
                                new Setting("photo", "photo"),
                                new Setting("status", "\"open\""))));
        var told = new Step("needs_follow_up", new Step.Say("Row {row} was handed on to the incidents."));
        var typed = Map.of("site_code", "QB-01", "taken_on", "2026-11-02", "taken_at", "9:30", "ph", "7.4");
        var high = new HashMap<>(typed);
        high.put("ph", "15");
        var nowhere = new HashMap<>(typed);
        nowhere.put("site_code", "ZZ-99");
        return new Rules(
                List.of(
                        new Check(
                                "usual",
                                new Check.Range("ph", "6", "9"),
                                true,
                                false,
                                "A pH of {ph} is rare in these rivers."),
                        new Check(
                                "season",
                                new Check.Usual(
                                        "water_c",
                                        List.of(
                                                new Check.For("river", Check.For.Of.VALUE),
                                                new Check.For("taken_on", Check.For.Of.MONTH)),
                                        false),
                                true,
                                false,
                                ""),
                        new Check(
                                "full",
                                new Check.Complete(List.of("water_c", "ph", "oxygen_mg_l", "flow")),
                                true,
                                false,
                                "")),
                List.of(new Fill(
                        "site",
                        "sites",
                        List.of(new Tie("site_code", "code")),
                        List.of(new Tie("site_name", "name"), new Tie("river", "river")),
                        Fill.None.STOP,
                        Fill.Several.LEAVE,
                        false)),
                List.of(),
                List.of(),
                List.of(new Numbering("number", "S-{year}-{0000}")),
                List.of(new Steps(Steps.SAVED, List.of(incidents, told))),
                List.of(
                        new Practice(
                                "plain",
                                "Plain sample at QB-01",
                                typed,
                                Map.of("incomplete", "yes"),
                                Outcome.SAVED,
                                "",
                                Map.of("site_name", "Mill tail", "ph", "7.4")),
                        new Practice("high", "pH of 15", high, Map.of(), Outcome.STOPPED, "range", Map.of()),
                        new Practice(
                                "nowhere", "Unknown site ZZ-99", nowhere, Map.of(), Outcome.STOPPED, "site", Map.of()),
                        new Practice(
                                "gaps", "Readings left out", typed, Map.of(), Outcome.ASKED, "incomplete", Map.of())));
    }

    private static Field field(String label, String column, Widget widget, int width, String unit) {
        boolean required = Stream.of("site_code", "taken_on", "taken_at").anyMatch(column::equals);
        boolean carried = Stream.of("site_code", "taken_on", "taken_by").anyMatch(column::equals);
        boolean locked = Stream.of("site_name", "river", "number").anyMatch(column::equals);
        return Field.plain(column, label, column, widget, width)
                .used(locked ? Field.Use.LOCKED : Field.Use.OPEN)
                .begun(new Field.Start("", carried, false))
                .high(widget == Widget.AREA || widget == Widget.PICTURE ? 3 : 1)
                .in(unit)
                .required(required);
    }

    static List<List<String>> rows(Random random) {
        var days = random.ints(COUNT, 0, DAYS).sorted().toArray();
        var given = new HashMap<Integer, Integer>();
        var rows = new ArrayList<List<String>>();
        var taken = new HashSet<List<String>>();
        for (int day : days) {
            var date = FIRST_DAY.plusDays(day);
            var row = row(random, date, given.getOrDefault(date.getYear(), 0) + 1);
            // Nobody takes two samples at one place and time.
            if (taken.add(List.of(row.get(1), row.get(4), row.get(5)))) {
                given.merge(date.getYear(), 1, Integer::sum);
                rows.add(row);
            }
        }
        return rows;
    }

    private static List<String> row(Random random, LocalDate date, int number) {
        var site = Sites.ALL.get(random.nextInt(Sites.ALL.size()));
        double summer = Math.sin((date.getDayOfYear() - 110) / 365.0 * 2 * Math.PI);
        double water = 9.5 + 6.5 * summer + random.nextGaussian() * 1.4;
        double oxygen = 14.2 - water * 0.32 + random.nextGaussian() * 0.6;
        boolean odd = random.nextInt(160) == 0;
        boolean flood = random.nextInt(30) == 0;
        return List.of(
                "S-%d-%04d".formatted(date.getYear(), number),
                site.code(),
                site.name(),
                site.river(),
                date.toString(),
                LocalTime.of(7 + random.nextInt(11), 5 * random.nextInt(12)).toString(),
                gap(random, 4, oneOf(random, Volunteers.SAMPLERS)),
                gap(random, 3, tenths(Math.max(-1.5, water))),
                gap(random, 2, tenths(odd ? 3.1 + random.nextDouble() : 7.2 + random.nextGaussian() * 0.3)),
                gap(random, 12, tenths(Math.clamp(oxygen, 2, 20))),
                gap(random, 25, tenths(flood ? 80 + random.nextInt(300) : 1 + random.nextDouble() * 6)),
                flood ? "flood" : oneOf(random, FLOW.subList(0, 3)),
                gap(random, 15, oneOf(random, WEATHER)),
                random.nextInt(9) == 0 ? oneOf(random, REMARKS) : "",
                "",
                odd || random.nextInt(40) == 0 ? "yes" : "no");
    }

    private static String tenths(double number) {
        return String.format(Locale.ROOT, "%.1f", number);
    }

    /** What somebody put right in a sample: a reading, how it flowed, or a remark. */
    static Map<String, Value> correction(Random random) {
        return switch (random.nextInt(4)) {
            case 0 -> Map.of("ph", new Value.Decimal(BigDecimal.valueOf(68 + random.nextInt(14), 1)));
            case 1 -> Map.of("oxygen_mg_l", new Value.Decimal(BigDecimal.valueOf(80 + random.nextInt(40), 1)));
            case 2 -> Map.of("flow", new Value.Text(FLOW.get(random.nextInt(FLOW.size()))));
            default -> Map.of("remark", new Value.Text("Checked against the sheet."));
        };
    }
}
