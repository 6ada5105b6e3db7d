package weft.server.record;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.as;
import static weft.server.TestServer.form;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;

import java.time.Duration;
import java.util.List;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;
import weft.server.Browser;
import weft.server.TestServer;

/** Who may take an entry back, and put it back, with what its save did elsewhere: effects in both tables. */
@ExtendWith(TestServer.class)
class TakingBackApiTest {

    private static final String PASSWORD = "four dry river stones";

    private static String values(String table) {
        return get("/api/tables/" + table + "/records")
                .json()
                .get("records")
                .valueStream()
                .map(each -> each.get("row") + " " + each.get("values"))
                .collect(Collectors.joining("; "));
    }

    private static List<String> keyer(String name) {
        post(
                "/api/people",
                "{\"name\":\"%s\",\"title\":\"%s\",\"groups\":[\"Adders\"],\"password\":\"%s\"}"
                        .formatted(name, name, PASSWORD));
        return Browser.of(name, PASSWORD);
    }

    private static String entries(JsonNode... all) {
        return List.of(all).stream()
                .map(each -> "{\"id\":%d,\"version\":%d}"
                        .formatted(each.get("id").asLong(), each.get("version").asInt()))
                .collect(Collectors.joining(",", "{\"records\":[", "]}"));
    }

    @Test
    void whoeverMayOnlyAddTakesTheirOwnBackWithWhatItDidElsewhereForAWhileAndNobodyElseDoes() {
        form("taking_jobs", "{\"name\":\"note\",\"title\":\"Note\"}");
        var form = form("taking", "{\"name\":\"site\",\"title\":\"Site\"}");
        var document = (ObjectNode) get("/api/forms/" + form).json();
        document.set("rules", JsonMapper.shared().readTree("""
                {"checks":[],"fills":[],"formulas":[],"choices":[],"numbers":[],"practice":[],"steps":[{"when":"saved","steps":[
                 {"onlyIf":"","action":{"kind":"add-row","table":"taking_jobs","values":[{"column":"note","formula":"site"}]}}]}]}"""));
        TestServer.send("PUT", "/api/forms/" + form, document.toString(), "If-Match", "\"1\"");
        post("/api/forms/" + form + "/publish", "");
        post("/api/groups", "{\"name\":\"Adders\",\"title\":\"Adders\"}");
        var door = "/api/doors/taking-adds";
        post("/api/forms/" + form + "/doors", """
                {"id":"taking-adds","title":"Add","who":{"groups":["Adders"]},"may":["add"],"view":{"where":[],"own":true},
                 "takeBack":30}""");
        var kim = keyer("takingkim");
        var lee = keyer("takinglee");
        var one = as(kim, "POST", door + "/records", "{\"values\":{\"site\":\"a\"}}")
                .json();
        var two = as(kim, "POST", door + "/records", "{\"values\":{\"site\":\"b\"}}")
                .json();
        var whole = values("taking") + " | " + values("taking_jobs");

        assertThat(as(lee, "POST", door + "/take-back", entries(two)).status()).isEqualTo(404);
        assertThat(as(lee, "POST", door + "/take-back", entries(one, two)).status())
                .isEqualTo(404);
        // Not even by whoever removes: it is not theirs.
        assertThat(post("/api/doors/taking/take-back", entries(two)).status()).isEqualTo(404);
        assertThat(TestServer.clock()
                        .later(Duration.ofMinutes(31), () -> as(kim, "POST", door + "/take-back", entries(two)))
                        .status())
                .isEqualTo(404);
        assertThat(as(kim, "POST", door + "/take-back", "{\"records\":[]}").status())
                .isEqualTo(400);
        assertThat(values("taking") + " | " + values("taking_jobs")).isEqualTo(whole);

        // Twice the same request, as after a lost answer.
        for (int i = 0; i < 2; i++) {
            var back = as(kim, "POST", door + "/take-back", entries(two));
            assertThat(back.status()).as(back.http().body()).isEqualTo(200);
            assertThat(values("taking")).isEqualTo("1 {\"site\":\"a\"}");
            assertThat(values("taking_jobs")).isEqualTo("1 {\"note\":\"a\"}");
        }
        var restore = door + "/records/" + two.get("id").asLong() + "/restore";
        assertThat(as(lee, "POST", restore, "{\"elsewhere\":true}").status()).isEqualTo(403);
        assertThat(values("taking")).isEqualTo("1 {\"site\":\"a\"}");
        for (int i = 0; i < 2; i++) {
            var back = as(kim, "POST", restore, "{\"elsewhere\":true}");
            assertThat(back.status()).as(back.http().body()).isEqualTo(200);
            assertThat(values("taking") + " | " + values("taking_jobs")).isEqualTo(whole);
        }

        // What was changed elsewhere since keeps the entry, unless it is taken back alone.
        var job = get("/api/tables/taking_jobs/records").json().at("/records/1");
        TestServer.send(
                "PUT",
                "/api/doors/taking_jobs/records/" + job.get("id").asLong(),
                "{\"values\":{\"note\":\"done\"}}",
                "If-Match",
                "\"" + job.get("version").asInt() + "\"");
        var now = get("/api/doors/taking/records/" + two.get("id").asLong()).json();
        var kept = as(kim, "POST", door + "/take-back", entries(one, now));
        assertThat(kept.status()).isEqualTo(409);
        assertThat(kept.json().get("detail").asString())
                .isEqualTo("Row 2 of Taking jobs was changed since. Nothing was done.");
        assertThat(values("taking")).isEqualTo("1 {\"site\":\"a\"}; 2 {\"site\":\"b\"}");
        assertThat(as(
                                kim,
                                "DELETE",
                                door + "/records/" + now.get("id").asLong(),
                                "",
                                "If-Match",
                                "\"" + now.get("version").asInt() + "\"")
                        .status())
                .isEqualTo(204);
        assertThat(values("taking") + " | " + values("taking_jobs"))
                .isEqualTo("1 {\"site\":\"a\"} | 1 {\"note\":\"a\"}; 2 {\"note\":\"done\"}");
    }
}
