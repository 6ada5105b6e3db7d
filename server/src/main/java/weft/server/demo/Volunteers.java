package weft.server.demo;

import static weft.server.demo.Columns.choice;
import static weft.server.demo.Columns.column;
import static weft.server.demo.Columns.required;
import static weft.server.demo.Columns.text;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.stream.IntStream;
import weft.core.form.Calculated;
import weft.core.form.Form;
import weft.core.rule.Check;
import weft.core.rule.Derived;
import weft.core.rule.Derived.Decides;
import weft.core.rule.Rules;
import weft.core.table.Table;
import weft.core.value.ColumnType;

/** The people of the group, all of them invented. */
final class Volunteers {

    private static final List<String> FIRST = List.of(
            "Odile", "Bram", "Saffi", "Imre", "Tilda", "Corin", "Wenna", "Joss", "Pella", "Anselm", "Mirrin", "Tobit",
            "Ysolde", "Garrick", "Lune");
    private static final List<String> LAST =
            List.of("Marsh", "Tolley", "Keane", "Castell", "Hollin", "Brandreth", "Sedge", "Quarrie");
    private static final int COUNT = 60;

    /** Those who were entered a second time, in another spelling. */
    private static final Map<Integer, Again> AGAIN = Map.of(
            47, new Again(13, "Garrik Brandreth"),
            53, new Again(4, "Tilda Hollyn"),
            58, new Again(6, "Sedge, Wenna"));

    private record Again(int of, String spelled) {}

    /** Those who key most of the sheets. */
    static final List<String> SAMPLERS =
            IntStream.range(0, 8).mapToObj(Volunteers::name).toList();

    private Volunteers() {}

    private static String name(int i) {
        return FIRST.get(i % FIRST.size()) + " " + LAST.get((i + 3 * (i / FIRST.size())) % LAST.size());
    }

    static Table table() {
        return Columns.table(
                "volunteers",
                "Volunteers",
                required(text("name", "Name", 24)),
                text("phone", "Phone", 14),
                text("email", "E-mail", 34),
                column("joined", "Joined", ColumnType.DATE),
                column("first_aid", "First aid", ColumnType.YESNO),
                choice("role", "Role", List.of("sampler", "keyer", "coordinator", "driver")));
    }

    static Form ruled(Form form) {
        var sections = new ArrayList<>(form.sections());
        var items = new ArrayList<>(sections.getLast().items());
        items.add(new Calculated("with_us", "With us for", "", 4));
        sections.set(sections.size() - 1, sections.getLast().with(items));
        var rules = Columns.checks(
                new Check(
                        "reach", new Check.AnyOf(List.of("phone", "email")), true, false, "Nobody could reach {name}."),
                new Check(
                        "address",
                        new Check.Matches("email", "[^@\\s]+@[^@\\s]+\\.[^@\\s]+"),
                        false,
                        false,
                        "“{email}” is no e-mail address."),
                new Check("phone", new Check.Length("phone", 6, 20), true, false, ""),
                new Check("since", new Check.Needs("role", "joined"), true, false, ""),
                new Check("double", new Check.Alike(List.of("name"), true, false), true, false, ""));
        var withUs = new Derived(
                "with_us",
                Decides.DISPLAYED,
                "if joined = null then null else string(years and months duration(joined, today()).years) + \" years\"");
        return form.withSections(sections)
                .ruled(new Rules(
                        rules.checks(), List.of(), List.of(withUs), List.of(), List.of(), List.of(), List.of()));
    }

    static List<List<String>> rows(Random random) {
        return IntStream.range(0, COUNT)
                .mapToObj(i -> List.of(
                        AGAIN.containsKey(i) ? AGAIN.get(i).spelled() : name(i),
                        Columns.gap(random, 15, "01632 %06d".formatted(random.nextInt(1_000_000))),
                        Columns.gap(
                                random,
                                10,
                                name(AGAIN.containsKey(i) ? AGAIN.get(i).of() : i)
                                                .toLowerCase(Locale.ROOT)
                                                .replace(' ', '.')
                                        + "@quillbeck.example"),
                        LocalDate.of(2019, 1, 1).plusDays(random.nextInt(2_700)).toString(),
                        random.nextInt(3) == 0 ? "yes" : "no",
                        i == 3
                                ? "coordinator"
                                : Columns.oneOf(random, List.of("sampler", "sampler", "keyer", "driver"))))
                .toList();
    }
}
