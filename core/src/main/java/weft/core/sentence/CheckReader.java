package weft.core.sentence;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.IntPredicate;
import java.util.regex.Pattern;
import weft.core.formula.Formula;
import weft.core.rule.Check;
import weft.core.value.Wire;

/** Reads what a sentence says must be so, and what happens where it is not. */
final class CheckReader {

    private static final Pattern OPERATOR = Pattern.compile("[<>=+*(]|, *else");
    /** What labels alone do not make a formula without. */
    private static final Pattern SIGN = Pattern.compile("[-<>=+*/(]");

    /** A comparison with nothing on its left, or a number that is no part of one, but as the end of "between". */
    private static final Pattern HALF = Pattern.compile("(?:^|\\b(?:and|or)\\s+)[<>=]"
            + "|(?:^|^(?!.*\\bbetween\\b).*\\b(?:and|or)\\b)\\s*[0-9.]+\\s*(?:$|\\b(?:and|or)\\b)");

    private static final Pattern WORD = Pattern.compile("[a-z][a-z0-9_]*");

    private final Scan scan;
    private final Names columns;
    private final SentenceValues values;

    CheckReader(Scan scan, Names columns) {
        this.scan = scan;
        this.columns = columns;
        this.values = new SentenceValues(scan, columns);
    }

    /** What happens where it is not so; nothing is said of what is empty. */
    private record Effect(Optional<Boolean> asks, boolean stays, Optional<String> column, String message) {}

    /** Where what follows a formula of a check begins. */
    static IntPredicate tails(Scan scan) {
        return place ->
                scan.stands(place, ", else stop") || scan.stands(place, ", else ask") || scan.stands(place, ", at");
    }

    /** A check that begins with what it does; empty when the sentence does not begin so. */
    Optional<Check> headed() {
        for (boolean asks : List.of(false, true)) {
            for (boolean stays : List.of(false, true)) {
                if (scan.word(SentenceWriter.head(asks, stays))) {
                    return Optional.of(check(Optional.of(new Effect(Optional.of(asks), stays, Optional.empty(), ""))));
                }
            }
        }
        return Optional.empty();
    }

    /** A check that begins with what must be so. */
    Check check() {
        return check(Optional.empty());
    }

    private Check check(Optional<Effect> head) {
        int begin = scan.place();
        try {
            var rule = rule();
            var effect = effect(head, false);
            return scan.ended(made(rule, effect));
        } catch (Unclear unclear) {
            scan.back(begin);
            return holds(head, unclear);
        }
    }

    private Check made(Check.Rule rule, Effect effect) {
        if (rule instanceof Check.Complete && !effect.asks().orElse(true)) {
            throw new Unclear(
                    scan.place(),
                    "What is left empty is asked about. End with “else ask”, or mark each of these fields as required"
                            + " to have it stopped.",
                    List.of("else ask"));
        }
        if (rule instanceof Check.Alike && !effect.asks().orElse(true)) {
            throw new Unclear(
                    scan.place(),
                    "What is nearly the same is asked about, since there may well be two. End with “else ask”.",
                    List.of("else ask"));
        }
        if (rule instanceof Check.Usual && !effect.asks().orElse(true)) {
            throw new Unclear(
                    scan.place(),
                    "What is unusual is asked about, since it may well be so. End with “else ask”.",
                    List.of("else ask"));
        }
        return new Check("", rule, effect.asks().orElse(false), effect.stays(), effect.message());
    }

