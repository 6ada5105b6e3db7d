package weft.server.record;

import io.swagger.v3.oas.annotations.media.Schema;
import java.util.List;
import java.util.OptionalLong;
import weft.server.Problems.Problem;
import weft.store.record.Records;
import weft.store.record.StoredRecord;
import weft.store.table.StoredTable;

/**
 * A page of records in the order of their rows.
 *
 * @param next the cursor of the page after it, or null
 * @param previous the cursor of the page before it in the opposite order, or null
 */
public record RecordPage(
        List<StoredRecord> records,
        @Schema(types = {"string", "null"}) String next,
        @Schema(types = {"string", "null"}) String previous,
        Total total) {

    private static final int LARGEST = 500;

    /** How many records there are, and whether that is exact. */
    public record Total(long count, boolean exact) {}

    /** The page after a row number. */
    public static RecordPage of(
            Records records, StoredTable table, OptionalLong after, int limit, String sort, long total) {
        if (limit < 1 || limit > LARGEST) {
            throw Problem.malformed("A page has from 1 to " + LARGEST + " records.");
        }
        if (!sort.equals("row") && !sort.equals("-row")) {
            throw Problem.malformed("Records are sorted by row or -row.");
        }
        var found = records.page(table, after, sort.startsWith("-"), limit);
        return new RecordPage(
                found,
                found.size() < limit ? null : Long.toString(found.getLast().row()),
                found.isEmpty() || after.isEmpty()
                        ? null
                        : Long.toString(found.getFirst().row()),
                new Total(total, true));
    }
}
