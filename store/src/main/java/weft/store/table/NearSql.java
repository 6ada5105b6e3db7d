package weft.store.table;

import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.zip.CRC32;
import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.SQLDialect;
import org.jooq.impl.DSL;
import org.jooq.impl.SQLDataType;
import weft.core.alike.Near;
import weft.core.alike.Words;
import weft.core.table.Column;
import weft.core.value.Value;

/** The SQL of what may be nearly the same as some values: all that is, and some that the core then sees is not. */
public final class NearSql {

    /** With what names of indexes begin that are made for this. */
    public static final String NEAR = "near_";

    /** In a table of fewer bytes each record is looked at where there is no index. */
    private static final int LOOKED_AT = 1_000_000;

    private NearSql() {}

    /**
     * What records fulfil that may be nearly the same in all of these columns.
     *
     * @param sound whether those are meant as well that sound alike
     */
    public static Condition near(List<Column> columns, Map<String, Value> values, boolean sound) {
        return DSL.and(columns.stream()
                .map(column -> near(column, values.getOrDefault(column.name(), Value.EMPTY), sound))
                .toList());
    }

    private static Condition near(Column column, Value value, boolean sound) {
        if (Near.isWords(column)) {
            var marks = Words.of(value.plain()).around();
            var same = call("weft.near_head", column)
                    .in(marks.heads())
                    .or(call("weft.near_tail", column).in(marks.tails()))
                    .or(call("weft.near_order", column).eq(marks.order()));
            return sound ? same.or(call("weft.near_sound", column).eq(sound(value.plain()))) : same;
        }
        var around = Near.around(value).stream()
                .map(each -> ColumnSql.bound(column, each).coerce(Object.class))
                .toList();
        return ColumnSql.of(column).coerce(Object.class).in(around);
    }

    private static Field<String> call(String function, Column column) {
        return DSL.field(function + "({0})", SQLDataType.CLOB, ColumnSql.of(column));
    }

    /** Worked out once for a question: in a plan that holds for any text it would else be for each record. */
    private static Field<String> sound(String text) {
        return DSL.field("(select weft.near_sound({0}))", SQLDataType.CLOB, DSL.val(text, SQLDataType.CLOB));
    }

    /**
     * Whether records are found without a look at each: the table is small, or its indexes are there. While those of a large table
     * are being built nobody waits for it, and nothing is found.
     */
    public static Condition ready(StoredTable table, List<Column> columns, boolean sound) {
        var names = columns.stream()
                .flatMap(column -> indexed(column, sound).keySet().stream().map(what -> index(table, column, what)))
                .toList();
        return DSL.condition(
                "(select pg_relation_size({0}::regclass) < {1} or {2} = (select count(*) from pg_index i"
                        + " join pg_class c on c.oid = i.indexrelid where i.indrelid = {0}::regclass and i.indisvalid"
                        + " and c.relname = any({3})))",
                DSL.inline(DSL.using(SQLDialect.POSTGRES).render(table.relation())),
                DSL.inline(LOOKED_AT),
                DSL.inline(names.size()),
                DSL.val(names.toArray(String[]::new)));
    }

    /** The name of an index that a column is found by, of the kind of that word. */
    public static String index(StoredTable table, Column column, String what) {
        var sum = new CRC32();
        sum.update(column.name().getBytes(StandardCharsets.UTF_8));
        return NEAR + table.id() + "_" + Long.toHexString(sum.getValue()) + "_" + what;
    }

    /**
     * The expressions of a column on which indexes are made that this is found by, each by a word of its own.
     *
     * @param sound whether what sounds alike is looked for
     */
    public static Map<String, Field<String>> indexed(Column column, boolean sound) {
        var indexed = new LinkedHashMap<String, Field<String>>();
        if (Near.isWords(column)) {
            indexed.put("head", call("weft.near_head", column));
            indexed.put("tail", call("weft.near_tail", column));
            indexed.put("order", call("weft.near_order", column));
            if (sound) {
                indexed.put("sound", call("weft.near_sound", column));
            }
        }
        return indexed;
    }
}