    /** A formula that must say yes; where it is none, the sentence can't be read for the reason before. */
    private Check holds(Optional<Effect> head, Unclear otherwise) {
        boolean marked = scan.stands(scan.skipped(), "formula");
        var tails = tails(scan);
        var rest = scan.left();
        var formula = scan.needed(
                scan.formula(place -> tails.test(place) || (scan.stands(place, ":") && scan.quotesAfter(place))));
        if (!marked) {
            boolean labels = !rest.startsWith(formula);
            if ((head.isEmpty() && !OPERATOR.matcher(rest).find())
                    || (labels && !SIGN.matcher(formula).find())
                    || HALF.matcher(formula).find()) {
                throw otherwise;
            }
            try {
                Formula.of(formula);
            } catch (Formula.Misread misread) {
                throw OPERATOR.matcher(formula).find()
                        ? new Unclear(scan.place(), misread.sentence(), List.of())
                        : otherwise;
            }
        }
        var effect = effect(head, true);
        var column = effect.column()
                .or(() -> mentioned(formula))
                .orElseThrow(() -> new Unclear(
                        scan.place(), "Say at which field it is told, such as: …, else stop at Site", List.of()));
        return scan.ended(made(new Check.Holds(formula, column), effect));
    }

    /** The first column that a formula names. */
    private Optional<String> mentioned(String formula) {
        return WORD.matcher(formula)
                .results()
                .flatMap(word -> columns.of(word.group()).filter(word.group()::equals).stream())
                .findFirst();
    }

    private Effect effect(Optional<Effect> head, boolean ofFormula) {
        var asks = head.flatMap(Effect::asks);
        boolean stays = head.map(Effect::stays).orElse(false);
        var column = Optional.<String>empty();
        while (scan.sign(",")) {
            if (head.isEmpty() && (scan.word("else stop") || scan.word("else ask"))) {
                asks = Optional.of(scan.endsWith("ask"));
                stays = scan.word("and stay");
                if (ofFormula && scan.word("at")) {
                    column = scan.name(columns, "a field");
                }
                break;
            }
            scan.need(ofFormula && scan.word("at"));
            column = Optional.of(scan.needed(scan.name(columns, "a field")));
        }
        var message =
                scan.sign(":") ? scan.needed(scan.quoted()) : scan.quoted().orElse("");
        return new Effect(asks, stays, column, message);
    }

    private Check.Rule rule() {
        if (scan.word("everything is filled")) {
            return new Check.Complete(List.of());
        }
        if (scan.word("all of")) {
            var all = several().names();
            scan.need(scan.word("are filled") || scan.word("is filled"));
            return new Check.Complete(all);
        }
        if (scan.word("at least one of")) {
            var some = several().names();
            scan.need(scan.word("is filled"));
            return new Check.AnyOf(some);
        }
        if (scan.word("nearly no two alike in")) {
            return alike();
        }
        var subject = several();
        if (subject.names().size() > 1) {
            scan.need(scan.word("are filled") || scan.word("is filled"));
            return subject.either() ? new Check.AnyOf(subject.names()) : new Check.Complete(subject.names());
        }
        return of(subject.names().getFirst());
    }

    private Check.Rule alike() {
        var names = new ArrayList<String>();
        do {
            names.add(scan.needed(scan.name(columns, "a field")));
        } while (!ends(scan.skipped()) && (scan.word("and") || scan.sign(",")));
        return new Check.Alike(names, scan.word("by sound too"), ofAll());
    }

    /**
     * Fields in a row.
     *
     * @param either whether they are joined by "or"
     */
    private record Several(List<String> names, boolean either) {}

    private Several several() {
        var names = new ArrayList<String>();
        boolean either = false;
        boolean both = false;
        boolean more;
        do {
            names.add(scan.needed(scan.name(columns, "a field")));
            if (scan.word("or")) {
                either = true;
                names.add(scan.needed(scan.name(columns, "a field")));
            }
            boolean and = scan.word("and");
            both |= and;
            more = and || scan.sign(",");
        } while (more);
        if (either && both) {
            throw new Unclear(
                    scan.place(),
                    "“and” and “or” together can be read in two ways. Say it in two sentences.",
                    List.of());
        }
        return new Several(names, either);
    }

    private Check.Rule usual(String column) {
        var by = new ArrayList<Check.For>();
        if (scan.word("for")) {
            do {
                by.add(part());
            } while (!ends(scan.skipped()) && (scan.word("and") || scan.sign(",")));
        }
        return new Check.Usual(column, by, ofAll());
    }

