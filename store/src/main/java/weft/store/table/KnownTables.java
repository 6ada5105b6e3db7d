package weft.store.table;

import java.util.Optional;

/** Finds tables by name, for what names other tables than its own. */
@FunctionalInterface
public interface KnownTables {

    /** The table of that name as it is now, or empty when there is none. */
    Optional<StoredTable> table(String name);
}
