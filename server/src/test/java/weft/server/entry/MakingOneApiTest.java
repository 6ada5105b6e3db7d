package weft.server.entry;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.as;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;
import static weft.server.entry.RulesApiTest.ruled;

import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.JsonNode;
import weft.server.Browser;
import weft.server.TestServer;

/** Records made one by a door: by the form's rules, with all that links to them, and back again. */
@ExtendWith(TestServer.class)
class MakingOneApiTest {

    private static final String COLUMNS = """
            {"name":"name","title":"Name"},{"name":"email","title":"E-mail","unique":true},{"name":"team","title":"Team"}""";

    private static JsonNode saved(String door, String values) {
        var answer = post(door + "/records", "{\"values\":{" + values + "}}");
        assertThat(answer.status()).as(answer.http().body()).isEqualTo(201);
        return answer.json();
    }

    private static String at(JsonNode record) {
        return "{\"id\":%d,\"version\":%d}"
                .formatted(record.get("id").asLong(), record.get("version").asInt());
    }

    private static String asked(JsonNode stays, JsonNode other, String more) {
        return "{\"stays\":%s,\"others\":[%s]%s}".formatted(at(stays), at(other), more);
    }

    private static String from(JsonNode other, String... columns) {
        return ",\"from\":{%s}"
                .formatted(String.join(
                        ",",
                        List.of(columns).stream()
                                .map(column -> "\"%s\":%d"
                                        .formatted(column, other.get("id").asLong()))
                                .toList()));
    }

    private static List<String> rows(String door) {
        return get(door + "/records")
                .json()
                .get("records")
                .valueStream()
                .map(record -> record.get("row").asInt() + " " + record.get("values"))
                .toList();
    }

    @Test
    void theOneThatStaysGoesByTheRulesOfTheFormAndLinksFollowIt() {
        var people = ruled("one_people", COLUMNS, """
                "checks":[{"id":"team","asks":false,"stays":false,"message":"Not team {team}.",
                  "rule":{"kind":"matches","column":"team","pattern":"[A-Y]"}}]""");
        var stays = saved(people, "\"name\":\"Wenna Sedge\"");
        var other = saved(people, "\"name\":\"Sedge, Wenna\",\"email\":\"w@x.example\",\"team\":\"A\"");
        TestServer.form(
                "one_bookings",
                "{\"name\":\"item\",\"title\":\"Item\"},{\"name\":\"by\",\"title\":\"By\",\"type\":\"link\",\"to\":\"one_people\",\"shown\":[\"name\"]}");
        IntStream.range(0, 3)
                .forEach(n -> saved(
                        "/api/doors/one_bookings",
                        "\"item\":\"net %d\",\"by\":{\"id\":%d}"
                                .formatted(n, other.get("id").asLong())));
        var before = rows(people);
        var bookings = rows("/api/doors/one_bookings");
        var made = people + "/made-one";

        var would = post(made, asked(stays, other, from(other, "email", "team") + ",\"rehearse\":true"));
        assertThat(would.status()).as(would.http().body()).isEqualTo(200);
        assertThat(would.json().get("id").isNull()).isTrue();
        assertThat(would.json().get("moved").toString())
                .isEqualTo("[{\"table\":\"One bookings\",\"column\":\"By\",\"records\":3}]");
        assertThat(rows(people)).isEqualTo(before);

        // A unique address is taken over from the record that goes.
        var one = post(made, asked(stays, other, from(other, "email", "team")));
        assertThat(one.status()).as(one.http().body()).isEqualTo(200);
        assertThat(rows(people))
                .containsExactly("1 {\"name\":\"Wenna Sedge\",\"email\":\"w@x.example\",\"team\":\"A\"}");
        assertThat(rows("/api/doors/one_bookings")).allMatch(row -> row.contains("Wenna Sedge"));
        var history = get(people + "/records/" + stays.get("id") + "/history").json();
        assertThat(history.at("/0/madeOne/rows").toString()).isEqualTo("[2]");
        assertThat(history.at("/1").has("madeOne")).isFalse();
        // The same request twice, as when an answer was lost; and another one of what was seen before.
        var again = post(made, asked(stays, other, from(other, "email", "team")));
        assertThat(again.json().get("id")).isEqualTo(one.json().get("id"));
        assertThat(get(people + "/records/" + stays.get("id") + "/history").json())
                .isEqualTo(history);
        var third = saved(people, "\"name\":\"Joss Keane\"");
        assertThat(post(made, asked(stays, third, "")).status()).isEqualTo(412);
        assertThat(TestServer.send("DELETE", people + "/records/" + third.get("id"), "", "If-Match", "\"1\"")
                        .status())
                .isEqualTo(204);

        var back = people + "/made-one/" + one.json().get("id") + "/take-back";
        assertThat(post(back, "").status()).isEqualTo(200);
        assertThat(rows(people)).isEqualTo(before);
        assertThat(rows("/api/doors/one_bookings")).isEqualTo(bookings);
        assertThat(post(back, "").status()).isEqualTo(404);
    }

