package weft.server.table;

import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import org.jspecify.annotations.Nullable;
import weft.core.table.TableProposal.ColumnProposal;

/**
 * A column as a request wants it; only its title or its name must be there.
 *
 * @param type one of the names of the column types; text when none is said
 * @param min as it would be typed, or as JSON has it
 * @param max likewise
 */
public record ColumnAsked(
        @Nullable String name,
        @Nullable String title,
        @Nullable String type,
        @Nullable Boolean required,
        @Nullable Boolean unique,
        @Nullable Integer scale,
        @Nullable Object min,
        @Nullable Object max,
        @Nullable List<String> choices) {

    /** The proposal of the column, {@code length} characters usually at most. */
    public ColumnProposal proposal(OptionalInt length) {
        return new ColumnProposal(
                said(name),
                said(title),
                type == null ? "text" : type,
                Boolean.TRUE.equals(required),
                Boolean.TRUE.equals(unique),
                scale == null ? OptionalInt.empty() : OptionalInt.of(scale),
                Optional.ofNullable(min).map(Object::toString),
                Optional.ofNullable(max).map(Object::toString),
                choices == null ? List.of() : choices,
                length);
    }

    private static String said(@Nullable String text) {
        return text == null ? "" : text;
    }
}
