package weft.core.entry;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import weft.core.alike.Likeness;
import weft.core.alike.LikesBefore;
import weft.core.entry.plan.EntryPlan;
import weft.core.entry.plan.ReadyCheck;
import weft.core.record.StoredRow;
import weft.core.record.StoredRows;
import weft.core.table.Column;
import weft.core.table.Constraint;
import weft.core.table.Constraint.NoOverlap;
import weft.core.table.Table;
import weft.core.twice.Standing;
import weft.core.usual.Counts;
import weft.core.usual.Grouping;
import weft.core.value.Order;
import weft.core.value.Value;

/**
 * Stored rows together with the lines of a batch that come before the one in hand, as if those were stored already. What
 * collides with both is told of the stored one, which is there in any case.
 */
final class LinesBefore implements StoredRows {

    private final StoredRows stored;
    private final Table seen;
    private final List<List<String>> alike;
    private final List<NoOverlap> apart;
    /** By columns that no two records may be alike in, and values of them: the first line that has these. */
    private final Map<List<String>, Map<List<String>, StoredRow>> first = new HashMap<>();
    /** By an overlap that may not be, and the values that it is within: the lines that have these. */
    private final Map<NoOverlap, Map<List<String>, List<StoredRow>>> times = new HashMap<>();

    private final List<ReadyCheck.Alike> nearly;
    private final LikesBefore likes = new LikesBefore();

    LinesBefore(EntryPlan plan, Table seen, StoredRows stored) {
        var table = plan.table();
        this.nearly = nearly(plan);
        this.stored = stored;
        this.seen = seen;
        this.alike = alike(table);
        this.apart = apart(table);
    }

    /** Whether no two entries can be in each other's way. */
    static boolean nothingToKeep(EntryPlan plan) {
        return alike(plan.table()).isEmpty()
                && apart(plan.table()).isEmpty()
                && nearly(plan).isEmpty();
    }

    private static List<ReadyCheck.Alike> nearly(EntryPlan plan) {
        return plan.checks().stream()
                .filter(ReadyCheck.Alike.class::isInstance)
                .map(ReadyCheck.Alike.class::cast)
                .toList();
    }

    private static List<List<String>> alike(Table table) {
        return Stream.concat(
                        table.columns().stream().filter(Column::unique).map(column -> List.of(column.name())),
                        table.constraints().stream()
                                .filter(Constraint.Unique.class::isInstance)
                                .map(constraint -> sorted(constraint.columns())))
                .toList();
    }

    private static List<NoOverlap> apart(Table table) {
        return table.constraints().stream()
                .filter(NoOverlap.class::isInstance)
                .map(NoOverlap.class::cast)
                .toList();
    }

    private static List<String> sorted(Iterable<String> columns) {
        var sorted = new TreeSet<String>();
        columns.forEach(sorted::add);
        return List.copyOf(sorted);
    }

    /** From now on that line is before. */
    void learn(StoredRow line) {
        likes.learn(line);
        for (var columns : alike) {
            if (filled(line, columns)) {
                first.computeIfAbsent(columns, _ -> new HashMap<>()).putIfAbsent(spelled(line.values(), columns), line);
            }
        }
        for (var constraint : apart) {
            if (filled(line, constraint.columns())) {
                times.computeIfAbsent(constraint, _ -> new HashMap<>())
                        .computeIfAbsent(spelled(line.values(), constraint.same()), _ -> new ArrayList<>())
                        .add(line);
            }
        }
    }

    /** Whether an entry of those values collides with a line before. */
    boolean collides(Map<String, Value> values) {
        var entry = StoredRow.line(1, values);
        return alike.stream()
                        .anyMatch(columns ->
                                filled(entry, columns) && line(columns, values).isPresent())
                || apart.stream()
                        .anyMatch(constraint -> filled(entry, constraint.columns())
                                && line(constraint, values).isPresent())
                || nearly.stream()
                        .anyMatch(check -> likes.near(check.columns(), values, check.sound()).stream()
                                .anyMatch(line -> Likeness.of(check.columns(), values, line, check.sound())
                                        .isPresent()));
    }

    private static boolean filled(StoredRow row, List<String> columns) {
        return columns.stream().noneMatch(column -> row.of(column).isEmpty());
    }

    private static List<String> spelled(Map<String, Value> values, List<String> columns) {
        return columns.stream()
                .map(column -> spelled(values.getOrDefault(column, Value.EMPTY)))
                .toList();
    }

    /** Records may be called alike, and are still others. */
    private static String spelled(Value value) {
        return value instanceof Value.Link link ? Long.toString(link.id()) : value.plain();
    }

    private Optional<StoredRow> line(List<String> columns, Map<String, Value> values) {
        return Optional.ofNullable(first.getOrDefault(columns, Map.of()).get(spelled(values, columns)));
    }

    private Optional<StoredRow> line(NoOverlap constraint, Map<String, Value> values) {
        var from = values.getOrDefault(constraint.from(), Value.EMPTY);
        var to = values.getOrDefault(constraint.to(), Value.EMPTY);
        return times
                .getOrDefault(constraint, Map.of())
                .getOrDefault(spelled(values, constraint.same()), List.of())
                .stream()
                .filter(line -> Order.compare(line.of(constraint.from()), to) < 0
                        && Order.compare(line.of(constraint.to()), from) > 0)
                .findFirst();
    }

    /** What may be told of a line: what a door fills in unseen stays unseen. */
    private StoredRow told(StoredRow line) {
        var values = new HashMap<>(line.values());
        values.keySet().removeIf(column -> seen.column(column).isEmpty());
        return new StoredRow(line.id(), line.row(), line.version(), values);
    }

    @Override
    public Optional<StoredRow> with(Map<String, Value> values, OptionalLong except) {
        return stored.with(values, except)
                .or(() -> line(sorted(values.keySet()), values).map(this::told));
    }

    @Override
    public Optional<StoredRow> overlapping(NoOverlap constraint, Map<String, Value> values, OptionalLong except) {
        return stored.overlapping(constraint, values, except)
                .or(() -> line(constraint, values).map(this::told));
    }

    @Override
    public int nearUnseen(List<Column> columns, Map<String, Value> values, boolean sound, OptionalLong except) {
        return stored.nearUnseen(columns, values, sound, except);
    }

    @Override
    public List<StoredRow> near(List<Column> columns, Map<String, Value> values, boolean sound, OptionalLong except) {
        boolean unseen =
                columns.stream().anyMatch(column -> seen.column(column.name()).isEmpty());
        var lines = unseen ? List.<StoredRow>of() : likes.near(columns, values, sound);
        return Stream.concat(
                        stored.near(columns, values, sound, except).stream(),
                        lines.stream().map(this::told))
                .toList();
    }

    /** Lines of the same entry do not count yet. */
    @Override
    public Optional<Counts> usual(Grouping grouping, Grouping.Place place) {
        return stored.usual(grouping, place);
    }

    @Override
    public List<StoredRow> matching(String table, Map<String, Value> values, int most) {
        return stored.matching(table, values, most);
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
    public Optional<StoredRow> record(String table, long id) {
        return stored.record(table, id);
    }

    @Override
    public Optional<StoredRow> inRow(String table, long row) {
        return stored.inRow(table, row);
    }

    @Override
    public Map<String, List<StoredRow>> alike(String table, String column, Set<String> texts) {
        return stored.alike(table, column, texts);
    }

    @Override
    public Optional<StoredRow> alike(String table, Map<String, Value> values) {
        return stored.alike(table, values);
    }

    @Override
    public Standing standing(long id) {
        return stored.standing(id);
    }
}
