package weft.server.entry;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.form;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;
import static weft.server.TestServer.send;

import java.util.HashSet;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.StreamSupport;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;
import weft.server.TestServer;
import weft.server.TestServer.Answer;

/** A record and its lines by a door: links typed by words, and everything saved together or not at all. */
@ExtendWith(TestServer.class)
class SheetsApiTest {

    private static final JsonMapper JSON = JsonMapper.shared();
    private static int made;
    private String samples;
    private String counts;

    @BeforeEach
    void given() {
        samples = form(
                "sheets" + ++made,
                "{\"title\":\"Number\",\"unique\":true,\"required\":true},{\"title\":\"Total\",\"type\":\"whole\"}");
        counts = form(
                "counted" + made,
                ("{\"title\":\"Sample\",\"type\":\"link\",\"to\":\"%s\",\"required\":true},"
                                + "{\"title\":\"Taxon\",\"required\":true},"
                                + "{\"title\":\"Count\",\"type\":\"whole\",\"min\":1,\"max\":500}")
                        .formatted(samples));
        post("/api/tables/" + counts + "/constraints", "{\"kind\":\"unique\",\"columns\":[\"sample\",\"taxon\"]}");
        lined("\"most\":12");
    }

    /** Puts the counts onto the form of samples, as lines, and has their sum worked out. */
    private void lined(String more) {
        var copy = get("/api/forms/" + samples);
        var document = (ObjectNode) copy.json();
        var lines = JSON.readTree(
                ("{\"kind\":\"lines\",\"id\":\"counts\",\"label\":\"Counts\",\"table\":\"%s\",\"by\":\"sample\",%s,\"items\":["
                                + "{\"kind\":\"field\",\"id\":\"taxon\",\"label\":\"Taxon\",\"column\":\"taxon\",\"widget\":\"line\",\"width\":4},"
                                + "{\"kind\":\"field\",\"id\":\"count\",\"label\":\"Count\",\"column\":\"count\",\"widget\":\"number\",\"width\":2}]}")
                        .formatted(counts, more));
        var items = (tools.jackson.databind.node.ArrayNode) document.at("/sections/0/items");
        items.removeIf(item -> item.get("kind").asString().equals("lines"));
        items.add(lines);
        ((tools.jackson.databind.node.ArrayNode) document.at("/rules/formulas"))
                .removeAll()
                .add(JSON.readTree("{\"target\":\"total\",\"what\":\"calculated\",\"formula\":\"sum(counts.count)\"}"));
        var put = send("PUT", "/api/forms/" + samples, document.toString(), "If-Match", copy.header("ETag"));
        assertThat(put.status()).as(put.http().body()).isEqualTo(200);
        assertThat(post("/api/forms/" + samples + "/publish", "").status()).isEqualTo(200);
    }

    private static String line(String taxon, Object count) {
        return "{\"values\":{\"taxon\":\"%s\",\"count\":\"%s\"}}".formatted(taxon, count);
    }

    private static String sheet(String number, String... lines) {
        return "{\"values\":{\"number\":\"%s\"},\"lines\":{\"counts\":[%s]}}"
                .formatted(number, String.join(",", lines));
    }

    private Answer save(String body, String... headers) {
        return post("/api/doors/" + samples + "/records", body, headers);
    }

    private Answer change(JsonNode record, String lines) {
        return send(
                "PUT",
                "/api/doors/" + samples + "/records/" + record.get("id").asLong(),
                "{\"values\":{\"number\":\"%s\"},\"lines\":{\"counts\":[%s]}}"
                        .formatted(record.at("/values/number").asString(), lines),
                "If-Match",
                "\"" + record.get("version").asInt() + "\"");
    }

    private static List<Long> rows(JsonNode records) {
        return StreamSupport.stream(records.spliterator(), false)
                .map(each -> each.get("row").asLong())
                .toList();
    }

    private JsonNode all(String form) {
        return get("/api/doors/" + form + "/records?limit=500").json().get("records");
    }

