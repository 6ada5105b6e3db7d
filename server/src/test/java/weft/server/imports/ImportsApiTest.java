package weft.server.imports;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;
import static weft.server.TestServer.send;
import static weft.server.TestServer.upload;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.server.TestServer;

@ExtendWith(TestServer.class)
class ImportsApiTest {

    @Test
    void aFileBecomesATableWithItsRowsAndAForm() {
        var brought =
                upload("River samples.csv", "site_code;takenOn;pH\nQB-03;25/12/2025;7,4\nQB-04;26/12/2025;6,95\n");
        assertThat(brought.status()).isEqualTo(201);
        var report = brought.json();
        assertThat(report.get("rows").asInt()).isEqualTo(2);
        assertThat(report.get("columns")
                        .valueStream()
                        .map(column -> column.get("name").asString() + ", "
                                + column.get("title").asString() + ", "
                                + column.get("type").asString() + ", "
                                + column.get("reason").asString()))
                .containsExactly(
                        "site_code, Site code, text, words",
                        "taken_on, Taken on, date, dates in every cell, day first",
                        "ph, pH, decimal, numbers with a decimal comma in every cell");
        assertThat(report.get("preview").get(1).toString()).isEqualTo("[\"QB-04\",\"2025-12-26\",\"6.95\"]");

        var loaded = post(
                "/api/imports/" + report.get("id").asString() + "/table",
                "{\"name\":\"river_samples\",\"title\":\"River samples\"}");
        assertThat(loaded.status()).isEqualTo(201);
        assertThat(loaded.http().body())
                .isEqualTo("{\"table\":\"river_samples\",\"form\":\"river_samples\",\"rows\":2}");
        // The form's people write as the file does.
        var saved = post("/api/forms/river_samples/records", "{\"values\":{\"taken_on\":\"3/4/2026\",\"ph\":\"7,1\"}}")
                .json();
        assertThat(saved.get("row").asInt()).isEqualTo(3);
        assertThat(saved.get("values").get("taken_on").asString()).isEqualTo("2026-04-03");
        assertThat(get("/api/imports/" + report.get("id").asString()).status()).isEqualTo(404);
    }

    @Test
    void ambiguousDatesAreAskedAboutAndNeverGuessed() {
        var report = upload("dates.csv", "day\n3/4/2026\n5/6/2026\n").json();
        assertThat(report.get("columns").get(0).get("askDayOrder").asBoolean()).isTrue();
        var path = "/api/imports/" + report.get("id").asString();
        var refused = post(path + "/table", "{\"name\":\"dates\",\"title\":\"Dates\"}");
        assertThat(refused.status()).isEqualTo(400);
        assertThat(refused.json().get("errors").get(0).get("where").asString()).isEqualTo("columns[0].dayOrder");
        var answered = "[{\"name\":\"day\",\"dayOrder\":\"day-first\"}]";
        var look = post(path + "/look", "{\"columns\":" + answered + "}").json();
        assertThat(look.get("preview").get(0).get(0).asString()).isEqualTo("2026-04-03");
        assertThat(post(path + "/table", "{\"name\":\"dates\",\"title\":\"Dates\",\"columns\":" + answered + "}")
                        .status())
                .isEqualTo(201);
    }

    @Test
    void misfitsStopTheLoadUnlessTheyMayBeEmpty() {
        var report = upload("kit.csv", "tag,charge\nK1,12\nK2,12\n").json();
        var path = "/api/imports/" + report.get("id").asString();
        var columns = "[{\"name\":\"tag\",\"type\":\"whole\"}]";
        var look = post(path + "/look", "{\"columns\":" + columns + "}").json();
        assertThat(look.get("columns").get(0).get("misfitCount").asInt()).isEqualTo(2);
        assertThat(look.get("columns").get(0).get("misfits").get(1).toString())
                .isEqualTo(
                        "{\"line\":3,\"column\":\"tag\",\"cell\":\"K2\",\"message\":\"“K2” can't be read as a whole number. Use digits only, such as 2.\"}");
        var stopped = post(path + "/table", "{\"name\":\"kit\",\"title\":\"Kit\",\"columns\":" + columns + "}");
        assertThat(stopped.status()).isEqualTo(422);
        assertThat(stopped.json().get("misfits").size()).isEqualTo(2);
        assertThat(get("/api/tables/kit").status()).isEqualTo(404);
        var emptied = post(
                path + "/table",
                "{\"name\":\"kit\",\"title\":\"Kit\",\"misfits\":\"empty\",\"columns\":" + columns + "}");
        assertThat(emptied.json().get("rows").asInt()).isEqualTo(2);
    }

    @Test
    void aFileThatIsNoneIsRefusedInASentence() {
        assertThat(upload("empty.csv", "").json().get("detail").asString()).startsWith("The file is empty.");
        assertThat(upload("bad.csv", "a,b\n\"open,1\n").status()).isIn(201, 400);
        assertThat(send("GET", "/api/imports/none", null).status()).isEqualTo(404);
    }
}
