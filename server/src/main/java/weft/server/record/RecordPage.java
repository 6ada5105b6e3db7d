package weft.server.record;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;
import weft.core.find.Total;
import weft.server.Problems.Problem;
import weft.store.find.Cursor;
import weft.store.find.Page;
import weft.store.record.StoredRecord;

/**
 * A page of records.
 *
 * @param next the cursor of the page after it, or null
 * @param previous the cursor of the page before it, or null
 */
public record RecordPage(
        List<StoredRecord> records,
        @Schema(types = {"string", "null"}) String next,
        @Schema(types = {"string", "null"}) String previous,
        Total total) {

    private static final int LARGEST = 500;

    /** The page in the API's shape. */
    public static RecordPage of(Page page) {
        return new RecordPage(
                page.records(),
                page.next().map(Cursor::wire).orElse(null),
                page.previous().map(Cursor::wire).orElse(null),
                page.total());
    }

    /** 400 when a page cannot be of that many records. */
    public static void check(int limit) {
        if (limit < 1 || limit > LARGEST) {
            throw Problem.malformed("A page has from 1 to " + LARGEST + " records.");
        }
    }
}
