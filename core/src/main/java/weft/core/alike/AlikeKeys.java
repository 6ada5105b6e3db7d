package weft.core.alike;

import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import weft.core.record.StoredRow;
import weft.core.table.Column;
import weft.core.value.Value;

/**
 * What records are found by among very many, as keys of 64 bits: of two that are nearly the same, those looked up for the one hold
 * one that the other has. A key in common says no more; how near two are says {@link Likeness}. Two texts one letter apart are
 * the same once a letter is left out of each, or out of the longer one.
 */
public final class AlikeKeys {

    /** Longer texts are found by their halves, as the database finds them. */
    private static final int LETTER_BY_LETTER = 200;

    private final Optional<Column> words;
    private final List<Column> others;
    private final boolean sound;

    private AlikeKeys(Optional<Column> words, List<Column> others, boolean sound) {
        this.words = words;
        this.others = others;
        this.sound = sound;
    }

    /**
     * For records that are compared in these columns.
     *
     * @param sound whether those are near that sound alike
     * @param some records to judge by which column of words says most
     */
    public static AlikeKeys of(List<Column> columns, boolean sound, List<StoredRow> some) {
        var words = columns.stream()
                .filter(Near::isWords)
                .max(Comparator.comparingLong(column -> some.stream()
                        .map(record -> record.of(column.name()))
                        .distinct()
                        .count()));
        var exact = columns.stream().filter(column -> !Near.isWords(column) && !spreads(column));
        // One column with neighbours; with more of them keys would be too many.
        var spread = columns.stream().filter(AlikeKeys::spreads).limit(1);
        return new AlikeKeys(words, Stream.concat(exact, spread).toList(), sound);
    }

    private static boolean spreads(Column column) {
        return switch (column.type()) {
            case WHOLE, DECIMAL, DATE, TIME -> true;
            case TEXT, LONGTEXT, CHOICE, YESNO, DATETIME, PICTURE, LINK -> false;
        };
    }

    /** The keys that a record has; none where it is empty in one of the columns. */
    public long[] own(Map<String, Value> record) {
        return keys(record, true);
    }

    /** The keys that are looked up for it; none where it is empty in one of the columns. */
    public long[] around(Map<String, Value> record) {
        return keys(record, false);
    }

    private long[] keys(Map<String, Value> record, boolean own) {
        var keys = new long[] {1};
        for (var column : others) {
            var value = record.getOrDefault(column.name(), Value.EMPTY);
            if (value.isEmpty()) {
                return new long[0];
            }
            var near = own ? List.of(value) : Near.around(value);
            keys = crossed(
                    keys,
                    near.stream().mapToLong(each -> hash(Near.spelled(each))).toArray());
        }
        if (words.isEmpty()) {
            return keys;
        }
        return record.getOrDefault(words.get().name(), Value.EMPTY) instanceof Value.Text(var text)
                ? crossed(keys, ofText(text, own))
                : new long[0];
    }

    private static long[] crossed(long[] keys, long[] more) {
        var crossed = new long[keys.length * more.length];
        for (int at = 0; at < crossed.length; at++) {
            crossed[at] = mixed(keys[at / more.length] * 31 + more[at % more.length]);
        }
        return crossed;
    }

    private long[] ofText(String text, boolean own) {
        var spelled = Words.of(text);
        var letters = spelled.joined().codePoints().toArray();
        if (letters.length == 0) {
            return new long[] {hash(text)};
        }
        var keys = new Keys(letters.length + 3);
        keys.add(hash("=" + spelled.sorted()));
        if (letters.length <= LETTER_BY_LETTER) {
            keys.add(mixed(hash(letters, -1)));
            for (int without = 0; without < letters.length; without++) {
                // Of two letters that are the same it is all one which is left out.
                if (without == 0 || letters[without] != letters[without - 1]) {
                    keys.add(mixed(hash(letters, without)));
                }
            }
        }
        if (letters.length >= LETTER_BY_LETTER) {
            (own ? spelled.own() : spelled.around()).forEach(mark -> keys.add(hash(mark)));
        }
        if (sound) {
            keys.add(hash("~" + spelled.sounds()));
        }
        return keys.all();
    }

    /** Keys as they come. */
    private static final class Keys {
        private long[] keys;
        private int many;

        Keys(int most) {
            keys = new long[most];
        }

        void add(long key) {
            if (many == keys.length) {
                keys = Arrays.copyOf(keys, 2 * many);
            }
            keys[many++] = key;
        }

        long[] all() {
            return Arrays.copyOf(keys, many);
        }
    }

    private static long hash(String text) {
        return mixed(hash(text.codePoints().toArray(), -1) ^ text.length());
    }

    /** Of all those letters but the one at that place. */
    private static long hash(int[] letters, int without) {
        long hash = 0;
        for (int at = 0; at < letters.length; at++) {
            if (at != without) {
                hash = hash * 0x9E3779B97F4A7C15L + letters[at] + 1;
            }
        }
        return hash;
    }

    /** Spread over all 64 bits: the last step of splitmix64. */
    private static long mixed(long key) {
        long first = (key ^ (key >>> 30)) * 0xBF58476D1CE4E5B9L;
        long second = (first ^ (first >>> 27)) * 0x94D049BB133111EBL;
        return second ^ (second >>> 31);
    }
}
