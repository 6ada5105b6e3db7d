package weft.server.demo;

import static weft.server.demo.Columns.column;
import static weft.server.demo.Columns.number;
import static weft.server.demo.Columns.required;
import static weft.server.demo.Columns.text;

import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import weft.core.form.Field;
import weft.core.form.Form;
import weft.core.rule.Check;
import weft.core.rule.Choices;
import weft.core.rule.Derived;
import weft.core.rule.Derived.Decides;
import weft.core.rule.Fill;
import weft.core.rule.Fill.Tie;
import weft.core.rule.Practice;
import weft.core.rule.Rules;
import weft.core.rule.Step;
import weft.core.rule.Step.Steps;
import weft.core.table.Constraint;
import weft.core.table.Table;
import weft.core.value.ColumnType;

/** Who borrows which piece of kit, and when. Nothing is lent twice at once. */
final class Bookings {

    private static final int COUNT = 300;
    private static final List<String> PURPOSES =
            List.of("monthly round", "school visit", "spare for the round", "training", "flood watch");

    private Bookings() {}

    static Table table() {
        return Columns.table(
                "bookings",
                "Bookings",
                required(text("tag", "Kit tag", 6)),
                text("kind", "Kind", 20),
                number("day_charge", "Day charge", 2, "0", "100"),
                required(column("from_at", "From", ColumnType.DATETIME)),
                required(column("to_at", "To", ColumnType.DATETIME)),
                number("days", "Days", 0, "0", "400"),
                number("charge", "Charge", 2, "0", "10000"),
                required(text("borrower", "Borrower", 24)),
                text("email", "E-mail", 34),
                text("purpose", "Purpose", 30));
    }

    static Constraint constraint() {
        return new Constraint.NoOverlap("", List.of("tag"), "from_at", "to_at", "");
    }

    static List<List<String>> rows(Random random, List<List<String>> kit) {
        var free = Stream.generate(() -> LocalDate.of(2024, 8, 5))
                .limit(kit.size())
                .collect(Collectors.toCollection(ArrayList::new));
        var rows = new ArrayList<List<String>>();
        for (int i = 0; i < COUNT; i++) {
            int piece = random.nextInt(kit.size());
            var from = free.get(piece).plusDays(random.nextInt(60)).atTime(8 + random.nextInt(3), 0);
            int days = 1 + random.nextInt(6);
            var to = from.plusDays(days - 1L).withHour(17);
            free.set(piece, to.toLocalDate().plusDays(1));
            var charge = Double.parseDouble(kit.get(piece).get(3));
            var borrower = Volunteers.SAMPLERS.get(random.nextInt(Volunteers.SAMPLERS.size()));
            rows.add(List.of(
                    Kit.tag(piece),
                    kit.get(piece).get(1),
                    kit.get(piece).get(3),
                    typed(from),
                    typed(to),
                    Integer.toString(days),
                    String.format(Locale.ROOT, "%.2f", charge * days),
                    borrower,
                    Columns.gap(random, 25, borrower.toLowerCase(Locale.ROOT).replace(' ', '.') + "@quillbeck.example"),
                    Columns.gap(random, 10, Columns.oneOf(random, PURPOSES))));
        }
        rows.sort(Comparator.comparing(row -> row.get(3)));
        return rows;
    }

    private static String typed(LocalDateTime at) {
        return at.toString().replace('T', ' ');
    }

    static Form ruled(Form form) {
        var from = new Check(
                "years",
                new Check.Range("from_at", "2015-01-01 00:00", "2100-12-31 23:59"),
                false,
                true,
                "Bookings are from 2015 to 2100; {string(from_at.year)} is not.");
        var fill = new Fill(
                "kit",
                "kit",
                List.of(new Tie("tag", "tag")),
                List.of(new Tie("kind", "kind"), new Tie("day_charge", "day_charge")),
                Fill.None.STOP,
                Fill.Several.CHOOSE,
                false);
        // An address that is typed over is put right in the volunteers too.
        var address = new Fill(
                "address",
                "volunteers",
                List.of(new Tie("borrower", "name")),
                List.of(new Tie("email", "email")),
                Fill.None.LEAVE,
                Fill.Several.CHOOSE,
                true);
        // What was lent for before is offered; what is new joins the list with its booking.
        var purpose = new Choices("purpose", "bookings", "purpose", "", List.of(), true);
        var formulas = List.of(
                new Derived(
                        "days",
                        Decides.CALCULATED,
                        "if from_at = null or to_at = null then null else floor(days(date(to_at) - date(from_at))) + 1"),
                new Derived("charge", Decides.CALCULATED, "days * day_charge"));
        var steps = new Steps(
                Steps.SAVED,
                List.of(
                        new Step(
                                "email != null",
                                new Step.Ask("offer", "Send {borrower} a confirmation?", Step.Reply.NO)),
                        new Step(
                                "email != null",
                                new Step.Send(
                                        "{email}",
                                        "{kind} {tag} is booked for you",
                                        "Dear {borrower},\n\n{kind} {tag} is yours from {from_at} to {to_at}."
                                                + "\nThe charge is {charge}.\n\nQuillbeck River Watch")),
                        new Step("", new Step.Say("{kind} {tag} is booked in row {row}."))));
        var practice = List.of(
                new Practice(
                        "charge",
                        "Three days of K-02",
                        Map.of(
                                "tag",
                                "K-02",
                                "from_at",
                                "2027-03-01 9:00",
                                "to_at",
                                "2027-03-03 17:00",
                                "borrower",
                                "Imre Castell"),
                        Map.of("offer", "no"),
                        Practice.Outcome.SAVED,
                        "",
                        Map.of("kind", "Oxygen probe", "days", "3")),
                new Practice(
                        "year",
                        "A year that cannot be",
                        Map.of(
                                "tag",
                                "K-02",
                                "from_at",
                                "2014-03-01 9:00",
                                "to_at",
                                "2014-03-01 17:00",
                                "borrower",
                                "Imre Castell"),
                        Map.of(),
                        Practice.Outcome.STOPPED,
                        "years",
                        Map.of()));
        return form.withFields(field ->
                        Stream.of("kind", "day_charge", "days", "charge").anyMatch(field.column()::equals)
                                ? field.used(Field.Use.LOCKED)
                                : field)
                .ruled(new Rules(
                        List.of(from),
                        List.of(fill, address),
                        formulas,
                        List.of(purpose),
                        List.of(),
                        List.of(steps),
                        practice));
    }
}
