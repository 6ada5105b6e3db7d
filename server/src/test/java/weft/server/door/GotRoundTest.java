package weft.server.door;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.as;
import static weft.server.TestServer.builder;
import static weft.server.TestServer.form;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.server.Browser;
import weft.server.TestServer;
import weft.server.TestServer.Answer;

/**
 * Every operation that the API describes, asked by a person of each kind and by each kind of door, against the table of
 * what is whose in docs/api.md. An operation that is in no line of it fails the build.
 */
@ExtendWith(TestServer.class)
class GotRoundTest {

    private static final String PASSWORD = "four dry river stones";

    /** By operation: whose it is, as the docs have it. */
    private static final Map<String, String> WHOSE = whose();

    private static final Map<String, Set<String>> DOORS = new LinkedHashMap<>();
    private static final Map<String, Comer> COMERS = new LinkedHashMap<>();

    /** One who asks: what their browser or program sends, their groups, and the doors that are there for them. */
    private record Comer(List<String> sends, boolean signed, Set<String> groups, Set<String> doors) {}

    private static Map<String, String> whose() {
        var whose = new TreeMap<String, String>();
        try (var lines = Files.lines(Path.of("../docs/api.md"))) {
            lines.dropWhile(line -> !line.equals("```whose"))
                    .skip(1)
                    .takeWhile(line -> !line.equals("```"))
                    .map(line -> line.split("\\s+"))
                    .forEach(words -> {
                        for (int i = 1; i < words.length - 1; i++) {
                            whose.put(words[i] + " " + words[words.length - 1], words[0]);
                        }
                    });
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return whose;
    }

    private static List<String> person(String name, String... groups) {
        post(
                "/api/people",
                "{\"name\":\"%s\",\"title\":\"%s\",\"groups\":[%s],\"password\":\"%s\"}"
                        .formatted(
                                name,
                                name,
                                List.of(groups).stream()
                                        .map(group -> '"' + group + '"')
                                        .collect(Collectors.joining(",")),
                                PASSWORD));
        return Browser.of(name, PASSWORD);
    }

    private static void door(String id, String rest, String... may) {
        var words = List.of(may).stream().map(word -> '"' + word + '"').collect(Collectors.joining(","));
        var made = post(
                "/api/forms/round/doors",
                "{\"id\":\"%s\",\"title\":\"%s\",\"may\":[%s]%s}".formatted(id, id, words, rest));
        assertThat(made.status()).as(made.http().body()).isEqualTo(201);
        assertThat(made.json().get("frays")).isEmpty();
        DOORS.put(id, Set.of(may));
    }

    @BeforeAll
    static void given() {
        form("round", "{\"title\":\"Site\"},{\"title\":\"River\"},{\"title\":\"Cost\",\"type\":\"whole\"}");
        post("/api/doors/round/records", "{\"values\":{\"site\":\"QB-01\",\"river\":\"Quill\",\"cost\":7}}");
        post("/api/groups", "{\"name\":\"Round keyers\",\"title\":\"Round keyers\"}");
        post("/api/groups", "{\"name\":\"Round coordinators\",\"title\":\"Round coordinators\"}");
        var keyers = ",\"who\":{\"groups\":[\"Round keyers\"]}";
        door("round-add", keyers + ",\"fields\":{\"leftOut\":[\"cost\"],\"locked\":[]}", "add");
        door("round-own", keyers + ",\"view\":{\"where\":[],\"own\":true}", "add", "see", "change");
        door(
                "round-look",
                ",\"who\":{\"groups\":[\"Round coordinators\"]},\"view\":{\"where\":[\"river:Quill\"],\"own\":false}",
                "see",
                "export");
        door("round-most", ",\"who\":{\"groups\":[\"Round coordinators\"]}", "add", "see", "change", "export");
        door("round-link", ",\"who\":{\"link\":true}", "add");
        door("round-shut", ",\"who\":{\"groups\":[\"Round keyers\"],\"until\":\"2020-01-01\"}", "add", "see");
        DOORS.put("round", Set.of("add", "see", "change", "remove", "export"));

        COMERS.put("nobody", new Comer(Browser.NOBODY, false, Set.of(), Set.of()));
        COMERS.put("builder", new Comer(person("round-bea", "Builders"), true, Set.of("builders"), Set.of("round")));
        COMERS.put(
                "administrator",
                new Comer(person("round-anna", "Administrators"), true, Set.of("administrators"), Set.of()));
        var keyer = person("round-kim", "Round keyers");
        COMERS.put("keyer", new Comer(keyer, true, Set.of(), Set.of("round-add", "round-own")));
        COMERS.put(
                "coordinator",
                new Comer(
                        person("round-cora", "Round coordinators"),
                        true,
                        Set.of(),
                        Set.of("round-look", "round-most")));
        var token = as(
                        keyer,
                        "POST",
                        "/api/tokens",
                        "{\"title\":\"scales\",\"door\":\"round-add\",\"until\":\""
                                + LocalDate.now().plusDays(9) + "\"}")
                .json()
                .get("token")
                .asString();
        COMERS.put(
                "token", new Comer(List.of("Authorization", "Bearer " + token), false, Set.of(), Set.of("round-add")));
        var address = post("/api/forms/round/doors/round-link/link", "")
                .json()
                .get("address")
                .asString();
        COMERS.put(
                "link",
                new Comer(
                        List.of("Authorization", "Bearer " + address.replaceFirst(".*/l/", "")),
                        false,
                        Set.of(),
                        Set.of("round-link")));
        var stopped = person("round-sam", "Builders", "Administrators", "Round keyers");
        var id = get("/api/people?after=round-s").json().get(0).get("id").asLong();
        assertThat(as(builder(), "PUT", "/api/people/" + id, "{\"stopped\":true}")
                        .status())
                .isEqualTo(200);
        COMERS.put("stopped", new Comer(stopped, false, Set.of(), Set.of()));
    }

    /** Whether it was let through: whatever was answered then is about what was sent. */
    private enum Came {
        THROUGH,
        REFUSED,
        NOBODY
    }

    private static Came expected(String whose, String door, Comer comer) {
        boolean known = comer.signed() || !comer.doors().isEmpty();
        return switch (whose) {
            case "anybody" -> Came.THROUGH;
            case "known" -> known ? Came.THROUGH : Came.NOBODY;
            case "signed" -> comer.signed() ? Came.THROUGH : known ? Came.REFUSED : Came.NOBODY;
            case "builders", "administrators" ->
                comer.groups().contains(whose) ? Came.THROUGH : known ? Came.REFUSED : Came.NOBODY;
            default -> {
                if (!known) {
                    yield Came.NOBODY;
                }
                if (!comer.doors().contains(door)) {
                    yield Came.REFUSED;
                }
                var needs = whose.substring(whose.indexOf(':') + 1);
                boolean let = whose.equals("door")
                        || (needs.equals("all")
                                ? Set.of("round", "round-most").contains(door)
                                : List.of(needs.split(",")).stream().anyMatch(DOORS.get(door)::contains));
                yield let ? Came.THROUGH : Came.REFUSED;
            }
        };
    }

    private static Came came(Answer answer, boolean byDoor) {
        var said = answer.http().body();
        return switch (answer.status()) {
            case 401 -> said.contains("Sign in first.") && !said.contains("\"empty\"") ? Came.NOBODY : Came.THROUGH;
            case 403 -> Came.REFUSED;
            case 404 -> byDoor && said.contains("for you") ? Came.REFUSED : Came.THROUGH;
            default -> Came.THROUGH;
        };
    }

    private static String filled(String path, String door) {
        return path.replace("{door}", door)
                .replace("{form}", "round-none")
                .replace("{table}", "round_none")
                .replace("pictures/{id}", "pictures/00000000-0000-0000-0000-000000000000")
                .replace("{id}", "987654321")
                .replace("{secret}", "none")
                .replace("{seat}", "0123456789abcdef")
                .replaceAll("\\{[a-z]+}", "1");
    }

    @Test
    void everyOperationIsWhoseItIs() {
        var described = new TreeSet<String>();
        get("/v3/api-docs")
                .json()
                .get("paths")
                .properties()
                .forEach(path -> path.getValue()
                        .propertyNames()
                        .forEach(method -> described.add(method.toUpperCase(Locale.ROOT) + " " + path.getKey())));
        assertThat(WHOSE.keySet())
                .as("the table names each operation, and no other")
                .isEqualTo(described);

        var wrong = new ArrayList<String>();
        int[] asked = new int[1];
        WHOSE.forEach((operation, whose) -> {
            var method = operation.split(" ")[0];
            var path = operation.split(" ")[1];
            boolean byDoor = whose.startsWith("door");
            for (var door : byDoor ? DOORS.keySet() : Set.of("round-none")) {
                COMERS.forEach((name, comer) -> {
                    // A stream that is let through never ends, and who signs out or in is another one then.
                    var expected = expected(whose, door, comer);
                    if (path.endsWith("/events") && expected == Came.THROUGH
                            || path.startsWith("/api/session") && !method.equals("GET")) {
                        return;
                    }
                    var answer = as(
                            comer.sends(),
                            method,
                            filled(path, door) + (path.endsWith("/place") ? "?to=first" : ""),
                            method.equals("GET") || method.equals("DELETE")
                                    ? null
                                    : "{\"values\":{},\"draft\":{\"values\":{}}}",
                            "If-Match",
                            "\"99\"",
                            "Content-Type",
                            path.matches("/api/(pictures|imports|doors/\\{door}/pictures)") && method.equals("POST")
                                    ? "multipart/form-data; boundary=x"
                                    : "application/json");
                    asked[0]++;
                    if (came(answer, byDoor) != expected || answer.status() >= 500) {
                        wrong.add(name + ": " + operation + " by " + door + " -> " + answer.status() + ", not "
                                + expected + " " + answer.http().body());
                    }
                });
            }
        });
        assertThat(wrong).as("of %d requests", asked[0]).isEmpty();
        assertThat(asked[0]).isGreaterThan(2_000);
    }

    /** A coordinator of one river hears of its records, and of no others. */
    @Test
    @Timeout(value = 60, unit = TimeUnit.SECONDS)
    void eventsTellOfRecordsInViewOnly() throws Exception {
        var cora = COMERS.get("coordinator").sends();
        var request = HttpRequest.newBuilder(URI.create(TestServer.url() + "/api/doors/round-look/events"))
                .headers(cora.toArray(String[]::new))
                .build();
        try (var client = HttpClient.newHttpClient();
                var lines = client.send(request, BodyHandlers.ofLines()).body()) {
            var heard = lines.iterator();
            assertThat(next(heard, "event:")).isEqualTo("ready");
            var unseen = post("/api/doors/round/records", "{\"values\":{\"site\":\"TS-01\",\"river\":\"Tessel\"}}")
                    .json();
            long moved = post("/api/doors/round/records", "{\"values\":{\"site\":\"QB-02\",\"river\":\"Quill\"}}")
                    .json()
                    .get("id")
                    .asLong();
            assertThat(next(heard, "data:{"))
                    .contains("\"id\":" + moved)
                    .doesNotContain(unseen.get("id").asString());
            // One that leaves the view is told of once more, and then never again.
            move(moved, 1);
            assertThat(next(heard, "data:{")).contains("\"id\":" + moved);
            move(moved, 2);
            long last = post("/api/doors/round/records", "{\"values\":{\"site\":\"QB-03\",\"river\":\"Quill\"}}")
                    .json()
                    .get("id")
                    .asLong();
            assertThat(next(heard, "data:{")).contains("\"id\":" + last);
            client.shutdownNow();
        }
    }

    /** To another river. */
    private static void move(long record, int version) {
        var moved = as(
                builder(),
                "PUT",
                "/api/doors/round/records/" + record,
                "{\"values\":{\"site\":\"now " + version + "\",\"river\":\"Tessel\"}}",
                "If-Match",
                "\"" + version + "\"");
        assertThat(moved.status()).as(moved.http().body()).isEqualTo(200);
    }

    private static String next(Iterator<String> lines, String begins) {
        while (true) {
            var line = lines.next();
            if (line.startsWith(begins)) {
                return line.substring(begins.length());
            }
        }
    }

    @Test
    void aSecretAddressTakesSoManyEntriesAMinute() {
        var link = COMERS.get("link").sends();
        var statuses = new TreeSet<Integer>();
        // A minute may end among them.
        for (int n = 0; n < 130 && !statuses.contains(429); n++) {
            statuses.add(as(link, "POST", "/api/doors/round-link/records", "{\"values\":{\"site\":\"n" + n + "\"}}")
                    .status());
        }
        assertThat(statuses).containsExactly(201, 429);
    }

    @Test
    void howManyRecordsThereAreIsToldOnlyToWhoSeesAllOfThem() {
        var told = new ArrayList<String>();
        COMERS.values().stream()
                .filter(Comer::signed)
                .forEach(comer -> as(comer.sends(), "GET", "/api/doors", null)
                        .json()
                        .valueStream()
                        .filter(door -> DOORS.containsKey(door.get("id").asString()) && door.has("rows"))
                        .forEach(door -> told.add(door.get("id").asString())));
        assertThat(told).containsOnly("round", "round-most");
    }

    @Test
    void aTokenGoesThroughItsDoorAsItsPersonAndNowhereElse() {
        var token = COMERS.get("token").sends();
        var saved = as(token, "POST", "/api/doors/round-add/records", "{\"values\":{\"site\":\"scales\"}}");
        assertThat(saved.status()).as(saved.http().body()).isEqualTo(201);
        assertThat(saved.json().get("values").has("cost")).isFalse();
        var history = get("/api/doors/round/records/" + saved.json().get("id").asLong() + "/history")
                .json();
        assertThat(history.get(0).get("by").asString()).isEqualTo("round-kim");
        assertThat(as(token, "GET", "/api/doors", null).json().findValuesAsString("id"))
                .containsExactly("round-add");
        var bogus =
                List.of("Authorization", "Bearer nothing", "Cookie", builder().get(1));
        assertThat(as(bogus, "GET", "/api/tables", null).status())
                .as("a secret that is none is not helped by a session")
                .isEqualTo(401);
    }
}
