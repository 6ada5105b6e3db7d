package weft.server.entry;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.as;
import static weft.server.TestServer.form;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;

import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import weft.server.Browser;
import weft.server.TestServer;
import weft.server.TestServer.Answer;

/** Many lines by a door, as a page or a program sends them. */
@ExtendWith(TestServer.class)
class BatchesApiTest {

    private static int made;
    private String form;
    private String api;

    @BeforeEach
    void given() {
        form = form(
                "lines" + ++made,
                "{\"title\":\"Sample\",\"required\":true},{\"title\":\"Taxon\",\"unique\":true},"
                        + "{\"title\":\"Count\",\"type\":\"whole\",\"min\":1,\"max\":500}");
        api = "/api/doors/" + form;
    }

    private static String lines(String... values) {
        return List.of(values).stream()
                .map(each -> "{\"values\":{" + each + "}}")
                .collect(Collectors.joining(",", "\"lines\":[", "]"));
    }

    private static String line(String taxon, String count) {
        return "\"taxon\":\"%s\",\"count\":\"%s\"".formatted(taxon, count);
    }

    private Answer save(String more, String lines, String... headers) {
        return post(api + "/batches", "{\"same\":{\"sample\":\"S-1\"}," + more + lines + "}", headers);
    }

    private static List<Long> numbers(JsonNode array, String member) {
        return StreamSupport.stream(array.spliterator(), false)
                .map(each -> each.get(member).asLong())
                .toList();
    }

    private int rows() {
        return get(api + "/records").json().get("records").size();
    }

    @Test
    void sixLinesAreReadTogetherAndSavedAsOneBlock() {
        var six = lines(
                IntStream.rangeClosed(1, 6).mapToObj(n -> line("t" + n, "" + n)).toArray(String[]::new));
        var read = post(api + "/batches/assess", "{\"same\":{\"sample\":\" S-1 \"}," + six + "}")
                .json();
        assertThat(numbers(read.get("lines"), "line")).containsExactly(1L, 2L, 3L, 4L, 5L, 6L);
        assertThat(numbers(read.get("lines"), "row")).containsExactly(1L, 2L, 3L, 4L, 5L, 6L);
        assertThat(read.at("/lines/3/values").toString())
                .isEqualTo("{\"sample\":\"S-1\",\"taxon\":\"t4\",\"count\":4}");
        assertThat(read.at("/lines/3/fields/taxon/origin").asString()).isEqualTo("typed");
        var saved = save("", six);
        assertThat(saved.status()).as(saved.http().body()).isEqualTo(201);
        assertThat(numbers(saved.json().get("rows"), "row")).containsExactly(1L, 2L, 3L, 4L, 5L, 6L);
        assertThat(saved.json().get("left")).isEmpty();
        var fourth = get(api + "/records/" + saved.json().at("/rows/3/id").asLong());
        assertThat(fourth.json().at("/values/sample").asString()).isEqualTo("S-1");
        assertThat(fourth.header("ETag")).isEqualTo("\"1\"");
    }

    @Test
    void whatIsSaidOfThousandsOfLinesIsToldAlongTheWayAndComesToTheSame() {
        var body = "{\"same\":{\"sample\":\"S-1\"},"
                + lines(IntStream.rangeClosed(1, 5_000)
                        .mapToObj(n -> line("t" + n % 4_999, "" + n % 500))
                        .toArray(String[]::new))
                + "}";
        var told = post(api + "/batches/assess/progress", body);
        assertThat(told.status()).isEqualTo(200);
        assertThat(told.header("Content-Type")).isEqualTo("application/x-ndjson");
        var words = told.http().body().lines().toList();
        assertThat(words.getLast())
                .isEqualTo(post(api + "/batches/assess", body).http().body());
        var checked = words.subList(0, words.size() - 1).stream()
                .map(word -> JsonMapper.shared().readTree(word).get("checked").asInt())
                .toList();
        assertThat(checked).isSorted().allMatch(count -> count <= 5_000);

        var tooMany = post(api + "/batches/assess/progress", body.replace("]}", ",{\"values\":{}}]}"));
        assertThat(tooMany.status()).isEqualTo(400);
        assertThat(tooMany.json().get("detail").asString()).startsWith("A batch has 5,000 lines at most");
    }

    @Test
    void aLineThatIsStoppedSaysWhichAndNothingIsWritten() {
        post(api + "/records", "{\"values\":{\"sample\":\"S-0\",\"taxon\":\"mayfly\"}}");
        var asked = lines(line("snail", "1"), "", line("mayfly", "2"), line("snail", "900"));
        var stopped = save("", asked);
        assertThat(stopped.status()).isEqualTo(422);
        assertThat(stopped.json().get("detail").asString())
                .isEqualTo("No line was saved: lines 3 and 4 are in the way.");
        assertThat(stopped.json().get("findings").toString())
                .contains("\"line\":3", "Row 1 already has mayfly", "\"line\":4", "Line 1 already has snail");
        assertThat(rows()).isEqualTo(1);
        var passing = save("\"keep\":\"passing\",", asked);
        assertThat(passing.status()).isEqualTo(201);
        assertThat(numbers(passing.json().get("rows"), "line")).containsExactly(1L);
        assertThat(numbers(passing.json().get("left"), "line")).containsExactly(3L, 4L);
        assertThat(passing.json().at("/left/0/findings/0/code").asString()).isEqualTo("unique");
        assertThat(rows()).isEqualTo(2);
    }

