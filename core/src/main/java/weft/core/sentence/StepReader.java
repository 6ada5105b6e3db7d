package weft.core.sentence;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.IntPredicate;
import java.util.function.Supplier;
import weft.core.rule.Step;
import weft.core.rule.Step.Setting;
import weft.core.table.Table;

/** Reads what a step does, after where it is taken. */
final class StepReader {

    private static final IntPredicate NOWHERE = _ -> false;

    private final Terms terms;
    private final Scan scan;

    StepReader(Terms terms, Scan scan) {
        this.terms = terms;
        this.scan = scan;
    }

    Step step() {
        var onlyIf = "";
        if (scan.sign(",")) {
            scan.need(scan.word("if"));
            onlyIf = scan.needed(scan.formula(place -> scan.stands(place, ":")));
        }
        scan.need(scan.sign(":"));
        return scan.ended(new Step(onlyIf, action()));
    }

    private Step.Action action() {
        for (var command : SentenceWriter.COMMANDS.entrySet()) {
            if (scan.word(command.getValue())) {
                return new Step.Press(command.getKey());
            }
        }
        if (scan.word("open")) {
            var forms = terms.forms().get();
            var form = scan.name(new Names(forms), "a form")
                    .or(() -> scan.plain(forms.stream().map(Terms.Term::name).toList(), "a form"));
            return new Step.Open(scan.needed(form), scan.word("with") ? settings(this::asNamed, NOWHERE) : List.of());
        }
        if (scan.word("set")) {
            var column = scan.needed(scan.name(terms.columns(), "a field"));
            scan.need(scan.word("to"));
            return new Step.SetField(new Setting(column, scan.needed(scan.formula(NOWHERE))));
        }
        if (scan.word("add to") || scan.word("add a row to")) {
            var table = table();
            var of = terms.others().apply(table);
            return new Step.AddRow(table, scan.word("with") ? settings(columnOf(of), NOWHERE) : List.of());
        }
        if (scan.word("change")) {
            return change();
        }
        if (scan.word("send to")) {
            var to = scan.needed(scan.value());
            var subject = scan.needed(scan.quoted());
            return new Step.Send(to, subject, scan.quoted().orElse(""));
        }
        if (scan.word("say")) {
            return new Step.Say(scan.needed(scan.quoted()));
        }
        scan.need(scan.word("ask"));
        return ask();
    }

    private Step.Action change() {
        var table = table();
        var of = terms.others().apply(table);
        IntPredicate with = place -> scan.stands(place, "with");
        var where = scan.word("where") ? settings(columnOf(of), with) : List.<Setting>of();
        return new Step.ChangeRow(table, where, scan.word("with") ? settings(columnOf(of), NOWHERE) : List.of());
    }

    private Step.Action ask() {
        var text = scan.needed(scan.quoted());
        if (scan.word("yes, no or cancel")) {
            scan.need(scan.sign(","));
        }
        if (!scan.word("usually")) {
            return new Step.Ask("", text, Step.Reply.YES);
        }
        for (var reply : Step.Reply.values()) {
            if (scan.word(SentenceWriter.word(reply))) {
                return new Step.Ask("", text, reply);
            }
        }
        throw scan.unclear();
    }

    private List<Setting> settings(Supplier<String> column, IntPredicate ends) {
        Supplier<String> begun = () -> {
            var name = column.get();
            scan.need(scan.sign("="));
            return name;
        };
        var settings = new ArrayList<Setting>();
        do {
            settings.add(new Setting(
                    begun.get(),
                    scan.needed(scan.formula(place -> ends.test(place)
                            || (scan.stands(place, ",")
                                    && scan.reads(place + 1, () -> {
                                        var _ = begun.get();
                                    }))))));
        } while (scan.sign(","));
        return settings;
    }

    private Supplier<String> columnOf(Optional<Table> of) {
        var names = Terms.columns(of);
        return () -> scan.needed(scan.name(names, "a column"));
    }

    /** The table of another form is not known here, so that its columns are taken as they are named. */
    private String asNamed() {
        return scan.needed(scan.plain(List.of(), "a column"));
    }

    private String table() {
        return SentenceReader.table(terms, scan);
    }
}
