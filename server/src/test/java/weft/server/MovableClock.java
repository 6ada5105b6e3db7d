package weft.server;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.function.Supplier;

/** The clock of a server under test, which can be put forward for a while. */
public final class MovableClock extends Clock {

    private final Clock wall = Clock.systemDefaultZone();
    private volatile Duration ahead = Duration.ZERO;

    /** What comes of something that is done so much later; then it is now again. */
    public <T> T later(Duration by, Supplier<T> work) {
        ahead = by;
        try {
            return work.get();
        } finally {
            ahead = Duration.ZERO;
        }
    }

    @Override
    public ZoneId getZone() {
        return wall.getZone();
    }

    @Override
    public Clock withZone(ZoneId zone) {
        return Clock.offset(wall.withZone(zone), ahead);
    }

    @Override
    public Instant instant() {
        return wall.instant().plus(ahead);
    }
}
