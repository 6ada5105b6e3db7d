package weft.server.demo;

import static weft.server.demo.Columns.choice;
import static weft.server.demo.Columns.link;
import static weft.server.demo.Columns.number;
import static weft.server.demo.Columns.required;
import static weft.server.demo.Columns.text;
import static weft.server.demo.Columns.unique;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.function.Function;
import java.util.stream.IntStream;
import weft.core.form.Field;
import weft.core.form.Form;
import weft.core.form.FormLines;
import weft.core.form.FormMaking;
import weft.core.rule.Check;
import weft.core.rule.Choices;
import weft.core.rule.Rules;
import weft.core.table.Constraint;
import weft.core.table.Table;

/** What was found in the net, sample by sample, and the list of groups that it is counted by. */
final class Counts {

    private static final int COUNT = 9_000;
    private static final List<String> KINDS =
            List.of("mayfly", "stonefly", "caddis", "beetle", "fly larva", "snail", "shrimp", "leech", "worm", "mite");
    private static final List<String> FORMS = List.of("large", "small", "cased", "flat", "striped", "pale");

    private Counts() {}

    static Table taxa() {
        return Columns.table(
                "taxa", "Taxa", required(unique(text("name", "Group", 24))), number("score", "Score", 0, "1", "10"));
    }

    /** Sixty groups: ten kinds of animals by six looks. */
    static List<List<String>> taxaRows() {
        return IntStream.range(0, KINDS.size() * FORMS.size())
                .mapToObj(i -> List.of(taxon(i), Integer.toString(1 + (i * 7 + i / 6) % 10)))
                .toList();
    }

    private static String taxon(int i) {
        return FORMS.get(i % FORMS.size()) + " " + KINDS.get(i / FORMS.size());
    }

    static Table table(Function<String, Optional<Table>> tables) {
        return Columns.table(
                tables,
                "counts",
                "Counts",
                required(link("sample", "Sample", "samples", "number", "site_name", "taken_on")),
                required(text("taxon", "Taxon", 24)),
                choice("stage", "Stage", List.of("larva", "pupa", "adult")),
                required(number("count", "Count", 0, "1", "5000")));
    }

    /** A group at one stage is counted once in a sample. */
    static Constraint constraint() {
        return new Constraint.Unique("", List.of("sample", "taxon", "stage"), "");
    }

    static List<List<String>> rows(Random random, List<List<String>> samples) {
        var rows = new ArrayList<List<String>>();
        var counted = new HashSet<List<String>>();
        while (rows.size() < COUNT) {
            var sample = samples.get(random.nextInt(samples.size())).getFirst();
            int lines = Math.min(COUNT - rows.size(), 4 + random.nextInt(8));
            int first = random.nextInt(20);
            for (int i = 0; i < lines; i++) {
                var row = List.of(
                        sample,
                        taxon((first + i * 5) % (KINDS.size() * FORMS.size())),
                        Columns.gap(random, 20, Columns.oneOf(random, List.of("larva", "larva", "pupa", "adult"))),
                        Integer.toString(1 + (int) Math.pow(random.nextDouble() * 6, 2)));
                if (counted.add(row.subList(0, 3))) {
                    rows.add(row);
                }
            }
        }
        return rows;
    }

    /** The counts of a sample, keyed with it. */
    static FormLines lines(Table table, Form form) {
        return FormMaking.lines(table, table.column("sample").orElseThrow(), Optional.of(form))
                .named("counts");
    }

    static Form ruled(Form form) {
        return form.withFields(field ->
                        field.column().equals("sample") ? field.begun(new Field.Start("", true, false)) : field)
                .ruled(new Rules(
                        List.of(new Check(
                                "many",
                                new Check.Range("count", "", "200"),
                                true,
                                false,
                                "{count} of {taxon} is a great many.")),
                        List.of(),
                        List.of(),
                        List.of(new Choices("taxon", "taxa", "name", "score", List.of(), false)),
                        List.of(),
                        List.of(),
                        List.of()));
    }
}
