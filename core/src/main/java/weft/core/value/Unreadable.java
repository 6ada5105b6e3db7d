package weft.core.value;

import java.time.LocalDateTime;
import java.util.Optional;
import weft.core.value.Reading.Refused;

/**
 * What is known to be unreadable without reading it, so that pages can say so before any server has answered: a text with letters
 * where a number goes, and the like. Whatever is readable is never taken for it.
 *
 * @param readable a pattern that every readable text has somewhere, for the engines of Java and of browsers ({@code iu})
 * @param words what is said of a text that has it nowhere; {@code {typed}} stands for the text
 */
public record Unreadable(String readable, String words) {

    private static final String TYPED = "{typed}";

    /** A digit, or no letter at all. */
    private static final String NUMBER = "[0-9]|^\\P{L}*$";

    /** Words that count from today or say a time, and the beginnings of weekdays. */
    private static final String DAY =
            NUMBER + "|(^|\\P{L})(t|today|yesterday|tomorrow|now|noon|midnight|(m|tu|w|th|f|s)\\p{L}*)(\\P{L}|$)";

    /** What is known so of a kind of values, under those conventions at that moment; empty where nothing is. */
    public static Optional<Unreadable> of(Kind kind, Conventions conventions, LocalDateTime now) {
        var pattern = switch (kind.type()) {
            case WHOLE, DECIMAL -> Optional.of(NUMBER);
            case DATE, TIME -> Optional.of(DAY);
            case TEXT, LONGTEXT, YESNO, CHOICE, DATETIME, PICTURE, LINK -> Optional.<String>empty();
        };
        return pattern.flatMap(
                readable -> new ValueReader(conventions, now).read(kind, TYPED) instanceof Refused(var refusal)
                        ? Optional.of(new Unreadable(readable, refusal.words()))
                        : Optional.empty());
    }
}
