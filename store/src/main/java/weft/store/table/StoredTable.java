package weft.store.table;

import org.jooq.Name;
import org.jooq.impl.DSL;
import weft.core.table.Table;

/**
 * A table as it is stored.
 *
 * @param id its identity, which stays when it is renamed
 * @param definition what it is made of
 */
public record StoredTable(long id, Table definition) {

    /** Its qualified SQL name. */
    public Name sqlName() {
        return DSL.name("records", definition.name());
    }

    /** By identity alone, since it is looked up at every save. */
    @Override
    public int hashCode() {
        return Long.hashCode(id);
    }
}
