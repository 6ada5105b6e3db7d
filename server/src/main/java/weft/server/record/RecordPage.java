package weft.server.record;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import weft.core.door.Shown;
import weft.core.record.StoredRow;
import weft.core.twice.Standing;
import weft.server.http.Problem;
import weft.store.find.Cursor;
import weft.store.find.Page;

/**
 * A page of records.
 *
 * @param next the cursor of the page after it, or null
 * @param previous the cursor of the page before it, or null
 */
public record RecordPage(
        List<RecordJson> records,
        @Nullable String next,
        @Nullable String previous,
        TotalJson total) {

    private static final int LARGEST = 500;

    /** The page in the API's shape, with what is shown of each record. */
    public static RecordPage of(Page page, Function<StoredRow, Shown<StoredRow>> shown) {
        return new RecordPage(
                page.records().stream().map(shown).map(RecordJson::of).toList(),
                page.next().map(Cursor::wire).orElse(null),
                page.previous().map(Cursor::wire).orElse(null),
                TotalJson.of(page.total()));
    }

    /** The same, with how each record stands. */
    public RecordPage standing(Map<Long, Standing> byRecord) {
        return new RecordPage(
                records.stream().map(record -> record.standing(byRecord)).toList(), next, previous, total);
    }

    /** Where a page begins: after a row, where that is a number, or where the page before led on to. */
    public static Optional<String> after(@Nullable String place) {
        return Optional.ofNullable(place)
                .map(at -> at.matches("[0-9]{1,18}")
                        ? Cursor.afterRow(Long.parseLong(at)).wire()
                        : at);
    }

    /** 400 when a page cannot be of that many records. */
    public static void check(int limit) {
        if (limit < 1 || limit > LARGEST) {
            throw Problem.malformed("A page has from 1 to " + LARGEST + " records.");
        }
    }
}
