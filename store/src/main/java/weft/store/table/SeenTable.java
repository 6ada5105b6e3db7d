package weft.store.table;

import java.util.Optional;
import org.jooq.Condition;
import org.jooq.impl.DSL;
import weft.core.table.Table;

/**
 * A table as far as somebody may see it. Whatever is answered is asked of one; what is written goes to a {@link StoredTable}, so
 * that nobody reads past what they may see, or writes less than there is, by having taken the one for the other.
 *
 * @param stored the table itself
 * @param definition what of it is to be seen
 * @param records what every record fulfils that is to be seen; empty when all are
 * @param by who sees it: not told that what they keyed first waits for its second keying; empty for who may be told of everything
 * @param whole whether nothing of it is left out
 */
public record SeenTable(
        StoredTable stored, Table definition, Optional<Condition> records, Optional<String> by, boolean whole)
        implements AnyTable {

    /** All of it, for those who may see that. */
    public static SeenTable all(StoredTable table) {
        return new SeenTable(table, table.definition(), Optional.empty(), Optional.empty(), true);
    }

    /** These columns of it, and the records that fulfil that, or all. */
    public static SeenTable part(StoredTable table, Table columns, Optional<Condition> records, Optional<String> by) {
        return new SeenTable(table, columns, records, by, false);
    }

    @Override
    public long id() {
        return stored.id();
    }

    /** What every record fulfils that is to be seen. */
    public Condition inView() {
        return records.orElseGet(DSL::noCondition);
    }

    /** Whether every record is to be seen, be it without some of its columns. */
    public boolean showsAll() {
        return records.isEmpty();
    }
}
