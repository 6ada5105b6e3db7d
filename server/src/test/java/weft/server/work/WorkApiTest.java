package weft.server.work;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static weft.server.TestServer.as;
import static weft.server.TestServer.form;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;
import static weft.server.TestServer.send;

import java.sql.DriverManager;
import java.time.LocalDate;
import java.time.OffsetDateTime;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.JsonNode;
import weft.server.Browser;
import weft.server.TestServer;

/** Figures of keying, against what was done and what the history of each record says. */
@ExtendWith(TestServer.class)
class WorkApiTest {

    private static final String PASSWORD = "four dry river stones";
    private static final List<String> COLUMNS = List.of("site", "depth", "note");
    private static final Map<String, List<String>> PEOPLE = new HashMap<>();

    @BeforeAll
    static void given() {
        post("/api/groups", "{\"name\":\"Workers\",\"title\":\"Workers\"}");
        for (var name : List.of("work-ann", "work-ben")) {
            post(
                    "/api/people",
                    "{\"name\":\"%s\",\"title\":\"%s\",\"groups\":[\"Workers\"],\"password\":\"%s\"}"
                            .formatted(name, name, PASSWORD));
            PEOPLE.put(name, Browser.of(name, PASSWORD));
        }
    }

    private static void worked(String table, String more) {
        form(table, "{\"title\":\"Site\"},{\"title\":\"Depth\",\"type\":\"whole\"},{\"title\":\"Note\"}");
        var made = post("/api/forms/" + table + "/doors", """
                {"id":"%s-in","title":"In","who":{"groups":["Workers"]},"may":["add"],"lines":"both"%s}""".formatted(table, more));
        assertThat(made.status()).isEqualTo(201);
    }

    private static long save(List<String> by, String table, String values, String work) {
        var saved = as(
                by,
                "POST",
                "/api/doors/" + table + "-in/records",
                "{\"values\":" + values + (work.isEmpty() ? "" : ",\"work\":" + work) + "}");
        assertThat(saved.status()).as(saved.http().body()).isEqualTo(201);
        return saved.json().get("id").asLong();
    }

