package weft.e2e.bench;

import java.io.BufferedInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.Socket;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import weft.e2e.Signed;

/** HTTP/1.1 over one connection that stays open, with next to no cost of its own, so that the server is what is measured. */
final class KeepAlive implements AutoCloseable {

    private final URI server;
    private final String signed;
    private Socket socket;
    private InputStream in;
    private OutputStream out;
    private byte[] body = {};

    KeepAlive(String url) throws IOException {
        this(url, Signed.session(url));
    }

    /** The same by whoever has that session. */
    KeepAlive(String url, String session) throws IOException {
        this.server = URI.create(url);
        this.signed = "\r\nCookie: XSRF-TOKEN=x; SESSION=" + session + "\r\nX-XSRF-TOKEN: x";
        connect();
    }

    private void connect() throws IOException {
        socket = new Socket(server.getHost(), server.getPort());
        socket.setTcpNoDelay(true);
        in = new BufferedInputStream(socket.getInputStream());
        out = socket.getOutputStream();
    }

    /** Posts JSON and says the status of the answer. */
    int post(String path, String body, String idempotencyKey) throws IOException {
        var bytes = body.getBytes(StandardCharsets.UTF_8);
        var request = "POST " + path + " HTTP/1.1\r\nHost: " + server.getHost() + signed
                + "\r\nContent-Type: application/json\r\nContent-Length: " + bytes.length + "\r\nIdempotency-Key: "
                + idempotencyKey + "\r\n\r\n" + body;
        return exchange(request);
    }

    /** Gets what is at a path and says the status of the answer. */
    int get(String path) throws IOException {
        return exchange("GET " + path + " HTTP/1.1\r\nHost: " + server.getHost() + signed + "\r\n\r\n");
    }

    /** What came with the last answer. */
    String body() {
        return new String(body, StandardCharsets.UTF_8);
    }

    private int exchange(String request) throws IOException {
        out.write(request.getBytes(StandardCharsets.UTF_8));
        int status = Integer.parseInt(line().substring(9, 12));
        int length = -1;
        boolean close = false;
        for (var header = line(); !header.isEmpty(); header = line()) {
            var lower = header.toLowerCase(Locale.ROOT);
            close |= lower.equals("connection: close");
            if (lower.startsWith("content-length:")) {
                length = Integer.parseInt(lower.substring(15).strip());
            }
        }
        if (length >= 0) {
            body = in.readNBytes(length);
        } else {
            var parts = new ByteArrayOutputStream();
            for (int chunk = chunk(); chunk > 0; chunk = chunk()) {
                parts.write(in.readNBytes(chunk));
                in.skipNBytes(2);
            }
            line();
            body = parts.toByteArray();
        }
        if (close) {
            socket.close();
            connect();
        }
        return status;
    }

    private int chunk() throws IOException {
        return Integer.parseInt(line(), 16);
    }

    private String line() throws IOException {
        var line = new StringBuilder();
        for (int c = in.read(); c != '\n'; c = in.read()) {
            if (c < 0) {
                throw new IOException("The server hung up.");
            }
            if (c != '\r') {
                line.append((char) c);
            }
        }
        return line.toString();
    }

    @Override
    public void close() throws IOException {
        socket.close();
    }
}
