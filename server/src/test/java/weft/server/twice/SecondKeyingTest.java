package weft.server.twice;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.as;
import static weft.server.TestServer.form;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;
import static weft.server.TestServer.send;

import java.time.Duration;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;
import weft.server.Browser;
import weft.server.TestServer;
import weft.server.TestServer.Answer;

/** Papers keyed a second time: by whom, what is told of them, what becomes of the record, and where that shows. */
@ExtendWith(TestServer.class)
class SecondKeyingTest {

    private static final String PASSWORD = "four dry river stones";
    private static final Map<String, List<String>> PEOPLE = new LinkedHashMap<>();

    @BeforeAll
    static void given() {
        post("/api/groups", "{\"name\":\"Twice\",\"title\":\"Twice\"}");
        for (int n = 0; n < 18; n++) {
            var name = "twice-" + n;
            post(
                    "/api/people",
                    "{\"name\":\"%s\",\"title\":\"Keyer %d\",\"groups\":[\"Twice\"],\"password\":\"%s\"}"
                            .formatted(name, n, PASSWORD));
            PEOPLE.put(name, Browser.of(name, PASSWORD));
        }
    }

    private static List<String> person(int n) {
        return PEOPLE.get("twice-" + n);
    }

    /** A form of counts of samples, and a door at which they are keyed twice so. */
    private static String door(String table, String twice) {
        form(table, """
                {"title":"Number"},{"title":"Taxon"},{"title":"Count","type":"decimal"},{"title":"Taken on","type":"date"},\
                {"title":"Remark"},{"title":"Code","unique":true}""");
        var made = post("/api/forms/" + table + "/doors", """
                {"id":"%s-again","title":"%s again","who":{"groups":["Twice"]},"may":["add","see","change","export"],"lines":"both",\
                "twice":%s}""".formatted(table, table, twice));
        assertThat(made.status()).as(made.http().body()).isEqualTo(201);
        assertThat(made.json().get("frays")).isEmpty();
        return "/api/doors/" + table + "-again";
    }

    private static String entry(String number, String taxon, String count, String remark) {
        return "{\"number\":\"%s\",\"taxon\":\"%s\",\"count\":\"%s\",\"taken_on\":\"2026-08-01\",\"remark\":\"%s\",\"code\":\"c%s\"}"
                .formatted(number, taxon, count, remark, number);
    }

    private static long save(List<String> by, String door, String values) {
        var saved = as(by, "POST", door + "/records", "{\"values\":" + values + "}");
        assertThat(saved.status()).as(saved.http().body()).isEqualTo(201);
        return saved.json().get("id").asLong();
    }

    private static int waiting(List<String> by, String door) {
        return as(by, "GET", door + "/twice", null).json().get("waiting").asInt();
    }

    private static Answer take(List<String> by, String door, String number) {
        var paper = number.isEmpty() ? "null" : "{\"number\":\"" + number + "\"}";
        return as(by, "POST", door + "/twice/take", "{\"paper\":" + paper + "}");
    }

    private static Answer finish(List<String> by, String door, long record, String values, String choices) {
        return as(
                by,
                "POST",
                door + "/twice/" + record,
                "{\"entry\":{\"values\":" + values + "},\"choices\":" + choices + "}");
    }

    private static JsonNode field(List<String> by, String door, long record, String column, String values) {
        var told = as(by, "POST", door + "/twice/" + record + "/fields/" + column, "{\"values\":" + values + "}");
        assertThat(told.status()).as(told.http().body()).isEqualTo(200);
        return told.json();
    }

    private static String keyed(List<String> by, String door, long record) {
        for (var each : as(by, "GET", door + "/records", null).json().get("records")) {
            if (each.get("id").asLong() == record) {
                return each.get("keyed").asString();
            }
        }
        return "out of view";
    }

