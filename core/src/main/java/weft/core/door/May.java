package weft.core.door;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/** What a door may let people do with records. Each stands alone. */
public enum May {
    ADD,
    SEE,
    CHANGE,
    REMOVE,
    EXPORT;

    /** The name used in JSON. */
    public String wire() {
        return name().toLowerCase(Locale.ROOT);
    }

    /** The one of that name in JSON, or empty. */
    public static Optional<May> named(String wire) {
        return Arrays.stream(values()).filter(may -> may.wire().equals(wire)).findFirst();
    }
}
