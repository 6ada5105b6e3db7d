package weft.core.sentence;

import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;

/** Reads the values of a sentence. What could be taken for words of the sentence is asked at its place, unless it stands in quotes. */
final class SentenceValues {

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

    SentenceValues(Scan scan, Names columns) {
        this.scan = scan;
        this.columns = columns;
    }

    /** A value, up to one of these words; what could be meant otherwise is put in quotes. */
    String value(String... words) {
        boolean quoted = scan.quotesNext();
        int at = scan.skipped();
        var value = scan.needed(scan.value(words));
        if (!quoted) {
            twoWays(value).ifPresent(why -> {
                throw new Unclear(at, why.formatted(value), List.of());
            });
        }
        return value;
    }

    /** Why a value could mean something else, with what to do about it. */
    private Optional<String> twoWays(String value) {
        if (spoken(value)) {
            return Optional.of(
                    "“%s” has a word or a sign of these sentences in it. To mean the text itself, put it in quotes.");
        }
        if (columns.of(value).isPresent()) {
            return Optional.of(
                    "“%s” is a field too. To mean the text itself, put it in quotes; to mean what is in the field, write a"
                            + " formula, such as: From <= To");
        }
        return EITHER_WAY.matcher(value).find()
                ? Optional.of(
                        "“%s” can be read in two ways. Put a blank after a comma and a comma before else, or all of it in"
                                + " quotes.")
                : Optional.empty();
    }

    /** Whether words and signs of these sentences are in a value, so that it stands in quotes. */
    static boolean spoken(String value) {
        return SPOKEN.matcher(value).matches() || AMID.matcher(value).find();
    }

    /** What a value is held against; what is worked out is for a formula. */
    String bound() {
        boolean quoted = scan.quotesNext();
        var value = value();
        scan.need(quoted || value.indexOf('(') < 0);
        return value;
    }

    /** Values in a row, added to those that were read before. */
    List<String> list(List<String> list) {
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
    boolean another() {
        int at = scan.place();
        if (scan.sign(",")) {
            if (!scan.stands(scan.skipped(), "else")) {
                return true;
            }
            scan.back(at);
        }
        return false;
    }
}
