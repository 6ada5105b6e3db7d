package weft.server.entry;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.form;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;
import static weft.server.TestServer.send;

import java.util.ArrayList;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.node.ObjectNode;
import weft.server.TestServer;
import weft.server.TestServer.Answer;

/** What was done once is answered as done when its answer was lost and it is asked for again, and is done no second time. */
@ExtendWith(TestServer.class)
class RepeatedRequestsTest {

    private static int made;
    private String table;
    private String api;
    private String forms;

    @BeforeEach
    void given() {
        table = "again" + ++made;
        var form = form(table, "{\"title\":\"Site\"},{\"title\":\"Count\",\"type\":\"whole\"}");
        api = "/api/doors/" + form;
        forms = "/api/forms/" + form;
        assertThat(post(forms + "/publish", "").status()).isEqualTo(200);
    }

    private Answer save(String site, String... headers) {
        return post(api + "/records", "{\"values\":{\"site\":\"" + site + "\"}}", headers);
    }

    private int rows() {
        return get(api + "/records").json().get("records").size();
    }

    @Test
    void removingPuttingBackAndChangingAreAnsweredAsDone() {
        var record = api + "/records/" + save("QB-01").json().get("id").asLong();
        var change = "{\"values\":{\"site\":\"QB-02\",\"count\":\"3\"}}";
        var once = send("PUT", record, change, "If-Match", "\"1\"");
        var twice = send("PUT", record, change, "If-Match", "\"1\"");
        assertThat(twice.status()).isEqualTo(200);
        assertThat(twice.header("ETag")).isEqualTo(once.header("ETag")).isEqualTo("\"2\"");
        assertThat(send("PUT", record, "{\"values\":{\"site\":\"QB-09\"}}", "If-Match", "\"1\"")
                        .status())
                .isEqualTo(412);

        assertThat(send("DELETE", record, null, "If-Match", "\"1\"").status()).isEqualTo(412);
        assertThat(send("DELETE", record, null, "If-Match", "\"2\"").status()).isEqualTo(204);
        assertThat(send("DELETE", record, null, "If-Match", "\"2\"").status()).isEqualTo(204);
        assertThat(send("DELETE", record, null, "If-Match", "\"1\"").status()).isEqualTo(404);

        var back = post(record + "/restore", "");
        var again = post(record + "/restore", "");
        assertThat(again.status()).isEqualTo(200);
        assertThat(again.http().body()).isEqualTo(back.http().body());
        assertThat(get(record + "/history").json().size()).isEqualTo(4);
    }

    @Test
    void anArchivedFormTakesNoEntriesUntilItIsInUseAgain() {
        assertThat(send("PUT", forms + "/archived", "{\"archived\":true}").status())
                .isEqualTo(204);
        var refused = save("QB-01");
        assertThat(refused.status()).isEqualTo(409);
        assertThat(refused.json().get("detail").asString()).contains("archived and takes no entries");
        assertThat(send("PUT", forms + "/archived", "{\"archived\":false}").status())
                .isEqualTo(204);
        assertThat(save("QB-01").status()).isEqualTo(201);
    }

    @Test
    void publishingTheSameTwiceMakesNoSecondVersion() {
        var version = post(forms + "/publish", "", "If-Match", "\"1\"")
                .json()
                .get("version")
                .asInt();
        assertThat(post(forms + "/publish", "", "If-Match", "\"1\"")
                        .json()
                        .get("version")
                        .asInt())
                .isEqualTo(version);
        var form = (ObjectNode) get(forms).json();
        form.put("title", "Another");
        assertThat(send("PUT", forms, form.toString(), "If-Match", "\"1\"").status())
                .isEqualTo(200);
        assertThat(post(forms + "/publish", "").json().get("version").asInt()).isEqualTo(version + 1);
    }

