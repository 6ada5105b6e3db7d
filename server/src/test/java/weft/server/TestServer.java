package weft.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.util.Comparator;
import java.util.List;
import java.util.function.BooleanSupplier;
import org.junit.jupiter.api.extension.BeforeAllCallback;
import org.junit.jupiter.api.extension.ExtensionContext;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import weft.store.local.LocalPostgres;
import weft.store.people.Invitations;

/** One whole server for all tests of a run, on a free port with a cluster of its own, and a client to speak to it. */
public final class TestServer implements BeforeAllCallback {

    private static final HttpClient CLIENT = HttpClient.newHttpClient();
    private static Started started;
    private static final MovableClock CLOCK = new MovableClock();
    private static String url;
    private static WeftServer.Running whole;
    private static List<String> builder;

    /** What a browser of a builder and administrator sends with each request. */
    public static List<String> builder() {
        return builder;
    }

    /** An answer of the server. */
    public record Answer(HttpResponse<String> http) {
        public int status() {
            return http.statusCode();
        }

        public JsonNode json() {
            return JsonMapper.shared().readTree(http.body());
        }

        public String header(String name) {
            return http.headers().firstValue(name).orElse("");
        }
    }

    /** Another program does that to the database itself. */
    public static void program(String sql) throws SQLException {
        var postgres = database();
        try (var connection = DriverManager.getConnection(postgres.url(), postgres.user(), postgres.password());
                var statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }

    /** Sends a request; {@code headers} are names and values by turns. */
    public static Answer send(String method, String path, String body, String... headers) {
        return sendBytes(method, path, body == null ? new byte[0] : body.getBytes(StandardCharsets.UTF_8), headers);
    }

    /** The same with a body of bytes. */
    public static Answer sendBytes(String method, String path, byte[] body, String... headers) {
        return sendAs(builder, method, path, body, headers);
    }

    /** A request to the server, with what the builder's browser sends. */
    public static HttpRequest.Builder request(String path) {
        return HttpRequest.newBuilder(URI.create(url + path)).headers(builder.toArray(String[]::new));
    }

    /** The same by somebody else. */
    public static Answer as(List<String> browser, String method, String path, String body, String... headers) {
        return sendAs(
                browser, method, path, body == null ? new byte[0] : body.getBytes(StandardCharsets.UTF_8), headers);
    }

    private static Answer sendAs(List<String> browser, String method, String path, byte[] body, String... headers) {
        var request = HttpRequest.newBuilder(URI.create(url + path))
                .method(method, body.length == 0 ? BodyPublishers.noBody() : BodyPublishers.ofByteArray(body))
                .header("Content-Type", "application/json");
        for (int i = 0; i < browser.size(); i += 2) {
            request.setHeader(browser.get(i), browser.get(i + 1));
        }
        for (int i = 0; i < headers.length; i += 2) {
            request.setHeader(headers[i], headers[i + 1]);
        }
        try {
            return new Answer(CLIENT.send(request.build(), BodyHandlers.ofString()));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (InterruptedException e) {
            throw new IllegalStateException(e);
        }
    }

    public static Answer get(String path) {
        return send("GET", path, null);
    }

    public static Answer post(String path, String body, String... headers) {
        return send("POST", path, body, headers);
    }

    /** Brings a file in, as a browser does. */
    public static Answer upload(String fileName, String text) {
        return upload(fileName, text.getBytes(StandardCharsets.UTF_8));
    }

    /** The same of a file of bytes. */
    public static Answer upload(String fileName, byte[] file) {
        var head = "--x\r\nContent-Disposition: form-data; name=\"file\"; filename=\"" + fileName
                + "\"\r\nContent-Type: application/octet-stream\r\n\r\n";
        var body = new ByteArrayOutputStream();
        body.writeBytes(head.getBytes(StandardCharsets.UTF_8));
        body.writeBytes(file);
        body.writeBytes("\r\n--x--\r\n".getBytes(StandardCharsets.UTF_8));
        return sendBytes("POST", "/api/imports", body.toByteArray(), "Content-Type", "multipart/form-data; boundary=x");
    }

    /** What is taken away from there as a file. */
    public static byte[] file(String path) {
        try {
            return CLIENT.send(request(path).build(), BodyHandlers.ofByteArray())
                    .body();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (InterruptedException e) {
            throw new IllegalStateException(e);
        }
    }

    /** Makes a table of these columns, in JSON, and its form; says the form's id. */
    public static String form(String table, String columns) {
        var made = post("/api/tables", "{\"name\":\"" + table + "\",\"title\":\"\",\"columns\":[" + columns + "]}");
        if (made.status() != 201) {
            throw new IllegalStateException(made.http().body());
        }
        return post("/api/forms", "{\"table\":\"" + table + "\"}")
                .json()
                .get("id")
                .asString();
    }

    /** Waits until it is so. */
    public static void await(BooleanSupplier so) throws InterruptedException {
        await("it", so);
    }

    /** The same, which says after a minute what did not come. */
    public static void await(String what, BooleanSupplier so) throws InterruptedException {
        long end = System.nanoTime() + Duration.ofMinutes(1).toNanos();
        while (!so.getAsBoolean()) {
            assertThat(System.nanoTime()).as("waited a minute for %s", what).isLessThan(end);
            Thread.sleep(10);
        }
    }

    /** A part of the server, by its type. */
    public static <T> T part(Class<T> type) {
        return whole.part(type);
    }

    /** The cluster that it runs on. */
    public static LocalPostgres database() {
        return whole.postgres().orElseThrow();
    }

    /** Its clock. */
    public static MovableClock clock() {
        return CLOCK;
    }

    /** Where it serves. */
    public static String url() {
        return url;
    }

    @Override
    public void beforeAll(ExtensionContext context) {
        start();
    }

    /** Once for all classes of a process, until that ends: classes run in several processes beside each other. */
    private static synchronized void start() {
        if (started == null) {
            started = new Started();
            Runtime.getRuntime().addShutdownHook(new Thread(started::close));
        }
    }

    private static final class Started implements AutoCloseable {
        private final Path folder;
        private final WeftServer.Running running;

        Started() {
            try {
                folder = Files.createTempDirectory("weft-test");
                folder.toFile().setExecutable(true, false);
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
            running = WeftServer.start(
                    new WeftServer.Start(0, folder, false, List.of("fsync=off")),
                    context ->
                            context.registerBean("movable", Clock.class, () -> CLOCK, bean -> bean.setPrimary(true)));
            url = running.url();
            whole = running;
            builder = List.of();
            var invitation = part(Invitations.class).inviteFirst();
            builder = Browser.invited(
                    invitation, "{\"name\":\"tessa\",\"title\":\"Tessa Lorn\",\"password\":\"river-watch\"}");
        }

        @Override
        public void close() {
            running.close();
            try (var files = Files.walk(folder)) {
                files.sorted(Comparator.reverseOrder())
                        .forEach(file -> file.toFile().delete());
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }
    }
}
