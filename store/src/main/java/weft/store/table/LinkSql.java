package weft.store.table;

import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.name;

import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.JSONB;
import org.jooq.Record;
import org.jooq.Table;
import org.jooq.impl.DSL;
import org.jooq.impl.SQLDataType;
import tools.jackson.databind.json.JsonMapper;
import weft.core.table.Column;
import weft.core.table.Link;
import weft.core.value.Value;

/**
 * How links look to SQL. The column itself holds the identity of the record; what that is called is looked up, in the words
 * that {@link Link#words} makes of it. The records stand in a table within of three names that no column has, so that the
 * linking column means what it means outside.
 */
public final class LinkSql {

    private static final JsonMapper JSON = JsonMapper.shared();

    private static final Field<Long> ID = field(name("_to_id"), SQLDataType.BIGINT);
    private static final Field<Long> ROW = field(name("_to_row"), SQLDataType.BIGINT);
    private static final Field<String> WORDS = field(name("_to_words"), SQLDataType.CLOB);

    private static final Field<String[]> EACH = field(name("_to_each"), SQLDataType.CLOB.array());

    private LinkSql() {}

    /** The records that a link leads to, with what each is called. */
    private static Table<Record> records(Link link) {
        return DSL.table(
                "(select _id as _to_id, _row as _to_row, {0} as _to_words, {1} as _to_each from {2}) as _to",
                words(link),
                field(
                        "array[{0}]::text[]",
                        DSL.list(link.shown().stream().map(LinkSql::words).toList())),
                DSL.table(name("records", link.to())));
    }

    /** What a record is called, in its own table. */
    public static Field<String> words(Link link) {
        if (link.shown().isEmpty()) {
            return field("'row ' || _row", SQLDataType.CLOB);
        }
        var words = link.shown().stream().map(LinkSql::words).toList();
        return field("coalesce(nullif(concat_ws(', ', {0}), ''), 'row ' || _row)", SQLDataType.CLOB, DSL.list(words));
    }

    /** A value as {@link Value#spoken} says it. */
    private static Field<String> words(Column column) {
        var value = field(name(column.name()));
        return switch (column.type()) {
            case DECIMAL -> field("trim_scale({0})::text", SQLDataType.CLOB, value);
            case DATE -> field("to_char({0}, 'Dy FMDD Mon YYYY')", SQLDataType.CLOB, value);
            case TEXT, LONGTEXT, WHOLE, YESNO, TIME, DATETIME, CHOICE, PICTURE, LINK ->
                field("{0}::text", SQLDataType.CLOB, value);
        };
    }

    /** Identity, row and words, or null, under the name of the column. */
    static Field<JSONB> read(Column column, Link link) {
        return DSL.field(DSL.select(field("jsonb_build_array({0}, {1}, {2})", SQLDataType.JSONB, ID, ROW, WORDS))
                        .from(records(link))
                        .where(ID.eq(linking(column))))
                .as(column.name());
    }

    /** What that selected. */
    static Value value(JSONB read) {
        var parts = JSON.readTree(read.data());
        return new Value.Link(
                parts.get(0).longValue(), parts.get(1).longValue(), parts.get(2).stringValue());
    }

    /** What the record is called that a column links to, or null. */
    public static Field<String> called(Column column) {
        var link = column.link().orElseThrow();
        return DSL.field(DSL.select(WORDS).from(records(link)).where(ID.eq(linking(column))));
    }

    /** Whether the words of the record that a column links to are so, all of them or one of its values; no link has any. */
    public static Condition called(Column column, UnaryCondition so) {
        var one = field(name("_to_one"), SQLDataType.CLOB);
        var each = DSL.selectOne()
                .from(DSL.table("unnest({0}) as {1}", EACH, DSL.name("_to_one")))
                .where(so.of(one));
        return linksTo(column, so.of(WORDS).or(DSL.exists(each)));
    }

    /** Whether the record that a column links to is called just that, by all its words or by one of its values. */
    public static Condition calledJust(Column column, Field<String> name) {
        return linksTo(column, WORDS.eq(name).or(name.eq(DSL.any(EACH))));
    }

    /** What is asked of some words. */
    public interface UnaryCondition {
        /** Whether they are so. */
        Condition of(Field<String> words);
    }

    private static Condition linksTo(Column column, Condition which) {
        return linking(column)
                .in(DSL.select(ID).from(records(column.link().orElseThrow())).where(which));
    }

    private static Field<Long> linking(Column column) {
        return field(name(column.name()), SQLDataType.BIGINT);
    }
}
