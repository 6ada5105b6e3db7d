package weft.store.adopt;

import java.util.List;
import java.util.Optional;

/**
 * A table or a view of another schema, as PostgreSQL's catalog describes it.
 *
 * @param view whether it is a view, or one that is stored
 * @param keys its primary key, which comes first, and what else is unique
 * @param triggers its own triggers that are not switched off, each with how it fires
 * @param hindrance why it can't be adopted whatever its columns are, in a sentence
 */
record Existing(
        String schema,
        String name,
        boolean view,
        List<Part> columns,
        List<Key> keys,
        List<Check> checks,
        List<Leading> leading,
        List<Trigger> triggers,
        Optional<String> hindrance) {

    /**
     * A column.
     *
     * @param type its type as SQL writes it, such as {@code numeric(8,2)}
     * @param base the name of the type under a domain, else of the type itself, such as {@code numeric}
     * @param modifier what the type is narrowed by, as the catalog has it; -1 for nothing
     * @param domain whether the type is a domain
     * @param labels of an enum, else none
     * @param needed whether every row has a value
     * @param usual the expression of its default, fully named; of an identity column the next of its numbers
     * @param always whether the database alone gives its numbers
     * @param generated whether it is worked out from others
     */
    record Part(
            String name,
            String type,
            String base,
            int modifier,
            boolean domain,
            List<String> labels,
            boolean needed,
            Optional<String> usual,
            boolean always,
            boolean generated) {}

    /** What is unique: its constraint's name, and its columns. */
    record Key(String name, boolean primary, List<String> columns) {}

    /** A check, and the columns that it speaks of. */
    record Check(String name, List<String> columns, String definition) {}

    /**
     * A foreign key.
     *
     * @param deferrable whether what it leads to may come later in the transaction
     * @param valid whether it holds of every row
     * @param deleted what becomes of it when the row is deleted that it leads to, as the catalog has it
     */
    record Leading(
            String name,
            List<String> columns,
            String schema,
            String table,
            List<String> keys,
            boolean deferrable,
            boolean valid,
            String deleted) {}

    /** A trigger, and when it fires: O for origin, A always, R on replicas. */
    record Trigger(String name, String fires) {}

    /** How people name it in SQL. */
    String told() {
        return schema + "." + name;
    }

    /** The column of that name. */
    Part column(String named) {
        return columns.stream()
                .filter(each -> each.name().equals(named))
                .findFirst()
                .orElseThrow();
    }
}
