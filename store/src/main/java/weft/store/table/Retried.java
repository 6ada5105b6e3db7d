package weft.store.table;

import org.jooq.DSLContext;
import org.jooq.TransactionalCallable;
import org.jooq.TransactionalRunnable;
import weft.store.Attempts;

/**
 * Transactions that change whole tables, or make one that links to others. They may wait in a circle with an index that is
 * being built on one of these, which PostgreSQL ends by refusing one of the two. Then Weft's buildings are broken off, which
 * begin anew by themselves, and the change is made.
 */
public final class Retried {

    private Retried() {}

    /** What the transaction comes to. It may be begun several times, so it does nothing but in the database. */
    public static <T> T result(DSLContext sql, TransactionalCallable<T> change) {
        return Attempts.of(() -> sql.transactionResult(change), e -> {
            boolean again = Attempts.deadlock(e);
            if (again) {
                breakOff(sql);
            }
            return again;
        });
    }

    static void transaction(DSLContext sql, TransactionalRunnable change) {
        result(sql, inner -> {
            change.run(inner);
            return true;
        });
    }

    private static void breakOff(DSLContext sql) {
        sql.fetch("select pg_cancel_backend(pid) from pg_stat_activity where pid <> pg_backend_pid()"
                + " and datname = current_database() and application_name = current_setting('application_name')"
                + " and query like 'create index concurrently%'");
    }
}
