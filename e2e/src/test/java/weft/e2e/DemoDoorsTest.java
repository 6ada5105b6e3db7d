package weft.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.json.JsonMapper;

/** Each of the demo's people, and those who are none of them, asks all that can be asked by each of the demo's doors. */
@ExtendWith(Running.class)
class DemoDoorsTest {

    /** What each door lets one do; {@code all} where it shows every record. */
    private static final Map<String, Set<String>> MAY = Map.ofEntries(
            Map.entry("log-a-note", Set.of("add")),
            Map.entry("my-samples", Set.of("add", "see", "change")),
            Map.entry("quill-beck-incidents", Set.of("see", "change")),
            Map.entry("all-samples", Set.of("add", "see", "change", "export", "all")),
            Map.entry("report-a-sighting", Set.of("add")),
            Map.entry("counts-of-a-sample", Set.of("add")),
            Map.entry("counts-again", Set.of("add", "see", "change", "all")),
            Map.entry("samples", Set.of("add", "see", "change", "remove", "export", "all")),
            Map.entry("incidents", Set.of("add", "see", "change", "remove", "export", "all")));

    private static final Set<String> OF_VOLUNTEERS = Set.of("log-a-note", "my-samples", "counts-of-a-sample");
    private static final Set<String> OF_COORDINATORS = Set.of("quill-beck-incidents", "all-samples", "counts-again");

    private static final HttpClient CLIENT = HttpClient.newHttpClient();
    private static final Map<String, Comer> COMERS = new LinkedHashMap<>();

    /** What one sends, and the doors that are there for them. */
    private record Comer(List<String> sends, boolean known, Set<String> doors) {}

    /** What may be asked by a door, and what for: what it must let one do. */
    private record Operation(String method, String path, Set<String> needs) {}

    private static Comer person(String name, Set<String> doors) {
        return new Comer(cookie(Signed.in(Running.url(), name, "river-watch")), true, doors);
    }

    private static List<String> cookie(String session) {
        return List.of("Cookie", "XSRF-TOKEN=x; SESSION=" + session, "X-XSRF-TOKEN", "x");
    }

    private static List<String> bearer(String secret) {
        return List.of("Authorization", "Bearer " + secret);
    }

    @BeforeAll
    static void given() throws Exception {
        COMERS.put("nobody", new Comer(List.of("Cookie", "XSRF-TOKEN=x", "X-XSRF-TOKEN", "x"), false, Set.of()));
        COMERS.put("odile", person("odile", Set.of("samples", "incidents")));
        COMERS.put("bram", person("bram", OF_COORDINATORS));
        COMERS.put("saffi", person("saffi", OF_VOLUNTEERS));
        COMERS.put("imre", person("imre", OF_VOLUNTEERS));
        var address = Running.api("/api/forms/incidents/doors/report-a-sighting/link", "")
                .get("address")
                .asString();
        COMERS.put(
                "by the secret address",
                new Comer(bearer(address.replaceFirst(".*/l/", "")), true, Set.of("report-a-sighting")));
        var token = JsonMapper.shared()
                .readTree(send(
                                COMERS.get("saffi").sends(),
                                "POST",
                                "/api/tokens",
                                "{\"title\":\"probe\",\"door\":\"my-samples\",\"until\":\""
                                        + LocalDate.now().plusDays(2) + "\"}")
                        .body())
                .get("token")
                .asString();
        COMERS.put("a program of saffi's", new Comer(bearer(token), true, Set.of("my-samples")));
        var stopped = Running.api("/api/people", """
                {"name":"wilf","title":"Wilf Arden","groups":["Volunteers","Coordinators"],"password":"river-watch"}""");
        var left = person("wilf", Set.of());
        Running.put("/api/people/" + stopped.get("id").asLong(), "{\"stopped\":true}", "");
        COMERS.put("one who was stopped", new Comer(left.sends(), false, Set.of()));
    }

    @AfterAll
    static void takenAway() {
        Running.api("/api/people").forEach(person -> {
            if (person.get("name").asString().equals("wilf")) {
                Running.delete("/api/people/" + person.get("id").asLong());
            }
        });
    }

