package weft.server.message;

import java.net.InetAddress;
import java.util.concurrent.atomic.AtomicInteger;
import org.subethamail.smtp.server.SMTPServer;

/** A mail server on loopback that takes every message and passes none on, for as long as no real one is set. */
final class StandIn implements AutoCloseable {

    private final AtomicInteger taken = new AtomicInteger();
    private final SMTPServer server = SMTPServer.port(0)
            .bindAddress(InetAddress.getLoopbackAddress())
            .messageHandler((_, _, _, _) -> taken.incrementAndGet())
            .build();

    StandIn() {
        server.start();
    }

    /** The port that it listens on. */
    int port() {
        return server.getPortAllocated();
    }

    /** How many messages it has taken. */
    int taken() {
        return taken.get();
    }

    @Override
    public void close() {
        server.stop();
    }
}
