package weft.store.record;

import static weft.store.schema.Tables.MADE_ONE_GONE;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.impl.DSL;
import weft.core.record.StoredRow;
import weft.core.value.Value;
import weft.core.value.ValueReader;
import weft.store.json.Json;
import weft.store.table.StoredTable;

/** Records that went as several were made one, found by what they held, so that what is typed of them leads to the one that stayed. */
final class Gone {

    /** Nobody types more of a record. */
    private static final int LONGEST = 200;

    private Gone() {}

    /** Keeps what records held that went. */
    static void keep(DSLContext within, StoredTable table, long madeOne, long stays, List<StoredRow> gone) {
        gone.forEach(record -> within.insertInto(MADE_ONE_GONE)
                .set(MADE_ONE_GONE.MADE_ONE_ID, madeOne)
                .set(MADE_ONE_GONE.GONE_ID, record.id())
                .set(MADE_ONE_GONE.RECORD_ID, stays)
                .set(MADE_ONE_GONE.CALLED, called(table, record.values()))
                .execute());
    }

    /** They are there again. */
    static void forget(DSLContext within, long madeOne) {
        within.deleteFrom(MADE_ONE_GONE)
                .where(MADE_ONE_GONE.MADE_ONE_ID.eq(madeOne))
                .execute();
    }

    /** The record that stayed of those of which one that went had these values; empty when there is none, or more than one. */
    static Optional<Long> stayed(DSLContext sql, StoredTable table, Map<String, Value> values) {
        var stayed = sql.fetch(
                        "with recursive led as (select record_id from weft.made_one_gone where called @> {0}"
                                + " and not exists (select from {1} where _id = gone_id)"
                                + " union select g.record_id from led join weft.made_one_gone g on g.gone_id = led.record_id"
                                + " and not exists (select from {1} where _id = gone_id))"
                                + " select _id from {1} where _id in (select record_id from led) limit 2",
                        DSL.val(called(table, values)), DSL.table(table.sqlName()))
                .getValues(0, Long.class);
        return stayed.size() == 1 ? Optional.of(stayed.getFirst()) : Optional.empty();
    }

    private static JSONB called(StoredTable table, Map<String, Value> values) {
        return JSONB.valueOf(Json.MAPPER.writeValueAsString(values.entrySet().stream()
                .filter(each ->
                        !each.getValue().isEmpty() && key(each.getValue()).length() <= LONGEST)
                .collect(Collectors.toMap(each -> "" + table.columnId(each.getKey()), each -> key(each.getValue())))));
    }

    private static String key(Value value) {
        return value instanceof Value.Link link ? "" + link.id() : ValueReader.fold(value.plain());
    }
}
