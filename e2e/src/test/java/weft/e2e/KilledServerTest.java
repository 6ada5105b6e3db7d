package weft.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.http.HttpClient;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executors;
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
    private final ServerProcess server = new ServerProcess(folder);

    @AfterEach
    void stop() throws Exception {
        server.stop();
        LocalWeft.remove(folder);
    }

    /** Also with what entries hand on to another table: it is there with its entry, or neither is. */
    @ParameterizedTest
    @ValueSource(booleans = {false, true})
    void everySaveThatWasAnsweredIsThereExactlyOnce(boolean handsOn) throws Exception {
        server.start();
        for (var table : List.of("t", "u")) {
            server.table(table);
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
            server.kill();
        }
        server.start();
        // Each client sends its last save again, not knowing what became of it.
        for (int client = 0; client < CLIENTS; client++) {
            int next = client;
            long count = answered.keySet().stream()
                    .filter(key -> key.startsWith(next + "-"))
                    .count();
            for (var key : new String[] {client + "-" + (count - 1), client + "-" + count}) {
                int row = rowOf(send("POST", "/api/doors/t/records", body(key), key));
                assertThat(answered.getOrDefault(key, row)).isEqualTo(row);
                answered.put(key, row);
            }
        }
        var stored = server.stored("t");
        assertThat(stored)
                .containsExactlyInAnyOrderElementsOf(answered.entrySet().stream()
                        .map(each -> each.getKey() + " " + each.getValue())
                        .toList());
        if (handsOn) {
            assertThat(server.stored("u").stream().map(each -> each.split(" ")[0]))
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
        var put = Signed.request(server.url(), "/api/forms/t")
                .PUT(BodyPublishers.ofString(form.toString()))
                .header("Content-Type", "application/json")
                .header("If-Match", "\"1\"")
                .build();
        assertThat(HttpClient.newHttpClient().send(put, BodyHandlers.ofString()).statusCode())
                .isEqualTo(200);
        send("POST", "/api/forms/t/publish", "", "");
    }

    private void save(int client, Map<String, Integer> answered) {
        try {
            for (int i = 0; ; i++) {
                var key = client + "-" + i;
                answered.put(key, rowOf(send("POST", "/api/doors/t/records", body(key), key)));
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
        return server.send(method, path, body, key).body();
    }
}
