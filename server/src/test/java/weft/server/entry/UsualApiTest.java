package weft.server.entry;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.as;
import static weft.server.TestServer.await;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;
import static weft.server.TestServer.send;
import static weft.server.TestServer.upload;
import static weft.server.entry.RulesApiTest.ruled;

import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.JsonNode;
import weft.server.Browser;
import weft.server.TestServer;

/** What is not as usual: told with its figures, asked about at a save, in lines and at a change, and told nobody who does not see all records. */
@ExtendWith(TestServer.class)
class UsualApiTest {

    private static final String COLUMNS = """
            {"name":"water","title":"Water","type":"decimal"},{"name":"river","title":"River"},{"name":"taken","title":"Taken on","type":"date"}""";

    private static String rule(boolean all) {
        return """
                "checks":[{"id":"season","asks":true,"stays":false,"message":"",
                  "rule":{"kind":"usual","column":"water","by":[{"column":"river","of":"value"},{"column":"taken","of":"month"}],"all":%s}}]""".formatted(all);
    }

    /** Of 30 records in November from 4 to 6.9 degrees. */
    private static String november(String form, boolean all) throws InterruptedException {
        var api = ruled(form, COLUMNS, rule(all));
        var lines = IntStream.range(0, 30)
                .mapToObj(i -> "{\"values\":{\"water\":\"%s\",\"river\":\"Wen\",\"taken\":\"2025-11-%02d\"}}"
                        .formatted(4 + i / 10.0, i + 1))
                .collect(Collectors.joining(","));
        assertThat(post(api + "/batches", "{\"same\":{},\"lines\":[" + lines + "]}")
                        .status())
                .isEqualTo(201);
        await(() ->
                !post(api + "/assess", entry("40", "")).json().get("findings").isEmpty());
        return api;
    }

    private static String entry(String water, String more) {
        return "{\"values\":{\"water\":\"%s\",\"river\":\"Wen\",\"taken\":\"2026-11-02\"}%s}".formatted(water, more);
    }

    private static JsonNode found(JsonNode answer) {
        return answer.at("/findings/0");
    }

    @Test
    void itIsToldWithItsFiguresAndAskedAboutWhereverItIsSaved() throws InterruptedException {
        var api = november("usual_samples", false);
        // The Bench says of the rule what is so: nothing where too little is stored, and nothing at all where it does
        // not apply.
        var bench = "/api/forms/usual_samples/bench/said";
        assertThat(post(bench, entry("19.5", "")).json().at("/0/mark").asString())
                .isEqualTo("asks");
        assertThat(post(bench, entry("5", "")).json().at("/0/mark").asString()).isEqualTo("holds");
        assertThat(post(bench, "{\"values\":{\"water\":\"5\"}}").json()).isEmpty();
        var early = ruled("usual_early", COLUMNS, rule(false));
        assertThat(post(early.replace("doors", "forms") + "/bench/said", entry("19.5", ""))
                        .json()
                        .at("/0/mark")
                        .asString())
                .isEqualTo("silent");
        var told = found(post(api + "/assess", entry("19.5", "")).json());
        assertThat(told.get("code").asString()).isEqualTo("unusual");
        assertThat(told.get("message").asString())
                .isEqualTo(
                        "Water is 19.5. Of 30 records with River Wen and Taken on in November, all are from 4 to 6.9.");
        assertThat(told.at("/cause/unusual/plot/at").asDouble()).isEqualTo(1);
        assertThat(told.at("/cause/unusual/plot/ticks")).hasSize(30);
        assertThat(post(api + "/assess", entry("8", "")).json().get("findings")).isEmpty();

        assertThat(post(api + "/records", entry("19.5", "")).status()).isEqualTo(422);
        assertThat(post(api + "/batches", "{\"same\":{},\"lines\":[" + entry("5", "") + "," + entry("-9", "") + "]}")
                        .status())
                .isEqualTo(422);
        var first = get(api + "/records?limit=1").json().at("/records/0");
        var path = api + "/records/" + first.get("id").asLong();
        assertThat(send("PUT", path, entry("19.5", ""), "If-Match", "\"1\"").status())
                .isEqualTo(422);
        var many = post(
                api + "/changes", "{\"ids\":[%s],\"set\":{\"water\":{\"typed\":\"19.5\"}}}".formatted(first.get("id")));
        assertThat(many.json().get("changed").asInt()).isZero();
        assertThat(many.json().at("/findings/0/code").asString()).isEqualTo("unusual");
        assertThat(get(path).json().get("version").asInt()).isEqualTo(1);

        var saved = post(api + "/records", entry("19.5", ",\"answers\":{\"season\":\"yes\"}"));
        assertThat(saved.status()).isEqualTo(201);
        // It counts from now on, and so does what it was changed to.
        assertThat(found(post(api + "/assess", entry("19.5", "")).json())
                        .get("message")
                        .asString())
                .contains("Of 31 records", "all but 1 are from 4 to 6.9");
    }

