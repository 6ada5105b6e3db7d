package weft.server.table;

import java.util.Locale;
import weft.core.table.Faults;

/**
 * The constants of an enumeration as requests name them, such as day-first.
 *
 * @param member the member of the request that holds one
 * @param fault what is said of any other word
 */
public record Words<E extends Enum<E>>(String member, Class<E> type, String fault) {

    /**
     * The constant of that word.
     *
     * @throws Faults when there is none
     */
    public E of(String word) {
        return of(word, member);
    }

    /** The same, told of the member of that path. */
    public E of(String word, String path) {
        for (var constant : type.getEnumConstants()) {
            if (word(constant).equals(word)) {
                return constant;
            }
        }
        throw new Faults(path, fault);
    }

    /** The word of a constant. */
    public static String word(Enum<?> constant) {
        return constant.name().toLowerCase(Locale.ROOT).replace('_', '-');
    }
}
