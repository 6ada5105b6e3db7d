package weft.store.alike;

import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Table;
import org.jooq.impl.DSL;
import weft.core.alike.AlikeBlock;
import weft.core.alike.AlikeKeys;
import weft.core.record.StoredRow;
import weft.core.table.Column;
import weft.store.record.RecordRows;
import weft.store.table.ColumnSql;
import weft.store.table.SeenTable;
import weft.store.table.StoredTable;
import weft.store.table.TableSql;

/**
 * Records that have a value in each of some columns, read by pages in the order of their identity, with those columns alone.
 *
 * @param from where they are: the table itself, or rows that are to become its records
 */
public record AlikePages(DSLContext sql, StoredTable table, Table<?> from, List<Column> columns) {

    private static final int PAGE = 5_000;

    /** The records of the table. */
    public static AlikePages stored(DSLContext sql, StoredTable table, List<Column> columns) {
        return new AlikePages(sql, table, DSL.table(table.sqlName()), columns);
    }

    /** Those after that identity, up to the other. */
    public List<StoredRow> page(long after, long end) {
        var seen = SeenTable.part(table, table.definition().with(columns), Optional.empty(), Optional.empty());
        return sql.select(RecordRows.fields(seen))
                .from(from)
                .where(filled())
                .and(TableSql.ID.gt(after))
                .and(TableSql.ID.le(end))
                .orderBy(TableSql.ID)
                .limit(DSL.inline(PAGE))
                .fetch(row -> RecordRows.of(seen, row));
    }

    /** Those that come after that identity, as many as a block of so many holds; empty when there is none. */
    public Optional<AlikeBlock> block(AlikeKeys keys, boolean sound, long after, int most) {
        var block = new AlikeBlock(columns, sound, keys, most);
        for (var page = page(after, Long.MAX_VALUE);
                !page.isEmpty() && !block.full();
                page = page(page.getLast().id(), Long.MAX_VALUE)) {
            page.stream().takeWhile(_ -> !block.full()).forEach(block::add);
        }
        return block.size() == 0 ? Optional.empty() : Optional.of(block);
    }

    /** How many there are. */
    long count() {
        return sql.fetchCount(from, filled());
    }

    private Condition filled() {
        return DSL.and(
                columns.stream().map(column -> ColumnSql.of(column).isNotNull()).toList());
    }
}
