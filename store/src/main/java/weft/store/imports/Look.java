package weft.store.imports;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import weft.core.value.Value;

/**
 * What came of looking through a file with certain columns in mind.
 *
 * @param rows how many rows it has below the headings
 * @param columns the columns
 * @param misfits the first {@value #LISTED} cells of each column that don't fit
 * @param misfitCounts how many cells don't fit, by column name
 * @param preview the first rows as they would be stored
 */
public record Look(
        long rows,
        List<ImportColumn> columns,
        List<Misfit> misfits,
        Map<String, Long> misfitCounts,
        List<List<Value>> preview) {

    /** How many misfits of a column are listed. */
    public static final int LISTED = 500;

    static final int PREVIEWED = 20;

    /** How many cells don't fit. */
    public long misfitCount() {
        return misfitCounts.values().stream().mapToLong(Long::longValue).sum();
    }

    /** Gathers misfits, counting all and listing some. */
    static final class Misfits implements RowReader.MisfitTaker {
        private final List<Misfit> listed = new ArrayList<>();
        private final Map<String, Long> counts = new HashMap<>();

        @Override
        public void take(Misfit misfit) {
            if (counts.merge(misfit.column(), 1L, Long::sum) <= LISTED) {
                listed.add(misfit);
            }
        }

        List<Misfit> listed() {
            return listed;
        }

        Map<String, Long> counts() {
            return counts;
        }
    }
}
