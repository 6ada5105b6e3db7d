package weft.server.bench;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.form;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;
import static weft.server.TestServer.send;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;
import weft.server.TestServer;

@ExtendWith(TestServer.class)
class SentencesApiTest {

    private static JsonNode read(String form, String text) {
        var body = JsonMapper.shared().createObjectNode().put("text", text);
        var answer = post("/api/forms/" + form + "/bench/sentences", body.toString());
        assertThat(answer.status()).isEqualTo(200);
        return answer.json();
    }

    private static List<String> texts(JsonNode list, String member) {
        return list.valueStream().map(each -> each.path(member).asString("")).toList();
    }

    @Test
    void everyLineIsReadAsARuleOrSaysWhatWouldBeRight() {
        form("said_sites", "{\"title\":\"Code\"},{\"title\":\"Name\"}");
        var form = form(
                "said_rules",
                "{\"title\":\"Site\"},{\"title\":\"Site name\"},{\"title\":\"pH\",\"type\":\"decimal\"},{\"title\":\"Taken on\",\"type\":\"date\"}");
        var came = read(form, """
                pH is 6 to 9, else ask "Rare."

                Site brings Site name from said_sites by code, else stop
                once saved: say "So."
                no two alike in Site, Taken on
                pF is 6 to 9
                pH is nine to 9
                `gone` is filled
                Taken on is s""");
        assertThat(came.get("read")
                        .valueStream()
                        .map(each -> each.at("/rule/part").asString(""))
                        .toList())
                .containsExactly("checks", "fills", "steps", "between", "", "checks", "checks", "checks");
        assertThat(came.at("/read/0/rule/rule/rule/kind").asString()).isEqualTo("range");
        assertThat(came.at("/read/0/said/text").asString()).isEqualTo("asks unless pH is between 6 and 9: \"Rare.\"");
        assertThat(came.at("/read/0/said/columns/0").asString()).isEqualTo("ph");
        assertThat(came.at("/read/1/rule/rule/brings/0/source").asString()).isEqualTo("name");
        assertThat(came.at("/read/2/rule/when").asString()).isEqualTo("saved");
        assertThat(texts(came.get("read"), "unclear").subList(0, 4)).containsOnly("");
        assertThat(came.at("/read/4/unclear").asString()).startsWith("“pF is 6 …” is not understood.");
        // Read, but not to be followed: what the form has no counterpart for is told as well.
        assertThat(came.at("/read/5/unclear").asString()).contains("“nine” is no bound for pH");
        assertThat(came.at("/read/6/unclear").asString()).contains("“gone”");
        assertThat(texts(came.get("offers"), "text")).contains("is shown if");
        assertThat(post("/api/forms/" + form + "/bench/sentences?lines=none", "{\"text\":\"x\"}")
                        .status())
                .isEqualTo(404);
    }

    @Test
    void examplesAreOfThisFormAndCanAllBeMade() {
        var form = form(
                "said_examples",
                "{\"title\":\"Site\"},{\"title\":\"Taken on\",\"type\":\"date\"},{\"title\":\"pH\",\"type\":\"decimal\"},"
                        + "{\"title\":\"Flow\",\"type\":\"choice\",\"choices\":[\"low\",\"high\"]},{\"title\":\"Remark\"}");
        var path = "/api/forms/" + form + "/bench/sentences";
        var examples = post(path, "{\"text\":\"\"}")
                .json()
                .get("examples")
                .valueStream()
                .map(JsonNode::asString)
                .toList();
        assertThat(examples)
                .hasSizeBetween(8, 12)
                .contains("asks unless pH is between 1 and 100", "Taken on begins as today()");
        var body = JsonMapper.shared().createObjectNode().put("text", String.join("\n", examples));
        assertThat(texts(post(path, body.toString()).json().get("read"), "unclear"))
                .containsOnly("");
    }

    @Test
    void aRuleOfWhichAPieceIsChangedReadsAnewOrSaysWhyItCannotBeFollowed() {
        var form = form("said_piece", "{\"title\":\"pH\",\"type\":\"decimal\"}");
        var check =
                "{\"part\":\"checks\",\"rule\":{\"id\":\"c\",\"asks\":%s,\"stays\":false,\"message\":\"\",\"rule\":{\"kind\":\"range\",\"column\":\"ph\",\"from\":\"6\",\"to\":\"%s\"}}}";
        var path = "/api/forms/" + form + "/bench/rule";
        assertThat(post(path, check.formatted("true", "9"))
                        .json()
                        .at("/said/text")
                        .asString())
                .isEqualTo("asks unless pH is between 6 and 9");
        assertThat(post(path, check.formatted("false", "nine"))
                        .json()
                        .at("/unclear")
                        .asString())
                .contains("“nine” is no bound for pH");
        assertThat(post(path, check.formatted("1", "9")).status()).isEqualTo(400);
        assertThat(post(path, "{\"part\":\"spells\",\"rule\":{}}").status()).isEqualTo(400);
    }

