package weft.server.demo;

import static weft.server.demo.Columns.column;
import static weft.server.demo.Columns.link;
import static weft.server.demo.Columns.required;
import static weft.server.demo.Columns.text;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.function.Function;
import java.util.stream.IntStream;
import weft.core.form.Button;
import weft.core.form.Field;
import weft.core.form.Form;
import weft.core.rule.Command;
import weft.core.rule.Derived;
import weft.core.rule.Derived.Decides;
import weft.core.rule.Fill;
import weft.core.rule.Fill.Tie;
import weft.core.rule.Rules;
import weft.core.rule.Step;
import weft.core.rule.Step.Setting;
import weft.core.rule.Step.Steps;
import weft.core.table.Table;
import weft.core.value.ColumnType;

/** Notes under a site, opened from it with the site already filled in. */
final class SiteNotes {

    private static final int COUNT = 400;
    private static final List<String> NOTES = List.of(
            "Otter tracks on the left bank.",
            "New gravel bar since the flood.",
            "Kingfisher twice within the hour.",
            "Balsam coming up below the bridge.",
            "The farmer would rather we came by the lower gate.",
            "Bank has slipped; stay off the edge.",
            "Clear to the bottom today.");

    private SiteNotes() {}

    static Table table(Function<String, Optional<Table>> tables) {
        return Columns.table(
                tables,
                "site_notes",
                "Site notes",
                required(link("site_code", "Site", "sites", "code")),
                text("site_name", "Site name", 30),
                column("noted_on", "Noted on", ColumnType.DATE),
                required(column("note", "Note", ColumnType.LONGTEXT)),
                text("noted_by", "By", 24));
    }

    static List<List<String>> rows(Random random) {
        return IntStream.range(0, COUNT)
                .mapToObj(i -> {
                    var site = Sites.ALL.get(random.nextInt(Sites.ALL.size()));
                    return List.of(
                            site.code(),
                            site.name(),
                            LocalDate.of(2024, 8, 1).plusDays(i * 9L / 5).toString(),
                            Columns.oneOf(random, NOTES),
                            Columns.gap(random, 8, Columns.oneOf(random, Volunteers.SAMPLERS)));
                })
                .toList();
    }

    static Form ruled(Form form) {
        return form.withFields(field -> switch (field.column()) {
                    case "site_code" -> field.begun(new Field.Start("", false, false, true));
                    case "site_name" -> field.used(Field.Use.LOCKED);
                    case "note" -> field.begun(new Field.Start("", false, true));
                    default -> field;
                })
                .ruled(new Rules(
                        List.of(),
                        List.of(new Fill(
                                "site",
                                "sites",
                                List.of(new Tie("site_code", "")),
                                List.of(new Tie("site_name", "name")),
                                Fill.None.LEAVE,
                                Fill.Several.LEAVE,
                                false)),
                        List.of(
                                new Derived("noted_on", Decides.DEFAULT, "today()"),
                                new Derived("noted_by", Decides.DEFAULT, "person")),
                        List.of(),
                        List.of(),
                        List.of(),
                        List.of()));
    }

    /** The sites' own form, with a button that opens a note under the site. */
    static Form withButton(Form sites) {
        var sections = new ArrayList<>(sites.sections());
        var items = new ArrayList<>(sections.getLast().items());
        items.add(new Button("note", "Add a note", "open", Command.STEPS, "", Button.Key.NONE, 3));
        sections.set(sections.size() - 1, sections.getLast().with(items));
        return sites.withSections(sections)
                .ruled(new Rules(
                        List.of(),
                        List.of(),
                        List.of(),
                        List.of(),
                        List.of(),
                        List.of(new Steps(
                                "note",
                                List.of(new Step(
                                        "code != null",
                                        new Step.Open("site_notes", List.of(new Setting("site_code", "code"))))))),
                        List.of()));
    }
}
