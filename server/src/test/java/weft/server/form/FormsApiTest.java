package weft.server.form;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.form;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;
import static weft.server.TestServer.send;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.server.TestServer;

@ExtendWith(TestServer.class)
class FormsApiTest {

    @Test
    void keyersGoOnWithThePublishedFormUntilTheNextIsPublished() {
        var form = form("forms_publish", "{\"title\":\"pH\",\"type\":\"decimal\"}");
        var working = get("/api/forms/" + form);
        assertThat(working.header("ETag")).isEqualTo("\"1\"");
        var changed = working.http().body().replace("\"label\":\"pH\"", "\"label\":\"Acidity\"");
        assertThat(send("PUT", "/api/forms/" + form, changed).status()).isEqualTo(428);
        assertThat(send("PUT", "/api/forms/" + form, changed, "If-Match", "\"1\"")
                        .header("ETag"))
                .isEqualTo("\"2\"");
        assertThat(send("PUT", "/api/forms/" + form, changed, "If-Match", "\"1\"")
                        .status())
                .isEqualTo(412);
        assertThat(get("/api/doors/" + form + "/published").http().body()).contains("\"label\":\"pH\"");
        assertThat(post("/api/forms/" + form + "/publish", "")
                        .json()
                        .get("version")
                        .asInt())
                .isEqualTo(2);
        assertThat(get("/api/doors/" + form + "/published").http().body()).contains("\"label\":\"Acidity\"");
    }

    @Test
    void everyWriteIsCheckedAgainstThePublishedSchema() {
        var form = form("forms_schema", "{\"title\":\"pH\"}");
        var bad = get("/api/forms/" + form).http().body().replaceFirst("\"width\":\\d+", "\"width\":40");
        var refused = send("PUT", "/api/forms/" + form, bad, "If-Match", "\"1\"");
        assertThat(refused.status()).isEqualTo(400);
        assertThat(refused.json().get("errors").get(0).get("where").asString()).isEqualTo("/sections/0/items/0/width");
        assertThat(get("/api/schemas/form.json").json().get("$schema").asString())
                .contains("2020-12");
    }

    @Test
    void aSecondFormOnATableGetsAnIdOfItsOwn() {
        form("forms_two", "{\"title\":\"A\"}");
        assertThat(post("/api/forms", "{\"table\":\"forms_two\"}")
                        .json()
                        .get("id")
                        .asString())
                .isEqualTo("forms_two-2");
        assertThat(get("/api/forms")
                        .json()
                        .valueStream()
                        .filter(listed -> listed.get("table").asString().equals("forms_two")))
                .hasSize(2)
                .allSatisfy(
                        listed -> assertThat(listed.get("published").asInt()).isEqualTo(1));
    }
}
