package weft.server.record;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.form;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;
import static weft.server.TestServer.send;

import java.net.http.HttpClient;
import java.net.http.HttpResponse.BodyHandlers;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import org.jooq.DSLContext;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import weft.server.TestServer;

@ExtendWith(TestServer.class)
class RecordsApiTest {

    private static final String SAMPLES = """
            {"name":"site","title":"Site","type":"text","required":true},
            {"name":"ph","title":"pH","type":"decimal","scale":1,"min":0,"max":14},
            {"name":"taken_on","title":"Taken on","type":"date"},
            {"name":"wet","title":"Wet","type":"yesno"},
            {"name":"number","title":"Number","type":"whole","unique":true}""";

    @Test
    void anEntryIsReadSavedToTheNextFreeRowAndFoundAgain() {
        var form = form("api_entry", SAMPLES);
        assertThat(get("/api/doors/" + form + "/next-row").json().get("row").asInt())
                .isEqualTo(1);
        var saved = post(
                "/api/doors/" + form + "/records",
                "{\"values\":{\"site\":\" QB-03 \",\"ph\":\"7.4\",\"taken_on\":\"8/1/26\",\"wet\":\"y\",\"number\":17}}");
        assertThat(saved.status()).isEqualTo(201);
        assertThat(saved.header("ETag")).isEqualTo("\"1\"");
        assertThat(saved.json().get("row").asInt()).isEqualTo(1);
        assertThat(saved.json().get("values").toString())
                .isEqualTo(
                        "{\"site\":\"QB-03\",\"ph\":\"7.4\",\"taken_on\":\"2026-08-01\",\"wet\":true,\"number\":17}");
        assertThat(get(saved.header("Location")).json()).isEqualTo(saved.json());
        assertThat(get("/api/doors/" + form + "/next-row").json().get("row").asInt())
                .isEqualTo(2);
        var page = get("/api/doors/" + form + "/records?limit=1").json();
        assertThat(page.get("records").get(0)).isEqualTo(saved.json());
        assertThat(page.get("total").toString()).isEqualTo("{\"count\":1,\"exact\":true}");
    }

    @Test
    void aStoppedEntryIs422WithItsFindingsAndWritesNothing() {
        var form = form("api_stopped", SAMPLES);
        post("/api/doors/" + form + "/records", "{\"values\":{\"site\":\"x\",\"number\":\"5\"}}");
        var stopped = post(
                "/api/doors/" + form + "/records",
                "{\"values\":{\"ph\":\"74\",\"taken_on\":[1],\"wet\":7,\"number\":\"5\"}}");
        assertThat(stopped.status()).isEqualTo(422);
        assertThat(stopped.header("Content-Type")).startsWith("application/problem+json");
        assertThat(stopped.json()
                        .get("findings")
                        .valueStream()
                        .map(finding -> finding.get("field").asString() + " "
                                + finding.get("code").asString() + " "
                                + finding.get("severity").asString()))
                .containsExactly(
                        "site required stop",
                        "ph range stop",
                        "taken_on unreadable stop",
                        "wet unreadable stop",
                        "number unique stop");
        assertThat(get("/api/doors/" + form + "/next-row").json().get("row").asInt())
                .isEqualTo(2);
    }

    @Test
    void theHistoryOfARemovedRecordIsReadByWhoMayRemoveAndTellsEachThingDone() {
        var form = form("api_history", SAMPLES);
        var record = "/api/doors/" + form + "/records/"
                + post("/api/doors/" + form + "/records", "{\"values\":{\"site\":\"x\"}}")
                        .json()
                        .get("id")
                        .asLong();
        send("PUT", record, "{\"values\":{\"site\":\"y\"}}", "If-Match", "\"1\"");
        send("DELETE", record, null, "If-Match", "\"2\"");
        assertThat(actions(record)).containsExactly("deleted", "changed", "saved");
        post(record + "/restore", "{}");
        assertThat(actions(record)).containsExactly("restored", "deleted", "changed", "saved");
    }

    private static List<String> actions(String record) {
        var history = get(record + "/history");
        assertThat(history.status()).isEqualTo(200);
        return history.json()
                .valueStream()
                .map(each -> each.get("action").asString())
                .toList();
    }

    @Test
    void assessingWritesNothingAndAgreesWithTheSave() {
        var form = form("api_assess", SAMPLES);
        var body = "{\"values\":{\"ph\":\"74\",\"taken_on\":\"8/x\"}}";
        var assessed = post("/api/doors/" + form + "/assess", body).json();
        assertThat(assessed.get("findings"))
                .isEqualTo(post("/api/doors/" + form + "/records", body).json().get("findings"));
        var read = post("/api/doors/" + form + "/assess", "{\"values\":{\"taken_on\":\"2026-08-01\"}}")
                .json();
        assertThat(read.get("readings").get("taken_on").asString()).isEqualTo("Sat 1 Aug 2026");
        assertThat(read.get("fields").get("site").get("required").asBoolean()).isTrue();
        assertThat(get("/api/doors/" + form + "/records").json().get("records").size())
                .isZero();
    }

