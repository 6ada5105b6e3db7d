package weft.core.entry;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import weft.core.record.StoredRow;
import weft.core.record.StoredRows;
import weft.core.table.Constraint.NoOverlap;
import weft.core.value.Order;
import weft.core.value.Value;
import weft.core.value.ValueReader;

/** Stored rows of a few tables, in memory. The form's own table has the empty name. */
public final class Rows implements StoredRows {

    private final Map<String, List<StoredRow>> tables = new HashMap<>();

    /** The same with a record of the form's own table in that row, which is its identity too. */
    public Rows with(long row, Map<String, Value> values) {
        return with("", row, values);
    }

    /** The same with a record of that table in that row, which is its identity too. */
    public Rows with(String table, long row, Map<String, Value> values) {
        tables.computeIfAbsent(table, _ -> new ArrayList<>()).add(new StoredRow(row, row, 1, values));
        return this;
    }

    @Override
    public Optional<StoredRow> with(Map<String, Value> values, OptionalLong except) {
        return matching("", values, Integer.MAX_VALUE).stream()
                .filter(row -> except.isEmpty() || row.id() != except.getAsLong())
                .findFirst();
    }

    @Override
    public Optional<StoredRow> overlapping(NoOverlap constraint, Map<String, Value> values, OptionalLong except) {
        return tables.getOrDefault("", List.of()).stream()
                .filter(row -> except.isEmpty() || row.id() != except.getAsLong())
                .filter(row -> constraint.same().stream()
                        .allMatch(
                                column -> values.get(column).equals(row.values().get(column))))
                .filter(row -> Order.compare(
                                        values.get(constraint.from()),
                                        row.values().get(constraint.to()))
                                < 0
                        && Order.compare(row.values().get(constraint.from()), values.get(constraint.to())) < 0)
                .findFirst();
    }

    @Override
    public List<StoredRow> matching(String table, Map<String, Value> values, int most) {
        return tables.getOrDefault(table, List.of()).stream()
                .filter(row -> values.entrySet().stream()
                        .allMatch(each -> each.getValue().equals(row.values().get(each.getKey()))))
                .limit(most)
                .toList();
    }

    @Override
    public Optional<StoredRow> alike(String table, Map<String, Value> values) {
        var alike = tables.getOrDefault(table, List.of()).stream()
                .filter(row -> values.entrySet().stream()
                        .allMatch(each -> ValueReader.fold(each.getValue().plain())
                                .equals(ValueReader.fold(row.of(each.getKey()).plain()))))
                .toList();
        return alike.size() == 1 ? Optional.of(alike.getFirst()) : Optional.empty();
    }

    @Override
    public Map<String, List<StoredRow>> alike(String table, String column, Set<String> texts) {
        var found = new HashMap<String, List<StoredRow>>();
        texts.forEach(text -> found.put(
                text,
                tables.getOrDefault(table, List.of()).stream()
                        .filter(row -> ValueReader.fold(row.of(column).plain()).equals(ValueReader.fold(text)))
                        .toList()));
        return found;
    }

    @Override
    public Optional<StoredRow> record(String table, long id) {
        return tables.getOrDefault(table, List.of()).stream()
                .filter(row -> row.id() == id)
                .findFirst();
    }

    @Override
    public Optional<StoredRow> inRow(String table, long row) {
        return record(table, row);
    }
}
