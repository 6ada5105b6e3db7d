package weft.store.table;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.zip.CRC32;
import org.jooq.Condition;
import org.jooq.QueryPart;
import org.jooq.SQLDialect;
import org.jooq.impl.DSL;
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
            var marks = Words.of(value.plain()).around().toArray(String[]::new);
            return sound
                    // How it sounds is worked out once for a question: in a plan that holds for any text it would else
                    // be for each record.
                    ? DSL.condition(
                            "weft.near_marks({0}) && array_append(cast({1} as text[]), (select weft.near_sounding(weft.near_words({2}))))",
                            ColumnSql.of(column), DSL.val(marks), DSL.val(value.plain()))
                    : DSL.condition(
                            "weft.near_marks({0}) && cast({1} as text[])", ColumnSql.of(column), DSL.val(marks));
        }
        var around = Near.around(value).stream()
                .map(each -> ColumnSql.bound(column, each).coerce(Object.class))
                .toList();
        return ColumnSql.of(column).coerce(Object.class).in(around);
    }

    /**
     * Whether records are found without a look at each: the table is small, or its indexes are there. While those of a large table
     * are being built nobody waits for it, and nothing is found.
     */
    public static Condition ready(StoredTable table, List<Column> columns) {
        var names = columns.stream()
                .filter(Near::isWords)
                .map(column -> index(table, column))
                .toArray(String[]::new);
        return DSL.condition(
                "(select pg_relation_size({0}::regclass) < {1} or {2} = (select count(*) from pg_index i"
                        + " join pg_class c on c.oid = i.indexrelid where i.indrelid = {0}::regclass and i.indisvalid"
                        + " and c.relname = any({3})))",
                DSL.inline(render(table.relation())), DSL.inline(LOOKED_AT), DSL.inline(names.length), DSL.val(names));
    }

    /** The name of the index that what is near in a column of words is found by. */
    public static String index(StoredTable table, Column column) {
        var sum = new CRC32();
        sum.update(column.name().getBytes(StandardCharsets.UTF_8));
        return NEAR + table.id() + "_" + Long.toHexString(sum.getValue()) + "_marks";
    }

    /**
     * What that index is made on, as {@code create index} has it. What is written goes into it at once: a list of what is to be added
     * later would be read by each question.
     */
    public static String indexed(Column column) {
        return "using gin (weft.near_marks(" + render(ColumnSql.of(column)) + ")) with (fastupdate = off)";
    }

    private static String render(QueryPart part) {
        return DSL.using(SQLDialect.POSTGRES).render(part);
    }
}
