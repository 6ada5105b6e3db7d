package weft.server.door;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.form;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;
import static weft.server.TestServer.send;

import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;
import weft.server.TestServer;
import weft.server.TestServer.Answer;

/** What one operation refuses by a door, every other refuses too: told by what is stored before and after. */
@ExtendWith(TestServer.class)
class NoSideWayTest {

    private static final String BUTTON = """
            {"kind":"button","id":"%s","label":"%s","icon":"","action":"steps","opens":"","key":"none","width":2}""";
    private static final String STEPS = """
            {"when":"%s","steps":[{"onlyIf":"","action":{"kind":"set-field","value":{"column":"%s","formula":"\\"pressed\\""}}},
             {"onlyIf":"","action":{"kind":"press","action":"save"}}]}""";

    private static long record;

    @BeforeAll
    static void given() {
        form("side_sites", "{\"title\":\"Code\",\"unique\":true},{\"title\":\"Secret\"}");
        post("/api/doors/side_sites/records", "{\"values\":{\"code\":\"QB-03\",\"secret\":\"an otter's holt\"}}");
        form(
                "side",
                "{\"title\":\"Note\"},{\"title\":\"Own\"},{\"title\":\"Mark\"},"
                        + "{\"title\":\"Site\",\"type\":\"link\",\"to\":\"side_sites\",\"shown\":[\"code\"]}");
        var document = (ObjectNode) get("/api/forms/side").json();
        var items = document.withArray("/sections/0/items");
        for (var button : new String[] {"mark", "own"}) {
            items.add(JsonMapper.shared().readTree(BUTTON.formatted(button, button)));
        }
        ((ObjectNode) document.get("rules"))
                .set(
                        "steps",
                        JsonMapper.shared()
                                .readTree("[" + STEPS.formatted("mark", "note") + "," + STEPS.formatted("own", "own")
                                        + ","
                                        + STEPS.formatted("saved", "mark")
                                                .replace("\"action\":\"save\"", "\"action\":\"new\"")
                                        + "]"));
        assertThat(send("PUT", "/api/forms/side", document.toString(), "If-Match", "\"1\"")
                        .status())
                .isEqualTo(200);
        assertThat(post("/api/forms/side/publish?despite=frays", "").status()).isEqualTo(200);
        record = post("/api/doors/side/records", "{\"values\":{\"note\":\"first\",\"site\":\"QB-03\"}}")
                .json()
                .get("id")
                .asLong();
        door("side-change", "\"see\",\"change\"");
        door("side-add", "\"add\"");
    }

    private static void door(String id, String may) {
        var made = post(
                "/api/forms/side/doors",
                ("{\"id\":\"%s\",\"title\":\"%s\",\"may\":[%s],\"who\":{\"groups\":[\"Builders\",\"Administrators\"]},"
                                + "\"fields\":{\"leftOut\":[\"own\",\"mark\"],\"locked\":[]}}")
                        .formatted(id, id, may));
        assertThat(made.status()).as(made.http().body()).isEqualTo(201);
    }

    private static String stored() {
        return get("/api/doors/side/records").json().get("records").toString();
    }

    private static void changesNothing(Answer answer, String before) {
        assertThat(answer.status()).as(answer.http().body()).isBetween(400, 499);
        assertThat(stored()).as(answer.http().body()).isEqualTo(before);
    }

    @Test
    void whoMayOnlyChangeAddsByNothing() {
        var before = stored();
        var door = "/api/doors/side-change";
        changesNothing(post(door + "/records", "{\"values\":{\"note\":\"x\"}}"), before);
        changesNothing(post(door + "/batches", "{\"lines\":[{\"values\":{\"note\":\"x\"}}]}"), before);
        changesNothing(post(door + "/buttons/mark/press", "{\"values\":{\"note\":\"x\"}}"), before);
        // By the same button a record is changed.
        assertThat(send(
                                "POST",
                                door + "/buttons/mark/press",
                                "{\"values\":{\"note\":\"x\"},\"record\":" + record + "}",
                                "If-Match",
                                "\"1\"")
                        .status())
                .isEqualTo(200);
        assertThat(stored()).contains("\"note\":\"pressed\"");
    }

    @Test
    void whoMayOnlyAddChangesByNothing() {
        var before = stored();
        var door = "/api/doors/side-add";
        var body = "{\"values\":{\"note\":\"x\"},\"record\":" + record + "}";
        changesNothing(send("PUT", door + "/records/" + record, body, "If-Match", "\"1\""), before);
        changesNothing(send("POST", door + "/buttons/mark/press", body, "If-Match", "\"1\""), before);
        changesNothing(
                send("POST", door + "/records/" + record + "/restore", "{\"version\":1}", "If-Match", "\"1\""), before);
        changesNothing(
                post(door + "/changes", "{\"ids\":[" + record + "],\"set\":{\"note\":{\"typed\":\"x\"}}}"), before);
    }

