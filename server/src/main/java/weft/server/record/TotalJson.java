package weft.server.record;

import weft.core.find.Total;

/**
 * How many records are in view.
 *
 * @param exact whether they were counted; else it is about so many
 */
public record TotalJson(long count, boolean exact) {

    /** The total in the API's shape. */
    public static TotalJson of(Total total) {
        return new TotalJson(total.count(), total.exact());
    }
}
