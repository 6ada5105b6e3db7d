package weft.store;

import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicInteger;

/** A host that leads to the database: it can stand still, taking what it is sent and saying nothing, or break off in the middle. */
public final class Door implements AutoCloseable {

    private final ServerSocket listens = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
    private final List<Socket> sockets = new CopyOnWriteArrayList<>();
    private final AtomicInteger left = new AtomicInteger(Integer.MAX_VALUE);
    private volatile boolean still;
    private volatile boolean half;

    /** Opens it. */
    public Door() throws IOException {
        Thread.startVirtualThread(this::take);
    }

    private void take() {
        try {
            while (true) {
                var from = listens.accept();
                var to = new Socket("127.0.0.1", TestDatabase.port());
                sockets.addAll(List.of(from, to));
                Thread.startVirtualThread(() -> carry(from, to));
                Thread.startVirtualThread(() -> carry(to, from));
            }
        } catch (IOException closed) {
            // It was told to end.
        }
    }

    private void carry(Socket from, Socket to) {
        var buffer = new byte[8192];
        try (from;
                to) {
            for (int read; (read = from.getInputStream().read(buffer)) > 0; ) {
                if (left.decrementAndGet() == 0) {
                    to.getOutputStream().write(buffer, 0, half ? read / 2 : 0);
                    to.getOutputStream().flush();
                    return;
                }
                if (!still) {
                    to.getOutputStream().write(buffer, 0, read);
                }
            }
        } catch (IOException closed) {
            // Either end has gone.
        }
    }

    /** Its host and port. */
    public String host() {
        return "127.0.0.1:" + listens.getLocalPort();
    }

    /** Whether it stands still from now on. */
    void still(boolean still) {
        this.still = still;
    }

    /** How many connections came and were led on, each with two ends. */
    int taken() {
        return sockets.size();
    }

    /** Breaks off, once, at the piece of that number that goes either way, before it or in the middle of it. */
    public void breakOff(int piece, boolean half) {
        this.half = half;
        left.set(piece);
    }

    /** Breaks nothing off from now on; whether it did. */
    public boolean brokeOff() {
        return left.getAndSet(Integer.MAX_VALUE) <= 0;
    }

    @Override
    public void close() throws IOException {
        listens.close();
        for (var socket : sockets) {
            socket.close();
        }
    }
}
