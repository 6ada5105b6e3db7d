package weft.core.record;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import weft.core.table.Column;
import weft.core.table.Link;
import weft.core.value.ColumnType;
import weft.core.value.Conventions;
import weft.core.value.Reading;
import weft.core.value.Reading.Read;
import weft.core.value.Reading.Refused;
import weft.core.value.Refusal;
import weft.core.value.Value;
import weft.core.value.ValueReader;

/**
 * Finds the record that a link means. It is named by the value of one of the shown columns, by all of them as they are shown,
 * or, where several are called alike, by its row as well: "Stepping stones (row 3)". Exactly one record must be meant; where
 * one is called just so and others differ in case or accents only, it is that one.
 */
public final class Links {

    /** So many are looked at of those that are called alike. */
    private static final int MOST = 50;

    private static final Pattern WITH_ROW =
            Pattern.compile("(?i)(?:(.*\\S)\\s+\\(row\\s+(\\d{1,18})\\)|row\\s+(\\d{1,18}))");

    private final StoredRows stored;
    private final ValueReader reader;

    /**
     * Among these records.
     *
     * @param conventions how the values of shown columns are written
     */
    public Links(StoredRows stored, Conventions conventions) {
        this.stored = stored;
        this.reader = ValueReader.ofStored(conventions);
    }

    /** Looks up at once what many words mean, so that none of them need be looked up alone. */
    public static void lookUp(Link link, Set<String> words, RememberedRows stored) {
        if (words.isEmpty()) {
            return;
        }
        link.shown().stream()
                .filter(column -> column.type().isText())
                .forEach(column -> stored.lookUp(link.to(), column.name(), words));
    }

    /** The link to a record. */
    public static Value.Link to(Link link, StoredRow row) {
        return new Value.Link(row.id(), row.row(), link.words(row.row(), row.values()));
    }

    /**
     * What was read, as a value of that column: of a link column the record that is meant, or a refusal with a sentence.
     *
     * @param before what the column holds already, which is meant by its own words whoever else is called so
     */
    public Reading meant(Column column, Reading read, Value before) {
        if (column.link().isEmpty() || !(read instanceof Read(var value, var _)) || value.isEmpty()) {
            return read;
        }
        if (value.equals(before)
                || (before instanceof Value.Link(var _, var _, var shown) && shown.equals(value.plain()))) {
            return new Read(before, "");
        }
        var link = column.link().get();
        return value instanceof Value.Link(long id, long _, var _) ? known(link, id) : named(link, value.plain());
    }

    private Reading known(Link link, long id) {
        return stored.record(link.to(), id)
                .<Reading>map(row -> new Read(to(link, row), to(link, row).shown()))
                .orElseGet(() -> new Refused(new Refusal.RecordGone(link.title())));
    }

    private Reading named(Link link, String typed) {
        var called = called(link, typed);
        var found = called.isEmpty() ? stayed(link, typed) : called;
        if (found.size() == 1) {
            var meant = to(link, found.getFirst());
            return new Read(meant, meant.shown().equals(typed) ? "" : meant.shown());
        }
        return new Refused(
                found.isEmpty()
                        ? new Refusal.NoRecord(
                                link.title(),
                                Refusal.said(typed),
                                link.shown().stream().findFirst().map(Column::title),
                                like(link, typed))
                        : new Refusal.SeveralRecords(
                                link.title(),
                                Refusal.said(typed),
                                Optional.of(found.size()).filter(many -> many < MOST),
                                found.stream().limit(5).map(StoredRow::row).toList()));
    }

    /** What stayed of what was called so by one of its columns. */
    private List<StoredRow> stayed(Link link, String typed) {
        return link.shown().stream()
                .flatMap(column ->
                        value(column, typed)
                                .flatMap(value -> stored.stayed(link.to(), Map.of(column.name(), value)))
                                .stream())
                .limit(1)
                .toList();
    }

    /** What is nearly spelled so in the first of its columns that has any. */
    private List<String> like(Link link, String typed) {
        return link.shown().stream()
                .filter(column -> column.type().isText())
                .map(column -> stored.spelled(link.to(), column, typed))
                .filter(like -> !like.isEmpty())
                .findFirst()
                .orElse(List.of());
    }

