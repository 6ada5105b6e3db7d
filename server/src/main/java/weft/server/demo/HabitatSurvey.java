package weft.server.demo;

import static weft.server.demo.Columns.choice;
import static weft.server.demo.Columns.column;
import static weft.server.demo.Columns.number;
import static weft.server.demo.Columns.required;
import static weft.server.demo.Columns.text;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.stream.IntStream;
import weft.core.table.Column;
import weft.core.table.Table;
import weft.core.table.TableProposal.ColumnProposal;
import weft.core.value.ColumnType;
import weft.core.value.Value;

/** A wide table, of 44 columns in six groups, such as grows out of a paper survey of eight pages. */
final class HabitatSurvey {

    private static final int COUNT = 150;
    private static final List<String> SHARE = List.of("none", "little", "some", "much");

    private HabitatSurvey() {}

    static Table table() {
        return Columns.table("habitat_survey", "Habitat survey", columns().toArray(ColumnProposal[]::new));
    }

    private static List<ColumnProposal> columns() {
        return List.of(
                required(text("", "Reach code", 8)),
                required(column("", "Reach surveyed on", ColumnType.DATE)),
                column("", "Reach started at", ColumnType.TIME),
                choice("", "Reach surveyor", Volunteers.SAMPLERS),
                choice("", "Reach river", Sites.RIVERS),
                number("", "Reach length (m)", 0, "50", "2000"),
                choice("", "Reach weather", List.of("dry", "cloudy", "rain")),
                number("", "Channel width (m)", 1, "0", "200"),
                number("", "Channel depth (m)", 2, "0", "20"),
                number("", "Channel slope (%)", 1, "0", "40"),
                choice("", "Channel shape", List.of("straight", "winding", "braided")),
                choice("", "Channel flow type", List.of("riffle", "run", "glide", "pool")),
                number("", "Channel riffles", 0, "0", "99"),
                number("", "Channel pools", 0, "0", "99"),
                column("", "Channel altered", ColumnType.YESNO),
                number("", "Bank left height (m)", 1, "0", "30"),
                number("", "Bank right height (m)", 1, "0", "30"),
                choice("", "Bank left material", List.of("earth", "clay", "gravel", "rock", "brick")),
                choice("", "Bank right material", List.of("earth", "clay", "gravel", "rock", "brick")),
                choice("", "Bank erosion", SHARE),
                column("", "Bank reinforced", ColumnType.YESNO),
                number("", "Bank tree shade (%)", 0, "0", "100"),
                number("", "Bank fenced (m)", 0, "0", "4000"),
                number("", "Bed boulders (%)", 0, "0", "100"),
                number("", "Bed cobbles (%)", 0, "0", "100"),
                number("", "Bed gravel (%)", 0, "0", "100"),
                number("", "Bed sand (%)", 0, "0", "100"),
                number("", "Bed silt (%)", 0, "0", "100"),
                choice("", "Bed algae", SHARE),
                column("", "Bed visible", ColumnType.YESNO),
                choice("", "Plants submerged", SHARE),
                choice("", "Plants floating", SHARE),
                choice("", "Plants emergent", SHARE),
                choice("", "Plants mosses", SHARE),
                text("", "Plants commonest", 30),
                text("", "Plants invasive", 30),
                number("", "Plants kinds counted", 0, "0", "200"),
                choice("", "Pressure cattle", SHARE),
                choice("", "Pressure litter", SHARE),
                choice("", "Pressure outfalls", SHARE),
                column("", "Pressure barriers", ColumnType.YESNO),
                column("", "Pressure abstraction", ColumnType.YESNO),
                number("", "Pressure score", 0, "0", "50"),
                column("", "Pressure notes", ColumnType.LONGTEXT));
    }

    static List<List<String>> rows(Random random) {
        var columns = table().columns();
        return IntStream.range(0, COUNT)
                .mapToObj(survey -> {
                    var row = new ArrayList<String>();
                    columns.forEach(column -> row.add(cell(random, column, survey)));
                    return List.copyOf(row);
                })
                .toList();
    }

    private static String cell(Random random, Column column, int survey) {
        var cell = switch (column.type()) {
            case CHOICE -> Columns.oneOf(random, column.choices());
            case YESNO -> random.nextInt(3) == 0 ? "yes" : "no";
            case DATE -> LocalDate.of(2025, 4, 1).plusDays(3L * survey).toString();
            case TIME -> "%02d:%02d".formatted(8 + random.nextInt(8), 15 * random.nextInt(4));
            case WHOLE -> Long.toString(least(column) + (long) (spread(column) * few(random)));
            case DECIMAL -> String.format(Locale.ROOT, "%.1f", least(column) + spread(column) * few(random));
            case LONGTEXT -> random.nextInt(4) == 0 ? "Same as the spring survey, but for the new outfall." : "";
            case TEXT, DATETIME, PICTURE, LINK ->
                column.required()
                        ? "R-%03d".formatted(survey + 1)
                        : Columns.oneOf(random, List.of("water crowfoot", "watercress", "brooklime", "starwort"));
        };
        return column.required() ? cell : Columns.gap(random, 6, cell);
    }

    private static long least(Column column) {
        return column.min().map(Value::plain).map(Long::parseLong).orElse(0L);
    }

    private static long spread(Column column) {
        return column.max().map(Value::plain).map(Long::parseLong).orElse(100L) - least(column);
    }

    /** Of the whole spread mostly a small part, as in nature. */
    private static double few(Random random) {
        double part = random.nextDouble();
        return part * part * 0.5;
    }
}