    @Test
    void blindBothKeyingsAreWholeAndAThirdPersonSettles() {
        var door = door(
                "twice_blind",
                "{\"way\":\"blind\",\"paper\":[\"number\"],\"leftOut\":[\"remark\"],\"blanks\":false,\"case\":false}");
        long first = save(person(0), door, entry("S-1", "May Fly", "2.50", "clear"));
        long second = save(person(0), door, entry("S-2", "Caddis", "7", ""));

        // Whoever keyed it first is not told that it waits, and gets nothing.
        assertThat(take(person(0), door, "").json().get("paper").isNull()).isTrue();
        assertThat(keyed(person(0), door, first)).isEqualTo("once");
        assertThat(as(person(0), "GET", door + "/records?where=_keyed:waiting", null)
                        .json()
                        .get("records"))
                .isEmpty();
        assertThat(as(person(0), "GET", door + "/twice", null)
                        .json()
                        .get("waiting")
                        .asInt())
                .isZero();
        // Who keys it second does not see it anywhere.
        assertThat(keyed(person(1), door, first)).isEqualTo("out of view");
        assertThat(as(person(1), "GET", door + "/records/" + first, null).status())
                .isEqualTo(404);
        assertThat(as(person(1), "GET", door + "/records/" + first + "/history", null)
                        .http()
                        .body())
                .doesNotContain("May Fly");

        var taken = take(person(1), door, "s-2").json().get("paper");
        assertThat(taken.get("record").asLong()).isEqualTo(second);
        assertThat(taken.get("words").asString()).isEqualTo("Number S-2");
        // The one in hand comes again, and no other for the next person.
        assertThat(take(person(1), door, "").json().at("/paper/record").asLong())
                .isEqualTo(second);
        assertThat(take(person(2), door, "").json().at("/paper/record").asLong())
                .isEqualTo(first);
        assertThat(take(person(3), door, "").json().get("paper").isNull()).isTrue();
        assertThat(finish(person(3), door, second, entry("S-2", "x", "1", ""), "{}")
                        .status())
                .isEqualTo(409);

        // Alike but for blanks, capitals, what is left out and how a number is written; unique values do not get in the
        // way.
        var alike = finish(person(2), door, first, entry("S-1", "may  fly", "2.5", "murky"), "{}");
        assertThat(alike.json().get("standing").asString()).isEqualTo("settled");
        var differs = finish(person(1), door, second, entry("S-2", "Caddis", "9", ""), "{}");
        assertThat(differs.json().get("standing").asString()).isEqualTo("differing");
        // The same sent again is answered as done.
        assertThat(finish(person(1), door, second, entry("S-2", "Caddis", "9", ""), "{}")
                        .http()
                        .body())
                .isEqualTo(differs.http().body());
        assertThat(keyed(person(0), door, second)).isEqualTo("differing");
        // Who keyed it second neither reads nor overwrites the first while it is to be settled.
        var theirs = door + "/records/" + second;
        assertThat(as(person(1), "GET", theirs, null).status()).isEqualTo(404);
        assertThat(as(
                                person(1),
                                "PUT",
                                theirs,
                                "{\"values\":" + entry("S-2", "Caddis", "9", "") + "}",
                                "If-Match",
                                "\"1\"")
                        .status())
                .isEqualTo(404);
        assertThat(get("/api/doors/twice_blind/records/" + second)
                        .json()
                        .at("/values/count")
                        .asString())
                .isEqualTo("7");

        // Neither of both may settle.
        for (int own : new int[] {0, 1}) {
            assertThat(as(person(own), "GET", door + "/twice/settling", null)
                            .json()
                            .get("paper")
                            .isNull())
                    .isTrue();
            assertThat(settle(person(own), door, second, 1, "{\"count\":{\"which\":\"second\"}}")
                            .status())
                    .isEqualTo(409);
        }
        var paper = as(person(3), "GET", door + "/twice/settling", null).json().get("paper");
        assertThat(paper.at("/fields")).hasSize(1);
        assertThat(paper.at("/fields/0/both/first").asString()).isEqualTo("7");
        assertThat(paper.at("/fields/0/both/second").asString()).isEqualTo("9");
        assertThat(settle(person(3), door, second, 1, "{}").http().body()).contains("still open: count");
        for (var which : List.of("first", "second")) {
            assertThat(settle(person(3), door, second, 7, "{\"count\":{\"which\":\"" + which + "\"}}")
                            .status())
                    .isEqualTo(412);
        }
        assertThat(settle(person(3), door, second, 1, "{\"count\":{\"which\":\"other\",\"typed\":\"many\"}}")
                        .http()
                        .body())
                .contains("\"field\":\"count\"");
        var settled = settle(person(3), door, second, 1, "{\"count\":{\"which\":\"other\",\"typed\":\"8\"}}");
        assertThat(settled.json().at("/values/count").asString()).isEqualTo("8");
        assertThat(settle(person(3), door, second, 1, "{\"count\":{\"which\":\"other\",\"typed\":\"8\"}}")
                        .status())
                .isEqualTo(200);

        var history =
                get("/api/doors/twice_blind/records/" + second + "/history").json();
        assertThat(history.at("/0/action").asString()).isEqualTo("settled");
        assertThat(history.at("/0/by").asString()).isEqualTo("Keyer 3");
        assertThat(history.at("/0/before/count").asString()).isEqualTo("7");
        assertThat(history.at("/0/after/count").asString()).isEqualTo("8");
        assertThat(history).hasSize(2);
        assertThat(get("/api/doors/twice_blind/records/" + first + "/history")
                        .json()
                        .at("/0/by")
                        .asString())
                .isEqualTo("Keyer 2");
    }

