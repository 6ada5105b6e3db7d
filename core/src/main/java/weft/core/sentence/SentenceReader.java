package weft.core.sentence;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import weft.core.rule.Between;
import weft.core.rule.Choices;
import weft.core.rule.Declaration;
import weft.core.rule.Derived;
import weft.core.rule.Derived.Decides;
import weft.core.rule.Fill;
import weft.core.rule.Numbering;
import weft.core.rule.Placed;
import weft.core.rule.Step.Steps;
import weft.core.table.Constraint;
import weft.core.table.Table;

/** Reads a sentence as the rule that it says. */
final class SentenceReader {

    private final Terms terms;
    private final Scan scan;
    private final Names columns;

    SentenceReader(Terms terms, String text) {
        this.terms = terms;
        this.columns = terms.columns();
        this.scan = new Scan(text, new Labelled(terms.table(), columns)::named);
    }

    /** What is looked for on the way, for those who want to know what could follow. */
    Scan scan() {
        return scan;
    }

    /**
     * The rule, without an id.
     *
     * @throws Unclear when it can't be read
     */
    Declaration read() {
        if (scan.word("no two alike in")) {
            var names = names(columns);
            return scan.ended(new Between(new Constraint.Unique("", names, message())));
        }
        if (scan.word("no overlap from")) {
            return overlap();
        }
        if (scan.word("once saved")) {
            return steps(Steps.SAVED);
        }
        if (scan.word("once changed")) {
            return steps(Steps.CHANGED);
        }
        int begin = scan.place();
        if (scan.word("when")) {
            var button = scan.name(new Names(terms.buttons()), "a button");
            if (button.isPresent() && scan.word("is pressed")) {
                return steps(button.get());
            }
            scan.back(begin);
        }
        var checks = new CheckReader(scan, columns);
        var check = checks.headed();
        if (check.isPresent()) {
            return check.get();
        }
        return first(begin, this::target, this::brings, () -> Optional.of(checks.check()));
    }

    @SafeVarargs
    private Declaration first(int begin, Supplier<Optional<? extends Declaration>>... ways) {
        for (var way : ways) {
            scan.back(begin);
            var found = way.get();
            if (found.isPresent()) {
                return found.get();
            }
        }
        throw scan.unclear();
    }

    private Declaration overlap() {
        var from = one(columns);
        scan.need(scan.word("to"));
        var to = one(columns);
        var same = scan.word("for one") ? names(columns) : List.<String>of();
        return scan.ended(new Between(new Constraint.NoOverlap("", same, from, to, message())));
    }

    private Declaration steps(String when) {
        return new Placed(when, new StepReader(terms, scan).step());
    }

    /** What a formula, a pattern or a list says of one field. */
    private Optional<Declaration> target() {
        var name = scan.name(terms.targets(), "a field");
        if (name.isEmpty()) {
            return Optional.empty();
        }
        var target = name.get();
        if (scan.sign("=")) {
            var formula = scan.needed(scan.formula(CheckReader.tails(scan)));
            return scan.atEnd() ? Optional.of(new Derived(target, Decides.CALCULATED, formula)) : Optional.empty();
        }
        for (var what : List.of(Decides.DEFAULT, Decides.DISPLAYED, Decides.SHOWN, Decides.LOCKED, Decides.REQUIRED)) {
            if (scan.word(SentenceWriter.verb(what))) {
                return derived(target, what);
            }
        }
        if (scan.word("is numbered")) {
            var pattern = scan.quoted().or(() -> scan.rest("a pattern such as S-{year}-{0000}"));
            return Optional.of(scan.ended(new Numbering(target, scan.needed(pattern))));
        }
        return scan.word("is chosen from") ? Optional.of(choices(target)) : Optional.empty();
    }

    private Optional<Declaration> derived(String target, Decides what) {
        return Optional.of(scan.ended(new Derived(target, what, scan.needed(scan.formula(_ -> false)))));
    }

    private Declaration choices(String column) {
        var table = table();
        var other = terms.others().apply(table);
        scan.need(scan.word("by"));
        var source = one(Terms.columns(other));
        var shown = "";
        var open = false;
        var when = new ArrayList<Fill.Tie>();
        while (scan.sign(",")) {
            if (scan.word("showing")) {
                shown = one(Terms.columns(other));
            } else if (scan.word("where")) {
                do {
                    var of = one(Terms.columns(other));
                    scan.need(scan.sign("="));
                    when.add(new Fill.Tie(one(columns), of));
                } while (scan.word("and"));
            } else {
                scan.need(scan.word("or anything else"));
                open = true;
            }
        }
        return scan.ended(new Choices(column, table, source, shown, when, open));
    }

