package weft.server.entry;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.as;
import static weft.server.TestServer.form;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;
import static weft.server.TestServer.send;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.JsonNode;
import weft.server.Browser;
import weft.server.TestServer;
import weft.server.TestServer.Answer;

/** Many records changed as one, and taken back as one. */
@ExtendWith(TestServer.class)
class ChangesApiTest {

    private static int made;
    private String form;
    private String api;

    @BeforeEach
    void given() {
        form = form(
                "changes" + ++made,
                "{\"title\":\"Site\",\"required\":true},{\"title\":\"River\"},"
                        + "{\"title\":\"pH\",\"type\":\"decimal\",\"scale\":1,\"min\":0,\"max\":14},{\"title\":\"Code\",\"unique\":true}");
        api = "/api/doors/" + form;
        post(
                api + "/batches",
                IntStream.rangeClosed(1, 60)
                        .mapToObj(n -> "{\"values\":{\"site\":\"S%d\",\"river\":\"%s\",\"ph\":\"%s\",\"code\":\"c%d\"}}"
                                .formatted(n, n % 2 == 0 ? "Tesel" : "Quill", n == 4 ? "" : "" + (n % 14), n))
                        .collect(Collectors.joining(",", "{\"lines\":[", "]}")));
    }

    private Answer change(String which, String set, boolean rehearse) {
        return post(api + "/changes", "{" + which + ",\"set\":{" + set + "},\"rehearse\":" + rehearse + "}");
    }

    private List<String> values(String column) {
        var values = new ArrayList<String>();
        get(api + "/records?limit=500")
                .json()
                .get("records")
                .forEach(record -> values.add(record.get("values").get(column).asString()));
        return values;
    }

    private static final String TESEL = "\"where\":[\"river:Tesel\"]";

    @Test
    void allThatAreFoundAreRehearsedThenChangedAndTakenBack() {
        var before = values("river");
        var rehearsed = change(TESEL, "\"river\":{\"typed\":\"Tessel\"}", true).json();
        assertThat(rehearsed.get("id").isNull()).isTrue();
        assertThat(rehearsed.get("count").asInt()).isEqualTo(30);
        assertThat(rehearsed.get("changed").asInt()).isEqualTo(30);
        assertThat(rehearsed.get("examples")).hasSize(10);
        assertThat(rehearsed.at("/examples/0").toString())
                .isEqualTo("{\"row\":2,\"before\":{\"river\":\"Tesel\"},\"after\":{\"river\":\"Tessel\"}}");
        assertThat(values("river")).isEqualTo(before);

        var changed = change(TESEL, "\"river\":{\"typed\":\"Tessel\"}", false).json();
        assertThat(changed.get("changed").asInt()).isEqualTo(30);
        assertThat(values("river")).filteredOn("Tessel"::equals).hasSize(30);
        var second = get(api + "/records?where=site:S2").json().at("/records/0");
        assertThat(second.get("version").asInt()).isEqualTo(2);
        assertThat(get(api + "/records/" + second.get("id").asLong() + "/history")
                        .json()
                        .at("/0/before/river")
                        .asString())
                .isEqualTo("Tesel");

        var back = post(api + "/changes/" + changed.get("id").asLong() + "/take-back", "");
        assertThat(back.json().get("records").asInt()).isEqualTo(30);
        assertThat(values("river")).isEqualTo(before);
        // The same request twice is answered as done, and does nothing.
        assertThat(post(api + "/changes/" + changed.get("id").asLong() + "/take-back", "")
                        .status())
                .isEqualTo(200);
        assertThat(get(api + "/records/" + second.get("id").asLong())
                        .json()
                        .get("version")
                        .asInt())
                .isEqualTo(3);
    }

