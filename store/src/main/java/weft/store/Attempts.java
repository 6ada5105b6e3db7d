package weft.store;

import java.util.function.Predicate;
import java.util.function.Supplier;
import org.jooq.exception.DataAccessException;

/** Work that others may get in the way of, tried again a few times. */
public final class Attempts {

    /** So often at most. */
    private static final int MOST = 5;

    private static final String DEADLOCK = "40P01";

    private Attempts() {}

    /**
     * What it comes to.
     *
     * @param again whether to try again after it failed so; the last failure is thrown whatever it says
     */
    public static <T> T of(Supplier<T> work, Predicate<RuntimeException> again) {
        for (int attempt = 1; ; attempt++) {
            try {
                return work.get();
            } catch (RuntimeException e) {
                if (attempt == MOST || !again.test(e)) {
                    throw e;
                }
            }
        }
    }

    /** Whether PostgreSQL ended it since two transactions waited for each other. */
    public static boolean deadlock(RuntimeException e) {
        return e instanceof DataAccessException failed && DEADLOCK.equals(failed.sqlState());
    }
}
