package weft.store.table;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.Condition;
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
 * @param part which records are to be seen, where the definition is of a part of the table; empty for the whole
 *     table
 */
public record StoredTable(
        long id, Table definition, Map<String, Long> columnIds, Optional<Adopted> adopted, Optional<Part> part) {

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

    /**
     * A part of a table that is only to be seen.
     *
     * @param whole the definition of all of it
     * @param records what every record fulfils that is to be seen; empty when all are
     * @param by who sees it: not told that what they keyed first waits for its second keying
     */
    public record Part(Table whole, Optional<Condition> records, Optional<String> by) {}

    /** A whole table. */
    public StoredTable(long id, Table definition, Map<String, Long> columnIds) {
        this(id, definition, columnIds, Optional.empty(), Optional.empty());
    }

    /** These columns of it, and the records that fulfil that, or all. */
    public StoredTable seen(Table columns, Optional<Condition> records, Optional<String> by) {
        return new StoredTable(id, columns, columnIds, adopted, Optional.of(new Part(definition, records, by)));
    }

    /** What every record fulfils that is to be seen. */
    public Condition inView() {
        return part.flatMap(Part::records).orElseGet(DSL::noCondition);
    }

    /** Whether every record is to be seen, be it without some of its columns. */
    public boolean showsAll() {
        return part.flatMap(Part::records).isEmpty();
    }

    /** The table itself, of which this is the whole or a part. */
    public StoredTable whole() {
        return part.map(each -> new StoredTable(id, each.whole(), columnIds, adopted, Optional.empty()))
                .orElse(this);
    }

    /** Its qualified SQL name: that of the table, or of the view that stands for one that was adopted. */
    public Name sqlName() {
        return DSL.name("records", definition.name());
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
