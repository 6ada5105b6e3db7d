package weft.server.imports;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.form;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;
import static weft.server.TestServer.send;
import static weft.server.TestServer.upload;

import java.util.List;
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
        var saved = post("/api/doors/river_samples/records", "{\"values\":{\"taken_on\":\"3/4/2026\",\"ph\":\"7,1\"}}")
                .json();
        assertThat(saved.get("row").asInt()).isEqualTo(3);
        assertThat(saved.get("values").get("taken_on").asString()).isEqualTo("2026-04-03");
        assertThat(get("/api/imports/" + report.get("id").asString()).status()).isEqualTo(404);
    }

    @Test
    void aCharacterThatNoRecordHoldsIsAMisfitAndNothingElse() {
        form("nul_sites", "{\"title\":\"Code\",\"unique\":true}");
        post("/api/doors/nul_sites/records", "{\"values\":{\"code\":\"QB-03\"}}");
        for (var odd : new String[] {"QB\u0000-03", "\u0000"}) {
            var brought = upload("odd.csv", "Code,Note\nQB-03,x\n" + odd + ",y\n");
            assertThat(brought.status()).as(brought.http().body()).isEqualTo(201);
            assertThat(brought.json().get("rows").asInt()).isEqualTo(2);
        }
        // So it is where rows that link to those go into a table that exists.
        form(
                "nul_notes",
                "{\"title\":\"Site\",\"type\":\"link\",\"to\":\"nul_sites\",\"shown\":[\"code\"]},{\"title\":\"Note\"}");
        for (var odd : new String[] {"QB\u0000-03", "\u0000"}) {
            var into = "/api/imports/"
                    + upload("notes.csv", "Site,Note\nQB-03,x\n" + odd + ",y\n")
                            .json()
                            .get("id")
                            .asString()
                    + "/into/nul_notes";
            var looked = post(into + "/look", "{}");
            assertThat(looked.status()).as(looked.http().body()).isEqualTo(200);
            assertThat(looked.json().at("/columns/0/misfitCount").asInt()).isEqualTo(1);
            assertThat(post(into, "{}").status()).isBetween(400, 499);
        }
        assertThat(get("/api/doors/nul_notes/records").json().get("records")).isEmpty();
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

    /** What groups thousands in one file begins decimals in another; it is asked, and then each digit keeps its place. */
    @Test
    void numbersThatCouldBeGroupedAreAskedAboutAndNeverDividedByAThousand() {
        var report = upload("amounts.csv", "amount;sure\n1,200;1,200\n12,000;999.50\n")
                .json();
        assertThat(report.get("columns").get(0).get("askDecimalSign").asBoolean())
                .isTrue();
        assertThat(report.get("columns").get(1).get("askDecimalSign").asBoolean())
                .isFalse();
        assertThat(report.get("columns").get(1).get("decimalSign").asString()).isEqualTo("point");
        var path = "/api/imports/" + report.get("id").asString();
        var refused = post(path + "/table", "{\"name\":\"amounts\"}");
        assertThat(refused.status()).isEqualTo(400);
        assertThat(refused.json().get("errors").get(0).get("where").asString()).isEqualTo("columns[0].decimalSign");
        var unknown = post(path + "/look", "{\"columns\":[{\"name\":\"amount\",\"decimalSign\":\"dot\"}]}");
        assertThat(unknown.status()).isEqualTo(400);
        var comma = post(path + "/look", "{\"columns\":[{\"name\":\"amount\",\"decimalSign\":\"comma\"}]}")
                .json();
        assertThat(comma.get("preview").toString()).isEqualTo("[[\"1.200\",\"1200.00\"],[\"12.000\",\"999.50\"]]");
        var point = "[{\"name\":\"amount\",\"decimalSign\":\"point\"}]";
        var look = post(path + "/look", "{\"columns\":" + point + "}").json();
        assertThat(look.get("columns").get(0).get("type").asString()).isEqualTo("whole");
        assertThat(look.get("preview").toString()).isEqualTo("[[1200,\"1200.00\"],[12000,\"999.50\"]]");
        assertThat(post(path + "/table", "{\"name\":\"amounts\",\"columns\":" + point + "}")
                        .status())
                .isEqualTo(201);
    }

    /** What is taken away as CSV comes back as it was, the texts too that a spreadsheet would run. */
    @Test
    void whatIsExportedComesBackAsItWas() {
        var form = TestServer.form("round_trip", """
                {"title":"Site"},{"title":"Remark","type":"longtext"},{"title":"Taken on","type":"date"},
                {"title":"At","type":"datetime"},{"title":"pH","type":"decimal"},{"title":"Count","type":"whole"},
                {"title":"Wet","type":"yesno"}""");
        post("/api/forms/" + form + "/publish", "");
        for (var site : List.of("=1+1", "'=1+1", "''", "-5 east", "@home", "5\\\" pipe", "a, b; c", "+", "O'Hara")) {
            var saved = post(
                    "/api/doors/" + form + "/records",
                    "{\"values\":{\"site\":\"" + site
                            + "\",\"remark\":\"=two\\nlines\",\"taken_on\":\"2026-08-01\",\"at\":\"2026-08-01 9:30\",\"ph\":\"7.25\",\"count\":\"12000\",\"wet\":\"y\"}}");
            assertThat(saved.status()).as(saved.http().body()).isEqualTo(201);
        }
        post("/api/doors/" + form + "/records", "{\"values\":{\"site\":\"only\"}}");
        var report = upload(
                        "back.csv",
                        get("/api/doors/" + form + "/export?as=csv").http().body())
                .json();
        assertThat(report.get("columns")
                        .valueStream()
                        .mapToInt(column -> column.get("misfitCount").asInt())
                        .sum())
                .isZero();
        var stored = get("/api/doors/" + form + "/records").json().get("records");
        for (int row = 0; row < stored.size(); row++) {
            var came = report.get("preview")
                    .get(row)
                    .valueStream()
                    .skip(1)
                    .map(Object::toString)
                    .toList();
            assertThat(came)
                    .isEqualTo(stored.get(row)
                            .get("values")
                            .valueStream()
                            .map(Object::toString)
                            .toList());
        }
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
                        "{\"line\":3,\"column\":\"tag\",\"cell\":\"K2\",\"message\":\"“K2” can't be read as a whole number. Use digits only, such as 42.\"}");
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
    void whatDoesNotFitIsGivenBackAndTheRestTaken() {
        var path = "/api/imports/"
                + upload("left.csv", "tag,charge\nK1,12\n2,=13\n")
                        .json()
                        .get("id")
                        .asString();
        assertThat(get("/api/imports").http().body()).contains("left.csv");
        var columns = "[{\"name\":\"tag\",\"type\":\"whole\"},{\"name\":\"charge\",\"type\":\"text\"}]";
        var left = post(path + "/left", "{\"columns\":" + columns + "}").http();
        assertThat(left.headers().firstValue("Content-Type").orElse("")).startsWith("text/csv");
        assertThat(left.body().lines())
                .containsExactly(
                        "Tag,Charge,Why",
                        "K1,12,\"Tag: “K1” can't be read as a whole number. Use digits only, such as 42.\"");
        var loaded = post(
                path + "/table",
                "{\"name\":\"kit_left\",\"title\":\"Kit\",\"misfits\":\"leave\",\"columns\":" + columns + "}");
        assertThat(loaded.json().get("rows").asInt()).isEqualTo(1);
        assertThat(get("/api/imports").http().body()).doesNotContain("left.csv");
    }

    @Test
    void aFileThatIsNoneIsRefusedInASentence() {
        assertThat(upload("empty.csv", "").json().get("detail").asString()).startsWith("The file is empty.");
        assertThat(upload("bad.csv", "a,b\n\"open,1\n").status()).isIn(201, 400);
        assertThat(send("GET", "/api/imports/none", null).status()).isEqualTo(404);
    }
}
