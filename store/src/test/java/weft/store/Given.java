package weft.store;

import java.time.Clock;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.Set;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Function;
import weft.core.entry.EntryEngine;
import weft.core.entry.step.Write;
import weft.core.record.StoredRow;
import weft.core.table.Table;
import weft.core.table.TableProposal;
import weft.core.table.TableProposal.ColumnProposal;
import weft.core.value.ColumnType;
import weft.core.value.Value;
import weft.core.value.Wire;
import weft.store.entry.Looking;
import weft.store.find.Breaks;
import weft.store.find.Views;
import weft.store.form.Definitions;
import weft.store.record.EntryWriter;
import weft.store.record.EntryWriter.Entry;
import weft.store.record.Following;
import weft.store.record.Following.Followed;
import weft.store.record.Records;
import weft.store.record.SaveKey;
import weft.store.table.StoredTable;
import weft.store.table.Tables;

/** Tables and values for tests. */
public final class Given {

    private static final AtomicInteger TABLES = new AtomicInteger();
    private static final LocalDate DAY = LocalDate.of(2026, 8, 1);
    private static EntryWriter writer;

    private Given() {}

    /** A column; after its type may stand {@code required} or {@code unique}, such as {@code "code text unique"}. */
    public static ColumnProposal column(String words) {
        var word = words.split(" ");
        var type = Wire.constant(ColumnType.class, word[1]);
        var column = ColumnProposal.plain(word[0], "", type)
                .required(words.contains(" required"))
                .unique(words.contains(" unique"));
        return switch (type) {
            case DECIMAL -> column.scaled(OptionalInt.of(1)).within(Optional.of("0"), Optional.of("14"));
            case CHOICE -> column.of(List.of("low", "it's high"));
            default -> column;
        };
    }

    /** A new table of such columns. */
    public static StoredTable table(String placement, String... columns) {
        var proposal = new TableProposal(
                "t" + TABLES.incrementAndGet(),
                "",
                Arrays.stream(columns).map(Given::column).toList(),
                Wire.constant(Table.Placement.class, placement));
        return new Tables(TestDatabase.get().sql()).make(proposal.checked());
    }

    /** What writes entries, knowing the tables as they are now. */
    public static synchronized EntryWriter writer() {
        if (writer == null) {
            writer = new EntryWriter(
                    TestDatabase.get(), new Tables(TestDatabase.get().sql())::find);
        }
        return writer;
    }

    /** What looks at stored records with a rule. */
    public static Looking looking(Definitions definitions) {
        var database = TestDatabase.get();
        var tables = new Tables(database.sql());
        return new Looking(
                new Breaks(database),
                new EntryEngine(Clock.systemUTC()),
                new Records(database.sql()),
                definitions,
                tables,
                new Views(database, tables));
    }

    /** A new record. */
    public static StoredRow saved(StoredTable table, Map<String, Value> values, Optional<SaveKey> key, String by) {
        return writer().save(
                        new Entry("", table, values, OptionalLong.empty(), 0, key, List.of(), DAY, by),
                        Following.NOTHING)
                .record();
    }

    /** Adds a row to that table beside the entry, with what it says of the entry as its site. */
    public static Following alsoTo(StoredTable other, Function<StoredRow, Value> site) {
        var name = other.definition().name();
        return Following.of(
                Set.of(name), (written, _) -> writing(new Write.Add(name, values("site", site.apply(written)))));
    }

    /** What is written beside an entry. */
    public static Followed writing(Write... writes) {
        return new Followed(List.of(writes), List.of());
    }

    /** A record as it was changed. */
    public static StoredRow changed(StoredTable table, long id, int version, Map<String, Value> values, String by) {
        return writer().save(Entry.over(table, id, version, values, DAY, by), Following.NOTHING)
                .record();
    }

    /** Values by column name. */
    public static Map<String, Value> values(Object... namesAndValues) {
        var values = new LinkedHashMap<String, Value>();
        for (int i = 0; i < namesAndValues.length; i += 2) {
            values.put((String) namesAndValues[i], (Value) namesAndValues[i + 1]);
        }
        return values;
    }

    /** A text value. */
    public static Value text(String text) {
        return new Value.Text(text);
    }
}