    private static Answer settle(List<String> by, String door, long record, int version, String choices) {
        return as(
                by,
                "POST",
                door + "/twice/" + record + "/settle",
                "{\"choices\":" + choices + "}",
                "If-Match",
                "\"" + version + "\"");
    }

    @Test
    void atOnceAFieldThatDiffersSaysSoAndShowsTheFirstOnlyWhenKeyedSoTwice() {
        var door = door("twice_at_once", "{\"way\":\"at once\",\"paper\":[\"number\"]}");
        long record = save(person(0), door, entry("S-1", "Mayfly", "2.5", "clear"));
        take(person(1), door, "");

        var slip = entry("S-1", "Mayfly", "25", "clear");
        assertThat(field(person(1), door, record, "taxon", slip).get("said").asString())
                .isEqualTo("same");
        var differs = field(person(1), door, record, "count", slip);
        assertThat(differs.get("said").asString()).isEqualTo("differs");
        assertThat(differs.has("both")).isFalse();
        // Another one differs again; only the same twice shows both.
        assertThat(field(person(1), door, record, "count", entry("S-1", "Mayfly", "26", "clear"))
                        .get("said")
                        .asString())
                .isEqualTo("differs");
        var both = field(person(1), door, record, "count", entry("S-1", "Mayfly", "26.0", "clear"));
        assertThat(both.get("said").asString()).isEqualTo("choose");
        assertThat(both.at("/both/first").asString()).isEqualTo("2.5");
        assertThat(field(person(1), door, record, "count", entry("S-1", "Mayfly", "many", "clear"))
                        .get("said")
                        .asString())
                .isEqualTo("unread");
        assertThat(field(person(1), door, record, "count", entry("S-1", "Mayfly", "2.5", "clear"))
                        .get("said")
                        .asString())
                .isEqualTo("same");

        // A choice counts only for what was keyed so twice.
        var sly = finish(person(1), door, record, entry("S-1", "Mayfly", "3", "clear"), "{\"count\":\"second\"}");
        assertThat(sly.json().get("standing").asString()).isEqualTo("waiting");
        assertThat(sly.json().at("/open/count/said").asString()).isEqualTo("differs");
        var known = finish(person(1), door, record, entry("S-1", "Mayfly", "3", "clear"), "{}");
        assertThat(known.json().at("/open/count/said").asString()).isEqualTo("choose");
        var ended = finish(person(1), door, record, entry("S-1", "Mayfly", "3", "clear"), "{\"count\":\"second\"}");
        assertThat(ended.json().get("standing").asString()).isEqualTo("settled");
        assertThat(get("/api/doors/twice_at_once/records/" + record)
                        .json()
                        .at("/values/count")
                        .asString())
                .isEqualTo("3");
        assertThat(get("/api/doors/twice_at_once/records/" + record + "/history")
                        .json()
                        .at("/0/action")
                        .asString())
                .isEqualTo("settled");
    }