    @Test
    void aSaveSentTwiceUnderOneKeyIsDoneOnce() {
        var form = form("api_key", SAMPLES);
        var path = "/api/doors/" + form + "/records";
        var first = post(path, "{\"values\":{\"site\":\"x\",\"number\":\"5\"}}", "Idempotency-Key", "k");
        // Its own number is taken by now; that must not count against it.
        var second = post(path, "{\"values\":{\"number\":\"5\",\"site\":\"x\"}}", "Idempotency-Key", "k");
        assertThat(second.status()).isEqualTo(201);
        assertThat(second.http().body()).isEqualTo(first.http().body());
        var other = post(path, "{\"values\":{\"site\":\"y\"}}", "Idempotency-Key", "k");
        assertThat(other.status()).isEqualTo(422);
        assertThat(other.json().get("detail").asString()).contains("was used for another entry");
        assertThat(get(path).json().get("records").size()).isEqualTo(1);
    }

    @Test
    void sixteenClientsOverHttpGetEveryRowOnce() throws Exception {
        var form = form("api_many", "{\"title\":\"A\"}");
        Callable<ArrayList<Long>> client = () -> {
            var rows = new ArrayList<Long>();
            for (int i = 0; i < 100; i++) {
                rows.add(post("/api/doors/" + form + "/records", "{\"values\":{\"a\":\"x\"}}")
                        .json()
                        .get("row")
                        .asLong());
            }
            return rows;
        };
        var all = new ArrayList<Long>();
        try (var clients = Executors.newFixedThreadPool(16)) {
            for (var rows : clients.invokeAll(Collections.nCopies(16, client))) {
                all.addAll(rows.get());
            }
        }
        assertThat(all.stream().sorted().toList())
                .isEqualTo(LongStream.rangeClosed(1, 1_600).boxed().toList());
    }

    @Test
    void oneOfManyWinsAValueThatMustBeUniqueAndTheOthersAreToldWhere() throws Exception {
        var form = form("api_race", "{\"title\":\"Code\",\"unique\":true}");
        Callable<TestServer.Answer> save =
                () -> post("/api/doors/" + form + "/records", "{\"values\":{\"code\":\"A\"}}");
        try (var clients = Executors.newFixedThreadPool(16)) {
            var answers = clients.invokeAll(Collections.nCopies(16, save)).stream()
                    .map(future -> future.resultNow())
                    .toList();
            assertThat(answers.stream().filter(answer -> answer.status() == 201))
                    .hasSize(1);
            assertThat(answers.stream().filter(answer -> answer.status() == 422))
                    .hasSize(15)
                    .allSatisfy(answer -> assertThat(answer.json()
                                    .get("findings")
                                    .get(0)
                                    .get("message")
                                    .asString())
                            .isEqualTo("Row 1 already has A. No two records may share it."));
        }
        assertThat(get("/api/doors/" + form + "/next-row").json().get("row").asInt())
                .isEqualTo(2);
    }

    @Test
    void aSaveThatChangesNothingIsNoVersionAndWhatIsPutBackKeepsWhoChangedIt() {
        var form = form("api_same", SAMPLES);
        var path = "/api/doors/" + form + "/records";
        var saved =
                post(path, "{\"values\":{\"site\":\"QB-01\",\"ph\":\"7.4\"}}").json();
        var record = path + "/" + saved.get("id").asLong();
        for (var spelled : List.of("7.4", "7.40", " 7.4 ")) {
            var same = send(
                    "PUT", record, "{\"values\":{\"site\":\"QB-01\",\"ph\":\"" + spelled + "\"}}", "If-Match", "\"1\"");
            assertThat(same.status()).isEqualTo(200);
            assertThat(same.json().get("version").asInt()).as(spelled).isEqualTo(1);
        }
        assertThat(get(record + "/history").json()).hasSize(1);
        send("PUT", record, "{\"values\":{\"site\":\"QB-02\"}}", "If-Match", "\"1\"");
        var sql = TestServer.part(DSLContext.class);
        var who = "select _changed_by from records.\"" + form + "\"";
        var before = sql.fetchValue(who);
        assertThat(before).isNotNull();
        send("DELETE", record, null, "If-Match", "\"2\"");
        assertThat(post(record + "/restore", "{}").status()).isEqualTo(200);
        assertThat(sql.fetchValue(who)).isEqualTo(before);
    }

