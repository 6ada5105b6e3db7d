package weft.core.alike;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.function.Consumer;
import weft.core.record.StoredRow;
import weft.core.table.Column;

/** As many records of a table as are held in memory at once, to which all that come before them are held. */
public final class AlikeBlock {

    /** So many records with so many keys take some 80 MB. */
    public static final int MOST_RECORDS = 100_000;

    private static final int MOST_KEYS = 2_000_000;

    private final List<Column> columns;
    private final boolean sound;
    private final AlikeKeys keys;
    private final int most;
    private final List<StoredRow> records = new ArrayList<>();

    /** By the last bits of a key: the place after that of the last entry with it; by each entry, of the one before it. */
    private final int[] latest = new int[1 << 21];

    private int[] before = new int[1 << 12];
    private long[] key = new long[1 << 12];
    private int[] of = new int[1 << 12];
    private int entries;
    private long compared;

    /**
     * None yet, of records that are compared in these columns.
     *
     * @param most so many records fill it
     */
    public AlikeBlock(List<Column> columns, boolean sound, AlikeKeys keys, int most) {
        this.columns = List.copyOf(columns);
        this.sound = sound;
        this.keys = keys;
        this.most = most;
    }

    /** Takes a record in, whose identity is higher than those of all before. */
    public void add(StoredRow record) {
        for (long each : keys.own(record.values())) {
            if (entries == key.length) {
                before = Arrays.copyOf(before, 2 * entries);
                key = Arrays.copyOf(key, 2 * entries);
                of = Arrays.copyOf(of, 2 * entries);
            }
            key[entries] = each;
            of[entries] = records.size();
            before[entries] = latest[at(each)];
            latest[at(each)] = ++entries;
        }
        records.add(record);
    }

    /** Whether it holds as many as it may. */
    public boolean full() {
        return entries >= MOST_KEYS || records.size() >= most;
    }

    /** How many there are. */
    public int size() {
        return records.size();
    }

    /** The identity of the last one. */
    public long last() {
        return records.getLast().id();
    }

    /** How many were held each to each. */
    public long compared() {
        return compared;
    }

    /** Those of higher identity than the record that are nearly the same as it. */
    public void alike(StoredRow record, Consumer<Likeness> taker) {
        var met = new LinkedHashSet<Integer>();
        for (long each : keys.around(record.values())) {
            for (int entry = latest[at(each)]; entry > 0; entry = before[entry - 1]) {
                if (key[entry - 1] == each && records.get(of[entry - 1]).id() > record.id()) {
                    met.add(of[entry - 1]);
                }
            }
        }
        compared += met.size();
        for (int other : met) {
            Likeness.of(columns, record.values(), records.get(other), sound).ifPresent(taker);
        }
    }

    private int at(long key) {
        return (int) key & (latest.length - 1);
    }
}
