package weft.store.record;

import java.util.LinkedHashMap;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;
import weft.store.table.SeenTable;

/**
 * Whether a state that a record once had was among those that are to be seen of its table. It is made a row of the table again
 * and asked by the very condition that stored rows are asked by.
 */
final class InView {

    private static final JsonMapper JSON = JsonMapper.shared();

    private final DSLContext sql;
    private final SeenTable table;

    InView(DSLContext sql, SeenTable table) {
        this.sql = sql;
        this.table = table;
    }

    /**
     * Whether that state was.
     *
     * @param state the values of all columns, by the names they have now
     * @param id the record's identity
     * @param by the name of who entered the record
     */
    boolean was(Map<String, Object> state, long id, String by) {
        var row = new LinkedHashMap<String, @Nullable Object>(state);
        row.replaceAll((_, value) -> ValuesJson.linked(value).isPresent()
                ? (Object) ValuesJson.linked(value).getAsLong()
                : value);
        row.put("_id", id);
        row.put("_entered_by", by);
        return sql.fetchExists(DSL.selectOne()
                .from(DSL.table(
                        "jsonb_populate_record(null::{0}, {1})",
                        table.sqlName(), DSL.val(JSONB.valueOf(JSON.writeValueAsString(row)))))
                .where(table.inView()));
    }
}