    private static List<Operation> operations() throws IOException {
        var operations = new ArrayList<Operation>();
        for (var line : Files.readAllLines(Path.of("../docs/api.md"))) {
            var words = line.split("\\s+");
            if (!words[0].matches("door(:.*)?") || words.length < 3) {
                continue;
            }
            var needs = words[0].contains(":") ? Set.of(words[0].substring(5).split(",")) : Set.<String>of();
            for (int i = 1; i < words.length - 1; i++) {
                operations.add(new Operation(words[i], words[words.length - 1], needs));
            }
        }
        return operations;
    }

    private static HttpResponse<String> send(List<String> sends, String method, String path, String body) {
        var request = HttpRequest.newBuilder(URI.create(Running.url() + path))
                .headers(sends.toArray(String[]::new))
                .header(
                        "Content-Type",
                        path.endsWith("/pictures") ? "multipart/form-data; boundary=x" : "application/json")
                .header("If-Match", "\"99\"")
                .method(method, body.isEmpty() ? BodyPublishers.noBody() : BodyPublishers.ofString(body));
        try {
            return CLIENT.send(request.build(), BodyHandlers.ofString());
        } catch (IOException | InterruptedException e) {
            throw new IllegalStateException(e);
        }
    }

    @Test
    void byTheDemosDoorsEachDoesWhatTheyMayAndNothingElse() throws Exception {
        var wrong = new ArrayList<String>();
        int[] asked = new int[1];
        for (var operation : operations()) {
            MAY.forEach((door, may) -> COMERS.forEach((name, comer) -> {
                boolean through = comer.doors().contains(door)
                        && (operation.needs().isEmpty()
                                || operation.needs().stream().anyMatch(may::contains));
                if (through && operation.path().endsWith("/events")) {
                    return; // It never ends.
                }
                var path = operation
                        .path()
                        .replace("{door}", door)
                        .replace("{seat}", "0123456789abcdef")
                        .replace("pictures/{id}", "pictures/00000000-0000-0000-0000-000000000000")
                        .replaceAll("\\{[a-z]+}", "987654321");
                var answer = send(
                        comer.sends(),
                        operation.method(),
                        path + (path.endsWith("/place") ? "?to=first" : ""),
                        operation.method().matches("GET|DELETE") ? "" : "{\"values\":{},\"draft\":{\"values\":{}}}");
                asked[0]++;
                var refused = answer.statusCode() == 401
                        || answer.statusCode() == 403
                        || answer.statusCode() == 404 && answer.body().contains("for you");
                int expected = !comer.known() ? 401 : comer.doors().contains(door) ? 403 : 404;
                if (answer.statusCode() >= 500 || through == refused || !through && answer.statusCode() != expected) {
                    wrong.add("%s: %s %s -> %d %s"
                            .formatted(name, operation.method(), path, answer.statusCode(), answer.body()));
                }
            }));
        }
        assertThat(wrong).as("of %d requests", asked[0]).isEmpty();
        assertThat(asked[0]).isGreaterThan(1_000);
    }

    /** What is told of a record by the doors that show one: never what they leave out, nor a record out of view. */
    @Test
    void theDemosNarrowDoorsTellNothingElse() {
        var all = Running.api("/api/doors/incidents/records?limit=500").get("records");
        var sends = COMERS.get("bram").sends();
        int[] seen = new int[2];
        all.forEach(record -> {
            var path = "/api/doors/quill-beck-incidents/records/"
                    + record.get("id").asLong();
            boolean inView = record.at("/values/site_code").asString().startsWith("QB-");
            var answer = send(sends, "GET", path, "");
            assertThat(answer.statusCode()).as(path).isEqualTo(inView ? 200 : 404);
            assertThat(answer.body()).doesNotContain("\"cost\"");
            seen[inView ? 0 : 1]++;
        });
        assertThat(seen[0]).isPositive();
        assertThat(seen[1]).isPositive();
        var total = JsonMapper.shared()
                .readTree(send(sends, "GET", "/api/doors/quill-beck-incidents/records", "")
                        .body())
                .at("/total/count")
                .asInt();
        assertThat(total).isEqualTo(seen[0]);
    }
}