    private boolean ofAll() {
        return scan.stands(scan.skipped(), ", of all records") && scan.sign(",") && scan.word("of all records");
    }

    private boolean ends(int place) {
        return tails(scan).test(place) || scan.stands(place, ", of all records");
    }

    private Check.For part() {
        for (var of : Check.For.Of.values()) {
            int before = scan.place();
            if (of != Check.For.Of.VALUE && scan.word(Wire.word(of))) {
                if (scan.sign("(")) {
                    var column = scan.needed(scan.name(columns, "a field"));
                    scan.need(scan.sign(")"));
                    return new Check.For(column, of);
                }
                scan.back(before);
            }
        }
        return new Check.For(scan.needed(scan.name(columns, "a field")), Check.For.Of.VALUE);
    }

    private Check.Rule of(String column) {
        if (scan.word("is as usual")) {
            return usual(column);
        }
        if (scan.word("needs")) {
            return new Check.Needs(column, scan.needed(scan.name(columns, "a field")));
        }
        if (scan.word("has")) {
            return length(column);
        }
        if (scan.word("looks like")) {
            return new Check.Matches(column, Shapes.pattern(scan.needed(scan.value())));
        }
        if (scan.word("matches")) {
            return new Check.Matches(column, scan.needed(scan.quoted().or(scan::pattern)));
        }
        if (scan.sign(">=")) {
            return new Check.Range(column, values.bound(), "");
        }
        if (scan.sign("<=")) {
            return new Check.Range(column, "", values.bound());
        }
        if (scan.word("is filled")) {
            return new Check.AnyOf(List.of(column));
        }
        if (scan.word("is between")) {
            var from = values.value("and", "to");
            scan.need(scan.word("and") || scan.word("to"));
            return new Check.Range(column, from, values.value());
        }
        if (scan.word("is at least") || scan.word("is not below")) {
            return new Check.Range(column, values.value(), "");
        }
        if (scan.word("is at most") || scan.word("is not above")) {
            return new Check.Range(column, "", values.value());
        }
        if (scan.word("is one of nothing")) {
            return new Check.OneOf(column, List.of());
        }
        if (scan.word("is one of")) {
            return new Check.OneOf(column, values.list(new ArrayList<>()));
        }
        if (scan.word("is from")) {
            var from = values.value("to");
            scan.need(scan.word("to"));
            return new Check.Range(column, from, values.value());
        }
        scan.need(scan.word("is"));
        return spanOrList(column);
    }

    /** A range in few words, or a list. */
    private Check.Rule spanOrList(String column) {
        var first = values.value("to", "or");
        if (scan.word("to")) {
            return new Check.Range(column, first, values.value());
        }
        if (scan.word("or more")) {
            return new Check.Range(column, first, "");
        }
        if (scan.word("or less")) {
            return new Check.Range(column, "", first);
        }
        var list = new ArrayList<String>();
        list.add(first);
        return new Check.OneOf(column, scan.word("or") || values.another() ? values.list(list) : list);
    }

    private Check.Rule length(String column) {
        if (scan.word("at least")) {
            return characters(column, number(), 0);
        }
        if (scan.word("at most")) {
            return characters(column, 0, number());
        }
        int from = number();
        if (scan.word("to")) {
            int to = number();
            if (to < from) {
                throw new Unclear(
                        scan.place(),
                        "It goes from the larger to the smaller. Say “%d to %d”.".formatted(to, from),
                        List.of());
            }
            return characters(column, from, to);
        }
        return scan.word("or more") ? characters(column, from, 0) : characters(column, from, from);
    }

    private Check.Rule characters(String column, int from, int to) {
        scan.need(scan.word("characters") || scan.word("character"));
        return new Check.Length(column, from, to);
    }

    private int number() {
        return scan.whole().orElseThrow(scan::unclear);
    }
}
