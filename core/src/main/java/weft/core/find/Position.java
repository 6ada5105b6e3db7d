package weft.core.find;

import java.util.OptionalLong;
import weft.core.value.Conventions;

/**
 * Where a record stands among those in view.
 *
 * @param number its place from 1; empty where that many are not counted
 * @param row its row number, which is exact at any size
 */
public record Position(OptionalLong number, long row, Total total) {

    /** Where a record stands of which so many come before; of which so many come after, when those were counted instead. */
    public static Position of(long row, Total total, OptionalLong before, OptionalLong after) {
        if (before.isPresent()) {
            return new Position(OptionalLong.of(before.getAsLong() + 1), row, total);
        }
        return after.isPresent() && total.exact()
                ? new Position(OptionalLong.of(total.count() - after.getAsLong()), row, total)
                : new Position(OptionalLong.empty(), row, total);
    }

    /** "14 of 212"; "row 734,112 of about 52,000". */
    public String words(Conventions way) {
        return (number.isPresent() ? way.grouped(number.getAsLong()) : "row " + way.grouped(row)) + " of "
                + total.words(way);
    }
}