    private Optional<Declaration> brings() {
        var keys = new ArrayList<String>();
        do {
            var key = scan.name(columns, "a field");
            if (key.isEmpty()) {
                return Optional.empty();
            }
            keys.add(key.get());
        } while (scan.sign(",") || scan.word("and"));
        if (!scan.word("brings") && !scan.word("bring")) {
            return Optional.empty();
        }
        var brought = brought();
        scan.need(scan.word("from"));
        var table = table();
        var other = terms.others().apply(table);
        var sources = sources(keys, other);
        var none = Fill.None.LEAVE;
        var several = Fill.Several.CHOOSE;
        var back = false;
        while (scan.sign(",")) {
            if (scan.word("else stop")) {
                none = Fill.None.STOP;
            } else if (scan.word("else ask")) {
                none = Fill.None.ASK;
            } else if (scan.word("if several stop")) {
                several = Fill.Several.STOP;
            } else if (scan.word("if several ask")) {
                several = Fill.Several.ASK;
            } else if (scan.word("if several leave it")) {
                several = Fill.Several.LEAVE;
            } else {
                scan.need(scan.word("writing changes back"));
                back = true;
            }
        }
        var ties = new ArrayList<Fill.Tie>();
        for (int i = 0; i < keys.size(); i++) {
            ties.add(new Fill.Tie(keys.get(i), sources.get(i)));
        }
        var brings = brought.stream()
                .map(each -> new Fill.Tie(
                        each.column(),
                        each.source().isEmpty()
                                ? goesWith(each.column(), other)
                                : column(each.source(), other, each.at())))
                .toList();
        return Optional.of(scan.ended(new Fill("", table, ties, brings, none, several, back)));
    }

    /** A field that is brought, and what is said of where from; the table is named only after it. */
    private record BroughtIn(String column, String source, int at) {}

    private List<BroughtIn> brought() {
        var brought = new ArrayList<BroughtIn>();
        if (scan.word("nothing")) {
            return brought;
        }
        do {
            var column = one(columns);
            boolean said = scan.sign("=");
            int at = scan.place();
            brought.add(new BroughtIn(column, said ? scan.needed(scan.plain(List.of(), "a column")) : "", at));
        } while (scan.sign(",") || scan.word("and"));
        return brought;
    }

    private List<String> sources(List<String> keys, Optional<Table> other) {
        if (scan.word("by link")) {
            return keys.stream().map(_ -> "").toList();
        }
        if (!scan.word("by")) {
            return keys.stream().map(key -> goesWith(key, other)).toList();
        }
        var sources = new ArrayList<String>();
        do {
            sources.add(scan.quoted().filter(String::isEmpty).orElseGet(() -> one(Terms.columns(other))));
        } while (sources.size() < keys.size() && (scan.sign(",") || scan.word("and")));
        scan.need(sources.size() == keys.size());
        return sources;
    }

    private String goesWith(String column, Optional<Table> other) {
        return other.flatMap(table -> terms.goesWith(column, table))
                .orElseThrow(() -> new Unclear(
                        scan.place(),
                        "Say which column goes with “%s”, such as: %s = name."
                                .formatted(column, columns.spelling(column).orElse(column)),
                        List.of()));
    }

    private String column(String said, Optional<Table> other, int at) {
        if (scan.exactly(at) || other.isEmpty()) {
            return said;
        }
        return Terms.columns(other)
                .of(said)
                .orElseThrow(() -> new Unclear(
                        at, "%s has no column “%s”.".formatted(other.get().title(), said), List.of()));
    }

    private String table() {
        return table(terms, scan);
    }

    /** A table by its name or title. */
    static String table(Terms terms, Scan scan) {
        int at = scan.place();
        var said = scan.needed(scan.plain(terms.tables().get(), "a table"));
        return scan.exactly(at)
                ? said
                : terms.others()
                        .apply(said)
                        .map(Table::name)
                        .orElseThrow(() -> new Unclear(at, "There is no table “%s”.".formatted(said), List.of()));
    }

    private String message() {
        scan.sign(":");
        return scan.quoted().orElse("");
    }

    private List<String> names(Names of) {
        var names = new ArrayList<String>();
        do {
            names.add(one(of));
        } while (scan.sign(",") || scan.word("and"));
        return names;
    }

    private String one(Names of) {
        return scan.needed(scan.name(of, of == columns ? "a field" : "a column"));
    }
}
