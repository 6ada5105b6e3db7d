package weft.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.http.HttpClient;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.regex.Pattern;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import weft.store.local.LocalPostgres;

/** A Weft in a process of its own, which can be killed and started again on the same port and data. */
final class ServerProcess {

    private static final HttpClient HTTP =
            HttpClient.newBuilder().connectTimeout(Duration.ofSeconds(5)).build();
    private static final Duration LONGEST = Duration.ofSeconds(60);

    /** Of the one who keys, on whichever of them; they are started one after another. */
    private static String session = "";

    private final Path folder;
    private final Map<String, String> settings;
    private final String classPath;
    private final int port = LocalPostgres.freePort();
    private Process process;

    ServerProcess(Path folder) {
        this(folder, Map.of());
    }

    /** With these settings in its environment. */
    ServerProcess(Path folder, Map<String, String> settings) {
        this(folder, settings, System.getProperty("java.class.path"));
    }

    /** The same of another version, whose classes are there. */
    ServerProcess(Path folder, Map<String, String> settings, String classPath) {
        this.classPath = classPath;
        this.folder = folder;
        this.settings = settings;
        session = "";
    }

    /** Of the one who keys, once one of them has started. */
    static String session() {
        return session;
    }

    int port() {
        return port;
    }

    String url() {
        return "http://127.0.0.1:" + port;
    }

    void start() throws Exception {
        Files.createDirectories(folder);
        var builder = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin/java").toString(),
                        "-Xmx512m",
                        "-XX:TieredStopAtLevel=1",
                        "-XX:+UseSerialGC",
                        "-cp",
                        classPath,
                        "weft.server.WeftServer",
                        "--port",
                        "" + port,
                        "--data",
                        folder.toString(),
                        "--empty")
                .redirectErrorStream(true)
                .redirectOutput(said().toFile());
        builder.environment().putAll(settings);
        process = builder.start();
        for (int tries = 0; tries < 1_200 && process.isAlive(); tries++) {
            try {
                send("GET", "/actuator/health", null, "");
                if (session.isEmpty()) {
                    session = Signed.first(url(), invitation());
                }
                return;
            } catch (IOException notYet) {
                Thread.sleep(100);
            }
        }
        throw new IllegalStateException("The server did not start. It said: " + Files.readString(said()));
    }

    /** Where what it says is written. */
    Path said() {
        return folder.resolve("said.log");
    }

    /** The secret of the address for the first administrator, which it prints. */
    private String invitation() throws IOException, InterruptedException {
        for (int tries = 0; tries < 100; tries++) {
            var found = Pattern.compile("/invitation/(\\S+)").matcher(Files.readString(said()));
            if (found.find()) {
                return found.group(1);
            }
            Thread.sleep(100);
        }
        throw new IllegalStateException("Nobody was invited.");
    }

    /** Ends it outright, as a power cut would. */
    void kill() throws InterruptedException {
        process.destroyForcibly().waitFor();
    }

    /** Ends its PostgreSQL outright. */
    void killDatabase() throws IOException {
        var pid = Files.readAllLines(folder.resolve("postgres/data/postmaster.pid"))
                .getFirst();
        ProcessHandle.of(Long.parseLong(pid.strip())).ifPresent(ProcessHandle::destroyForcibly);
    }

    /** A plain kill, which stops its PostgreSQL too. */
    void stop() throws InterruptedException {
        process.destroy();
        assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
    }

    HttpResponse<String> send(String method, String path, String body, String key)
            throws IOException, InterruptedException {
        return send(url(), method, path, body, key);
    }

    /** Sends a request to that address, which need not be the server's own. */
    static HttpResponse<String> send(String url, String method, String path, String body, String key)
            throws IOException, InterruptedException {
        var request = Signed.request(url, path, session)
                .timeout(LONGEST)
                .method(method, body == null ? BodyPublishers.noBody() : BodyPublishers.ofString(body))
                .header("Content-Type", "application/json");
        if (!key.isEmpty()) {
            request.header("Idempotency-Key", key);
        }
        return HTTP.send(request.build(), BodyHandlers.ofString());
    }

    JsonNode json(String path) throws IOException, InterruptedException {
        return JsonMapper.shared().readTree(send("GET", path, null, "").body());
    }

    /** Makes a table of one column, a. */
    void table(String name) throws IOException, InterruptedException {
        send(
                "POST",
                "/api/tables",
                "{\"name\":\"%s\",\"title\":\"%s\",\"columns\":[{\"title\":\"A\"}]}".formatted(name, name),
                "");
    }

    /** The value and the row of each record of a table of one column. */
    List<String> stored(String table) throws IOException, InterruptedException {
        var stored = new ArrayList<String>();
        for (var after = "0"; after != null; ) {
            var page = json("/api/tables/" + table + "/records?limit=500&after=" + after);
            page.get("records")
                    .forEach(record -> stored.add(record.get("values").get("a").asString() + " "
                            + record.get("row").asInt()));
            after = page.get("next").isNull() ? null : page.get("next").asString();
        }
        return stored;
    }
}