    @Test
    void whatBeginsByItselfInANewEntryIsKeyedTheSecondTime() {
        var door = door("twice_begun", "{\"way\":\"blind\",\"paper\":[\"number\"]}");
        var copy = get("/api/forms/twice_begun");
        var document = (ObjectNode) copy.json();
        document.withObject("/rules")
                .withArray("formulas")
                .add(JsonMapper.shared().readTree("""
                        {"target":"taxon","what":"default","formula":"person"}"""));
        assertThat(send("PUT", "/api/forms/twice_begun", document.toString(), "If-Match", copy.header("ETag"))
                        .status())
                .isEqualTo(200);
        post("/api/forms/twice_begun/publish", "");
        long record = save(person(0), door, "{\"number\":\"S-1\",\"count\":\"3\",\"code\":\"b1\"}");
        take(person(1), door, "");
        var said = as(person(1), "POST", door + "/twice/" + record + "/assess", "{\"values\":{\"count\":\"3\"}}")
                .json();
        assertThat(said.at("/values/taxon").isNull()).isTrue();
        assertThat(get("/api/doors/twice_begun/records/" + record)
                        .json()
                        .at("/values/taxon")
                        .asString())
                .isEqualTo("Keyer 0");
        assertThat(finish(person(1), door, record, "{\"taxon\":\"Keyer 0\",\"count\":\"3\",\"code\":\"b1\"}", "{}")
                        .json()
                        .get("standing")
                        .asString())
                .isEqualTo("settled");
    }

    @Test
    void sixteenSecondKeyersGetNoPaperTwice() throws Exception {
        var door = door("twice_many", "{\"way\":\"blind\",\"paper\":[\"number\"]}");
        var papers = new HashMap<Long, String>();
        for (int n = 0; n < 96; n++) {
            var values = entry("S-" + n, "Mayfly", Integer.toString(n), "");
            papers.put(save(person(n % 2), door, values), values);
        }
        var keyedBy = new ConcurrentHashMap<Long, String>();
        try (var threads = Executors.newFixedThreadPool(16)) {
            var all = new ArrayList<Future<?>>();
            for (int n = 0; n < 16; n++) {
                int who = n;
                all.add(threads.submit(() -> {
                    for (var taken = take(person(who), door, "").json().get("paper");
                            !taken.isNull();
                            taken = take(person(who), door, "").json().get("paper")) {
                        long record = taken.get("record").asLong();
                        assertThat(keyedBy.put(record, "Keyer " + who))
                                .as("paper " + record)
                                .isNull();
                        assertThat(finish(person(who), door, record, papers.get(record), "{}")
                                        .status())
                                .isEqualTo(200);
                    }
                    return null;
                }));
            }
            for (var each : all) {
                each.get();
            }
        }
        assertThat(keyedBy.keySet()).isEqualTo(papers.keySet());
        for (var record : papers.keySet()) {
            var history =
                    get("/api/doors/twice_many/records/" + record + "/history").json();
            assertThat(history.at("/0/by").asString())
                    .isEqualTo(keyedBy.get(record))
                    .isNotEqualTo(history.at("/1/by").asString());
        }
    }

