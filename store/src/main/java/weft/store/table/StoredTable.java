package weft.store.table;

import java.util.List;
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
 * @param adopted where it is, if it was not made by Weft but adopted; then a view stands for it
 */
public record StoredTable(long id, Table definition, Map<String, Long> columnIds, Optional<Adopted> adopted)
        implements AnyTable {

    /**
     * A table that other programs made, or a view.
     *
     * @param schema the schema that it is in now
     * @param name what it is called there
     * @param columns its columns, by the name under which Weft has each; those of a link lead to it too
     * @param seen what each column comes of, by its name, where an index can be made on that
     * @param constraints the columns, as Weft has them, that each of its constraints speaks of
     */
    public record Adopted(
            String schema,
            String name,
            Map<String, String> columns,
            Map<String, String> seen,
            Map<String, List<String>> constraints) {}

    /** A table that Weft made. */
    public StoredTable(long id, Table definition, Map<String, Long> columnIds) {
        this(id, definition, columnIds, Optional.empty());
    }

    /** The name of the real table, on which indexes are made and to which foreign keys lead. */
    public Name relation() {
        return adopted.map(each -> DSL.name(each.schema(), each.name())).orElseGet(this::sqlName);
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
