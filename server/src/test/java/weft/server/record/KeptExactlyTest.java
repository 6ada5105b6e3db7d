package weft.server.record;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.form;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;
import static weft.server.TestServer.program;
import static weft.server.TestServer.send;

import java.sql.SQLException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.node.ObjectNode;
import weft.server.TestServer;
import weft.server.TestServer.Answer;

/** What nobody touches stays what it is to the last digit, and what once was comes back as it was. */
@ExtendWith(TestServer.class)
class KeptExactlyTest {

    private static Answer change(String door, long id, String values, int seen) {
        return send(
                "PUT",
                "/api/doors/" + door + "/records/" + id,
                "{\"values\":" + values + "}",
                "If-Match",
                "\"" + seen + "\"");
    }

    private static Answer putBack(String door, long id, int version, int seen, String more) {
        return send(
                "POST",
                "/api/doors/" + door + "/records/" + id + "/restore",
                "{\"version\":" + version + more + "}",
                "If-Match",
                "\"" + seen + "\"");
    }

    @Test
    void whatOtherProgramsWroteStaysWhenAnotherFieldIsChanged() throws SQLException {
        var door = form(
                "kept_exactly",
                "{\"title\":\"Site\"},{\"title\":\"At\",\"type\":\"datetime\"},{\"title\":\"Level\",\"type\":\"decimal\"},"
                        + "{\"title\":\"Count\",\"type\":\"whole\"},{\"title\":\"Words\"}");
        long id = post("/api/doors/" + door + "/records", "{\"values\":{\"site\":\"QB-03\",\"level\":\"1\"}}")
                .json()
                .get("id")
                .asLong();
        program("update records.kept_exactly set at = '2026-08-01 10:00:00.123456', count = 9007199254740993,"
                + " level = 0.1234567890123456789012345, words = ' two  blanks '");
        var before = get("/api/doors/" + door + "/records/" + id).json();
        var typed = (ObjectNode) before.get("values").deepCopy();
        typed.put("site", "QB-04").put("at", "2026-08-01 10:00:00.123456").put("count", "9007199254740993");
        var changed = change(door, id, typed.toString(), before.get("version").asInt());
        assertThat(changed.status()).as(changed.http().body()).isEqualTo(200);
        var after =
                (ObjectNode) get("/api/doors/" + door + "/records/" + id).json().get("values");
        assertThat(after.put("site", "QB-03")).isEqualTo(before.get("values"));
    }

    @Test
    void anEarlierStateComesBackInWhateverWayTheFormReads() {
        var door = form(
                "kept_state",
                "{\"title\":\"Site\",\"required\":true},{\"title\":\"Level\",\"type\":\"decimal\"},{\"title\":\"Day\",\"type\":\"date\"}");
        var document = get("/api/forms/" + door).http().body();
        var comma = document.replace("\"decimalSign\":\"point\"", "\"decimalSign\":\"comma\"");
        assertThat(comma).isNotEqualTo(document);
        send("PUT", "/api/forms/" + door, comma, "If-Match", "\"1\"");
        post("/api/forms/" + door + "/publish", "");
        var made = post(
                "/api/doors/" + door + "/records",
                "{\"values\":{\"site\":\"QB-03\",\"level\":\"1234,5\",\"day\":\"2026-04-03\"}}");
        long id = made.json().get("id").asLong();
        var first = made.json().get("values");
        assertThat(change(door, id, "{\"site\":\"QB-04\",\"level\":\"2\",\"day\":\"\"}", 1)
                        .status())
                .isEqualTo(200);
        var back = putBack(door, id, 1, 2, "");
        assertThat(back.status()).as(back.http().body()).isEqualTo(200);
        assertThat(back.json().get("values")).isEqualTo(first);
    }

    @Test
    void anEarlierStateThatBreaksTheRulesOfNowStopsAsAChangeDoes() {
        var door = form("kept_rules", "{\"title\":\"Site\"},{\"title\":\"River\"}");
        long id = post("/api/doors/" + door + "/records", "{\"values\":{\"site\":\"QB-03\"}}")
                .json()
                .get("id")
                .asLong();
        change(door, id, "{\"site\":\"QB-03\",\"river\":\"Quill\"}", 1);
        var document = (ObjectNode) get("/api/forms/" + door).json();
        document.withArray("/sections/0/items").forEach(item -> ((ObjectNode) item).put("required", true));
        send("PUT", "/api/forms/" + door, document.toString(), "If-Match", "\"1\"");
        assertThat(post("/api/forms/" + door + "/publish", "").status()).isEqualTo(200);
        var back = putBack(door, id, 1, 2, "");
        assertThat(back.status()).isEqualTo(422);
        assertThat(back.json().at("/findings/0/field").asString()).isEqualTo("river");
        assertThat(get("/api/doors/" + door + "/records/" + id)
                        .json()
                        .at("/values/river")
                        .asString())
                .isEqualTo("Quill");
    }
}
