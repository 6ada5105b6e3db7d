package weft.core.alike;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import weft.core.record.StoredRow;
import weft.core.table.Column;
import weft.core.value.Value;

/**
 * How near a record is to an entry: near in each column.
 *
 * @param columns how near it is in each, in their order
 */
public record Likeness(StoredRow record, List<Column> of, List<Near> columns) {

    /** So many slips are between records that are one; with more they are two. */
    private static final int MOST_SLIPS = 2;

    /** The nearest first, and of those as near the one in the lower row, or the line above. */
    public static final Comparator<Likeness> NEAREST = Comparator.comparingInt(Likeness::slips)
            .thenComparingLong(likeness -> Math.abs(likeness.record().row()));

    public Likeness {
        of = List.copyOf(of);
        columns = List.copyOf(columns);
    }

    /**
     * How near that record is to an entry of those values; empty when it is not.
     *
     * @param sound whether words are near that sound alike
     */
    public static Optional<Likeness> of(
            List<Column> columns, Map<String, Value> entry, StoredRow record, boolean sound) {
        var near = new ArrayList<Near>();
        for (var column : columns) {
            var how = Near.of(entry.getOrDefault(column.name(), Value.EMPTY), record.of(column.name()), sound);
            if (how.isEmpty()) {
                return Optional.empty();
            }
            near.add(how.get());
        }
        var likeness = new Likeness(record, columns, near);
        return likeness.slips() > MOST_SLIPS ? Optional.empty() : Optional.of(likeness);
    }

    /** In how many columns it is not the same. */
    public int slips() {
        return (int) columns.stream().filter(near -> near != Near.SAME).count();
    }

    /** What is between them, in words that name each column as that says: {@code same Born on, Name one letter apart}. */
    public String why(Function<Column, String> label) {
        var words = new ArrayList<String>();
        for (int i = 0; i < columns.size(); i++) {
            words.add(columns.get(i).words(label.apply(of.get(i))));
        }
        return String.join(", ", words);
    }
}
