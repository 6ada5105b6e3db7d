package weft.store;

import org.jooq.Converter;
import weft.core.value.Wire;

/** Constants in columns of the database, which hold their words. */
public final class WireConverter {

    private WireConverter() {}

    /** That of a type. */
    public static <E extends Enum<E>> Converter<String, E> of(Class<E> type) {
        return Converter.ofNullable(String.class, type, word -> Wire.constant(type, word), Wire::word);
    }
}
