package weft.server.entry;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.as;
import static weft.server.TestServer.await;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;
import static weft.server.TestServer.send;
import static weft.server.entry.RulesApiTest.ruled;

import java.sql.SQLException;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.JsonNode;
import weft.server.Browser;
import weft.server.TestServer;

/** What is nearly the same as a stored record: told while it is typed, asked about at a save and in lines, and never shown by a door that does not. */
@ExtendWith(TestServer.class)
class AlikeApiTest {

    private static final String COLUMNS = """
            {"name":"name","title":"Name"},{"name":"born","title":"Born on","type":"date"},{"name":"team","title":"Team"}""";
    private static final String RULE = """
            "checks":[{"id":"double","asks":true,"stays":false,"message":"",
              "rule":{"kind":"alike","columns":["name","born"],"sound":false}}]""";

    private static String person(String name, String born, String more) {
        return "{\"values\":{\"name\":\"%s\",\"born\":\"%s\",\"team\":\"A\"}%s}".formatted(name, born, more);
    }

    private static JsonNode found(JsonNode answer) {
        return answer.at("/findings/0");
    }

    @Test
    void itIsToldWhileTypedAskedAboutAtTheSaveAndInLines() {
        var api = ruled("alike_people", COLUMNS, RULE);
        assertThat(post(api + "/records", person("Wenna Sedge", "1990-05-03", ""))
                        .status())
                .isEqualTo(201);
        // As soon as both are there, and not before.
        assertThat(post(api + "/assess", "{\"values\":{\"name\":\"Wena Sedge\"}}")
                        .json()
                        .get("findings"))
                .isEmpty();
        var again = person("Wena Sedge", "1990-03-05", "");
        var told = found(post(api + "/assess", again).json());
        assertThat(told.get("code").asString()).isEqualTo("alike");
        assertThat(told.get("severity").asString()).isEqualTo("ask");
        assertThat(told.get("message").asString())
                .isEqualTo(
                        "Row 1 is nearly the same: Wenna Sedge, Thu 3 May 1990 (Name one letter apart, Born on with day and month turned).");
        assertThat(told.at("/cause/records/0/row").asInt()).isEqualTo(1);
        assertThat(told.at("/cause/records/0/values").toString()).isEqualTo("[\"Wenna Sedge\",\"1990-05-03\"]");

        assertThat(post(api + "/records", again).status()).isEqualTo(422);
        assertThat(get(api + "/next-row").json().get("row").asInt()).isEqualTo(2);
        var answered = person("Wena Sedge", "1990-03-05", ",\"answers\":{\"double\":\"yes\"}");
        assertThat(post(api + "/assess", answered).json().get("findings")).isEmpty();
        assertThat(post(api + "/records", answered).status()).isEqualTo(201);
        assertThat(post(api + "/assess", person("Wenna Marsh", "1990-05-03", ""))
                        .json()
                        .get("findings"))
                .isEmpty();

        var lines = post(api + "/batches/assess", """
                {"same":{},"lines":[{"values":{"name":"Joss Keane","born":"2000-12-21"}},{"values":{"name":"Tilda Hollin","born":"2001-01-01"}},
                 {"values":{"name":"Keane, Jos","born":"2000-12-21"}},{"values":{"name":"Keane, Joss","born":"2000-11-12"}},
                 {"values":{"name":"Keane, Joss","born":"2000-12-21"}}]}""");
        assertThat(lines.json()
                        .get("lines")
                        .valueStream()
                        .map(line -> found(line).path("message").asString("")))
                .as(lines.http().body())
                .containsExactly(
                        "",
                        "",
                        "",
                        "",
                        "Line 1 is nearly the same: Joss Keane, Thu 21 Dec 2000 (Name in another order, same Born on). So is one more.");
    }