    /** What was measured, and what is to be told of it. */
    @Test
    void figuresAreThoseThatTheHistoryOfEachRecordGives() throws Exception {
        worked("worked", "");
        var random = new Random(12);
        var seconds = new HashMap<String, List<Double>>();
        var entries = new HashMap<String, Integer>();
        int stops = 0;
        int back = 0;
        var ids = new ArrayList<Long>();
        var names = List.copyOf(PEOPLE.keySet());
        for (int n = 0; n < 60; n++) {
            var name = names.get(random.nextInt(2));
            var fields = new ArrayList<String>();
            for (var column : COLUMNS) {
                double took = 0.2 + random.nextDouble() * 20;
                int stopped = random.nextInt(4) == 0 ? 1 : 0;
                int gone = random.nextInt(6) == 0 ? 2 : 0;
                stops += column.equals("depth") ? stopped : 0;
                back += column.equals("depth") ? gone : 0;
                seconds.computeIfAbsent(column, _ -> new ArrayList<>()).add(took);
                fields.add("\"%s\":{\"seconds\":%s,\"stops\":%d,\"back\":%d}".formatted(column, took, stopped, gone));
            }
            entries.merge(name, 1, Integer::sum);
            ids.add(save(
                    PEOPLE.get(name),
                    "worked",
                    "{\"site\":\"s%d\",\"depth\":%d,\"note\":\"\"}".formatted(n, n),
                    "{\"seconds\":30,\"keys\":20,\"least\":15,\"fields\":{" + String.join(",", fields) + "}}"));
        }
        // A batch is entries too.
        assertThat(as(
                                PEOPLE.get("work-ann"),
                                "POST",
                                "/api/doors/worked-in/batches",
                                "{\"same\":{},\"keep\":\"all\",\"lines\":[{\"values\":{\"site\":\"b1\"}},{\"values\":{\"site\":\"b2\"}}]}")
                        .status())
                .isEqualTo(201);
        entries.merge("work-ann", 2, Integer::sum);
        for (int n = 0; n < 40; n++) {
            correct(ids.get(random.nextInt(ids.size())), random);
        }
        // What comes through another form of the table is another form's.
        var other =
                post("/api/forms", "{\"table\":\"worked\"}").json().get("id").asString();
        var theirs = post("/api/doors/" + other + "/records", "{\"values\":{\"site\":\"other\",\"depth\":1}}");
        assertThat(theirs.status()).isEqualTo(201);
        assertThat(send(
                                "PUT",
                                "/api/doors/" + other + "/records/"
                                        + theirs.json().get("id").asLong(),
                                "{\"values\":{\"depth\":2}}",
                                "If-Match",
                                "\"1\"")
                        .status())
                .isEqualTo(200);
        // Some corrections came late.
        try (var database = DriverManager.getConnection(
                        TestServer.database().url(),
                        TestServer.database().user(),
                        TestServer.database().password());
                var late = database.createStatement()) {
            late.executeUpdate(
                    "update weft.history h set at = at + interval '8 days' from weft.table_def t where t.name = 'worked'"
                            + " and h.table_id = t.id and action = 'changed' and h.id % 3 = 0");
        }

        var told = get("/api/doors/worked/work").json();
        assertThat(told.at("/whole/entries").asInt()).isEqualTo(62);
        assertThat(told.at("/whole/measured").asInt()).isEqualTo(60);
        assertThat(told.at("/whole/people").asInt()).isEqualTo(2);
        assertThat(told.at("/whole/keys").asInt()).isEqualTo(60 * 20);
        assertThat(told.at("/whole/least").asInt()).isEqualTo(60 * 15);
        assertThat(told.at("/days")).hasSize(30);
        assertThat(told.at("/days/29/day").asString()).isEqualTo(LocalDate.now().toString());
        assertThat(told.at("/days/29/once").asInt()).isEqualTo(62);
        int byHour = 0;
        for (var hour : told.get("hours")) {
            byHour += hour.get("once").asInt();
        }
        assertThat(byHour).isEqualTo(62);
        for (var person : told.get("persons")) {
            assertThat(person.get("entries").asInt())
                    .isEqualTo(entries.get(person.get("name").asString()));
        }
        var corrected = correctedByHand(ids);
        for (var field : told.get("fields")) {
            var column = field.get("column").asString();
            var measured = seconds.get(column).stream().sorted().toList();
            assertThat(field.get("median").asDouble())
                    .isCloseTo(measured.get(29), within(measured.get(29) * 0.05 + 0.05));
            assertThat(field.get("slowest").asDouble())
                    .isCloseTo(measured.get(53), within(measured.get(53) * 0.05 + 0.05));
            assertThat(field.at("/corrected/times").asInt()).as(column).isEqualTo(corrected.getOrDefault(column, 0));
        }
        assertThat(told.at("/whole/corrected/times").asInt()).isEqualTo(corrected.get(""));
        assertThat(corrected.get("")).isPositive();
        assertThat(told.at("/fields/1/stops").asInt()).isEqualTo(stops);
        assertThat(told.at("/fields/1/back").asInt()).isEqualTo(back);

        var csv = get("/api/doors/worked/work/csv").http().body();
        assertThat(csv)
                .contains("day," + LocalDate.now() + ",entries,62,")
                .contains("field,Depth,stops," + stops + ",")
                .contains("person,work-ann,entries," + entries.get("work-ann") + ",");
        assertThat(get("/api/doors/worked/work?to=" + LocalDate.now().minusDays(1))
                        .json()
                        .at("/whole/entries")
                        .asInt())
                .isZero();
    }

    private static void correct(long id, Random random) {
        var now = get("/api/doors/worked/records/" + id);
        var values = "{\"site\":%s,\"depth\":%d,\"note\":\"%s\"}"
                .formatted(
                        now.json().at("/values/site"),
                        random.nextInt(3) == 0
                                ? random.nextInt(100, 200)
                                : now.json().at("/values/depth").asInt(),
                        random.nextBoolean() ? "n" + random.nextInt(5) : "");
        send(
                "PUT",
                "/api/doors/worked/records/" + id,
                "{\"values\":" + values + "}",
                "If-Match",
                "\"" + now.json().get("version").asInt() + "\"");
    }

