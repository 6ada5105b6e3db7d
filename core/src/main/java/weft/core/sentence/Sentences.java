package weft.core.sentence;

import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import weft.core.rule.Declaration;
import weft.core.rule.Placed;
import weft.core.rule.Step;

/**
 * The rules of a form as sentences: what one reads is what one can type. A sentence is written in the plainest way that reads
 * back as the same rule.
 */
public final class Sentences {

    /** The most characters of a sentence: several formulas and a message. */
    public static final int LONGEST = 10_000;

    private final Terms terms;

    /** Sentences that speak of these. */
    public Sentences(Terms terms) {
        this.terms = terms;
    }

    /** The sentence that says the rule. */
    public Sentence of(Declaration stored) {
        var rule = terms.asNow(stored);
        var plain = new SentenceWriter(terms, false).write(rule);
        return readsAs(plain.text(), rule) ? plain : new SentenceWriter(terms, true).write(rule);
    }

    /** What a step does, as its sentence ends. */
    public String of(Step.Action action) {
        var placed = (Placed) terms.asNow(new Placed("", new Step("", action)));
        return new SentenceWriter(terms, false).write(placed.step().action()).text();
    }

    /**
     * The rule that a sentence says; its id is empty.
     *
     * @throws Unclear when it can't be read
     */
    public Declaration read(String sentence) {
        if (sentence.length() > LONGEST) {
            throw new Unclear(
                    0,
                    "The sentence has %,d characters; the most is %,d. Say it in several."
                            .formatted(sentence.length(), LONGEST),
                    List.of());
        }
        return new SentenceReader(terms, sentence.strip()).read();
    }

    /**
     * Something that could stand at the end of a sentence that is being typed.
     *
     * @param from the place that it is put at, counted in characters; what is there is begun with it
     * @param text what it is
     * @param name whether it is the name of a field, a table or the like, and no word of the grammar
     */
    public record Completion(int from, String text, boolean name) {}

    /** Rules that could be typed here, made of what there is to speak of, each of another kind; the most usual first. */
    public List<Declaration> examples() {
        return new Examples(terms).all();
    }

    /** What ends the word that is begun, and then what could come next; names first. */
    public List<Completion> completions(String begun) {
        if (begun.length() > LONGEST) {
            return List.of();
        }
        var reader = new SentenceReader(terms, begun);
        try {
            reader.read();
        } catch (Unclear unclear) {
            // What was looked for on the way is what is wanted here.
        }
        return reader.scan().wanted().stream()
                .filter(each -> Character.isLetter(each.text().charAt(0)) || each.name())
                .filter(each -> goesOn(each.text(), begun.substring(Math.min(each.at(), begun.length()))))
                .map(each -> new Completion(each.at(), each.text(), each.name()))
                .distinct()
                .sorted(Comparator.comparingInt(Completion::from).thenComparing(each -> !each.name()))
                .toList();
    }

    private static boolean goesOn(String text, String begun) {
        return begun.length() < text.length()
                && text.toLowerCase(Locale.ROOT).startsWith(begun.toLowerCase(Locale.ROOT));
    }

    private boolean readsAs(String text, Declaration rule) {
        try {
            return read(text).named(rule.id()).equals(rule);
        } catch (Unclear unclear) {
            return false;
        }
    }
}
