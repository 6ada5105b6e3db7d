package weft.store.imports;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import weft.core.entry.draft.Finding;
import weft.core.value.Value;
import weft.store.table.StoredTable;

/**
 * How the rows of a file go into a table that exists.
 *
 * @param table the table
 * @param columns the file's columns that go into one of its, each with that column
 * @param key the columns by which a row is known to be there already; none when every row is new
 * @param doubles what is done with those that are
 */
public record Into(StoredTable table, List<ImportColumn> columns, List<String> key, Doubles doubles) {

    public Into {
        columns = List.copyOf(columns);
        key = List.copyOf(key);
    }

    /** What is done with a row that is there already. */
    public enum Doubles {
        /** It is left out. */
        SKIP,
        /** The record gets its values. */
        REPLACE,
        /** Nothing is brought in. */
        REFUSE
    }

    /**
     * A row of the file that is there already.
     *
     * @param line its line in the file
     * @param row the row of the record that it is
     * @param changes whether the record would be another one by it
     */
    public record Double(long line, long row, boolean changes) {}

    /**
     * Rows that would be asked about.
     *
     * @param many how many
     * @param partly whether not all rows were held against the rules: there are very many, or very many are asked about
     * @param first the first of them, by line
     */
    public record Asked(int many, boolean partly, List<AskedOf> first) {
        static final Asked NONE = new Asked(0, false, List.of());
    }

    /** What is asked about a line of the file. */
    public record AskedOf(long line, Finding finding) {}

    /**
     * What bringing the rows in comes to.
     *
     * @param rows how many the file has
     * @param added how many are new
     * @param doubles how many are there already
     * @param changing how many of those say something else than the record
     * @param examples the first of those that are there
     * @param repeated how many come twice in the file itself, after the first
     * @param misfits the first cells of each column that don't fit
     * @param misfitCounts how many don't fit, by column name
     * @param faults what is in the way of all of it, in sentences
     * @param asked what would be asked about, were it keyed; nothing is looked at where something is in the way
     * @param preview the first rows as they would be stored
     */
    public record Came(
            long rows,
            long added,
            long doubles,
            long changing,
            List<Double> examples,
            long repeated,
            List<Misfit> misfits,
            Map<String, Long> misfitCounts,
            List<String> faults,
            Asked asked,
            List<List<Value>> preview) {

        /** How many cells don't fit. */
        public long misfitCount() {
            return misfitCounts.values().stream().mapToLong(Long::longValue).sum();
        }

        /** Whether nothing is in the way. */
        public boolean clear() {
            return faults.isEmpty() && misfitCounts.isEmpty();
        }
    }

    /**
     * What was brought in.
     *
     * @param change under which it is taken back; empty when nothing was written
     */
    public record Appended(long added, long replaced, long left, Optional<Long> change) {}

    /** Something is in the way. Nothing was brought in. */
    public static final class InTheWay extends RuntimeException {
        private final transient Came came;

        InTheWay(Came came) {
            super("in the way");
            this.came = came;
        }

        /** What is. */
        public Came came() {
            return came;
        }
    }
}
