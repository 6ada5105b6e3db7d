package weft.store.record;

import static weft.store.schema.Tables.HISTORY;
import static weft.store.schema.Tables.IDEMPOTENCY_KEY;

import java.time.OffsetDateTime;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Supplier;
import org.jooq.DSLContext;
import weft.core.record.StoredRow;
import weft.store.table.StoredTable;

/** What was saved under which key, so that a save sent twice is done once. */
public final class SaveKeys {

    private static final int AT_ONCE = 1_000;

    private final DSLContext sql;

    SaveKeys(DSLContext sql) {
        this.sql = sql;
    }

    /**
     * The first answer to the save of that key, or empty when there was none.
     *
     * @throws NotSaved when the key was used for something else
     */
    public Optional<StoredRow> savedBefore(StoredTable table, SaveKey key) {
        return Optional.ofNullable(under(table, List.of(key.key()), same(key)).get(key.key()));
    }

    /**
     * Does what is done once under a key: whatever ends it, what was saved under the key before is the answer.
     *
     * @param before makes the answer of that
     * @throws NotSaved when the key was used for something else
     */
    public <T> T once(StoredTable table, Optional<SaveKey> key, Function<StoredRow, T> before, Supplier<T> work) {
        return once(() -> key.flatMap(known -> savedBefore(table, known)).map(before), work);
    }

    /** The same where the first answer is found in another way. */
    public static <T> T once(Supplier<Optional<T>> before, Supplier<T> work) {
        try {
            return work.get();
        } catch (RuntimeException e) {
            return before.get().orElseThrow(() -> e);
        }
    }

    /** What was saved under that key, whatever was sent with it; empty when nothing was. */
    public Optional<StoredRow> savedUnder(StoredTable table, String key) {
        return Optional.ofNullable(under(table, List.of(key), _ -> {}).get(key));
    }

    /**
     * What was saved of so many lines of a batch under its key, by line from 1.
     *
     * @throws NotSaved when the key was used for something else
     */
    public Map<Integer, StoredRow> linesBefore(StoredTable table, SaveKey key, int lines) {
        var saved = new TreeMap<Integer, StoredRow>();
        for (int from = 1; from <= lines; from += AT_ONCE) {
            var asked = new HashMap<String, Integer>();
            for (int line = from; line <= Math.min(lines, from + AT_ONCE - 1); line++) {
                asked.put(key.ofLine(line).key(), line);
            }
            under(table, asked.keySet(), same(key)).forEach((of, row) -> saved.put(asked.get(of), row));
        }
        return saved;
    }

    private static Consumer<byte[]> same(SaveKey key) {
        return hash -> {
            if (!Arrays.equals(hash, key.bodyHash())) {
                throw new NotSaved(NotSaved.Reason.KEY_REUSED, Optional.empty());
            }
        };
    }

    private Map<String, StoredRow> under(StoredTable table, Collection<String> keys, Consumer<byte[]> body) {
        var saved = new HashMap<String, StoredRow>();
        sql.select(
                        IDEMPOTENCY_KEY.KEY,
                        IDEMPOTENCY_KEY.BODY_HASH,
                        IDEMPOTENCY_KEY.RECORD_ID,
                        IDEMPOTENCY_KEY.ROW_NO,
                        HISTORY.AFTER)
                .from(IDEMPOTENCY_KEY)
                .join(HISTORY)
                .on(HISTORY.TABLE_ID.eq(IDEMPOTENCY_KEY.TABLE_ID))
                .and(HISTORY.RECORD_ID.eq(IDEMPOTENCY_KEY.RECORD_ID))
                .and(HISTORY.VERSION.eq(1))
                .where(IDEMPOTENCY_KEY.TABLE_ID.eq(table.id()))
                .and(IDEMPOTENCY_KEY.KEY.in(keys))
                .forEach(row -> {
                    body.accept(row.value2());
                    var values = ValuesJson.read(row.value5().data(), table.definition());
                    saved.put(
                            row.value1(),
                            new StoredRow(row.value3(), row.value4(), 1, ValuesJson.held(values, table.definition())));
                });
        return saved;
    }

    /** Forgets keys of saves before that; a save sent again after it is a new one. */
    public int forgetKeys(OffsetDateTime before) {
        return sql.deleteFrom(IDEMPOTENCY_KEY)
                .where(IDEMPOTENCY_KEY.AT.lt(before))
                .execute();
    }
}
