package weft.store.table;

import org.jooq.DSLContext;
import org.jooq.Name;
import org.jooq.TransactionalCallable;
import org.jooq.TransactionalRunnable;
import org.jooq.exception.DataAccessException;
import org.jooq.impl.DSL;

/**
 * Transactions that change a whole table. They may wait in a circle with an index that is being built on the same table, which
 * PostgreSQL ends by refusing one of the two. Then the building is broken off, which begins anew once the table is changed,
 * and the change is made.
 */
final class Retried {

    private static final int TRIES = 5;
    private static final String DEADLOCK = "40P01";

    private Retried() {}

    static <T> T result(DSLContext sql, Name table, TransactionalCallable<T> change) {
        for (int attempt = 1; ; attempt++) {
            try {
                return sql.transactionResult(change);
            } catch (DataAccessException e) {
                if (!DEADLOCK.equals(e.sqlState()) || attempt == TRIES) {
                    throw e;
                }
                breakOff(sql, table);
            }
        }
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