    /** The records that are called so, by row. */
    public List<StoredRow> called(Link link, String typed) {
        var withRow = WITH_ROW.matcher(typed);
        if (withRow.matches()) {
            boolean bare = withRow.group(1) == null;
            long row = Long.parseLong(bare ? withRow.group(3) : withRow.group(2));
            var there = stored.inRow(link.to(), row)
                    .filter(each -> bare
                            ? link.words(row, each.values()).equals("row " + row)
                            : calledSo(link, each, withRow.group(1)));
            if (there.isPresent()) {
                return List.of(there.get());
            }
        }
        var one = byOneColumn(link, typed);
        return one.isEmpty() && link.shown().size() > 1 ? byAllColumns(link, typed) : one;
    }

    private boolean calledSo(Link link, StoredRow row, String typed) {
        return ValueReader.fold(link.words(row.row(), row.values())).equals(ValueReader.fold(typed))
                || link.shown().stream()
                        .map(column -> row.of(column.name()))
                        .anyMatch(value -> !value.isEmpty()
                                && ValueReader.fold(value.spoken()).equals(ValueReader.fold(typed)));
    }

    private List<StoredRow> byOneColumn(Link link, String typed) {
        var found = new LinkedHashMap<Long, StoredRow>();
        var exactly = new ArrayList<StoredRow>();
        for (var column : link.shown()) {
            for (var row : with(link, column, typed)) {
                if (found.putIfAbsent(row.id(), row) == null
                        && row.of(column.name()).plain().equals(typed)) {
                    exactly.add(row);
                }
            }
        }
        return exactly.size() == 1 ? exactly : byRow(found.values());
    }

    /** All words as they are shown begin with the value of the first column that is filled. */
    private List<StoredRow> byAllColumns(Link link, String typed) {
        var found = new LinkedHashMap<Long, StoredRow>();
        var first = new ArrayList<String>();
        for (int comma = typed.indexOf(", "); comma >= 0; comma = typed.indexOf(", ", comma + 1)) {
            first.add(typed.substring(0, comma));
        }
        for (var column : link.shown()) {
            for (var words : first) {
                with(link, column, words).stream()
                        .filter(row -> ValueReader.fold(link.words(row.row(), row.values()))
                                .equals(ValueReader.fold(typed)))
                        .forEach(row -> found.put(row.id(), row));
            }
            if (!found.isEmpty()) {
                break;
            }
        }
        var exactly = found.values().stream()
                .filter(row -> link.words(row.row(), row.values()).equals(typed))
                .toList();
        return exactly.size() == 1 ? exactly : byRow(found.values());
    }

    private List<StoredRow> with(Link link, Column column, String typed) {
        return value(column, typed).stream()
                .flatMap(value -> with(link, column, value).stream())
                .toList();
    }

    /** What was typed as a value of a shown column. */
    private Optional<Value> value(Column column, String typed) {
        return reader.read(column.kind(), typed) instanceof Read(var value, var _)
                        && !value.isEmpty()
                        && (column.type() != ColumnType.CHOICE
                                || ValueReader.fold(value.plain()).equals(ValueReader.fold(typed)))
                ? Optional.of(value)
                : Optional.empty();
    }

    private List<StoredRow> with(Link link, Column column, Value value) {
        if (value instanceof Value.Text(var text) && column.type().isText()) {
            return Optional.ofNullable(
                            stored.alike(link.to(), column.name(), Set.of(text)).get(text))
                    .orElseGet(() -> stored.matching(link.to(), Map.of(column.name(), value), MOST))
                    .stream()
                    .limit(MOST)
                    .toList();
        }
        return stored.matching(link.to(), Map.of(column.name(), value), MOST);
    }

    private static List<StoredRow> byRow(Iterable<StoredRow> rows) {
        var sorted = new ArrayList<StoredRow>();
        rows.forEach(sorted::add);
        sorted.sort(Comparator.comparingLong(StoredRow::row));
        return sorted;
    }
}