    /** As after any change of it; and undone with all else. */
    @Test
    void theStepsOfAChangeFollow() {
        TestServer.form("one_log", "{\"name\":\"of\",\"title\":\"Of\"}");
        var people = ruled("one_steps", COLUMNS, """
                "steps":[{"when":"changed","steps":[{"onlyIf":"","action":{"kind":"add-row","table":"one_log",
                  "values":[{"column":"of","formula":"name"}]}}]}]""");
        var stays = saved(people, "\"name\":\"Wenna Sedge\"");
        var other = saved(people, "\"name\":\"Wena Sedge\",\"team\":\"A\"");
        var made = post(people + "/made-one", asked(stays, other, from(other, "name")));
        assertThat(made.status()).as(made.http().body()).isEqualTo(200);
        assertThat(rows("/api/doors/one_log")).containsExactly("1 {\"of\":\"Wena Sedge\"}");
        assertThat(post(people + "/made-one/" + made.json().get("id") + "/take-back", "")
                        .status())
                .isEqualTo(200);
        assertThat(rows("/api/doors/one_log")).isEmpty();
        assertThat(rows(people)).hasSize(2);
    }

    @Test
    void whatAChangeRefusesIsRefusedHereToo() {
        var people = ruled("one_ruled", COLUMNS, """
                "checks":[{"id":"team","asks":false,"stays":false,"message":"Not team {team}.",
                  "rule":{"kind":"matches","column":"team","pattern":"[A-Y]"}}]""");
        var stays = saved(people, "\"name\":\"A\",\"team\":\"A\"");
        var other = saved(people, "\"name\":\"B\",\"team\":\"B\"");
        TestServer.part(org.jooq.DSLContext.class)
                .execute("update records.one_ruled set team = 'Z' where _id = " + other.get("id"));
        var z = get(people + "/records/" + other.get("id")).json();
        var before = rows(people);
        var made = people + "/made-one";
        var stopped = post(made, asked(stays, z, from(z, "team")));
        assertThat(stopped.status()).isEqualTo(422);
        assertThat(stopped.json().at("/findings/0/message").asString()).isEqualTo("Not team Z.");
        for (var wrong : List.of(
                asked(stays, stays, ""),
                "{\"stays\":%s,\"others\":[]}".formatted(at(stays)),
                asked(
                        stays,
                        z,
                        ",\"from\":{\"nothing\":%d}".formatted(z.get("id").asLong())),
                asked(stays, z, ",\"from\":{\"name\":999}"))) {
            assertThat(post(made, wrong).status()).as(wrong).isEqualTo(400);
        }

        var kim = Browser.newIn("Ones", "onekim");
        var doors = List.of(
                "\"may\":[\"see\",\"change\"]|403",
                "\"may\":[\"see\",\"remove\"]|403",
                "\"may\":[\"see\",\"change\",\"remove\"],\"fields\":{\"leftOut\":[\"email\"],\"locked\":[]}|400",
                "\"may\":[\"see\",\"change\",\"remove\"],\"fields\":{\"leftOut\":[],\"locked\":[\"name\"]}|400",
                "\"may\":[\"see\",\"change\",\"remove\"],\"view\":{\"where\":[\"team:A\"],\"own\":false}|412");
        for (int i = 0; i < doors.size(); i++) {
            var parts = doors.get(i).split("\\|");
            var door = post(
                    "/api/forms/one_ruled/doors",
                    "{\"id\":\"one-%d\",\"title\":\"Some\",\"who\":{\"groups\":[\"Ones\"]},%s}".formatted(i, parts[0]));
            assertThat(door.status()).as(door.http().body()).isEqualTo(201);
            var answer = as(kim, "POST", "/api/doors/one-" + i + "/made-one", asked(stays, z, from(z, "name")));
            assertThat(answer.status()).as(doors.get(i) + answer.http().body()).isEqualTo(Integer.parseInt(parts[1]));
        }
        assertThat(rows(people)).isEqualTo(before);
        // Who may by a door takes back by it only what is its own table's.
        assertThat(as(kim, "POST", "/api/doors/one-4/made-one/1/take-back", "").status())
                .isEqualTo(404);
    }
}
