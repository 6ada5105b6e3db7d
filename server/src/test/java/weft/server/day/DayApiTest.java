package weft.server.day;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.as;
import static weft.server.TestServer.await;
import static weft.server.TestServer.builder;
import static weft.server.TestServer.database;
import static weft.server.TestServer.form;
import static weft.server.TestServer.get;
import static weft.server.TestServer.part;
import static weft.server.TestServer.post;
import static weft.server.TestServer.send;
import static weft.server.TestServer.upload;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.sql.DriverManager;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Random;
import java.util.TreeMap;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.Executors;
import java.util.stream.Collectors;
import java.util.stream.Stream;
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
    void itTellsByDoorWhatCameInWasDoneAndWaitsSinceOneLooked() throws InterruptedException {
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
        assertThat(first.at("/came/count").asInt()).isEqualTo(2);
        assertThat(first.at("/changed/0/title").asString()).isEqualTo("Tessa Lorn");
        assertThat(first.at("/changed/0/times").asInt()).isEqualTo(1);
        assertThat(first.get("removed")).as("not every record is in view").isEmpty();
        assertThat(first.at("/finds/0/name").asString()).isEqualTo("Without a note");
        assertThat(first.at("/finds/0/there/count").asInt()).isEqualTo(1);
        var again = at(day(), "day-again");
        assertThat(again.get("keying").asInt()).isEqualTo(2);
        assertThat(again.at("/removed/0/times").asInt()).isEqualTo(1);
        // What waits to be keyed again by them is not theirs to see.
        assertThat(again.at("/came/count").asInt()).isZero();
        assertThat(again.get("removes").asBoolean()).isFalse();

        // What was written in this very second is told until the next one.
        await(() -> {
            as(cora, "POST", "/api/day/seen", "{\"until\":\"2999-01-01T00:00:00Z\"}");
            var now = at(day(), "day-quill");
            return now.at("/came/count").asInt() == 0 && now.get("changed").isEmpty();
        });
        var later = at(day(), "day-quill");
        assertThat(later.at("/finds/0/there/count").asInt())
                .as("what is kept to be found stays")
                .isEqualTo(1);
        assertThat(at(day(), "day_notes")).as("a door that is not hers").isNull();
        assertThat(as(cora, "POST", "/api/day/seen", "{\"until\":\"soon\"}").status())
                .isEqualTo(400);
    }

    /** Each figure is how many records, changes and removals one gets who goes where it leads, whatever was done before. */
    @Test
    void eachFigureIsOfTheRecordsThatItOpens() {
        var report = upload("day.csv", "river;note\n" + "Quill Beck;from a file\n".repeat(5))
                .json();
        post("/api/imports/" + report.get("id").asString() + "/table", "{\"name\":\"day_file\",\"title\":\"File\"}");
        post("/api/forms/day_file/doors", """
                {"id":"day-whole","title":"Whole","who":{"groups":["Day"]},"may":["add","see","change","remove"]}""");
        post("/api/forms/day_file/doors", """
                {"id":"day-part","title":"Part","who":{"groups":["Day"]},"may":["see","change"],"view":{"where":["river:Quill*"]}}""");
        post("/api/forms/day_file/doors", """
                {"id":"day-own","title":"Own","who":{"groups":["Day"]},"may":["add","see"],"view":{"own":true}}""");
        var random = new Random(4711);
        var people = List.of(builder(), cora);
        var versions = new TreeMap<Long, Integer>();
        records(cora, "day-whole", "limit=100").get("records").forEach(record -> {
            versions.put(record.get("id").asLong(), record.get("version").asInt());
        });
        for (int n = 0; n < 300; n++) {
            var who = people.get(random.nextInt(2));
            var river = random.nextBoolean() ? "Quill Beck" : "Tessel";
            var values = "{\"values\":{\"river\":\"%s\",\"note\":\"%d\"}}".formatted(river, n);
            var records = "/api/doors/day-whole/records";
            var some = List.copyOf(versions.keySet()).get(random.nextInt(versions.size()));
            var seen = "\"" + versions.get(some) + "\"";
            // Whatever is not there any more refuses.
            var answer = switch (random.nextInt(4)) {
                case 0 -> as(who, "POST", records, values);
                case 1 -> as(who, "PUT", records + "/" + some, values, "If-Match", seen);
                case 2 -> as(who, "DELETE", records + "/" + some, null, "If-Match", seen);
                default -> as(who, "POST", records + "/" + some + "/restore", "{}");
            };
            if (answer.status() / 100 == 2 && answer.http().body().contains("\"version\"")) {
                versions.put(
                        answer.json().get("id").asLong(),
                        answer.json().get("version").asInt());
            }
        }

        var day = day();
        var since = day.get("since").asString();
        for (var door : List.of("day-whole", "day-part", "day-own")) {
            var told = at(day, door);
            assertThat(told.at("/came/count").asLong())
                    .as(door)
                    .isPositive()
                    .isEqualTo(found(door, "_entered_at:>=" + since));
            var changed = told.get("changed");
            assertThat(changed.valueStream()
                            .mapToLong(by -> by.get("times").asLong())
                            .sum())
                    .as(door)
                    .isPositive()
                    .isEqualTo(found(door, "_changed_at:>=" + since));
            for (var by : changed) {
                assertThat(by.get("times").asLong())
                        .as("%s, %s", door, by)
                        .isEqualTo(found(
                                door,
                                "_changed_at:>=" + since,
                                "_changed_by:\"" + by.get("name").asString() + "\""));
            }
        }
        var removed = as(cora, "GET", "/api/doors/day-whole/removed?limit=200&since=" + since, null)
                .json()
                .get("records");
        assertThat(removed).isNotEmpty();
        assertThat(at(day, "day-whole").get("removes").asBoolean()).isTrue();
        for (var by : at(day, "day-whole").get("removed")) {
            assertThat(removed.valueStream()
                            .filter(record -> record.get("by").equals(by.get("title")))
                            .count())
                    .as("%s", by)
                    .isEqualTo(by.get("times").asLong());
        }
        assertThat(as(
                                cora,
                                "GET",
                                "/api/doors/day-whole/removed?since="
                                        + LocalDateTime.now().plusDays(1),
                                null)
                        .json()
                        .get("records"))
                .isEmpty();
        assertThat(as(cora, "GET", "/api/doors/day-whole/removed?since=noon", null)
                        .json()
                        .toString())
                .contains("Say since when like 2026-11-01T17:30:00.");
    }

    private static long found(String door, String... where) {
        var query = Stream.of(where)
                .map(each -> "where=" + URLEncoder.encode(each, StandardCharsets.UTF_8))
                .collect(Collectors.joining("&"));
        return records(cora, door, query).at("/total/count").asLong();
    }

    private static JsonNode records(List<String> who, String door, String query) {
        return as(who, "GET", "/api/doors/" + door + "/records?" + query, null).json();
    }

    /** What is being written while somebody looks bears an earlier time, and is told the next time. */
    @Test
    void nothingIsMissedThatIsBeingWrittenWhileOneLooks() throws Exception {
        var database = database();
        try (var connection = DriverManager.getConnection(database.url(), database.user(), database.password())) {
            connection.setAutoCommit(false);
            try (var statement = connection.createStatement()) {
                statement.execute("insert into records.day_other (what) values ('begun before')");
                var later = Instant.now().plusSeconds(1);
                await(() -> {
                    as(cora, "POST", "/api/day/seen", "{\"until\":\"2999-01-01T00:00:00Z\"}");
                    return Instant.now().isAfter(later);
                });
            }
            connection.commit();
        }
        assertThat(at(day(), "day-other").at("/came/count").asInt()).isEqualTo(1);
    }

    @Test
    void itComesByMailOnceAMorningWhateverNumberOfServersThereAre() throws Exception {
        assertThat(send("PUT", "/api/day/mail", "{\"on\":true}").http().body()).contains("No e-mail address");
        assertThat(as(cora, "PUT", "/api/day/mail", "{\"on\":true}").status()).isEqualTo(204);
        assertThat(day().get("mail").asBoolean()).isTrue();
        post("/api/doors/day_other/records", "{\"values\":{\"what\":\"for the mail\"}}");
        // That of today is written by itself, once it is late enough where the server is.
        var today = LocalDate.now(TestServer.clock());
        part(MorningMail.class).write(today);
        int before = mails();
        var morning = today.plusDays(1);
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
        assertThat(mails()).isEqualTo(before + 1);
        part(MorningMail.class).write(morning.plusDays(1));
        assertThat(mails()).isEqualTo(before + 2);
        as(cora, "PUT", "/api/day/mail", "{\"on\":false}");
        part(MorningMail.class).write(morning.plusDays(2));
        assertThat(mails()).isEqualTo(before + 2);
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