    @Test
    void aFormulaIsWorkedOutForEachAndWhatChecksStopStaysAsItIs() {
        var changed =
                change("\"where\":[]", "\"ph\":{\"formula\":\"ph * 2\"}", false).json();
        assertThat(changed.get("count").asInt()).isEqualTo(60);
        // Of 1 to 13, those above 7 would be above 14; nothing stays nothing, and 0 stays 0.
        var stopped = IntStream.rangeClosed(1, 60).filter(n -> n % 14 > 7).count();
        var same =
                IntStream.rangeClosed(1, 60).filter(n -> n == 4 || n % 14 == 0).count();
        assertThat(changed.get("stopped").asLong()).isEqualTo(stopped);
        assertThat(changed.get("changed").asLong()).isEqualTo(60 - stopped - same);
        assertThat(changed.at("/findings/0").toString())
                .contains("\"row\":8", "\"range\"", "pH must be between 0 and 14");
        assertThat(values("ph").subList(0, 3)).containsExactly("2.0", "4.0", "6.0");
        assertThat(values("ph").get(7)).isEqualTo("8.0");
    }

    @Test
    void someAreChangedByTheirIdsAndOneThatChangedSinceKeepsAllFromBeingTakenBack() {
        var ids = new ArrayList<Long>();
        get(api + "/records?limit=3")
                .json()
                .get("records")
                .forEach(record -> ids.add(record.get("id").asLong()));
        var changed = change(
                        "\"ids\":" + ids,
                        "\"river\":{\"typed\":\"\"},\"site\":{\"formula\":\"upper case(site + \\\"x\\\")\"}",
                        false)
                .json();
        assertThat(changed.get("changed").asInt()).isEqualTo(3);
        assertThat(values("site").subList(0, 4)).containsExactly("S1X", "S2X", "S3X", "S4");
        send(
                "PUT",
                api + "/records/" + ids.get(1),
                "{\"values\":{\"site\":\"mine\",\"river\":\"\",\"ph\":\"2\",\"code\":\"c2\"}}",
                "If-Match",
                "\"2\"");
        var back = post(api + "/changes/" + changed.get("id").asLong() + "/take-back", "");
        assertThat(back.status()).isEqualTo(409);
        assertThat(back.json().get("detail").asString())
                .isEqualTo("One of these records was changed since. Nothing was taken back.");
        assertThat(values("site").subList(0, 3)).containsExactly("S1X", "mine", "S3X");
    }

    @Test
    void whatCannotBeIsRefusedAtItsPlaceAndNothingIsWritten() {
        var before = values("code");
        assertThat(error(change(TESEL, "\"nowhere\":{\"typed\":\"x\"}", false)))
                .startsWith("set.nowhere: This form has no field");
        assertThat(error(change(TESEL, "\"ph\":{\"formula\":\"ph *\"}", false)))
                .startsWith("set.ph: The formula can't be read from character 4");
        assertThat(error(change(TESEL, "\"ph\":{\"formula\":\"depth\"}", false)))
                .contains("names “depth”");
        assertThat(error(change(TESEL, "\"ph\":{}", false))).contains("one of the two");
        assertThat(error(change(TESEL, "", false))).contains("Say which field");
        assertThat(error(change("\"any\":null", "\"river\":{\"typed\":\"x\"}", false)))
                .contains("Say which records");
        // All the same value where no two may be alike: the database has the last word, and none is changed.
        assertThat(change(TESEL, "\"code\":{\"typed\":\"same\"}", false).status())
                .isEqualTo(422);
        assertThat(change("\"where\":[]", "\"site\":{\"typed\":\" \"}", false)
                        .json()
                        .get("stopped")
                        .asInt())
                .isEqualTo(60);
        assertThat(values("code")).isEqualTo(before);
    }

    private static String error(Answer answer) {
        assertThat(answer.status()).as(answer.http().body()).isEqualTo(400);
        JsonNode first = answer.json().at("/errors/0");
        return first.get("where").asString() + ": " + first.get("message").asString();
    }