    /** How many records were changed in each column within a week after they were entered, as their histories say; at all under nothing. */
    private static Map<String, Integer> correctedByHand(List<Long> ids) {
        var corrected = new HashMap<String, Integer>();
        for (var id : ids) {
            var history = get("/api/doors/worked/records/" + id + "/history").json();
            var entered = at(history.get(history.size() - 1));
            var columns = new HashSet<String>();
            for (var change : history) {
                if (change.get("action").asString().equals("changed")
                        && ChronoUnit.SECONDS.between(entered, at(change)) < 7 * 24 * 3600) {
                    COLUMNS.stream()
                            .filter(column ->
                                    !Objects.equals(change.at("/before/" + column), change.at("/after/" + column)))
                            .forEach(columns::add);
                }
            }
            columns.forEach(column -> corrected.merge(column, 1, Integer::sum));
            corrected.merge("", columns.isEmpty() ? 0 : 1, Integer::sum);
        }
        return corrected;
    }

    private static OffsetDateTime at(JsonNode change) {
        return OffsetDateTime.parse(change.get("at").asString());
    }

    @Test
    void whoSeesAndChangesEveryRecordSeesEverybodysFiguresAndOthersTheirOwn() {
        worked("owned", "");
        save(PEOPLE.get("work-ann"), "owned", "{\"site\":\"a\"}", "{\"seconds\":5}");
        save(PEOPLE.get("work-ann"), "owned", "{\"site\":\"b\"}", "{\"seconds\":5}");
        // What was not measured counts as keyed, and says nothing of how fast.
        as(
                PEOPLE.get("work-ann"),
                "POST",
                "/api/doors/owned-in/batches",
                "{\"same\":{},\"keep\":\"all\",\"lines\":[{\"values\":{\"site\":\"d\"}}]}");
        save(PEOPLE.get("work-ben"), "owned", "{\"site\":\"c\"}", "");
        var whole = get("/api/doors/owned/work").json();
        assertThat(whole.get("everybody").asBoolean()).isTrue();
        assertThat(whole.at("/whole/entries").asInt()).isEqualTo(4);
        assertThat(whole.at("/persons/0/anHour").asDouble()).isCloseTo(720, within(1.0));
        assertThat(get("/api/doors/owned/work?person=work-ben")
                        .json()
                        .at("/whole/entries")
                        .asInt())
                .isEqualTo(1);
        var own = as(PEOPLE.get("work-ann"), "GET", "/api/doors/owned-in/work", null)
                .json();
        assertThat(own.get("everybody").asBoolean()).isFalse();
        assertThat(own.at("/whole/entries").asInt()).isEqualTo(3);
        assertThat(own.get("persons")).isEmpty();
        assertThat(own.get("people")).isEmpty();
        assertThat(as(PEOPLE.get("work-ann"), "GET", "/api/doors/owned-in/work?person=work-ben", null)
                        .status())
                .isEqualTo(403);
        assertThat(as(PEOPLE.get("work-ann"), "GET", "/api/doors/owned-in/work/csv?person=work-ben", null)
                        .status())
                .isEqualTo(403);
    }

    @Test
    void nothingIsKeptWhereItsBuilderSaysSoAndNothingOddIsCounted() {
        worked("unwatched", "");
        var odd =
                "{\"seconds\":-4,\"keys\":99999999,\"fields\":{\"nothing\":{\"stops\":1},\"site\":{\"seconds\":1e9,\"stops\":-1}},\"rules\":{\"none\":{\"asks\":3}}}";
        save(PEOPLE.get("work-ann"), "unwatched", "{\"site\":\"a\"}", odd);
        var told = get("/api/doors/unwatched/work").json();
        assertThat(told.at("/whole/median").isNull()).isTrue();
        assertThat(told.at("/whole/keys").asInt()).isZero();
        assertThat(told.at("/fields/0/stops").asInt()).isZero();
        assertThat(told.get("kept").asInt()).isEqualTo(731);
        assertThat(send("PUT", "/api/forms/unwatched/work/kept", "{\"days\":-1}")
                        .status())
                .isEqualTo(422);
        assertThat(send("PUT", "/api/forms/unwatched/work/kept", "{\"days\":0}").status())
                .isEqualTo(204);
        save(PEOPLE.get("work-ann"), "unwatched", "{\"site\":\"b\"}", "{\"seconds\":5}");
        var off = get("/api/doors/unwatched/work").json();
        assertThat(off.get("kept").asInt()).isZero();
        assertThat(off.at("/whole/entries").asInt()).isZero();
    }