    @Test
    void eachRuleSaysWhatItMakesOfADraft() {
        var form = form(
                "said_draft",
                "{\"title\":\"pH\",\"type\":\"decimal\"},{\"title\":\"Site\"},{\"title\":\"Twice\",\"type\":\"decimal\"}");
        var document = (ObjectNode) get("/api/forms/" + form).json();
        var rules = document.withObject("/rules");
        rules.withArray("checks").add(JsonMapper.shared().readTree("""
                {"id":"rare","asks":true,"stays":false,"message":"","rule":{"kind":"range","column":"ph","from":"6","to":"9"}}"""));
        rules.withArray("checks").add(JsonMapper.shared().readTree("""
                {"id":"short","asks":false,"stays":false,"message":"","rule":{"kind":"length","column":"site","from":0,"to":3}}"""));
        rules.withArray("formulas").add(JsonMapper.shared().readTree("""
                {"target":"twice","what":"calculated","formula":"ph * 2"}"""));
        assertThat(send("PUT", "/api/forms/" + form, document.toString(), "If-Match", "\"1\"")
                        .status())
                .isEqualTo(200);
        assertThat(said(form, "{\"ph\":\"9.4\",\"site\":\"QB-03\"}"))
                .isEqualTo("formula 0 acts, check rare asks, check short stops");
        assertThat(said(form, "{\"ph\":\"7\"}")).isEqualTo("formula 0 acts, check rare holds");
        assertThat(said(form, "{}")).isEmpty();
    }

    private static String said(String form, String values) {
        var said = post("/api/forms/" + form + "/bench/said", "{\"values\":" + values + "}")
                .json();
        return String.join(
                ", ",
                said.valueStream()
                        .map(each -> each.get("key").asString() + " "
                                + each.get("mark").asString())
                        .toList());
    }

    @Test
    void storedRecordsThatBreakARuleAreShownWithWhatIsSaidOfThem() {
        var form = form("said_look", "{\"title\":\"Depth\",\"type\":\"whole\"}");
        for (var depth : List.of("20", "21")) {
            post("/api/doors/" + form + "/records", "{\"values\":{\"depth\":\"" + depth + "\"}}");
        }
        var path = "/api/forms/" + form + "/bench/look";
        var came = post(
                        path,
                        "{\"part\":\"checks\",\"rule\":{\"id\":\"c\",\"asks\":false,\"stays\":false,\"message\":\"\",\"rule\":{\"kind\":\"range\",\"column\":\"depth\",\"from\":\"\",\"to\":\"20\"}}}")
                .json();
        assertThat(came.get("looked").asLong()).isEqualTo(2);
        assertThat(came.get("broken").asLong()).isEqualTo(1);
        assertThat(came.get("next").isNull()).isTrue();
        assertThat(came.at("/examples/0/record/values/depth").asLong()).isEqualTo(21);
        assertThat(came.at("/examples/0/message").asString()).isEqualTo("Depth is 21, above 20.");
        var gone = post(
                path,
                "{\"part\":\"between\",\"rule\":{\"kind\":\"unique\",\"columns\":[\"gone\",\"depth\"],\"message\":\"\"}}");
        assertThat(gone.status()).isEqualTo(400);
    }

    @Test
    void whatLinesWouldMakeIsSeenBeforeAndThenMadeReadyToKey() {
        var lines =
                "{\"lines\":[\"Name\",\"Born on\",\"Score, whole 0 to 100\",\"Depth, deepish\"],\"title\":\"People seen\",\"publish\":true}";
        var sketched = post("/api/forms/begun/read", lines).json();
        assertThat(sketched.get("table").asString()).isEqualTo("people_seen");
        assertThat(texts(sketched.get("columns"), "type")).containsExactly("text", "text", "whole");
        assertThat(sketched.at("/lines/1/proposal/say").asString()).isEqualTo("date");
        assertThat(sketched.at("/lines/1/proposal/why").asString()).isEqualTo("“Born” tells a date");
        assertThat(sketched.at("/lines/3/unclear").asString()).contains("“deepish” is not understood");
        assertThat(get("/api/tables/people_seen").status()).isEqualTo(404);

        assertThat(post("/api/forms/begun", lines).status()).isEqualTo(422);
        assertThat(get("/api/tables/people_seen").status()).isEqualTo(404);
        var made = post(
                "/api/forms/begun", lines.replace(",\"Depth, deepish\"", "").replace("Born on", "Born on, date"));
        assertThat(made.status()).isEqualTo(201);
        var door = "/api/doors/" + made.json().get("id").asString();
        assertThat(post(
                                door + "/records",
                                "{\"values\":{\"name\":\"Ada\",\"born_on\":\"2026-08-01\",\"score\":\"101\"}}")
                        .status())
                .isEqualTo(422);
        assertThat(post(
                                door + "/records",
                                "{\"values\":{\"name\":\"Ada\",\"born_on\":\"2026-08-01\",\"score\":\"100\"}}")
                        .status())
                .isEqualTo(201);
    }
}
