package weft.server.table;

import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import weft.core.table.Column;
import weft.core.table.Link;
import weft.core.value.Value;
import weft.store.record.ValuesJson;

/**
 * A column of a table.
 *
 * @param scale the most decimals of a decimal column; none for any number
 * @param min the least value, or none
 * @param max the greatest value, or none
 * @param choices the list of a choice column, else empty
 * @param to of a link: the table that it leads to
 * @param shown of a link: the columns by which its records are called
 * @param removed of a link: what becomes of it when its record is removed, refuse or empty
 * @param longest how many characters a text may have, or any number
 * @param shownOnly why nobody can type into it, where that is so
 */
public record ColumnJson(
        String name,
        String title,
        String type,
        boolean required,
        boolean unique,
        @Nullable Integer scale,
        @Nullable Object min,
        @Nullable Object max,
        List<String> choices,
        @Nullable String to,
        @Nullable List<String> shown,
        @Nullable String removed,
        @Nullable Integer longest,
        @Nullable String shownOnly) {

    /** The column in the API's shape. */
    public static ColumnJson of(Column column) {
        return new ColumnJson(
                column.name(),
                column.title(),
                column.type().wire(),
                column.required(),
                column.unique(),
                column.scale().isPresent() ? column.scale().getAsInt() : null,
                wire(column.min()),
                wire(column.max()),
                column.choices(),
                column.link().map(Link::to).orElse(null),
                column.link()
                        .map(link -> link.shown().stream().map(Column::name).toList())
                        .orElse(null),
                column.link().map(link -> link.removed().wire()).orElse(null),
                column.longest().isPresent() ? column.longest().getAsInt() : null,
                column.shownOnly().orElse(null));
    }

    private static @Nullable Object wire(Optional<Value> value) {
        return value.map(ValuesJson::of).orElse(null);
    }
}