    /** The lines of a record that goes come along: held to what lines are held to, and reckoned with. */
    @Test
    void linesComeAlongWhereRecordsAreMadeOne() {
        var one = save(sheet("S-1", line("mayfly", 3), line("worm", 4))).json();
        var other = save(sheet("S-2", line("leech", 5))).json();
        var double_ = save(sheet("S-3", line("worm", 9))).json();
        var made = "/api/doors/" + samples + "/made-one";
        var before = all(samples).toString() + all(counts);
        assertThat(post(made, together(one, double_)).status()).isEqualTo(422);
        lined("\"most\":2");
        var many = post(made, together(one, other));
        assertThat(many.status()).isEqualTo(422);
        assertThat(many.json().at("/findings/0/message").asString()).contains("at most 2");
        assertThat(all(samples).toString() + all(counts)).isEqualTo(before);

        lined("\"most\":12");
        var joined = post(made, together(one, other));
        assertThat(joined.status()).as(joined.http().body()).isEqualTo(200);
        assertThat(joined.json().at("/record/values/total").asInt()).isEqualTo(12);
        assertThat(get("/api/doors/" + samples + "/records/" + one.get("id") + "/lines")
                        .json()
                        .get("counts"))
                .hasSize(3);
        assertThat(post(made + "/" + joined.json().get("id") + "/take-back", "").status())
                .isEqualTo(200);
        assertThat(all(samples).valueStream().map(each -> each.get("values").toString()))
                .containsExactly(
                        "{\"number\":\"S-1\",\"total\":7}",
                        "{\"number\":\"S-2\",\"total\":5}",
                        "{\"number\":\"S-3\",\"total\":9}");
    }

    private static String together(JsonNode stays, JsonNode other) {
        var record = "{\"id\":%d,\"version\":%d}";
        return "{\"stays\":%s,\"others\":[%s]}"
                .formatted(
                        record.formatted(
                                stays.get("id").asLong(), stays.get("version").asInt()),
                        record.formatted(
                                other.get("id").asLong(), other.get("version").asInt()));
    }

    @Test
    void whatIsDeclaredOfEachLineIsReadAndTriedOnItsOwnTable() {
        save(sheet("S-1", line("mayfly", 3), line("worm", 400)));
        var check =
                "{\"id\":\"few\",\"asks\":true,\"stays\":false,\"message\":\"\",\"rule\":{\"kind\":\"range\",\"column\":\"count\",\"from\":\"\",\"to\":\"200\"}}";
        lined(
                "\"rules\":{\"checks\":[" + check
                        + "],\"fills\":[],\"formulas\":[],\"choices\":[],\"numbers\":[],\"steps\":[],\"practice\":[]},\"most\":12");
        var bench = "/api/forms/" + samples + "/bench";
        assertThat(get(bench).json().at("/lines/counts/0/text").asString())
                .isEqualTo("asks unless Count is at most 200");
        var formula = "{\"formula\":\"%s\",\"draft\":{\"values\":{}}}";
        assertThat(post(bench + "/formula?lines=counts", formula.formatted("count > 3"))
                        .json()
                        .toString())
                .doesNotContain("There is nothing called");
        assertThat(post(bench + "/formula?lines=counts", formula.formatted("number"))
                        .json()
                        .get("fault")
                        .asString())
                .contains("number");
        var alone = "{\"part\":\"checks\",\"rule\":" + check + "}";
        var looked = post(bench + "/look?lines=counts", alone).json();
        assertThat(looked.get("looked").asInt()).isEqualTo(2);
        assertThat(looked.at("/examples/0/row").asInt()).isEqualTo(2);
        assertThat(post(bench + "/look?lines=none", alone).status()).isEqualTo(404);
        var asked = post("/api/doors/" + samples + "/assess", sheet("S-2", line("mayfly", 300)))
                .json();
        assertThat(asked.at("/lines/counts/0/findings/0/stop").asBoolean()).isFalse();
        assertThat(asked.at("/lines/counts/0/findings/0/message").asString()).contains("200");
    }

    @Test
    void aRecordAndItsLinesAreSavedTogether() {
        var assessed = post(
                        "/api/doors/" + samples + "/assess",
                        sheet("S-1", line("mayfly", 3), "{\"values\":{}}", line("worm", "many")))
                .json();
        assertThat(assessed.at("/values/total").asInt()).isEqualTo(3);
        assertThat(assessed.at("/lines/counts/1/line").asInt())
                .as("blank lines keep their numbers")
                .isEqualTo(3);
        assertThat(assessed.at("/lines/counts/1/findings/0/code").asString()).isEqualTo("unreadable");
        var stopped = save(sheet("S-1", line("mayfly", 3), line("worm", "many"), line("mayfly", 4)));
        assertThat(stopped.status()).isEqualTo(422);
        assertThat(stopped.json().get("findings").toString())
                .contains("\"lines\":\"counts\"", "\"line\":2", "\"line\":3", "Line 1 already has mayfly");
        assertThat(all(samples)).isEmpty();
        assertThat(all(counts)).isEmpty();
        var saved = save(sheet("S-1", line("mayfly", 3), line("worm", 4)), "Idempotency-Key", "one");
        assertThat(saved.status()).as(saved.http().body()).isEqualTo(201);
        assertThat(saved.json().at("/values/total").asInt()).isEqualTo(7);
        assertThat(rows(saved.json().at("/lines/counts"))).containsExactly(1L, 2L);
        assertThat(saved.json().at("/lines/counts/0/values").toString())
                .isEqualTo("{\"taxon\":\"mayfly\",\"count\":3}");
        assertThat(all(counts).at("/0/values/sample").toString()).isEqualTo("{\"id\":1,\"row\":1,\"shown\":\"S-1\"}");
        var again = save(sheet("S-1", line("mayfly", 3), line("worm", 4)), "Idempotency-Key", "one");
        assertThat(again.json()).isEqualTo(saved.json());
        assertThat(save(sheet("S-1", line("mayfly", 9)), "Idempotency-Key", "one")
                        .status())
                .as("other lines under the same key")
                .isEqualTo(422);
        assertThat(all(counts)).hasSize(2);
        assertThat(get("/api/doors/" + samples + "/records/1/lines").json())
                .isEqualTo(saved.json().get("lines"));
    }