    /** Of a fill that stops and of a link, each typed with a slip. */
    @Test
    void whatIsLookedUpWithASlipIsNamed() {
        TestServer.form(
                "alike_kit",
                "{\"name\":\"tag\",\"title\":\"Tag\",\"unique\":true},{\"name\":\"kind\",\"title\":\"Kind\"}");
        for (var tag : List.of("QB-03", "QB-31", "Stepping stones")) {
            post("/api/doors/alike_kit/records", "{\"values\":{\"tag\":\"" + tag + "\",\"kind\":\"Net\"}}");
        }
        var api = ruled("alike_loans", """
                {"name":"tag","title":"Tag"},{"name":"kind","title":"Kind"},
                {"name":"at","title":"At","type":"link","to":"alike_kit","shown":["tag"]}""", """
                "fills":[{"id":"kit","table":"alike_kit","keys":[{"column":"tag","source":"tag"}],"brings":[{"column":"kind","source":"kind"}],
                  "none":"stop","several":"choose","writesBack":false}]""");
        for (var each : List.of(
                "tag|QB-30|Alike kit has no row with QB-30. Is it “QB-03”?",
                "tag|QB-13|Alike kit has no row with QB-13. Is it “QB-31”?",
                "tag|XY-99|Alike kit has no row with XY-99.",
                "at|Steping stones|Alike kit has no record “Steping stones”. Is it “Stepping stones”? Type its Tag, or choose it from the list.")) {
            var parts = each.split("\\|");
            var said = found(post(api + "/assess", "{\"values\":{\"%s\":\"%s\"}}".formatted(parts[0], parts[1]))
                    .json());
            assertThat(said.path("message").asString("")).isEqualTo(parts[2]);
        }
    }

    @Test
    void whatIsOutOfViewIsNotFoundByADoor() {
        var api = ruled("alike_seen", COLUMNS, RULE);
        post(api + "/records", person("Wenna Sedge", "1990-05-03", ""));
        post(api + "/records", "{\"values\":{\"name\":\"Joss Keane\",\"born\":\"1990-05-03\",\"team\":\"B\"}}");
        var kim = Browser.newIn("Alikes", "alikekim");
        var doors = List.of(
                "\"may\":[\"add\",\"see\"],\"view\":{\"where\":[\"team:B\"],\"own\":false}",
                "\"may\":[\"add\"],\"view\":{\"where\":[],\"own\":false}",
                "\"may\":[\"add\",\"see\"],\"view\":{\"where\":[],\"own\":true}",
                "\"may\":[\"add\",\"see\"],\"view\":{\"where\":[],\"own\":false},\"fields\":{\"leftOut\":[\"born\"],\"locked\":[]},\"filled\":{\"born\":\"date(\\\"1990-05-03\\\")\"}");
        for (int at = 0; at < doors.size(); at++) {
            var made = post(
                    "/api/forms/alike_seen/doors",
                    "{\"id\":\"alike-%d\",\"title\":\"Some\",\"who\":{\"groups\":[\"Alikes\"]},%s}"
                            .formatted(at, doors.get(at)));
            assertThat(made.status()).as(made.http().body()).isEqualTo(201);
            var door = "/api/doors/alike-" + at;
            var typed = at == 3 ? "{\"values\":{\"name\":\"Wena Sedge\"}}" : person("Wena Sedge", "1990-05-03", "");
            var answer = as(kim, "POST", door + "/assess", typed);
            assertThat(answer.status()).as(answer.http().body()).isEqualTo(200);
            assertThat(answer.json().get("findings").toString())
                    .as(doors.get(at))
                    .doesNotContain("Wenna", "alike");
        }
        // The builder may have them counted, and nothing else is told: save for a field that is left out.
        var form = get("/api/forms/alike_seen").json();
        var all = form.toString().replace("\"all\":false", "\"all\":true");
        assertThat(send("PUT", "/api/forms/alike_seen", all, "If-Match", "\"2\"")
                        .status())
                .isEqualTo(200);
        assertThat(post("/api/forms/alike_seen/publish", "").status()).isEqualTo(200);
        for (int at = 0; at < doors.size(); at++) {
            var door = "/api/doors/alike-" + at;
            var typed = at == 3 ? "{\"values\":{\"name\":\"Wena Sedge\"}}" : person("Wena Sedge", "1990-05-03", "");
            var findings = as(kim, "POST", door + "/assess", typed).json().get("findings");
            assertThat(findings.toString()).as(doors.get(at)).doesNotContain("Wenna");
            assertThat(findings.valueStream().map(each -> each.get("message").asString()))
                    .as(doors.get(at))
                    .isEqualTo(at == 3 ? List.of() : List.of("1 record that you can't see here is nearly the same."));
        }
        assertThat(found(as(kim, "POST", "/api/doors/alike-0/assess", person("Jos Keane", "1990-05-03", ""))
                                .json())
                        .get("message")
                        .asString())
                .startsWith("Row 2 is nearly the same");
    }