    /** What the door leaves out or locks by now, it let change then: taking it back would write it all the same. */
    @Test
    void whatTheDoorKeepsByNowIsNotTakenBack() {
        var group = "Keepers" + made;
        var kim = Browser.newIn(group, "kept" + made);
        var door =
                "{\"id\":\"%s-kept\",\"title\":\"K\",\"who\":{\"groups\":[\"%s\"]},\"may\":[\"see\",\"change\"],\"fields\":{\"leftOut\":[%s],\"locked\":[%s]}}";
        var doors = "/api/forms/" + form + "/doors";
        assertThat(post(doors, door.formatted(form, group, "", "")).status()).isEqualTo(201);
        var path = "/api/doors/" + form + "-kept/changes";
        for (var now :
                List.of(door.formatted(form, group, "\"river\"", ""), door.formatted(form, group, "", "\"river\""))) {
            var changed = as(kim, "POST", path, "{\"where\":[],\"set\":{\"river\":{\"typed\":\"Wen\"}}}")
                    .json();
            assertThat(values("river")).containsOnly("Wen");
            put(doors + "/" + form + "-kept", now);
            assertThat(as(kim, "POST", path + "/" + changed.get("id").asLong() + "/take-back", "")
                            .status())
                    .isEqualTo(403);
            assertThat(values("river")).as(now).containsOnly("Wen");
            put(doors + "/" + form + "-kept", door.formatted(form, group, "", ""));
            assertThat(as(kim, "POST", path + "/" + changed.get("id").asLong() + "/take-back", "")
                            .status())
                    .isEqualTo(200);
        }
    }

    private static void put(String door, String body) {
        var tag = get(door).header("ETag");
        assertThat(send("PUT", door, body, "If-Match", tag).status()).isEqualTo(200);
    }

    /** By a narrow door nothing out of view is changed, and no formula tells what is left out. */
    @Test
    void doorsHold() {
        var name = "chan" + made;
        var chan = Browser.newIn("Changers", name);
        for (var may : List.of("\"see\",\"change\"", "\"see\"")) {
            post(
                    "/api/forms/" + form + "/doors",
                    "{\"id\":\"%s-%d\",\"title\":\"Tesel\",\"who\":{\"groups\":[\"Changers\"]},\"may\":[%s],\"view\":{\"where\":[\"river:Tesel\"],\"own\":false},\"fields\":{\"leftOut\":[\"code\"],\"locked\":[\"ph\"]}}"
                            .formatted(form, may.length(), may));
        }
        var door = "/api/doors/" + form + "-14/changes";
        var all = "{\"where\":[],\"set\":{\"site\":{\"typed\":\"seen\"}}}";
        assertThat(as(chan, "POST", "/api/doors/" + form + "-5/changes", all).status())
                .isEqualTo(403);
        assertThat(as(chan, "POST", door, "{\"where\":[],\"set\":{\"site\":{\"formula\":\"code\"}}}")
                        .status())
                .isEqualTo(400);
        assertThat(as(chan, "POST", door, "{\"where\":[],\"set\":{\"ph\":{\"typed\":\"1\"}}}")
                        .status())
                .isEqualTo(400);
        var one = get(api + "/records?where=site:S1").json().at("/records/0/id").asLong();
        assertThat(as(chan, "POST", door, "{\"ids\":[" + one + "],\"set\":{\"site\":{\"typed\":\"x\"}}}")
                        .json()
                        .get("count")
                        .asInt())
                .isZero();
        var changed = as(chan, "POST", door, all).json();
        assertThat(changed.get("changed").asInt()).isEqualTo(30);
        assertThat(changed.toString()).doesNotContain("code");
        assertThat(values("code")).contains("c2");
        // Another's change is not theirs to take back.
        assertThat(post(api + "/changes/" + changed.get("id").asLong() + "/take-back", "")
                        .status())
                .isEqualTo(404);
        assertThat(as(chan, "POST", door + "/" + changed.get("id").asLong() + "/take-back", "")
                        .status())
                .isEqualTo(200);
        assertThat(values("site")).contains("S2");
    }
}