    /** Whichever operation brings another value for a locked field: it is refused, and nothing of it is written. */
    @Test
    void whatTheDoorLocksIsChangedByNothing() {
        var made = post(
                "/api/forms/side/doors",
                "{\"id\":\"side-locked\",\"title\":\"Locked\",\"may\":[\"add\",\"see\",\"change\"],"
                        + "\"who\":{\"groups\":[\"Builders\",\"Administrators\"]},"
                        + "\"fields\":{\"leftOut\":[],\"locked\":[\"note\"]},\"lines\":\"both\"}");
        assertThat(made.status()).as(made.http().body()).isEqualTo(201);
        var before = stored();
        var door = "/api/doors/side-locked";
        var seen = get(door + "/records/" + record).header("ETag");
        var other = "{\"values\":{\"note\":\"x\"}}";
        changesNothing(post(door + "/records", other), before);
        changesNothing(post(door + "/batches", "{\"lines\":[" + other + "]}"), before);
        changesNothing(
                post(door + "/batches", "{\"same\":{\"note\":\"x\"},\"lines\":[{\"values\":{\"mark\":\"y\"}}]}"),
                before);
        changesNothing(send("PUT", door + "/records/" + record, other, "If-Match", seen), before);
        changesNothing(
                send(
                        "POST",
                        door + "/buttons/mark/press",
                        "{\"values\":{},\"record\":" + record + "}",
                        "If-Match",
                        seen),
                before);
        changesNothing(
                post(door + "/changes", "{\"ids\":[" + record + "],\"set\":{\"note\":{\"typed\":\"x\"}}}"), before);
    }

    @Test
    void whatTheDoorDoesNotShowIsNotPressed() {
        var before = stored();
        for (var button : new String[] {"own", "saved", "changed", "nothing"}) {
            changesNothing(
                    post("/api/doors/side-add/buttons/" + button + "/press", "{\"values\":{\"note\":\"x\"}}"), before);
        }
    }

    @Test
    void aFormulaFromOutsideKnowsOfALinkWhatTheLinkShows() {
        for (var formula : new String[] {
            "site.secret",
            "get value(site, \\\"secret\\\")",
            "[site][1].secret",
            "string join(for e in get entries(site) return string(e.value))",
            "{a: site}.a.secret",
            "own",
            "last.own"
        }) {
            var asked = post(
                    "/api/doors/side-change/changes",
                    "{\"ids\":[%d],\"set\":{\"note\":{\"formula\":\"%s\"}},\"rehearse\":true}"
                            .formatted(record, formula));
            assertThat(asked.http().body()).as(formula).doesNotContain("holt");
        }
        var shown = post(
                "/api/doors/side-change/changes",
                "{\"ids\":[%d],\"set\":{\"note\":{\"formula\":\"site.code\"}},\"rehearse\":true}".formatted(record));
        assertThat(shown.json().at("/examples/0/after/note").asString()).isEqualTo("QB-03");
    }

    @Test
    void whicheverVersionIsNamedTheRulesOfNowHold() {
        form("side_rules", "{\"title\":\"Site\"},{\"title\":\"River\"}");
        var document = get("/api/forms/side_rules").http().body();
        var site = document.indexOf("\"column\":\"river\"");
        assertThat(site).isPositive();
        var now = (ObjectNode) JsonMapper.shared().readTree(document);
        now.withArray("/sections/0/items").forEach(item -> {
            if (item.get("column").asString().equals("site")) {
                ((ObjectNode) item).put("required", true);
            }
        });
        now.withArray("/sections/0/items").remove(1);
        assertThat(send("PUT", "/api/forms/side_rules", now.toString(), "If-Match", "\"1\"")
                        .status())
                .isEqualTo(200);
        assertThat(post("/api/forms/side_rules/publish?despite=frays", "").status())
                .isEqualTo(200);
        var door = "/api/doors/side_rules/records";
        // A rule that came later holds, and a field that was taken off is not written; what was typed there is not lost
        // unsaid.
        assertThat(post(door, "{\"values\":{\"site\":\"\",\"river\":\"\"},\"version\":1}")
                        .status())
                .isEqualTo(422);
        var gone = post(door, "{\"values\":{\"site\":\"QB-03\",\"river\":\"Quill\"},\"version\":1}");
        assertThat(gone.status()).isEqualTo(422);
        assertThat(gone.json().at("/findings/0/code").asString()).isEqualTo("gone");
        assertThat(gone.json().at("/findings/0/message").asString())
                .startsWith("“River” is not on this form any more.");
        assertThat(post(door, "{\"values\":{\"site\":\"QB-03\",\"river\":\" \"},\"version\":1}")
                        .status())
                .isEqualTo(201);
        assertThat(post(door, "{\"values\":{\"site\":\"QB-03\",\"river\":\"Quill\"}}")
                        .status())
                .isEqualTo(400);
        assertThat(post(door, "{\"values\":{\"site\":\"QB-03\"},\"version\":9}").status())
                .isEqualTo(404);
    }
}