    @Test
    void theSameKeyTwiceWritesOnceAndAnotherBodyIsRefused() {
        var two = lines(line("a", "1"), line("b", "2"));
        var first = save("", two, "Idempotency-Key", "k-1");
        var second = save("", two, "Idempotency-Key", "k-1");
        assertThat(second.status()).isEqualTo(201);
        assertThat(second.json()).isEqualTo(first.json());
        assertThat(rows()).isEqualTo(2);
        var other = save("", lines(line("c", "1")), "Idempotency-Key", "k-1");
        assertThat(other.status()).isEqualTo(422);
        assertThat(other.json().get("detail").asString()).contains("used for another entry");
    }

    @Test
    void whatAsksIsAnsweredOnceForAllLines() {
        var document = get("/api/forms/" + form);
        var rules = document.http().body().replaceFirst("\"checks\" ?: ?\\[ ?]", """
                "checks":[{"id":"rare","asks":true,"stays":false,"message":"{count} is a great many.",
                "rule":{"kind":"range","column":"count","from":"","to":"100"}}]""");
        assertThat(TestServer.send("PUT", "/api/forms/" + form, rules, "If-Match", document.header("ETag"))
                        .status())
                .isEqualTo(200);
        post("/api/forms/" + form + "/publish", "");
        var asked = lines(line("a", "101"), line("b", "2"), line("c", "300"));
        var asks = save("", asked, "Idempotency-Key", "k-2");
        assertThat(asks.status()).isEqualTo(422);
        assertThat(numbers(asks.json().get("findings"), "line")).containsExactly(1L, 3L);
        assertThat(asks.json().at("/findings/1/severity").asString()).isEqualTo("ask");
        var saved = save("\"answers\":{\"rare\":\"yes\"},", asked, "Idempotency-Key", "k-2");
        assertThat(saved.status()).as(saved.http().body()).isEqualTo(201);
        assertThat(rows()).isEqualTo(3);
    }

    @Test
    void whatIsNoBatchIsRefusedPlainly() {
        assertThat(save("", lines("", "\"taxon\":\" \"")).json().get("detail").asString())
                .isEqualTo("Nothing is typed in any line.");
        assertThat(save("\"keep\":\"some\",", lines(line("a", "1"))).status()).isEqualTo(400);
        assertThat(save("", lines("\"nowhere\":\"1\"")).json().get("detail").asString())
                .isEqualTo("This form has no field for “nowhere”.");
        var many = IntStream.range(0, 5_001).mapToObj(_ -> "").toArray(String[]::new);
        assertThat(save("", lines(many)).json().get("detail").asString())
                .isEqualTo("A batch has 5,000 lines at most; this one has 5,001.");
        assertThat(rows()).isZero();
    }

    /** A door says whether there are lines at all, and shows whoever only adds no row that others have. */
    @Test
    void doorsDecideWhetherManyLinesAreTaken() {
        var name = "lina" + made;
        var lina = Browser.newIn("Line keyers", name);
        for (var how : List.of("one", "many")) {
            post(
                    "/api/forms/" + form + "/doors",
                    "{\"id\":\"%s-%s\",\"title\":\"Lines\",\"who\":{\"groups\":[\"Line keyers\"]},\"may\":[\"add\"],\"lines\":\"%s\",\"same\":[\"sample\"]}"
                            .formatted(form, how, how));
        }
        var body = "{\"same\":{\"sample\":\"S-1\"}," + lines(line("a", "1")) + "}";
        var one = as(lina, "POST", "/api/doors/" + form + "-one/batches", body);
        assertThat(one.status()).isEqualTo(403);
        assertThat(one.json().get("detail").asString()).contains("keyed one at a time");
        var read = as(lina, "POST", "/api/doors/" + form + "-many/batches/assess", body);
        assertThat(read.json().at("/lines/0/row").isNull()).isTrue();
        var passing = as(
                lina,
                "POST",
                "/api/doors/" + form + "-many/batches",
                body.replaceFirst("\\{", "{\"keep\":\"passing\","));
        assertThat(passing.status()).isEqualTo(422);
        var saved = as(lina, "POST", "/api/doors/" + form + "-many/batches", body);
        assertThat(saved.status()).isEqualTo(201);
        var door = as(lina, "GET", "/api/doors/" + form + "-many", null).json();
        assertThat(door.get("lines").asString()).isEqualTo("many");
        assertThat(door.get("same").toString()).isEqualTo("[\"sample\"]");
        assertThat(get(api + "/records/" + saved.json().at("/rows/0/id").asLong() + "/history")
                        .json()
                        .at("/0/by")
                        .asString())
                .isEqualTo(name);
    }
}
