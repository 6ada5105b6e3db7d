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
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** A server killed outright in the middle of many saves, and started again on the same data. */
class KilledServerTest {

    private static final int CLIENTS = 8;
    private static final String PLAIN = "t";
    private static final String HANDS_ON = "h";
    private static final String HANDED = "u";

    private final Path folder = LocalWeft.folder();
    private final ServerProcess server = new ServerProcess(folder);

    @AfterEach
    void stop() throws Exception {
        server.stop();
        LocalWeft.remove(folder);
    }

    /** Half of the clients save entries that hand on to another table: what is handed on is there with its entry, or neither is. */
    @Test
    void everySaveThatWasAnsweredIsThereExactlyOnce() throws Exception {
        server.start();
        for (var table : List.of(PLAIN, HANDS_ON, HANDED)) {
            server.table(table);
        }
        send("POST", "/api/forms", "{\"table\":\"" + PLAIN + "\"}", "");
        send("POST", "/api/forms", "{\"table\":\"" + HANDS_ON + "\"}", "");
        handOn();
        Map<String, Integer> answered = new ConcurrentHashMap<>();
        try (var clients = Executors.newFixedThreadPool(CLIENTS)) {
            IntStream.range(0, CLIENTS).forEach(client -> clients.submit(() -> save(client, answered)));
            while (Stream.of(PLAIN, HANDS_ON)
                    .anyMatch(table -> of(table, answered).size() < 100)) {
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
                int row = rowOf(send("POST", "/api/doors/" + table(client) + "/records", body(key), key));
                assertThat(answered.getOrDefault(key, row)).isEqualTo(row);
                answered.put(key, row);
            }
        }
        for (var table : List.of(PLAIN, HANDS_ON)) {
            var ofTable = of(table, answered);
            assertThat(server.stored(table))
                    .containsExactlyInAnyOrderElementsOf(ofTable.entrySet().stream()
                            .map(each -> each.getKey() + " " + each.getValue())
                            .toList());
            assertThat(ofTable.values())
                    .containsExactlyInAnyOrderElementsOf(
                            IntStream.rangeClosed(1, ofTable.size()).boxed().toList());
        }
        assertThat(server.stored(HANDED).stream().map(each -> each.split(" ")[0]))
                .containsExactlyInAnyOrderElementsOf(of(HANDS_ON, answered).keySet());
    }

    private static String table(int client) {
        return client % 2 == 0 ? PLAIN : HANDS_ON;
    }

    /** What was answered of one table, by key. */
    private static Map<String, Integer> of(String table, Map<String, Integer> answered) {
        return answered.entrySet().stream()
                .filter(each ->
                        table(Integer.parseInt(each.getKey().split("-")[0])).equals(table))
                .collect(Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue));
    }

    /** From now on each entry adds a row of its own value to the other table. */
    private void handOn() throws Exception {
        var path = "/api/forms/" + HANDS_ON;
        var form = (ObjectNode) JsonMapper.shared().readTree(send("GET", path, null, ""));
        var rules = (ObjectNode) form.get("rules");
        rules.putArray("steps").add(JsonMapper.shared().readTree("""
                {"when":"saved","steps":[{"onlyIf":"","action":{"kind":"add-row","table":"%s",
                 "values":[{"column":"a","formula":"a"}]}}]}""".formatted(HANDED)));
        var put = Signed.request(server.url(), path)
                .PUT(BodyPublishers.ofString(form.toString()))
                .header("Content-Type", "application/json")
                .header("If-Match", "\"1\"")
                .build();
        assertThat(HttpClient.newHttpClient().send(put, BodyHandlers.ofString()).statusCode())
                .isEqualTo(200);
        send("POST", path + "/publish", "", "");
    }

    private void save(int client, Map<String, Integer> answered) {
        try {
            for (int i = 0; ; i++) {
                var key = client + "-" + i;
                answered.put(key, rowOf(send("POST", "/api/doors/" + table(client) + "/records", body(key), key)));
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