    @Test
    void howARecordStandsIsFoundUsedInDoorsAndFormulasAndTakenAway() {
        var door = door("twice_found", "{\"way\":\"blind\",\"paper\":[\"number\"],\"of\":[\"twice_found\"]}");
        long waits = save(TestServer.builder(), "/api/doors/twice_found", entry("S-1", "Mayfly", "1", ""));
        long differs = save(TestServer.builder(), "/api/doors/twice_found", entry("S-2", "Mayfly", "2", ""));
        long settles = save(TestServer.builder(), "/api/doors/twice_found", entry("S-3", "Mayfly", "3", ""));
        // Entries by the door itself are not keyed again where others are.
        long once = save(person(0), door, entry("S-4", "Mayfly", "4", ""));
        for (var number : List.of("S-2", "S-3")) {
            long record =
                    take(person(1), door, number).json().at("/paper/record").asLong();
            finish(person(1), door, record, entry(number, "Mayfly", "3", ""), "{}");
        }
        post("/api/forms/twice_found/doors", """
                {"id":"twice-settled","title":"Settled","who":{"groups":["Twice"]},"may":["see"],"view":{"where":["_keyed:settled"]}}""");

        var byStanding = Map.of(
                "waiting", List.of(waits),
                "differing", List.of(differs),
                "settled", List.of(settles),
                "once", List.of(once),
                "not settled", List.of(waits, differs, once),
                "waiting or differing", List.of(waits, differs),
                "filled", List.of(waits, differs, settles, once));
        byStanding.forEach((asked, records) ->
                assertThat(found("/api/doors/twice_found", asked)).as(asked).containsExactlyElementsOf(records));
        assertThat(found("/api/doors/twice_found", "empty")).isEmpty();
        assertThat(get("/api/doors/twice_found/find?where=_keyed:keyed%20never")
                        .json()
                        .at("/criteria/_keyed/message")
                        .asString())
                .contains("is not on the list");
        assertThat(get("/api/doors/twice_found/find?where=_keyed:waiting")
                        .json()
                        .get("words")
                        .asString())
                .isEqualTo("Keyed is “waiting”");

        var settled =
                as(person(5), "GET", "/api/doors/twice-settled/records", null).json();
        assertThat(settled.get("records")).hasSize(1);
        assertThat(settled.at("/records/0/id").asLong()).isEqualTo(settles);
        assertThat(as(person(5), "GET", "/api/doors/twice-settled/records/" + settles + "/history", null)
                        .json())
                .isNotEmpty();
        assertThat(as(person(5), "GET", "/api/doors/twice-settled/records/" + waits, null)
                        .status())
                .isEqualTo(404);

        var csv = get("/api/doors/twice_found/export?as=csv&sort=number").http().body();
        assertThat(csv.lines()
                        .map(line -> line.replaceAll("^[0-9]+,|,Mayfly.*,", " ").strip()))
                .containsExactly(
                        "Row,Number,Taxon,Count,Taken on,Remark,Code,Keyed",
                        "S-1 waiting",
                        "S-2 differing",
                        "S-3 settled",
                        "S-4 once");
        assertThat(get("/api/doors/twice_found/export?as=json").http().body()).contains("\"_keyed\":\"differing\"");

        // A change of what is settled asks, by a formula.
        var copy = get("/api/forms/twice_found");
        var document = (ObjectNode) copy.json();
        document.withObject("/rules")
                .withArray("checks")
                .add(JsonMapper.shared().readTree("""
                        {"id":"still","asks":false,"stays":false,"message":"This is settled, and stays.",
                         "rule":{"kind":"holds","formula":"_keyed != \\"settled\\"","column":"count"}}"""));
        var put = send("PUT", "/api/forms/twice_found", document.toString(), "If-Match", copy.header("ETag"));
        assertThat(put.status()).as(put.http().body()).isEqualTo(200);
        post("/api/forms/twice_found/publish", "");
        assertThat(changed(differs).status()).isEqualTo(200);
        assertThat(changed(settles).http().body()).contains("This is settled, and stays.");
    }

    private static Answer changed(long record) {
        int version = get("/api/doors/twice_found/records/" + record)
                .json()
                .get("version")
                .asInt();
        return send(
                "PUT",
                "/api/doors/twice_found/records/" + record,
                "{\"values\":" + entry("S-9" + record, "Mayfly", "5", "") + "}",
                "If-Match",
                "\"" + version + "\"");
    }

    private static List<Long> found(String door, String asked) {
        var ids = new ArrayList<Long>();
        get(door + "/records?where=_keyed:" + asked.replace(" ", "%20"))
                .json()
                .get("records")
                .forEach(record -> ids.add(record.get("id").asLong()));
        Collections.sort(ids);
        return ids;
    }