    @Test
    void linesAreChangedAddedAndTakenOutAndConflictsAreToldPerLine() {
        var record = save(sheet("S-1", line("mayfly", 3), line("worm", 4), line("leech", 5)))
                .json();
        var lines = record.at("/lines/counts");
        var changed = change(
                record,
                ("{\"id\":%d,\"version\":1,\"values\":{\"taxon\":\"mayfly\",\"count\":30}},"
                                + "{\"id\":%d,\"version\":1,\"gone\":true},%s")
                        .formatted(lines.at("/0/id").asLong(), lines.at("/1/id").asLong(), line("worm", 8)));
        assertThat(changed.status()).as(changed.http().body()).isEqualTo(200);
        assertThat(changed.json().at("/values/total").asInt()).isEqualTo(43);
        assertThat(rows(changed.json().at("/lines/counts"))).containsExactly(1L, 3L, 4L);
        var stale = change(
                changed.json(),
                ("{\"values\":{}},{\"id\":%d,\"version\":1,\"values\":{\"taxon\":\"mayfly\",\"count\":31}},"
                                + "{\"id\":%d,\"version\":1,\"gone\":true}")
                        .formatted(lines.at("/0/id").asLong(), lines.at("/1/id").asLong()));
        assertThat(stale.status()).isEqualTo(412);
        assertThat(stale.json().at("/lines/counts/0/line").asInt()).isEqualTo(2);
        assertThat(stale.json().at("/lines/counts/0/record/values/count").asInt())
                .isEqualTo(30);
        assertThat(stale.json().at("/lines/counts/1/line").asInt()).isEqualTo(3);
        assertThat(stale.json().at("/lines/counts/1/record").isNull()).isTrue();
        var history = get("/api/doors/" + samples + "/records/1/lines/history").json();
        assertThat(StreamSupport.stream(history.spliterator(), false)
                        .map(each -> each.at("/change/action").asString() + " "
                                + each.get("row").asLong()))
                .containsExactlyInAnyOrder("saved 4", "changed 1", "deleted 2", "saved 1", "saved 2", "saved 3");
        var only = change(changed.json(), line("snail", 1));
        assertThat(only.json().get("version").asInt())
                .as("its sum is another")
                .isEqualTo(changed.json().get("version").asInt() + 1);
        assertThat(change(only.json(), "{\"id\":1,\"values\":{}}").status())
                .as("no version")
                .isEqualTo(400);
        assertThat(save("{\"values\":{\"number\":\"S-2\"},\"lines\":{\"notes\":[]}}")
                        .status())
                .isEqualTo(400);
    }

    @Test
    void aRecordWithItsLinesIsRemovedAndPutBackAsOne() {
        var record = save(sheet("S-1", line("mayfly", 3), line("worm", 4))).json();
        save(sheet("S-2", line("mayfly", 3)));
        var path = "/api/doors/" + samples + "/records/" + record.get("id").asLong();
        assertThat(send("DELETE", path, "", "If-Match", "\"1\"").status()).isEqualTo(204);
        assertThat(all(counts)).hasSize(1);
        var back = post(path + "/restore", "");
        assertThat(back.status()).as(back.http().body()).isEqualTo(200);
        assertThat(rows(get(path + "/lines").json().get("counts"))).containsExactly(1L, 2L);
    }

