package weft.core.record;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Supplier;
import weft.core.table.Column;
import weft.core.table.Constraint.NoOverlap;
import weft.core.table.Link;
import weft.core.twice.Standing;
import weft.core.usual.Counts;
import weft.core.usual.Grouping;
import weft.core.value.Value;

/** Stored rows of which the same is asked once. Several may ask at a time. */
public final class RememberedRows implements StoredRows {

    private static final int MOST_SLIPS = 50;

    private final StoredRows stored;
    private final Map<Object, Object> answers = new ConcurrentHashMap<>();
    private final AtomicInteger slips = new AtomicInteger();

    private final boolean asLinksShow;

    /** Those, asked by the way of this. */
    public RememberedRows(StoredRows stored) {
        this(stored, false);
    }

    private RememberedRows(StoredRows stored, boolean asLinksShow) {
        this.stored = stored;
        this.asLinksShow = asLinksShow;
    }

    /** The same for formulas that no builder wrote: of a record that a link leads to they know what the link shows of it. */
    public static RememberedRows asLinksShow(StoredRows stored) {
        return new RememberedRows(stored, true);
    }

    @Override
    public Map<String, Value> linked(Link link, long id) {
        var known = StoredRows.super.linked(link, id);
        if (!asLinksShow) {
            return known;
        }
        var shown = new HashMap<String, Value>();
        link.shown().forEach(column -> shown.put(column.name(), known.getOrDefault(column.name(), Value.EMPTY)));
        return shown;
    }

    /** By a column of a table, and a text: the records that have it there, case and accents put aside. */
    private final Map<TextAsked, List<StoredRow>> ahead = new ConcurrentHashMap<>();

    private record TextAsked(String table, String column, String text) {}

    private record With(Map<String, Value> values, OptionalLong except) {}

    private record NearlyAlike(List<Column> columns, Map<String, Value> values, boolean sound, OptionalLong except) {}

    @Override
    public List<StoredRow> near(List<Column> columns, Map<String, Value> values, boolean sound, OptionalLong except) {
        return once(
                new NearlyAlike(columns, Map.copyOf(values), sound, except),
                () -> stored.near(columns, values, sound, except));
    }

    private record UnseenAlike(List<Column> columns, Map<String, Value> values, boolean sound, OptionalLong except) {}

    @Override
    public int nearUnseen(List<Column> columns, Map<String, Value> values, boolean sound, OptionalLong except) {
        return once(
                new UnseenAlike(columns, Map.copyOf(values), sound, except),
                () -> stored.nearUnseen(columns, values, sound, except));
    }

    private record Usual(Grouping grouping, Grouping.Place place) {}

    @Override
    public Optional<Counts> usual(Grouping grouping, Grouping.Place place) {
        return once(new Usual(grouping, place), () -> stored.usual(grouping, place));
    }

    /** What is usual there was counted already. */
    public void know(Grouping grouping, Grouping.Place place, Optional<Counts> counts) {
        answers.put(new Usual(grouping, place), counts);
    }

    private record Overlapping(NoOverlap constraint, Map<String, Value> values, OptionalLong except) {}

    private record Matching(String table, Map<String, Value> values, int most) {}

    private record Alike(String table, Map<String, Value> values) {}

    /** Looks these texts up in that column, so that none of them need be asked for alone. */
    public void lookUp(String table, String column, Set<String> texts) {
        stored.alike(table, column, texts).forEach((text, rows) -> ahead.put(new TextAsked(table, column, text), rows));
    }

    private Optional<List<StoredRow>> looked(String table, Map<String, Value> values) {
        if (values.size() != 1) {
            return Optional.empty();
        }
        var only = values.entrySet().iterator().next();
        return only.getValue() instanceof Value.Text(var text)
                ? Optional.ofNullable(ahead.get(new TextAsked(table, only.getKey(), text)))
                : Optional.empty();
    }

    @SuppressWarnings("unchecked") // Each kind of question has its kind of answer.
    private <T> T once(Object question, Supplier<T> ask) {
        var known = answers.get(question);
        if (known == null) {
            known = ask.get();
            answers.put(question, known);
        }
        return (T) known;
    }

    @Override
    public Optional<StoredRow> with(Map<String, Value> values, OptionalLong except) {
        return once(new With(Map.copyOf(values), except), () -> stored.with(values, except));
    }

    @Override
    public Optional<StoredRow> overlapping(NoOverlap constraint, Map<String, Value> values, OptionalLong except) {
        return once(
                new Overlapping(constraint, Map.copyOf(values), except),
                () -> stored.overlapping(constraint, values, except));
    }

    @Override
    public List<StoredRow> matching(String table, Map<String, Value> values, int most) {
        return looked(table, values)
                .map(rows -> rows.stream()
                        .filter(row -> values.entrySet().stream()
                                .allMatch(each -> row.of(each.getKey()).equals(each.getValue())))
                        .limit(most)
                        .toList())
                .orElseGet(() -> once(
                        new Matching(table, Map.copyOf(values), most), () -> stored.matching(table, values, most)));
    }

    private record Spelled(String table, String column, String typed) {}

    @Override
    public List<String> spelled(String table, Column column, String typed) {
        var question = new Spelled(table, column.name(), typed);
        // Who brings in thousands that are not there is not told of each what it may be.
        return answers.containsKey(question) || slips.incrementAndGet() <= MOST_SLIPS
                ? once(question, () -> stored.spelled(table, column, typed))
                : List.of();
    }

    private record Stayed(String table, Map<String, Value> values) {}

    @Override
    public Optional<StoredRow> stayed(String table, Map<String, Value> values) {
        return once(new Stayed(table, Map.copyOf(values)), () -> stored.stayed(table, values));
    }

    private record One(String table, long id) {}

    @Override
    public Optional<StoredRow> record(String table, long id) {
        return once(new One(table, id), () -> stored.record(table, id));
    }

    private record InRow(String table, long row) {}

    @Override
    public Optional<StoredRow> inRow(String table, long row) {
        return once(new InRow(table, row), () -> stored.inRow(table, row));
    }

    @Override
    public Map<String, List<StoredRow>> alike(String table, String column, Set<String> texts) {
        var known = new HashMap<String, List<StoredRow>>();
        for (var text : texts) {
            var rows = ahead.get(new TextAsked(table, column, text));
            if (rows == null) {
                return once(new AlikeAll(table, column, texts), () -> stored.alike(table, column, texts));
            }
            known.put(text, rows);
        }
        return known;
    }

    private record AlikeAll(String table, String column, Set<String> texts) {}

    @Override
    public Optional<StoredRow> alike(String table, Map<String, Value> values) {
        return looked(table, values)
                .map(rows -> rows.size() == 1 ? Optional.of(rows.getFirst()) : Optional.<StoredRow>empty())
                .orElseGet(() -> once(new Alike(table, Map.copyOf(values)), () -> stored.alike(table, values)));
    }

    @Override
    public Standing standing(long id) {
        return stored.standing(id);
    }
}
