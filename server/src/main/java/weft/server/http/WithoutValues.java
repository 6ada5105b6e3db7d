package weft.server.http;

/** A failure with its place in the code, but without its message, which may hold values of records. */
final class WithoutValues extends Exception {
    WithoutValues(Throwable e) {
        super(e.getClass().getName(), e.getCause() == null ? null : new WithoutValues(e.getCause()));
        setStackTrace(e.getStackTrace());
    }
}
