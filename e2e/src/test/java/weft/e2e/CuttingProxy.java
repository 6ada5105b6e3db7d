package weft.e2e;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.util.Random;

/** Stands between a client and a server and cuts one connection in four: its request arrives, and its answer does not. */
final class CuttingProxy implements AutoCloseable {

    private final ServerSocket listening;
    private final int port;
    private final Random random = new Random(7);

    CuttingProxy(int port) throws IOException {
        this.port = port;
        this.listening = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
        Thread.ofVirtual().start(this::accept);
    }

    String url() {
        return "http://127.0.0.1:" + listening.getLocalPort();
    }

    private void accept() {
        try {
            while (true) {
                var client = listening.accept();
                boolean cut = random.nextInt(4) == 0;
                var server = new Socket(InetAddress.getLoopbackAddress(), port);
                pass(client, server, client.getInputStream(), server.getOutputStream(), false);
                pass(server, client, server.getInputStream(), client.getOutputStream(), cut);
            }
        } catch (IOException closed) {
            // The trial is over.
        }
    }

    private static void pass(Socket from, Socket to, InputStream in, OutputStream out, boolean cut) {
        Thread.ofVirtual().start(() -> {
            try (from;
                    to) {
                var bytes = new byte[8_192];
                for (int count, passed = 0; (count = in.read(bytes)) > 0; passed++) {
                    // Some answers pass first, so that it is cut at any time of a connection's life.
                    if (cut && passed > 2) {
                        return;
                    }
                    out.write(bytes, 0, count);
                    out.flush();
                }
            } catch (IOException gone) {
                // One of them went away.
            }
        });
    }

    @Override
    public void close() throws IOException {
        listening.close();
    }
}