    @Test
    void whatAFileBringsIsToldByLineAndBroughtInOnlyOnceItIsAnswered() throws InterruptedException {
        november("usual_files", false);
        var file = upload("more.csv", "Water,River,Taken on\n5,Wen,2026-11-03\n40,Wen,2026-11-04\n")
                .json()
                .get("id")
                .asString();
        var into = "/api/imports/" + file + "/into/usual_files";
        var told = post(into + "/look", "{}").json().get("asked");
        assertThat(told.get("many").asInt()).isEqualTo(1);
        assertThat(told.at("/first/0/line").asInt()).isEqualTo(3);
        assertThat(told.at("/first/0/finding/message").asString())
                .isEqualTo(
                        "Water is 40. Of 30 records with River Wen and Taken on in November, all are from 4 to 6.9.");
        var refused = post(into, "{}");
        assertThat(refused.status()).isEqualTo(422);
        assertThat(refused.json().get("detail").asString())
                .startsWith("1 row is asked about, such as line 3: Water is 40.")
                .endsWith("Nothing was brought in.");
        assertThat(get("/api/tables/usual_files").json().get("rows").asInt()).isEqualTo(30);
        assertThat(post(into, "{\"answered\":1}").json().get("added").asInt()).isEqualTo(2);
    }

    /** Without a rule: only for builders, by a column and a part, the worst first. */
    @Test
    void whatIsUnusualIsFoundWithoutARule() {
        var api = ruled("usual_looked", COLUMNS, "\"checks\":[]");
        var path = "/api/tables/usual_looked/unusual";
        var lines = IntStream.range(0, 60)
                .mapToObj(i -> "{\"values\":{\"water\":\"%s\",\"river\":\"%s\",\"taken\":\"2025-%s-%02d\"}}"
                        .formatted(
                                i == 37 ? 5 : (i < 30 ? 4 : 14) + i / 10.0,
                                i < 30 ? "Wen" : "Tarn",
                                i < 30 ? "11" : "07",
                                1 + i % 30))
                .collect(Collectors.joining(","));
        assertThat(post(api + "/batches", "{\"same\":{},\"lines\":[" + lines + "]}")
                        .status())
                .isEqualTo(201);
        assertThat(get(path).json().toString())
                .isEqualTo("{\"columns\":[\"water\",\"taken\"],\"parts\":[{\"column\":\"river\",\"of\":\"value\"},"
                        + "{\"column\":\"taken\",\"of\":\"month\"},{\"column\":\"taken\",\"of\":\"weekday\"}]}");
        assertThat(get(path + "/water").json().get("many").asInt()).isZero();
        var found = get(path + "/water?by=taken&of=month").json();
        assertThat(found.get("many").asInt()).isEqualTo(1);
        assertThat(found.get("often").asBoolean()).isFalse();
        assertThat(found.at("/records/0/finding/message").asString())
                .isEqualTo("Water is 5. Of 30 records with Taken on in July, all but 1 are from 17 to 19.9.");
        assertThat(found.get("sentence").asString()).isEqualTo("asks unless Water is as usual for month(Taken on)");
        assertThat(get(path + "/water?by=river").json().get("many").asInt()).isEqualTo(1);
        var last = found.at("/records/0");
        assertThat(get(path
                                + "/water?by=taken&of=month&beyond=%s&row=%s"
                                        .formatted(last.get("beyond"), last.at("/record/row")))
                        .json()
                        .get("records"))
                .isEmpty();
        assertThat(get(path + "/water?by=taken").json().get("detail").asString())
                .isEqualTo("Records can't be parted by the value of Taken on, which holds a date.");
        assertThat(get(path + "/river").status()).isEqualTo(422);
        assertThat(get(path + "/nothing").status()).isEqualTo(422);
        assertThat(as(Browser.newIn("Usuals", "usuallooker"), "GET", path + "/water", "")
                        .status())
                .isEqualTo(403);
    }

    @Test
    void whoDoesNotSeeAllLearnsNothingUnlessTheRuleSaysSo() throws InterruptedException {
        november("usual_seen", false);
        november("usual_all", true);
        var kim = Browser.newIn("Usuals", "usualkim");
        var doors = List.of(
                "\"may\":[\"add\",\"see\"],\"view\":{\"where\":[\"river:Tarn\"],\"own\":false}",
                "\"may\":[\"add\"],\"view\":{\"where\":[],\"own\":false}",
                "\"may\":[\"add\",\"see\"],\"view\":{\"where\":[],\"own\":true}",
                "\"may\":[\"add\",\"see\"],\"view\":{\"where\":[],\"own\":false},\"fields\":{\"leftOut\":[\"river\"],\"locked\":[]},\"filled\":{\"river\":\"\\\"Wen\\\"\"}",
                "\"may\":[\"add\",\"see\"],\"view\":{\"where\":[],\"own\":false}");
        for (var form : List.of("usual_seen", "usual_all")) {
            for (int at = 0; at < doors.size(); at++) {
                var id = form.replace('_', '-') + at;
                var made = post(
                        "/api/forms/" + form + "/doors",
                        "{\"id\":\"%s\",\"title\":\"Some\",\"who\":{\"groups\":[\"Usuals\"]},%s}"
                                .formatted(id, doors.get(at)));
                assertThat(made.status()).as(made.http().body()).isEqualTo(201);
                var typed = at == 3 ? "{\"values\":{\"water\":\"19.5\",\"taken\":\"2026-11-02\"}}" : entry("19.5", "");
                var answer = as(kim, "POST", "/api/doors/" + id + "/assess", typed);
                assertThat(answer.status()).as(answer.http().body()).isEqualTo(200);
                boolean tells = at == 4 || (form.equals("usual_all") && at != 3);
                assertThat(answer.json().get("findings").toString().contains(" records with"))
                        .as(form + doors.get(at))
                        .isEqualTo(tells);
                assertThat(as(kim, "POST", "/api/doors/" + id + "/records", typed)
                                .status())
                        .as(form + doors.get(at))
                        .isEqualTo(tells ? 422 : 201);
            }
        }
    }
}