    @Test
    void aShareIsDrawnWhenEntriesAreSavedOneByOneAndManyAtOnce() {
        var door = door("twice_share", "{\"way\":\"at once\",\"share\":50}");
        var lines = new ArrayList<String>();
        for (int n = 0; n < 100; n++) {
            lines.add("{\"values\":" + entry("S-" + n, "Mayfly", "1", "") + "}");
        }
        var saved = as(
                person(0),
                "POST",
                door + "/batches",
                "{\"same\":{},\"keep\":\"all\",\"lines\":[" + String.join(",", lines) + "]}");
        assertThat(saved.status()).as(saved.http().body()).isEqualTo(201);
        int waiting = waiting(person(1), door);
        // Of a hundred tossed coins fewer than 25 or more than 75 heads come once in two million times.
        assertThat(waiting).isBetween(25, 75);
        // Without a number a paper is recognised by whose it is, of which day, and its place among those.
        var words = take(person(1), door, "").json().at("/paper/words").asString();
        assertThat(words).matches("Keyer 0, \\w+ \\d+ \\w+ \\d+, paper \\d+");
        int place = Integer.parseInt(words.replaceAll(".* ", ""));
        var record = take(person(1), door, "").json().at("/paper/record").asLong();
        assertThat(saved.json().at("/rows/" + (place - 1) + "/id").asLong()).isEqualTo(record);

        // Left lying for half an hour after the last field, it is anybody's.
        assertThat(waiting(person(2), door)).isEqualTo(waiting - 1);
        TestServer.clock().later(Duration.ofMinutes(29), () -> {
            assertThat(waiting(person(2), door)).isEqualTo(waiting - 1);
            return take(person(1), door, "").json();
        });
        TestServer.clock()
                .later(
                        Duration.ofMinutes(31),
                        () -> assertThat(waiting(person(2), door)).isEqualTo(waiting - 1));
        TestServer.clock()
                .later(
                        Duration.ofMinutes(60),
                        () -> assertThat(waiting(person(2), door)).isEqualTo(waiting));

        // Put back, it is the next one's; one that is removed is nobody's.
        as(person(1), "POST", door + "/twice/" + record + "/leave", "");
        assertThat(take(person(2), door, "").json().at("/paper/record").asLong())
                .isEqualTo(record);
        send("DELETE", "/api/doors/twice_share/records/" + record, null, "If-Match", "\"1\"");
        assertThat(take(person(2), door, "").json().at("/paper/record").asLong())
                .isNotEqualTo(record);
        assertThat(as(person(1), "GET", door + "/twice", null)
                        .json()
                        .get("waiting")
                        .asInt())
                .isEqualTo(waiting - 2);
    }

    @Test
    void whatTheSecondKeyerIsToldHoldsNothingOfTheFirst() {
        var door = door("twice_secret", "{\"way\":\"at once\",\"paper\":[\"number\"]}");
        var random = new Random(17);
        var marks = new HashSet<String>();
        var records = IntStream.range(0, 6)
                .mapToObj(n -> {
                    var mark = "m" + n + "taxonx" + random.nextInt(1000);
                    marks.add(mark);
                    return save(person(0), door, entry("S-" + n, mark, "77" + n + "3.25", "m" + n + "remarkx"));
                })
                .toList();
        var said = new StringBuilder();
        for (var record : records) {
            take(person(1), door, "S-" + records.indexOf(record));
            var typed = entry("S-0", "guess", "1", "guess");
            for (var path : List.of("/twice/" + record + "/assess", "/assess")) {
                said.append(as(person(1), "POST", door + path, "{\"values\":" + typed + "}")
                        .http()
                        .body());
            }
            for (var column : List.of("taxon", "count", "remark")) {
                said.append(field(person(1), door, record, column, typed));
            }
            said.append(finish(person(1), door, record, entry("S-0", "another", "2", "another"), "{}")
                    .http()
                    .body());
            said.append(as(person(1), "GET", door + "/records/" + record, null)
                    .http()
                    .body());
            said.append(
                    as(person(1), "GET", door + "/find?any=taxonx", null).http().body());
            said.append(
                    as(person(1), "GET", door + "/export?as=csv", null).http().body());
            said.append(
                    as(person(1), "GET", door + "/twice/settling", null).http().body());
            as(person(1), "POST", door + "/twice/" + record + "/leave", "");
        }
        assertThat(said.toString())
                .doesNotContain("remarkx")
                .doesNotContain("3.25")
                .doesNotContain("taxonx7");
        marks.forEach(mark -> assertThat(said.toString()).doesNotContain(mark));
    }
}
