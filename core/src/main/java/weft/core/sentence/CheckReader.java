package weft.core.sentence;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.IntPredicate;
import java.util.regex.Pattern;
import weft.core.formula.Formula;
import weft.core.rule.Check;

/** Reads what a sentence says must be so, and what happens where it is not. */
final class CheckReader {

    private static final Pattern OPERATOR = Pattern.compile("[<>=+*(]|, *else");
    /** What labels alone do not make a formula without. */
    private static final Pattern SIGN = Pattern.compile("[-<>=+*/(]");

    /** A comparison with nothing on its left, or a number that is no part of one, but as the end of "between". */
    private static final Pattern HALF = Pattern.compile("(?:^|\\b(?:and|or)\\s+)[<>=]"
            + "|(?:^|^(?!.*\\bbetween\\b).*\\b(?:and|or)\\b)\\s*[0-9.]+\\s*(?:$|\\b(?:and|or)\\b)");

    private static final Pattern WORD = Pattern.compile("[a-z][a-z0-9_]*");

    /** Words and signs of sentences and formulas, which are no values where they stand alone. */
    private static final Pattern SPOKEN = Pattern.compile(
            "(?:empty|blank|above|below|filled|mandatory|required|optional|needed|else|not|nor)"
                    + "|(?:to|not|neither|one of|any of|all of|between|at least|at most|above|below|over|under|before|after"
                    + "|(?:more|less|fewer|greater|larger|smaller|other) than|equal to|like|in|unless|if|when)\\s.*"
                    + "|[<>=!≠≤≥].*",
            Pattern.CASE_INSENSITIVE | Pattern.DOTALL);

    /** Words that join and deny, wherever they stand; what only says where something is may be in a name, as in Weir below Wen. */
    private static final Pattern AMID = Pattern.compile(
            "(?:^|[\\s,])(?:is|are|not|nor|neither|or|and|to|else|filled|needs|has|unless|if|least|most|more|less|between|characters)"
                    + "(?:$|[\\s,])|[<>]=",
            Pattern.CASE_INSENSITIVE);

    /** What after "or" would be taken for a bound. */
    private static final Pattern DIRECTION = Pattern.compile(
            "above|below|over|under|higher|lower|later|earlier|greater|larger|smaller|fewer|up|down|longer|shorter",
            Pattern.CASE_INSENSITIVE);

    /** What would be something else with a blank or a comma more. */
    private static final Pattern EITHER_WAY = Pattern.compile(",|(?:^| )else(?: |$)", Pattern.CASE_INSENSITIVE);

    private final Scan scan;
    private final Names columns;

    CheckReader(Scan scan, Names columns) {
        this.scan = scan;
        this.columns = columns;
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
        var subject = several();
        if (subject.names().size() > 1) {
            scan.need(scan.word("are filled") || scan.word("is filled"));
            return subject.either() ? new Check.AnyOf(subject.names()) : new Check.Complete(subject.names());
        }
        return of(subject.names().getFirst());
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

    private Check.Rule of(String column) {
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
            return new Check.Range(column, bound(), "");
        }
        if (scan.sign("<=")) {
            return new Check.Range(column, "", bound());
        }
        if (scan.word("is filled")) {
            return new Check.AnyOf(List.of(column));
        }
        if (scan.word("is between")) {
            var from = value("and", "to");
            scan.need(scan.word("and") || scan.word("to"));
            return new Check.Range(column, from, value());
        }
        if (scan.word("is at least") || scan.word("is not below")) {
            return new Check.Range(column, value(), "");
        }
        if (scan.word("is at most") || scan.word("is not above")) {
            return new Check.Range(column, "", value());
        }
        if (scan.word("is one of nothing")) {
            return new Check.OneOf(column, List.of());
        }
        if (scan.word("is one of")) {
            return new Check.OneOf(column, list(new ArrayList<>()));
        }
        if (scan.word("is from")) {
            var from = value("to");
            scan.need(scan.word("to"));
            return new Check.Range(column, from, value());
        }
        scan.need(scan.word("is"));
        return spanOrList(column);
    }

    /** A range in few words, or a list. */
    private Check.Rule spanOrList(String column) {
        var first = value("to", "or");
        if (scan.word("to")) {
            return new Check.Range(column, first, value());
        }
        if (scan.word("or more")) {
            return new Check.Range(column, first, "");
        }
        if (scan.word("or less")) {
            return new Check.Range(column, "", first);
        }
        var list = new ArrayList<String>();
        list.add(first);
        return new Check.OneOf(column, scan.word("or") || another() ? list(list) : list);
    }

    /** A value, up to one of these words; what could be meant otherwise is put in quotes. */
    private String value(String... words) {
        boolean quoted = scan.quotesNext();
        int at = scan.skipped();
        var value = scan.needed(scan.value(words));
        if (!quoted && spoken(value)) {
            throw new Unclear(
                    at,
                    "In “%s” there is a word or a sign of these sentences. To mean the text itself, put it in quotes."
                            .formatted(value),
                    List.of());
        }
        if (!quoted && columns.of(value).isPresent()) {
            throw new Unclear(
                    at,
                    "“%s” is a field too. To mean the text itself, put it in quotes; to mean what is in the field, write a formula, such as: From <= To"
                            .formatted(value),
                    List.of());
        }
        if (!quoted && EITHER_WAY.matcher(value).find()) {
            throw new Unclear(
                    at,
                    "“%s” can be read in two ways. Put a blank after a comma and a comma before else, or all of it in quotes."
                            .formatted(value),
                    List.of());
        }
        return value;
    }

    /** Whether words and signs of these sentences are in a value, so that it stands in quotes. */
    static boolean spoken(String value) {
        return SPOKEN.matcher(value).matches() || AMID.matcher(value).find();
    }

    /** What a value is held against; another field, or what is worked out, is for a formula. */
    private String bound() {
        boolean quoted = scan.quotesNext();
        var value = value();
        scan.need(quoted || (columns.of(value).isEmpty() && value.indexOf('(') < 0));
        return value;
    }

    private List<String> list(List<String> list) {
        do {
            int at = scan.skipped();
            boolean quoted = scan.quotesNext();
            var value = value("or");
            if (!quoted && DIRECTION.matcher(value).matches()) {
                throw new Unclear(
                        at,
                        "Say “or more” or “or less” for a bound; put “%s” in quotes to mean the text itself."
                                .formatted(value),
                        List.of("more", "less"));
            }
            list.add(value);
        } while (another() || scan.word("or"));
        return list;
    }

    /** Whether a comma comes next that is not that before what happens otherwise. */
    private boolean another() {
        int at = scan.place();
        if (scan.sign(",")) {
            if (!scan.stands(scan.skipped(), "else")) {
                return true;
            }
            scan.back(at);
        }
        return false;
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
