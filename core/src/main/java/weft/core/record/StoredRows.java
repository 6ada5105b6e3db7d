package weft.core.record;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import weft.core.table.Column;
import weft.core.table.Constraint.NoOverlap;
import weft.core.table.Link;
import weft.core.twice.Standing;
import weft.core.usual.Counts;
import weft.core.usual.Grouping;
import weft.core.value.Value;

/**
 * What the engine may ask of stored records. Every answer is of this moment and may be outdated. Of the form's own table it
 * tells no more than whoever enters may see; what collides with an entry and may not be seen is {@link StoredRow#UNSEEN}.
 */
public interface StoredRows {

    /**
     * A record of the form's table that has these values, none of which is empty.
     *
     * @param except the identity of a record that does not count
     */
    Optional<StoredRow> with(Map<String, Value> values, OptionalLong except);

    /**
     * A record of the form's table whose time overlaps.
     *
     * @param values the values of all columns that the constraint speaks of, none of them empty
     * @param except the identity of a record that does not count
     */
    Optional<StoredRow> overlapping(NoOverlap constraint, Map<String, Value> values, OptionalLong except);

    /**
     * The records of the form's table that may be nearly the same in all of these columns, and are to be seen with all of them;
     * whoever asks looks closer.
     *
     * @param values of these columns, none of them empty
     * @param sound whether those are meant as well that sound alike
     * @param except the identity of a record that does not count
     */
    default List<StoredRow> near(List<Column> columns, Map<String, Value> values, boolean sound, OptionalLong except) {
        return List.of();
    }

    /**
     * How many records of the form's table are nearly the same in all of these columns and may not be told of, so that nothing else
     * of them is known; none when one of the columns may not be seen.
     *
     * @param values of these columns, none of them empty
     * @param sound whether those are meant as well that sound alike
     * @param except the identity of a record that does not count
     */
    default int nearUnseen(List<Column> columns, Map<String, Value> values, boolean sound, OptionalLong except) {
        return 0;
    }

    /**
     * What the values of the column have been in the narrowest group of that place of which there are enough to say what is usual;
     * empty when there are too few, when they are not counted yet, or when not all of them are to be seen and the grouping does not
     * speak then.
     */
    default Optional<Counts> usual(Grouping grouping, Grouping.Place place) {
        return Optional.empty();
    }

    /**
     * The records of any table that have these values, lowest row first.
     *
     * @param values by the columns of that table; none is empty
     * @param most how many are wanted at most
     */
    List<StoredRow> matching(String table, Map<String, Value> values, int most);

    /**
     * The one record of any table that has these values once case and accents are put aside, as people find a choice; empty
     * when there is none, or more than one.
     *
     * @param values by the columns of that table; none is empty
     */
    Optional<StoredRow> alike(String table, Map<String, Value> values);

    /**
     * What a column of any table holds that is nearly spelled so, the nearest first; a few at most. It is for those who slipped at
     * a key, and may be nothing where very many are asked for.
     */
    default List<String> spelled(String table, Column column, String typed) {
        return List.of();
    }

    /**
     * The record of any table that stayed where several were made one and one that went had these values, case and accents put
     * aside; empty when there is none, or more than one.
     *
     * @param values by the columns of that table; none is empty
     */
    default Optional<StoredRow> stayed(String table, Map<String, Value> values) {
        return Optional.empty();
    }

    /** The record of that identity in any table; empty when it is there no more. */
    Optional<StoredRow> record(String table, long id);

    /** What formulas may know of the record that a link leads to, by column; nothing when it is there no more. */
    default Map<String, Value> linked(Link link, long id) {
        return record(link.to(), id).map(StoredRow::values).orElse(Map.of());
    }

    /** How far a record of the form's table has come with its keyings. */
    default Standing standing(long id) {
        return Standing.ONCE;
    }

    /** The record in that row of any table; empty when there is none. */
    Optional<StoredRow> inRow(String table, long row);

    /**
     * Looks many texts up in one column of any table at once: by each text, all records that have it there, case and accents
     * put aside. A text that is not among the answers was not looked up, and is to be asked for alone.
     */
    default Map<String, List<StoredRow>> alike(String table, String column, Set<String> texts) {
        return Map.of();
    }
}
