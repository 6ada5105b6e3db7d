package weft.core.work;

import java.util.ArrayList;
import java.util.List;

/** What figures suggest to who builds a form, each a sentence about a field or a rule. Where too little is known, nothing is said. */
public final class Suggestions {

    /** Of fewer nothing is said. */
    static final int ENOUGH = 50;

    private static final double NEARLY = 0.9;
    private static final double OFTEN = 0.05;
    private static final int FEW_CHOICES = 3;

    private Suggestions() {}

    /** What kind of thing is suggested. */
    public enum Habit {
        /** An ask that is nearly always answered with save all the same. */
        WAVED_THROUGH,
        /** A field whose value is nearly always the same. */
        SAME,
        /** A field that nobody fills. */
        UNFILLED,
        /** A list of which no more than three choices are used. */
        FEW_CHOICES,
        /** A field that is typed again and again after a stop. */
        TYPED_AGAIN,
        /** A field from which people go back. */
        GONE_BACK;
    }

    /**
     * Something to look at.
     *
     * @param about the column, or the id of the rule
     */
    public record Suggestion(Habit kind, String about, String sentence) {}

    /**
     * A rule that asks.
     *
     * @param words what it says, in a few words
     * @param asked how often it asked
     * @param despite how often the entry was saved all the same
     */
    public record Rule(String id, String words, long asked, long despite) {}

    /**
     * A field, as it is in the last entries, and as people went through it.
     *
     * @param steady whether the value stays or is begun by itself already
     * @param needed whether it must be filled
     * @param list how many choices its list has; 0 where it has none
     * @param looked so many of the last entries were looked at
     * @param filled in so many of them something is in it
     * @param usual what is in it most often, in words
     * @param usually in how many of them
     * @param used how many of its choices are used in them
     * @param entries how many entries were keyed
     * @param again in so many it was typed again after a stop
     * @param back from it people went back so often
     */
    public record Field(
            String column,
            String label,
            boolean steady,
            boolean needed,
            int list,
            long looked,
            long filled,
            String usual,
            long usually,
            int used,
            long entries,
            long again,
            long back) {}

    /** All that is suggested, rules first, then fields in their order. */
    public static List<Suggestion> of(List<Rule> rules, List<Field> fields) {
        var found = new ArrayList<Suggestion>();
        for (var rule : rules) {
            if (rule.asked() >= ENOUGH / 2 && rule.despite() >= NEARLY * rule.asked()) {
                found.add(new Suggestion(
                        Habit.WAVED_THROUGH,
                        rule.id(),
                        "“%s” was answered save all the same %,d of %,d times. Does it ask too often?"
                                .formatted(rule.words(), rule.despite(), rule.asked())));
            }
        }
        fields.forEach(field -> of(field, found));
        return found;
    }

    private static void of(Field field, List<Suggestion> found) {
        boolean known = field.looked() >= ENOUGH;
        if (known && field.filled() == 0 && !field.needed()) {
            found.add(said(
                    Habit.UNFILLED,
                    field,
                    "%s is empty in each of the last %,d entries. Is it needed?"
                            .formatted(field.label(), field.looked())));
        } else if (known && !field.steady() && field.usually() >= NEARLY * field.looked()) {
            found.add(said(
                    Habit.SAME,
                    field,
                    "%s is “%s” in %,d of the last %,d entries. Let it begin so, or keep its last value."
                            .formatted(field.label(), field.usual(), field.usually(), field.looked())));
        } else if (known && field.list() > 2 * FEW_CHOICES && field.used() > 0 && field.used() <= FEW_CHOICES) {
            found.add(said(
                    Habit.FEW_CHOICES,
                    field,
                    "Of the %,d choices of %s no more than %d are in the last %,d entries. Would a shorter list do?"
                            .formatted(field.list(), field.label(), field.used(), field.looked())));
        }
        if (field.entries() >= ENOUGH && field.again() >= OFTEN * field.entries()) {
            found.add(said(
                    Habit.TYPED_AGAIN,
                    field,
                    "%s was typed again after a stop in %,d of %,d entries. Would a line of help or another limit save that?"
                            .formatted(field.label(), field.again(), field.entries())));
        }
        if (field.entries() >= ENOUGH && field.back() >= 2 * OFTEN * field.entries()) {
            found.add(said(
                    Habit.GONE_BACK,
                    field,
                    "From %s people went back to a field before it %,d times in %,d entries. Does it stand where the paper has it?"
                            .formatted(field.label(), field.back(), field.entries())));
        }
    }

    private static Suggestion said(Habit kind, Field field, String sentence) {
        return new Suggestion(kind, field.column(), sentence);
    }
}