    @Test
    void aChangeMustNameTheVersionItSaw() {
        var form = form("api_change", SAMPLES);
        var at = post("/api/doors/" + form + "/records", "{\"values\":{\"site\":\"x\"}}")
                .header("Location");
        assertThat(send("PUT", at, "{\"values\":{\"site\":\"y\"}}").status()).isEqualTo(428);
        var changed = send("PUT", at, "{\"values\":{\"site\":\"y\"}}", "If-Match", "\"1\"");
        assertThat(changed.header("ETag")).isEqualTo("\"2\"");
        var stale = send("PUT", at, "{\"values\":{\"site\":\"z\"}}", "If-Match", "\"1\"");
        assertThat(stale.status()).isEqualTo(412);
        assertThat(stale.json().get("record").get("values").get("site").asString())
                .isEqualTo("y");
        assertThat(send("DELETE", at, null, "If-Match", "\"1\"").status()).isEqualTo(412);
        assertThat(send("DELETE", at, null, "If-Match", "\"2\"").status()).isEqualTo(204);
        assertThat(get(at).status()).isEqualTo(404);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "POST | /api/doors/FORM/records | {bad | 400",
                "POST | /api/doors/FORM/records | {} | 400",
                "POST | /api/doors/FORM/records | {\"values\":[1]} | 400",
                "POST | /api/doors/FORM/records | {\"values\":{\"nope\":\"1\"}} | 400",
                "POST | /api/doors/none/records | {\"values\":{}} | 404",
                "POST | /api/forms | {\"table\":\"none\"} | 404",
                "POST | /api/tables | {\"name\":\"x y\",\"title\":\"\",\"columns\":[]} | 400",
                "GET | /api/doors/FORM/records?limit=100000 | | 400",
                "GET | /api/doors/FORM/records?where=nope:x | | 400",
                "GET | /api/doors/FORM/records/99 | | 404",
                "GET | /api/doors/FORM/records/x | | 400",
                "GET | /api/nothing/here | | 404",
                "PATCH | /api/forms | {} | 405",
            })
    void whatCannotBeDoneIsAProblemInAPlainSentence(String method, String path, String body, int status) {
        var form = get("/api/tables/api_bad").status() == 200 ? "api_bad" : form("api_bad", SAMPLES);
        var answer = send(method, path.replace("FORM", form), body);
        assertThat(answer.status()).isEqualTo(status);
        assertThat(answer.header("Content-Type")).startsWith("application/problem+json");
        assertThat(answer.json().get("detail").asString()).isNotBlank().doesNotContain("Exception", "org.", "java.");
    }

    @Test
    @Timeout(value = 30, unit = TimeUnit.SECONDS)
    void savesAreToldToEverybodyWhoListens() throws Exception {
        var form = form("api_events", SAMPLES);
        var request = TestServer.request("/api/doors/" + form + "/events").build();
        try (var client = HttpClient.newHttpClient()) {
            var lines = client.send(request, BodyHandlers.ofLines()).body().iterator();
            while (!lines.next().startsWith("event:ready")) {
                // The stream is open once it says so.
            }
            post("/api/doors/" + form + "/records", "{\"values\":{\"site\":\"secret\"}}");
            var told = new ArrayList<String>();
            while (told.stream().noneMatch(line -> line.startsWith("data:{"))) {
                told.add(lines.next());
            }
            assertThat(told)
                    .contains("event:saved")
                    .anySatisfy(line -> assertThat(line).contains("\"row\":1"));
            assertThat(String.join("", told)).doesNotContain("secret");
            client.shutdownNow();
        }
    }

    @Test
    void rowsFreedByADeleteAreFilledFirstWhereTheTableSaysSo() {
        post(
                "/api/tables",
                "{\"name\":\"api_fill\",\"title\":\"Fill\",\"placement\":\"first-free\",\"columns\":[{\"title\":\"A\"}]}");
        var form =
                post("/api/forms", "{\"table\":\"api_fill\"}").json().get("id").asString();
        var locations = IntStream.range(0, 3)
                .mapToObj(i -> post("/api/doors/" + form + "/records", "{\"values\":{\"a\":\"x\"}}")
                        .header("Location"))
                .toList();
        send("DELETE", locations.get(1), null, "If-Match", "\"1\"");
        assertThat(get("/api/doors/" + form + "/next-row").json().get("row").asInt())
                .isEqualTo(2);
        assertThat(post("/api/doors/" + form + "/records", "{\"values\":{\"a\":\"x\"}}")
                        .json()
                        .get("row")
                        .asInt())
                .isEqualTo(2);
    }

    /** Where a page of a table leads on to is what the next one is asked for, and a row number is too. */
    @Test
    void theRowsOfATableAreWalkedToTheirEnd() {
        var form = TestServer.form("walked", "{\"title\":\"Site\"}");
        for (int i = 1; i <= 7; i++) {
            post("/api/doors/" + form + "/records", "{\"values\":{\"site\":\"Q" + i + "\"}}");
        }
        var rows = new ArrayList<Integer>();
        for (var after = "0"; after != null; ) {
            var page = get("/api/tables/walked/records?limit=3&after=" + after);
            assertThat(page.status()).as(page.http().body()).isEqualTo(200);
            page.json()
                    .get("records")
                    .forEach(record -> rows.add(record.get("row").asInt()));
            after = page.json().get("next").isNull()
                    ? null
                    : page.json().get("next").asString();
        }
        assertThat(rows).containsExactly(1, 2, 3, 4, 5, 6, 7);
        assertThat(get("/api/tables/walked/records?after=nowhere").status()).isEqualTo(400);
    }
}
