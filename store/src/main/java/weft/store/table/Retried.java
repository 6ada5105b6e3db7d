package weft.store.table;

import org.jooq.DSLContext;
import org.jooq.Name;
import org.jooq.TransactionalCallable;
import org.jooq.TransactionalRunnable;
import org.jooq.impl.DSL;
import weft.store.Attempts;

/**
 * Transactions that change a whole table. They may wait in a circle with an index that is being built on the same table, which
 * PostgreSQL ends by refusing one of the two. Then the building is broken off, which begins anew once the table is changed,
 * and the change is made.
 */
final class Retried {

    private Retried() {}

    static <T> T result(DSLContext sql, Name table, TransactionalCallable<T> change) {
        return Attempts.of(() -> sql.transactionResult(change), e -> {
            boolean again = Attempts.deadlock(e);
            if (again) {
                breakOff(sql, table);
            }
            return again;
        });
    }

    static void transaction(DSLContext sql, Name table, TransactionalRunnable change) {
        result(sql, table, inner -> {
            change.run(inner);
            return true;
        });
    }

    private static void breakOff(DSLContext sql, Name table) {
        sql.fetch(
                "select pg_cancel_backend(pid) from pg_stat_activity where pid <> pg_backend_pid()"
                        + " and query like 'create index concurrently%' and position({0} in query) > 0",
                DSL.val(" on " + sql.render(table) + " "));
    }
}
