package weft.store.table;

import org.jooq.Field;
import org.jooq.impl.DSL;
import org.jooq.impl.SQLDataType;
import weft.core.table.Column;

/** Text without case and accents, in SQL: what it is sorted by, found by and compared by as people compare. */
public final class Folded {

    /** So much of a text is its key: what it is sorted by, and found by its beginning. */
    public static final int KEY_LENGTH = 200;

    private Folded() {}

    /** The whole of a text. */
    public static Field<String> of(Field<?> text) {
        return DSL.field("weft.fold({0})", SQLDataType.CLOB, text);
    }

    /** The key of a column's text. Indexes are made on this very expression. */
    public static Field<String> key(Column column) {
        return key(ColumnSql.of(column));
    }

    /** The key of a text. */
    public static Field<String> key(Field<?> text) {
        return DSL.field("{0} collate \"C\"", SQLDataType.CLOB, of(left(text)));
    }

    /** The key of what is only shown of a column: numbers in their order, then other text. */
    public static Field<String> shownKey(Column column) {
        return DSL.field("weft.shown_key({0}) collate \"C\"", SQLDataType.CLOB, left(ColumnSql.of(column)));
    }

    /** As much of a text as its key is made of. */
    public static Field<String> left(Field<?> text) {
        return DSL.field("left({0}, {1})", SQLDataType.CLOB, text, DSL.inline(KEY_LENGTH));
    }
}
