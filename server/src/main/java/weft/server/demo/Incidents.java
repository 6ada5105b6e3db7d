package weft.server.demo;

import static weft.server.demo.Columns.choice;
import static weft.server.demo.Columns.column;
import static weft.server.demo.Columns.link;
import static weft.server.demo.Columns.number;
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
import weft.core.form.Form;
import weft.core.rule.Check;
import weft.core.rule.Choices;
import weft.core.rule.Command;
import weft.core.rule.Derived;
import weft.core.rule.Derived.Decides;
import weft.core.rule.Fill.Tie;
import weft.core.rule.Rules;
import weft.core.rule.Step;
import weft.core.rule.Step.Setting;
import weft.core.rule.Step.Steps;
import weft.core.table.Table;
import weft.core.value.ColumnType;

/** What was seen amiss, handed on from samples or keyed by the coordinator, and what became of it. */
final class Incidents {

    private static final int COUNT = 120;
    private static final List<String> SEVERITIES = List.of("look at it", "soon", "at once");
    private static final List<String> STATUSES = List.of("open", "in work", "done");
    private static final List<String> WHAT = List.of(
            "Grey water below the outfall",
            "Fence down, cattle in the beck",
            "Gauge board is loose",
            "Foam against the weir",
            "Dead fish, three",
            "Step to the landing is broken",
            "Pipe that was not there in spring",
            "Reading far from the usual");

    private Incidents() {}

    static Table table(Function<String, Optional<Table>> tables) {
        return Columns.table(
                tables,
                "incidents",
                "Incidents",
                required(text("site_code", "Site", 6)),
                required(text("what", "What", 60)),
                choice("severity", "Severity", SEVERITIES),
                column("seen_on", "Seen on", ColumnType.DATE),
                link("sample", "From sample", "samples", "number", "site_name", "taken_on"),
                column("repair_needed", "Repair needed", ColumnType.YESNO),
                number("cost", "Cost", 2, "0", "100000"),
                column("photo", "Photo", ColumnType.PICTURE),
                choice("status", "Status", STATUSES));
    }

    static List<List<String>> rows(Random random) {
        return IntStream.range(0, COUNT)
                .mapToObj(i -> {
                    boolean repair = random.nextInt(3) == 0;
                    var day = LocalDate.of(2024, 8, 10).plusDays(i * 6L + random.nextInt(5));
                    return List.of(
                            Columns.oneOf(
                                    random,
                                    Sites.ALL.stream().map(Sites.Site::code).toList()),
                            Columns.oneOf(random, WHAT),
                            Columns.oneOf(random, SEVERITIES),
                            day.toString(),
                            "",
                            repair ? "yes" : "no",
                            repair ? "%d.00".formatted(20 + 5 * random.nextInt(80)) : "",
                            "",
                            i < COUNT - 20 ? "done" : Columns.oneOf(random, STATUSES));
                })
                .toList();
    }

    static Form ruled(Form form) {
        var rules = new Rules(
                List.of(new Check(
                        "dear",
                        new Check.Holds("cost < 500", "cost"),
                        true,
                        false,
                        "{cost} is more than a repair usually costs.")),
                List.of(),
                List.of(
                        new Derived("status", Decides.DEFAULT, "\"open\""),
                        new Derived("seen_on", Decides.DEFAULT, "today()"),
                        new Derived("what", Decides.LOCKED, "status = \"done\""),
                        new Derived("cost", Decides.SHOWN, "repair_needed"),
                        new Derived("cost", Decides.REQUIRED, "repair_needed and status = \"done\"")),
                List.of(
                        new Choices("site_code", "sites", "code", "name", List.of(), false),
                        new Choices(
                                "sample", "samples", "number", "", List.of(new Tie("site_code", "site_code")), false)),
                List.of(),
                List.of(
                        new Steps(
                                Steps.SAVED,
                                List.of(new Step(
                                        "severity = \"at once\"",
                                        new Step.ChangeRow(
                                                "sites",
                                                List.of(new Setting("code", "site_code")),
                                                List.of(new Setting("access_note", "\"Take care: \" + what")))))),
                        new Steps(
                                "done",
                                List.of(
                                        new Step("", new Step.SetField(new Setting("status", "\"done\""))),
                                        new Step("", new Step.Press(Command.SAVE)),
                                        new Step("", new Step.Press(Command.NEXT))))),
                List.of());
        var last = form.sections().size() - 1;
        var sections = new ArrayList<>(form.sections());
        var items = new ArrayList<>(sections.get(last).items());
        items.add(new Button("save", "Save", "", Command.SAVE, "", Button.Key.ENTER, 2));
        items.add(new Button("clear", "Clear", "", Command.CLEAR, "", Button.Key.ESC, 2));
        items.add(new Button("done", "Done, next", "", Command.STEPS, "", Button.Key.NONE, 3));
        sections.set(last, sections.get(last).with(items));
        return form.withSections(sections).ruled(rules);
    }
}
