package weft.store.table;

import static weft.store.schema.Tables.COLUMN_DEF;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.Result;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;
import weft.store.table.StoredTable.Adopted;

/** Where an adopted table is now, and what holds there: it may have been renamed, and been given constraints, since. */
final class AdoptedTable {

    private static final JsonMapper JSON = JsonMapper.shared();

    private AdoptedTable() {}

    /** Of that table, with the definitions of its columns; somewhere else when somebody has dropped it. */
    static Optional<Adopted> of(DSLContext sql, long table, Result<? extends Record> definitions) {
        var columns = new LinkedHashMap<String, String>();
        var seen = new HashMap<String, String>();
        for (var row : definitions) {
            for (var base : bases(row)) {
                columns.putIfAbsent(base, row.get(COLUMN_DEF.NAME));
            }
            Optional.ofNullable(row.get(COLUMN_DEF.SEEN))
                    .ifPresent(expression -> seen.put(row.get(COLUMN_DEF.NAME), expression));
        }
        var constraints = new HashMap<String, List<String>>();
        var place = sql.fetch(
                "select n.nspname::text, c.relname::text from pg_class c join pg_namespace n on n.oid = c.relnamespace"
                        + " where c.oid = weft.relation({0})",
                table);
        // Those of its columns' domains are told like its own.
        sql.fetch(
                        "select k.conname::text, a.attname::text from pg_constraint k join pg_attribute a"
                                + " on a.attrelid = k.conrelid and a.attnum = any(k.conkey) where k.conrelid = weft.relation({0})"
                                + " union all select k.conname::text, a.attname::text from pg_constraint k join pg_attribute a"
                                + " on a.atttypid = k.contypid where k.contypid <> 0 and a.attrelid = weft.relation({0})",
                        table)
                .forEach(row -> Optional.ofNullable(columns.get(row.get(1, String.class)))
                        .ifPresent(column -> constraints
                                .computeIfAbsent(row.get(0, String.class), _ -> new ArrayList<>())
                                .add(column)));
        return Optional.of(new Adopted(
                place.isEmpty() ? "" : place.getFirst().get(0, String.class),
                place.isEmpty() ? "" : place.getFirst().get(1, String.class),
                Map.copyOf(columns),
                Map.copyOf(seen),
                Map.copyOf(constraints)));
    }

    private static List<String> bases(Record row) {
        var json = row.get(COLUMN_DEF.BASE);
        return json == null ? List.of() : JSON.readValue(json.data(), new TypeReference<List<String>>() {});
    }
}
