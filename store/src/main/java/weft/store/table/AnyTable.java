package weft.store.table;

import org.jooq.Name;
import org.jooq.impl.DSL;
import weft.core.table.Table;

/** A table as it is stored, or as far as somebody may see it: what SQL is written by. */
public sealed interface AnyTable permits StoredTable, SeenTable {

    /** Its identity, which stays when it is renamed. */
    long id();

    /** What it is made of. */
    Table definition();

    /** Its qualified SQL name: that of the table, or of the view that stands for one that was adopted. */
    default Name sqlName() {
        return DSL.name("records", definition().name());
    }
}
