package weft.core.form;

import java.util.Optional;
import java.util.function.UnaryOperator;

/**
 * A fault in a form that would bite a keyer, or trouble one.
 *
 * @param id names it among the frays of its form, as long as it is there
 * @param item the item it is about, or empty when it is about the whole form
 * @param sentence what is wrong
 * @param bites whether entries would suffer; otherwise it is only a nuisance
 * @param mend what puts it right, where one press can
 */
public record Fray(String id, Optional<String> item, String sentence, boolean bites, Optional<Mend> mend) {

    /**
     * What puts a fray right.
     *
     * @param label what it does, for the button
     * @param change the form put right
     */
    public record Mend(String label, UnaryOperator<Form> change) {}

    static Fray biting(String kind, Item item, String sentence, Mend mend) {
        return new Fray(kind + " " + item.id(), Optional.of(item.id()), sentence, true, Optional.of(mend));
    }

    /** A rule that cannot be followed; {@code about} is a column, or the id of an item or of the rule. */
    public static Fray ofRule(String about, String sentence, Form form) {
        var item = form.fieldOf(about).<Item>map(field -> field).or(() -> form.item(about));
        return new Fray(
                "rule " + about + " " + sentence.hashCode(), item.map(Item::id), sentence, true, Optional.empty());
    }

    /** What of a door of the form does not fit it; only who comes by that door is troubled. */
    public static Fray ofDoor(String door, String title, String sentence) {
        return new Fray(
                "door " + door + " " + sentence.hashCode(),
                Optional.empty(),
                "The door " + title + ": " + sentence,
                false,
                Optional.empty());
    }

    static Fray light(String kind, Item item, String sentence, Optional<Mend> mend) {
        return new Fray(kind + " " + item.id(), Optional.of(item.id()), sentence, false, mend);
    }
}
