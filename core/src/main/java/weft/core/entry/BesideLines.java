package weft.core.entry;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import weft.core.record.StoredRow;
import weft.core.record.StoredRows;
import weft.core.table.Column;
import weft.core.table.Constraint.NoOverlap;
import weft.core.twice.Standing;
import weft.core.value.Value;

/**
 * Stored rows as the lines of an entry may ask for them: the record that they link to is the entry as it stands now, and what
 * is changed together with them is in nobody's way.
 */
record BesideLines(StoredRows stored, String table, StoredRow entry, Set<Long> own) implements StoredRows {

    @Override
    public Optional<StoredRow> with(Map<String, Value> values, OptionalLong except) {
        return stored.with(values, except).filter(row -> !own.contains(row.id()));
    }

    @Override
    public Optional<StoredRow> overlapping(NoOverlap constraint, Map<String, Value> values, OptionalLong except) {
        return stored.overlapping(constraint, values, except).filter(row -> !own.contains(row.id()));
    }

    @Override
    public int nearUnseen(List<Column> columns, Map<String, Value> values, boolean sound, OptionalLong except) {
        return stored.nearUnseen(columns, values, sound, except);
    }

    @Override
    public List<StoredRow> near(List<Column> columns, Map<String, Value> values, boolean sound, OptionalLong except) {
        return stored.near(columns, values, sound, except).stream()
                .filter(row -> !own.contains(row.id()))
                .toList();
    }

    @Override
    public List<StoredRow> matching(String other, Map<String, Value> values, int most) {
        return stored.matching(other, values, most);
    }

    @Override
    public Optional<StoredRow> alike(String other, Map<String, Value> values) {
        return stored.alike(other, values);
    }

    @Override
    public Map<String, List<StoredRow>> alike(String other, String column, Set<String> texts) {
        return stored.alike(other, column, texts);
    }

    @Override
    public Optional<StoredRow> stayed(String other, Map<String, Value> values) {
        return stored.stayed(other, values);
    }

    @Override
    public List<String> spelled(String other, Column column, String typed) {
        return stored.spelled(other, column, typed);
    }

    @Override
    public Optional<StoredRow> record(String other, long id) {
        return other.equals(table) && id == entry.id() ? Optional.of(entry) : stored.record(other, id);
    }

    @Override
    public Optional<StoredRow> inRow(String other, long row) {
        return stored.inRow(other, row);
    }

    @Override
    public Standing standing(long id) {
        return stored.standing(id);
    }
}