    @Test
    void aRecordThatOthersLinkToStaysAndSaysSo() {
        post("/api/doors/" + samples + "/records", "{\"values\":{\"number\":\"S-1\"}}");
        var copy = get("/api/forms/" + samples);
        var document = (ObjectNode) copy.json();
        ((ObjectNode) document.at("/sections/0/items/2")).put("belong", false);
        send("PUT", "/api/forms/" + samples, document.toString(), "If-Match", copy.header("ETag"));
        post("/api/forms/" + samples + "/publish", "");
        var typed = post(
                "/api/doors/" + counts + "/records",
                "{\"values\":{\"sample\":\"s-1\",\"taxon\":\"mayfly\",\"count\":3}}");
        assertThat(typed.json().at("/values/sample/shown").asString()).isEqualTo("S-1");
        assertThat(post("/api/doors/" + counts + "/records", "{\"values\":{\"sample\":{\"id\":1},\"taxon\":\"worm\"}}")
                        .status())
                .isEqualTo(201);
        assertThat(post("/api/doors/" + counts + "/records", "{\"values\":{\"sample\":{\"id\":99},\"taxon\":\"x\"}}")
                        .json()
                        .at("/findings/0/code")
                        .asString())
                .isEqualTo("choice");
        assertThat(post("/api/doors/" + counts + "/choices/sample", "{\"typed\":\"S\",\"draft\":{\"values\":{}}}")
                        .json()
                        .toString())
                .isEqualTo("[{\"value\":\"S-1\",\"shown\":\"\",\"id\":1}]");
        assertThat(get("/api/doors/" + counts + "/records?where=sample:s-*&sort=-sample")
                        .json()
                        .get("records"))
                .hasSize(2);
        assertThat(get("/api/doors/" + counts + "/export?format=csv").http().body())
                .contains("1,S-1,mayfly,3");
        var refused = send("DELETE", "/api/doors/" + samples + "/records/1", "", "If-Match", "\"1\"");
        assertThat(refused.status()).isEqualTo(409);
        assertThat(refused.json().get("detail").asString())
                .startsWith("2 records of ")
                .contains("link to this one by Sample");
    }

    /** Sixteen key sheets at once, every third of which is stopped: whole or not at all, and no hole in either table. */
    @Test
    void sheetsOfSixteenAtOnceAreWholeAndLeaveNoHoles() throws Exception {
        try (var hands = Executors.newFixedThreadPool(16)) {
            var work = IntStream.range(0, 48)
                    .<Callable<Answer>>mapToObj(n -> () -> save(sheet(
                            "S-" + n,
                            IntStream.range(0, 5)
                                    .mapToObj(at -> line("t" + at, n % 3 == 0 && at == 3 ? "9999" : "" + (at + 1)))
                                    .toArray(String[]::new))))
                    .toList();
            var statuses =
                    hands.invokeAll(work).stream().map(SheetsApiTest::status).toList();
            assertThat(statuses).containsOnly(201, 422);
            assertThat(statuses.stream().filter(status -> status == 201).count())
                    .isEqualTo(32);
        }
        assertThat(rows(all(samples)))
                .isEqualTo(
                        IntStream.rangeClosed(1, 32).mapToObj(row -> (long) row).toList());
        var lines = all(counts);
        assertThat(rows(lines))
                .isEqualTo(IntStream.rangeClosed(1, 160)
                        .mapToObj(row -> (long) row)
                        .toList());
        var bySample = StreamSupport.stream(lines.spliterator(), false)
                .collect(Collectors.groupingBy(
                        each -> each.at("/values/sample/id").asLong()));
        assertThat(bySample).hasSize(32);
        bySample.values().forEach(each -> {
            assertThat(each).hasSize(5);
            var rows = each.stream().map(row -> row.get("row").asLong()).toList();
            assertThat(rows.getLast() - rows.getFirst()).as("one block").isEqualTo(4);
            assertThat(new HashSet<>(rows)).hasSize(5);
        });
    }

    private static int status(java.util.concurrent.Future<Answer> answer) {
        try {
            return answer.get().status();
        } catch (Exception e) {
            throw new AssertionError(e);
        }
    }

    @Test
    void whatIsWorkedOutOverLinesIsToldAndStoredAnewWhenALineWasChangedElsewhere() {
        var made = save(sheet("S-9", line("mayfly", 3), line("worm", 4))).json();
        assertThat(made.at("/values/total").asInt()).isEqualTo(7);
        var worm = made.at("/lines/counts/1");
        var door = "/api/doors/" + counts + "/records/" + worm.get("id").asLong();
        assertThat(send(
                                "PUT",
                                door,
                                "{\"values\":{\"sample\":\"S-9\",\"taxon\":\"worm\",\"count\":\"40\"}}",
                                "If-Match",
                                "\"1\"")
                        .status())
                .isEqualTo(200);
        var id = made.get("id").asLong();
        var read = post("/api/doors/" + samples + "/assess", "{\"values\":{\"number\":\"S-9\"},\"record\":" + id + "}");
        assertThat(read.json().at("/values/total").asInt()).isEqualTo(43);
        var stored = send(
                "PUT",
                "/api/doors/" + samples + "/records/" + id,
                "{\"values\":{\"number\":\"S-9\"}}",
                "If-Match",
                "\"1\"");
        assertThat(stored.json().at("/values/total").asInt()).isEqualTo(43);
        assertThat(stored.json().get("version").asInt()).isEqualTo(2);
    }
}
