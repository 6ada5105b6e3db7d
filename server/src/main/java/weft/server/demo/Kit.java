package weft.server.demo;

import static weft.server.demo.Columns.choice;
import static weft.server.demo.Columns.column;
import static weft.server.demo.Columns.number;
import static weft.server.demo.Columns.required;
import static weft.server.demo.Columns.text;
import static weft.server.demo.Columns.unique;

import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.stream.IntStream;
import weft.core.form.Form;
import weft.core.rule.Check;
import weft.core.table.Table;
import weft.core.value.ColumnType;

/** What the group lends to its samplers. */
final class Kit {

    static final int COUNT = 40;

    private static final List<String> KINDS = List.of(
            "pH meter",
            "Oxygen probe",
            "Turbidity tube",
            "Kick net",
            "Waders",
            "Flow meter",
            "Sample case",
            "Throw line");

    private Kit() {}

    static String tag(int i) {
        return "K-%02d".formatted(i + 1);
    }

    static Table table() {
        return Columns.table(
                "kit",
                "Kit",
                required(unique(text("tag", "Tag", 6))),
                required(text("kind", "Kind", 20)),
                text("serial", "Serial", 12),
                number("day_charge", "Day charge", 2, "0", "100"),
                choice("charged_by", "Charged by", List.of("day", "booking", "not charged")),
                column("calibrated_on", "Calibrated on", ColumnType.DATE),
                choice("condition", "Condition", List.of("good", "worn", "to repair")));
    }

    static Form ruled(Form form) {
        return form.ruled(Columns.checks(
                new Check("tag", new Check.Matches("tag", "K-[0-9]{2}"), false, true, "A tag is written like K-07."),
                new Check("kind", new Check.OneOf("kind", KINDS), true, false, "{kind} would be a new kind of thing."),
                new Check("charge", new Check.Needs("charged_by", "day_charge"), false, false, "")));
    }

    static List<List<String>> rows(Random random) {
        return IntStream.range(0, COUNT)
                .mapToObj(i -> List.of(
                        tag(i),
                        KINDS.get(i % KINDS.size()),
                        Columns.gap(random, 10, "%06d".formatted(random.nextInt(1_000_000))),
                        String.format(Locale.ROOT, "%.2f", random.nextInt(24) * 0.5),
                        i % 9 == 0 ? "not charged" : i % 4 == 0 ? "booking" : "day",
                        Columns.gap(
                                random,
                                35,
                                LocalDate.of(2025, 1, 6)
                                        .plusDays(random.nextInt(500))
                                        .toString()),
                        random.nextInt(9) == 0 ? "to repair" : random.nextInt(4) == 0 ? "worn" : "good"))
                .toList();
    }
}
