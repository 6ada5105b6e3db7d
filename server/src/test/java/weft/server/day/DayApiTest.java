package weft.server.day;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.as;
import static weft.server.TestServer.form;
import static weft.server.TestServer.get;
import static weft.server.TestServer.part;
import static weft.server.TestServer.post;
import static weft.server.TestServer.send;

import java.time.LocalDate;
import java.util.List;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.Executors;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.JsonNode;
import weft.server.Browser;
import weft.server.TestServer;

/** What the day brought, by the doors of whoever asks, and by mail. */
@ExtendWith(TestServer.class)
class DayApiTest {

    private static final String PASSWORD = "four dry river stones";
    private static List<String> cora;

    @BeforeAll
    static void given() {
        post("/api/groups", "{\"name\":\"Day\",\"title\":\"Day\"}");
        post(
                "/api/people",
                "{\"name\":\"day-cora\",\"title\":\"Cora Day\",\"email\":\"cora@example.org\",\"groups\":[\"Day\"],\"password\":\"%s\"}"
                        .formatted(PASSWORD));
        cora = Browser.of("day-cora", PASSWORD);
        form("day_notes", "{\"title\":\"River\"},{\"title\":\"Note\"}");
        post("/api/forms/day_notes/doors", """
                {"id":"day-quill","title":"Quill","who":{"groups":["Day"]},"may":["see","change"],"view":{"where":["river:Quill*"]}}""");
        post("/api/forms/day_notes/doors", """
                {"id":"day-again","title":"Again","who":{"groups":["Day"]},"may":["add","see","change"],
                 "twice":{"way":"blind","of":["day_notes"]}}""");
        form("day_other", "{\"title\":\"What\"}");
        post("/api/forms/day_other/doors", """
                {"id":"day-other","title":"Other","who":{"groups":["Day"]},"may":["see"]}""");
    }

    private static long save(String river) {
        return post("/api/doors/day_notes/records", "{\"values\":{\"river\":\"" + river + "\"}}")
                .json()
                .get("id")
                .asLong();
    }

    private static JsonNode day() {
        return as(cora, "GET", "/api/day", null).json();
    }

    private static JsonNode at(JsonNode day, String door) {
        for (var each : day.get("doors")) {
            if (each.get("door").asString().equals(door)) {
                return each;
            }
        }
        return null;
    }

    @Test
    void itTellsByDoorWhatCameInWasDoneAndWaitsSinceOneLooked() {
        assertThat(as(
                                cora,
                                "POST",
                                "/api/day/seen",
                                "{\"until\":\"" + day().get("until").asString() + "\"}")
                        .status())
                .isEqualTo(204);
        long quill = save("Quill Beck");
        save("Quill Beck");
        long tessel = save("Tessel");
        send(
                "PUT",
                "/api/doors/day_notes/records/" + quill,
                "{\"values\":{\"river\":\"Quill Beck\",\"note\":\"x\"}}",
                "If-Match",
                "\"1\"");
        send("DELETE", "/api/doors/day_notes/records/" + tessel, null, "If-Match", "\"1\"");
        as(cora, "PUT", "/api/doors/day-quill/finds/Without%20a%20note", "{\"where\":[\"note:empty\"]}");

        var first = at(day(), "day-quill");
        assertThat(first.get("came").asInt()).isEqualTo(2);
        assertThat(first.at("/changed/0/title").asString()).isEqualTo("Tessa Lorn");
        assertThat(first.at("/changed/0/times").asInt()).isEqualTo(1);
        assertThat(first.get("removed")).as("not every record is in view").isEmpty();
        assertThat(first.at("/finds/0/name").asString()).isEqualTo("Without a note");
        assertThat(first.at("/finds/0/count").asInt()).isEqualTo(1);
        var again = at(day(), "day-again");
        assertThat(again.get("keying").asInt()).isEqualTo(2);
        assertThat(again.at("/removed/0/times").asInt()).isEqualTo(1);
        // What waits to be keyed again by them is not theirs to see.
        assertThat(again.get("came").asInt()).isZero();

        // Each opens the records at the Desk.
        var since = day().get("since").asString();
        assertThat(as(cora, "GET", "/api/doors/day-quill/records?where=_entered_at:%3E%3D" + since, null)
                        .json()
                        .get("records"))
                .hasSize(2);
        assertThat(as(cora, "GET", "/api/doors/day-quill/records?where=_changed_at:%3E%3D" + since, null)
                        .json()
                        .get("records"))
                .hasSize(1);

        as(cora, "POST", "/api/day/seen", "{\"until\":\"2999-01-01T00:00:00Z\"}");
        var later = at(day(), "day-quill");
        assertThat(later.get("came").asInt()).isZero();
        assertThat(later.get("changed")).isEmpty();
        assertThat(later.at("/finds/0/count").asInt())
                .as("what is kept to be found stays")
                .isEqualTo(1);
        assertThat(at(day(), "day_notes")).as("a door that is not hers").isNull();
        assertThat(as(cora, "POST", "/api/day/seen", "{\"until\":\"soon\"}").status())
                .isEqualTo(400);
    }

    @Test
    void itComesByMailOnceAMorningWhateverNumberOfServersThereAre() throws Exception {
        assertThat(send("PUT", "/api/day/mail", "{\"on\":true}").http().body()).contains("No e-mail address");
        assertThat(as(cora, "PUT", "/api/day/mail", "{\"on\":true}").status()).isEqualTo(204);
        assertThat(day().get("mail").asBoolean()).isTrue();
        post("/api/doors/day_other/records", "{\"values\":{\"what\":\"for the mail\"}}");
        var morning = LocalDate.now().plusDays(1);
        var together = new CyclicBarrier(4);
        try (var servers = Executors.newFixedThreadPool(4)) {
            for (int n = 0; n < 4; n++) {
                servers.submit(() -> {
                    together.await();
                    part(MorningMail.class).write(morning);
                    return null;
                });
            }
        }
        part(MorningMail.class).write(morning);
        assertThat(mails()).isEqualTo(1);
        part(MorningMail.class).write(morning.plusDays(1));
        assertThat(mails()).isEqualTo(2);
        as(cora, "PUT", "/api/day/mail", "{\"on\":false}");
        part(MorningMail.class).write(morning.plusDays(2));
        assertThat(mails()).isEqualTo(2);
    }

    private static int mails() {
        int found = 0;
        for (var message : get("/api/messages").json().get("messages")) {
            if (message.get("to").asString().equals("cora@example.org")) {
                assertThat(message.get("subject").asString()).startsWith("The day: ");
                assertThat(message.get("text").asString()).contains("came in");
                found++;
            }
        }
        return found;
    }
}
