package weft.core.value;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;

/** How constants are spelled outside of Java, in JSON and in the database: in lower case, with a hyphen between words. */
public final class Wire {

    private Wire() {}

    /** A constant that is spelled otherwise. */
    public interface Spelled {
        /** How it is spelled. */
        String spelled();
    }

    /** The word of a constant, such as {@code "day-first"}. */
    public static String word(Enum<?> constant) {
        return constant instanceof Spelled own
                ? own.spelled()
                : constant.name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /** The word of a type that is one of several, such as {@code "any-of"}. */
    public static String word(Class<?> type) {
        return type.getSimpleName().replaceAll("(?<=.)(?=\\p{Lu})", "-").toLowerCase(Locale.ROOT);
    }

    /** The constant of that word, or empty. */
    public static <E extends Enum<E>> Optional<E> find(Class<E> type, String word) {
        return Arrays.stream(type.getEnumConstants())
                .filter(constant -> word(constant).equals(word))
                .findFirst();
    }

    /** The constant of a word that {@link #word} made. */
    public static <E extends Enum<E>> E constant(Class<E> type, String word) {
        return find(type, word).orElseThrow(() -> new IllegalArgumentException("no " + type + " is called " + word));
    }

    /** All words of a type in a sentence: “one”, “many” or “both”. */
    public static String words(Class<? extends Enum<?>> type) {
        var words = Arrays.stream(type.getEnumConstants())
                .map(constant -> "“" + word(constant) + "”")
                .toList();
        return words.size() == 1
                ? words.getFirst()
                : words.stream().limit(words.size() - 1L).collect(Collectors.joining(", ")) + " or " + words.getLast();
    }
}
