package weft.store;

import com.zaxxer.hikari.SQLExceptionOverride;
import java.sql.SQLException;

/** Lets go of a connection whose database only reads: another one writes, or soon will, and a new connection finds it. */
public final class ReadOnlyLetGo implements SQLExceptionOverride {

    @java.lang.Override
    public Override adjudicate(SQLException e) {
        return Outage.READING.is(e) ? Override.MUST_EVICT : Override.CONTINUE_EVICT;
    }
}