    @Test
    void whatCameOfASaveIsToldByItsKey() {
        assertThat(get(api + "/saves/lost").status()).isEqualTo(404);
        var saved = save("QB-01", "Idempotency-Key", "lost").json();
        var told = get(api + "/saves/lost");
        assertThat(told.status()).isEqualTo(200);
        assertThat(told.json().get("row")).isEqualTo(saved.get("row"));
        assertThat(told.json().at("/values/site").asString()).isEqualTo("QB-01");
        assertThat(rows()).isEqualTo(1);
    }

    /** A button whose steps save. */
    private String withButton(String ask) {
        var name = table + "_b";
        var ruled = RulesApiTest.ruled(
                name,
                "{\"title\":\"Site\",\"unique\":true},{\"title\":\"Count\",\"type\":\"whole\"}",
                "\"steps\":[{\"when\":\"go\",\"steps\":[" + ask
                        + "{\"onlyIf\":\"\",\"action\":{\"kind\":\"set-field\",\"value\":{\"column\":\"count\",\"formula\":\"7\"}}},"
                        + "{\"onlyIf\":\"\",\"action\":{\"kind\":\"press\",\"action\":\"save\"}}]}]");
        return ruled;
    }

    @Test
    void aPressThatSavesIsDoneOnceUnderItsKeyHoweverOftenItComes() throws Exception {
        var ruled = withButton("");
        var press = ruled + "/buttons/go/press";
        var body = "{\"values\":{\"site\":\"QB-01\"}}";
        try (var pool = Executors.newFixedThreadPool(8)) {
            var all = new ArrayList<Callable<Answer>>();
            for (int i = 0; i < 8; i++) {
                all.add(() -> post(press, body, "Idempotency-Key", "one-press"));
            }
            for (var pressed : pool.invokeAll(all)) {
                assertThat(pressed.get().status())
                        .as(pressed.get().http().body())
                        .isEqualTo(200);
                assertThat(pressed.get().json().at("/saved/row").asInt()).isEqualTo(1);
            }
        }
        assertThat(get(ruled + "/records").json().get("records").size()).isEqualTo(1);
        assertThat(post(press, "{\"values\":{\"site\":\"QB-02\"}}", "Idempotency-Key", "one-press")
                        .status())
                .isEqualTo(422);
    }

    private static final String ASK =
            "{\"onlyIf\":\"\",\"action\":{\"kind\":\"ask\",\"id\":\"sure\",\"text\":\"Sure?\",\"usual\":\"no\"}},"
                    + "{\"onlyIf\":\"\",\"action\":{\"kind\":\"say\",\"text\":\"Fine.\"}},";

    @ParameterizedTest
    @ValueSource(strings = {"cancel", "maybe", "", "Yes"})
    void whatIsNoYesAndNoNoSavesNothing(String answer) {
        var ruled = withButton(ASK);
        var pressed = post(
                ruled + "/buttons/go/press",
                "{\"values\":{\"site\":\"QB-01\"},\"answers\":{\"sure\":\"" + answer + "\"}}");
        assertThat(pressed.status()).isEqualTo(answer.equals("cancel") ? 200 : 422);
        var after = RulesApiTest.ruled(
                table + "_c",
                "{\"title\":\"Site\"}",
                "\"steps\":[{\"when\":\"saved\",\"steps\":[" + ASK
                        + "{\"onlyIf\":\"\",\"action\":{\"kind\":\"say\",\"text\":\"In.\"}}]}]");
        var saved =
                post(after + "/records", "{\"values\":{\"site\":\"QB-01\"},\"answers\":{\"sure\":\"" + answer + "\"}}");
        assertThat(saved.status()).isEqualTo(422);
        assertThat(saved.json().at("/findings/0/code").asString()).isEqualTo("question");
        for (var each : new String[] {ruled, after}) {
            assertThat(get(each + "/records").json().get("records").size()).isZero();
        }
        assertThat(post(after + "/records", "{\"values\":{\"site\":\"QB-01\"},\"answers\":{\"sure\":\"no\"}}")
                        .status())
                .isEqualTo(201);
    }
}
