package weft.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.ServerSocket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** A server killed outright in the middle of many saves, and started again on the same data. */
class KilledServerTest {

    private static final int CLIENTS = 8;

    private final Path folder = LocalWeft.folder();
    private final int port = freePort();
    private final HttpClient http =
            HttpClient.newBuilder().connectTimeout(Duration.ofSeconds(5)).build();
    private Process server;

    @AfterEach
    void stop() throws Exception {
        // A plain kill, which stops its PostgreSQL too.
        server.destroy();
        assertThat(server.waitFor(30, TimeUnit.SECONDS)).isTrue();
        LocalWeft.remove(folder);
    }

    /** Also with what entries hand on to another table: it is there with its entry, or neither is. */
    @ParameterizedTest
    @ValueSource(booleans = {false, true})
    void everySaveThatWasAnsweredIsThereExactlyOnce(boolean handsOn) throws Exception {
        start();
        for (var table : List.of("t", "u")) {
            send(
                    "POST",
                    "/api/tables",
                    "{\"name\":\"%s\",\"title\":\"%s\",\"columns\":[{\"title\":\"A\"}]}".formatted(table, table),
                    "");
        }
        send("POST", "/api/forms", "{\"table\":\"t\"}", "");
        if (handsOn) {
            handOn();
        }
        Map<String, Integer> answered = new ConcurrentHashMap<>();
        try (var clients = Executors.newFixedThreadPool(CLIENTS)) {
            IntStream.range(0, CLIENTS).forEach(client -> clients.submit(() -> save(client, answered)));
            while (answered.size() < 200) {
                Thread.sleep(5);
            }
            server.destroyForcibly().waitFor();
        }
        start();
        // Each client sends its last save again, not knowing what became of it.
        for (int client = 0; client < CLIENTS; client++) {
            int next = client;
            long count = answered.keySet().stream()
                    .filter(key -> key.startsWith(next + "-"))
                    .count();
            for (var key : new String[] {client + "-" + (count - 1), client + "-" + count}) {
                int row = rowOf(send("POST", "/api/forms/t/records", body(key), key));
                assertThat(answered.getOrDefault(key, row)).isEqualTo(row);
                answered.put(key, row);
            }
        }
        var stored = stored("t");
        assertThat(stored)
                .containsExactlyInAnyOrderElementsOf(answered.entrySet().stream()
                        .map(each -> each.getKey() + " " + each.getValue())
                        .toList());
        if (handsOn) {
            assertThat(stored("u").stream().map(each -> each.split(" ")[0]))
                    .containsExactlyInAnyOrderElementsOf(answered.keySet());
        }
        assertThat(answered.values())
                .containsExactlyInAnyOrderElementsOf(
                        IntStream.rangeClosed(1, stored.size()).boxed().toList());
    }

    /** From now on each entry adds a row of its own value to the other table. */
    private void handOn() throws Exception {
        var form = (ObjectNode) JsonMapper.shared().readTree(send("GET", "/api/forms/t", null, ""));
        var rules = (ObjectNode) form.get("rules");
        rules.putArray("steps").add(JsonMapper.shared().readTree("""
                {"when":"saved","steps":[{"onlyIf":"","action":{"kind":"add-row","table":"u",
                 "values":[{"column":"a","formula":"a"}]}}]}"""));
        var put = HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + "/api/forms/t"))
                .PUT(BodyPublishers.ofString(form.toString()))
                .header("Content-Type", "application/json")
                .header("If-Match", "\"1\"")
                .build();
        assertThat(http.send(put, BodyHandlers.ofString()).statusCode()).isEqualTo(200);
        send("POST", "/api/forms/t/publish", "", "");
    }

    /** The value and the row of each record. */
    private List<String> stored(String table) throws Exception {
        var stored = new ArrayList<String>();
        for (var after = "0"; after != null; ) {
            var page = JsonMapper.shared()
                    .readTree(send("GET", "/api/tables/" + table + "/records?limit=500&after=" + after, null, ""));
            page.get("records")
                    .forEach(record -> stored.add(record.get("values").get("a").asString() + " "
                            + record.get("row").asInt()));
            after = page.get("next").isNull() ? null : page.get("next").asString();
        }
        return stored;
    }

    private void save(int client, Map<String, Integer> answered) {
        try {
            for (int i = 0; ; i++) {
                var key = client + "-" + i;
                answered.put(key, rowOf(send("POST", "/api/forms/t/records", body(key), key)));
            }
        } catch (IOException | InterruptedException killed) {
            // What was under way has no answer.
        }
    }

    private static String body(String key) {
        return "{\"values\":{\"a\":\"" + key + "\"}}";
    }

    private static int rowOf(String answer) {
        return JsonMapper.shared().readTree(answer).get("row").asInt();
    }

    private String send(String method, String path, String body, String key) throws IOException, InterruptedException {
        var request = HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path))
                .method(method, body == null ? BodyPublishers.noBody() : BodyPublishers.ofString(body))
                .header("Content-Type", "application/json");
        if (!key.isEmpty()) {
            request.header("Idempotency-Key", key);
        }
        return http.send(request.build(), BodyHandlers.ofString()).body();
    }

    private void start() throws Exception {
        server = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin/java").toString(),
                        "-cp",
                        System.getProperty("java.class.path"),
                        "weft.server.WeftServer",
                        "--port",
                        "" + port,
                        "--data",
                        folder.toString(),
                        "--empty")
                .redirectErrorStream(true)
                .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                .start();
        for (int tries = 0; tries < 600; tries++) {
            try {
                send("GET", "/actuator/health", null, "");
                return;
            } catch (IOException notYet) {
                Thread.sleep(100);
            }
        }
        throw new IllegalStateException("The server did not start.");
    }

    private static int freePort() {
        try (var socket = new ServerSocket(0)) {
            return socket.getLocalPort();
        } catch (IOException e) {
            throw new IllegalStateException(e);
        }
    }
}