    @Test
    void whatDiffersWhenKeyedTwiceIsCountedByFieldAndByWhoKeyedFirst() {
        worked("differed", ",\"twice\":{\"way\":\"blind\",\"paper\":[\"site\"]}");
        for (int n = 0; n < 10; n++) {
            save(PEOPLE.get("work-ann"), "differed", "{\"site\":\"s%d\",\"depth\":%d}".formatted(n, n), "");
        }
        for (int n = 0; n < 10; n++) {
            var ben = PEOPLE.get("work-ben");
            var paper = as(ben, "POST", "/api/doors/differed-in/twice/take", "{}")
                    .json()
                    .get("paper");
            as(
                    ben,
                    "POST",
                    "/api/doors/differed-in/twice/" + paper.get("record").asLong(),
                    "{\"entry\":{\"values\":{\"depth\":%d},\"work\":{\"seconds\":4}}}".formatted(n < 3 ? 99 : n));
        }
        var told = get("/api/doors/differed/work").json();
        assertThat(told.at("/whole/twice").asInt()).isEqualTo(10);
        assertThat(told.at("/whole/differed/times").asInt()).isEqualTo(3);
        assertThat(told.at("/whole/differed/of").asInt()).isEqualTo(20);
        assertThat(told.at("/whole/differed/low").asDouble()).isCloseTo(0.0524, within(0.0005));
        assertThat(told.at("/whole/differed/high").asDouble()).isCloseTo(0.3604, within(0.0005));
        assertThat(told.at("/fields/1/differed/times").asInt()).isEqualTo(3);
        assertThat(told.at("/fields/2/differed/times").asInt()).isZero();
        for (var person : told.get("persons")) {
            boolean first = person.get("name").asString().equals("work-ann");
            assertThat(person.at("/differed/times").asInt()).isEqualTo(first ? 3 : 0);
            assertThat(person.get("twice").asInt()).isEqualTo(first ? 0 : 10);
        }
    }

    /** An answer that was lost is asked for again, by several tries at once perhaps. */
    @Test
    void whatIsSentAgainUnderItsKeyIsCountedOnce() {
        form("resent", "{\"title\":\"Site\",\"unique\":true},{\"title\":\"Depth\",\"type\":\"whole\"}");
        post("/api/forms/resent/doors", """
                {"id":"resent-in","title":"In","who":{"groups":["Workers"]},"may":["add"],"lines":"both",
                 "twice":{"way":"blind","paper":["site"]}}""");
        var ann = PEOPLE.get("work-ann");
        for (int n = 0; n < 5; n++) {
            var entry = "{\"values\":{\"site\":\"s%d\"},\"work\":{\"seconds\":5,\"keys\":7}}".formatted(n);
            var key = "once-" + n;
            IntStream.range(0, 4)
                    .parallel()
                    .forEach(_ -> assertThat(
                                    as(ann, "POST", "/api/doors/resent-in/records", entry, "Idempotency-Key", key)
                                            .status())
                            .isEqualTo(201));
        }
        var batch =
                "{\"same\":{},\"keep\":\"all\",\"lines\":[{\"values\":{\"site\":\"b1\"}},{\"values\":{\"site\":\"b2\"}}]}";
        for (int n = 0; n < 3; n++) {
            assertThat(as(ann, "POST", "/api/doors/resent-in/batches", batch, "Idempotency-Key", "batch-1")
                            .status())
                    .isEqualTo(201);
        }
        var ben = PEOPLE.get("work-ben");
        var paper =
                as(ben, "POST", "/api/doors/resent-in/twice/take", "{}").json().get("paper");
        for (int n = 0; n < 2; n++) {
            assertThat(as(
                                    ben,
                                    "POST",
                                    "/api/doors/resent-in/twice/"
                                            + paper.get("record").asLong(),
                                    "{\"entry\":{\"values\":{\"depth\":1},\"work\":{\"seconds\":4,\"keys\":2}}}")
                            .status())
                    .isEqualTo(200);
        }
        var told = get("/api/doors/resent/work").json().get("whole");
        assertThat(told.get("entries").asInt()).isEqualTo(7);
        assertThat(told.get("twice").asInt()).isEqualTo(1);
        assertThat(told.get("measured").asInt()).isEqualTo(6);
        assertThat(told.get("keys").asInt()).isEqualTo(5 * 7 + 2);
    }
}