    /** Who saves it all the same, or says so of a group, has said that they are different: it is not asked again, nor shown. */
    @Test
    void aLookFindsWhatNobodyHasToldApart() throws InterruptedException, SQLException {
        var api = ruled("alike_looked", COLUMNS, RULE);
        post(api + "/records", person("Wenna Sedge", "1990-05-03", ""));
        var answered = person("Wena Sedge", "1990-05-03", ",\"answers\":{\"double\":\"yes\"}");
        var saved = post(api + "/records", answered).json();
        assertThat(post(
                                api + "/assess",
                                "{\"record\":%d,\"values\":{\"name\":\"Wenna Sedge\",\"born\":\"1990-05-03\"}}"
                                        .formatted(saved.get("id").asLong()))
                        .json()
                        .get("findings"))
                .isEmpty();
        post(api + "/records", person("Joss Keane", "2000-12-21", ""));
        var lines = post(api + "/batches", """
                {"same":{},"keep":"all","answers":{"alike":"yes"},"lines":[{"values":{"name":"Tilda Hollin","born":"2001-01-01"}},
                 {"values":{"name":"Tilda Holin","born":"2001-01-01"}}]}""");
        assertThat(lines.status()).isEqualTo(201);
        // As it comes in by another way, unasked.
        TestServer.program("insert into records.alike_looked (name, born) values ('Keane Joss', '2000-12-21')");
        var tables = "/api/tables/alike_looked";
        assertThat(get(tables + "/alike").json().get("look").isNull()).isTrue();
        assertThat(post(tables + "/alike", "{\"columns\":[\"name\",\"nothing\"]}")
                        .status())
                .isEqualTo(400);
        var look = post(tables + "/alike", "{\"columns\":[\"name\",\"born\"]}");
        assertThat(look.status()).as(look.http().body()).isEqualTo(202);
        var at = tables + "/alike/" + look.json().get("id").asLong();
        await("the look", () -> get(at).json().get("state").asString().equals("done"));
        assertThat(get(at).json().get("found").asInt()).isEqualTo(1);
        var groups = get(at + "/groups").json();
        assertThat(groups.get("next").isNull()).isTrue();
        var group = groups.at("/groups/0");
        assertThat(groups.get("groups")).hasSize(1);
        assertThat(group.get("why").asString()).isEqualTo("Name in another order, same Born on");
        assertThat(group.get("records")
                        .valueStream()
                        .map(each -> each.get("row").asInt()))
                .containsExactly(3, 6);
        var both = "{\"records\":[%d,%d]"
                .formatted(
                        group.at("/records/0/id").asLong(),
                        group.at("/records/1/id").asLong());
        assertThat(send("PUT", tables + "/different", both + "}").status()).isEqualTo(204);
        assertThat(get(at + "/groups").json().get("groups")).isEmpty();
        assertThat(send("PUT", tables + "/different", both + ",\"different\":false}")
                        .status())
                .isEqualTo(204);
        assertThat(get(at + "/groups").json().get("groups")).hasSize(1);
        assertThat(send("PUT", tables + "/different", "{\"records\":[1]}").status())
                .isEqualTo(400);

        var keyer = Browser.newIn("Alike looks", "alikejo");
        for (var path : List.of(
                "/alike",
                "/alike/" + look.json().get("id"),
                "/alike/" + look.json().get("id") + "/groups")) {
            assertThat(as(keyer, "GET", tables + path, "").status()).as(path).isEqualTo(403);
        }
        assertThat(as(keyer, "POST", tables + "/alike", "{\"columns\":[\"name\"]}")
                        .status())
                .isEqualTo(403);
        assertThat(as(keyer, "PUT", tables + "/different", both + "}").status()).isEqualTo(403);
    }
}
