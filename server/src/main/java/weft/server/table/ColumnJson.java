package weft.server.table;

import java.util.List;
import org.jspecify.annotations.Nullable;
import weft.core.table.Column;
import weft.core.table.Link;
import weft.core.value.ColumnType;
import weft.core.value.Value;

/**
 * A column of a table.
 *
 * @param scale the most decimals of a decimal column; none for any number
 * @param min the least value, or none
 * @param max the greatest value, or none
 * @param choices the list of a choice column, else empty
 * @param to of a link: the table that it leads to
 * @param shown of a link: the columns by which its records are called
 * @param removed of a link: what becomes of it when its record is removed
 * @param longest how many characters a text may have, or any number
 * @param shownOnly why nobody can type into it, where that is so
 */
public record ColumnJson(
        String name,
        String title,
        ColumnType type,
        boolean required,
        boolean unique,
        @Nullable Integer scale,
        @Nullable Value min,
        @Nullable Value max,
        List<String> choices,
        @Nullable String to,
        @Nullable List<String> shown,
        Link.@Nullable Removed removed,
        @Nullable Integer longest,
        @Nullable String shownOnly) {

    /** The column in the API's shape. */
    public static ColumnJson of(Column column) {
        return new ColumnJson(
                column.name(),
                column.title(),
                column.type(),
                column.required(),
                column.unique(),
                column.scale().isPresent() ? column.scale().getAsInt() : null,
                column.min().orElse(null),
                column.max().orElse(null),
                column.choices(),
                column.link().map(Link::to).orElse(null),
                column.link()
                        .map(link -> link.shown().stream().map(Column::name).toList())
                        .orElse(null),
                column.link().map(Link::removed).orElse(null),
                column.longest().isPresent() ? column.longest().getAsInt() : null,
                column.shownOnly().orElse(null));
    }
}
