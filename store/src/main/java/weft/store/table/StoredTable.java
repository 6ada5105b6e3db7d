package weft.store.table;

import java.util.Map;
import java.util.Optional;
import org.jooq.Name;
import org.jooq.impl.DSL;
import weft.core.table.Table;

/**
 * A table as it is stored.
 *
 * @param id its identity, which stays when it is renamed
 * @param definition what it is made of
 * @param columnIds the identities of its columns, by name; they stay when a column is renamed or moved
 */
public record StoredTable(long id, Table definition, Map<String, Long> columnIds) {

    /** Its qualified SQL name. */
    public Name sqlName() {
        return DSL.name("records", definition.name());
    }

    /** The identity of its column of that name. */
    public long columnId(String column) {
        return Optional.ofNullable(columnIds.get(column)).orElseThrow();
    }

    /** By identity alone, since it is looked up at every save. */
    @Override
    public int hashCode() {
        return Long.hashCode(id);
    }
}
