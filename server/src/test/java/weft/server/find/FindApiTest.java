package weft.server.find;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.file;
import static weft.server.TestServer.form;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;
import static weft.server.TestServer.send;
import static weft.server.TestServer.upload;

import com.github.miachm.sods.SpreadSheet;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.JsonNode;
import weft.server.TestServer;

@ExtendWith(TestServer.class)
class FindApiTest {

    private static final String SAMPLES = """
            {"name":"site","title":"Site","type":"text"},
            {"name":"ph","title":"pH","type":"decimal","scale":1},
            {"name":"taken_on","title":"Taken on","type":"date"},
            {"name":"wet","title":"Wet","type":"yesno"},
            {"name":"code","title":"Code","type":"text","unique":true}""";

    private static String samples(String name) {
        var form = form(name, SAMPLES);
        for (var values : new String[] {
            "{\"site\":\"QB-03\",\"ph\":\"8.6\",\"taken_on\":\"2026-05-01\",\"wet\":\"y\"}",
            "{\"site\":\"TS-04, left\",\"ph\":\"9.1\",\"taken_on\":\"2026-06-14\"}",
            "{\"site\":\"=1+1\",\"ph\":\"-7.2\",\"taken_on\":\"2025-06-14\",\"wet\":\"n\"}",
            "{\"site\":\"QB-01\",\"taken_on\":\"2026-05-31\"}"
        }) {
            assertThat(post("/api/doors/" + form + "/records", "{\"values\":" + values + "}")
                            .status())
                    .isEqualTo(201);
        }
        return "/api/doors/" + form;
    }

    private static String q(String text) {
        return URLEncoder.encode(text, StandardCharsets.UTF_8);
    }

    private static List<Long> rows(JsonNode page) {
        return page.get("records")
                .valueStream()
                .map(record -> record.get("row").asLong())
                .toList();
    }

    @Test
    void recordsAreFoundSortedAndPaged() {
        var api = samples("find_paged");
        var found = get(api + "/records?where=" + q("ph:>8.5") + "&where=" + q("taken_on:2026") + "&sort=-taken_on")
                .json();
        assertThat(rows(found)).containsExactly(2L, 1L);
        assertThat(found.get("total").toString()).isEqualTo("{\"count\":2,\"exact\":true}");
        assertThat(rows(get(api + "/records?where=" + q("site:\"TS-04, left\"")).json()))
                .containsExactly(2L);
        assertThat(rows(get(api + "/records?any=" + q("2026-05")).json())).containsExactly(1L, 4L);
        var first = get(api + "/records?sort=site&limit=3").json();
        assertThat(rows(first)).containsExactly(3L, 4L, 1L);
        assertThat(first.get("previous").isNull()).isTrue();
        var second = get(api + "/records?sort=site&limit=3&after="
                        + first.get("next").asString())
                .json();
        assertThat(rows(second)).containsExactly(2L);
        assertThat(second.get("next").isNull()).isTrue();
        assertThat(rows(get(api + "/records?sort=site&limit=3&after="
                                + second.get("previous").asString())
                        .json()))
                .containsExactly(3L, 4L, 1L);
        assertThat(rows(get(api + "/records?sort=site&from=3&limit=9").json())).containsExactly(1L, 2L);
    }

    @Test
    void aFindIsReadBackCountedAndExplainedWhereItCantBeRead() {
        var api = samples("find_words");
        var read = get(api + "/find?where=" + q("ph:> 8.5") + "&where=" + q("wet:empty") + "&where="
                        + q("taken_on:soon") + "&sort=-taken_on,site")
                .json();
        assertThat(read.get("words").asString()).isEqualTo("pH above 8.5, and Wet is empty");
        assertThat(read.get("order").asString()).isEqualTo("Taken on, newest first; then Site");
        assertThat(read.get("total").get("count").asInt()).isEqualTo(1);
        assertThat(read.get("criteria").get("ph").get("words").asString()).isEqualTo("above 8.5");
        assertThat(read.get("criteria").get("taken_on").get("message").asString())
                .startsWith("“soon” can't be read as a date.");
        var refused = get(api + "/records?where=" + q("taken_on:soon"));
        assertThat(refused.status()).isEqualTo(400);
        assertThat(refused.json().get("errors").get(0).get("where").asString()).isEqualTo("taken_on");
        for (var wrong : new String[] {"where=nowhere:1", "sort=nowhere", "after=nonsense", "from=0", "limit=0"}) {
            assertThat(get(api + "/records?" + wrong).status()).as(wrong).isEqualTo(400);
        }
    }

    @Test
    void oneStepsThroughTheMatches() {
        var api = samples("find_place");
        var view = "&where=" + q("taken_on:2026") + "&sort=-taken_on";
        var first = get(api + "/place?to=first" + view).json();
        assertThat(first.get("words").asString()).isEqualTo("1 of 3");
        assertThat(first.get("first").asBoolean()).isTrue();
        assertThat(first.get("record").get("row").asInt()).isEqualTo(2);
        var next = get(api + "/place?to=next&cursor=" + first.get("cursor").asString() + view)
                .json();
        assertThat(next.get("position").asInt()).isEqualTo(2);
        assertThat(next.get("record").get("row").asInt()).isEqualTo(4);
        assertThat(get(api + "/place?to=previous&cursor=" + first.get("cursor").asString() + view)
                        .json()
                        .get("record")
                        .isNull())
                .isTrue();
        assertThat(get(api + "/place?to=99" + view).json().get("last").asBoolean())
                .isTrue();
        assertThat(get(api + "/place?to=row:3" + view)
                        .json()
                        .get("record")
                        .get("row")
                        .asInt())
                .isEqualTo(4);
        assertThat(get(api + "/place?to=nowhere").status()).isEqualTo(400);
    }

    @Test
    void whatIsInViewIsExportedSafeForSpreadsheets() {
        var api = samples("find_export");
        assertThat(get(api + "/export?sort=-ph").http().body()).isEqualTo("""
                        Row,Site,pH,Taken on,Wet,Code
                        2,"TS-04, left",9.1,2026-06-14,,
                        1,QB-03,8.6,2026-05-01,yes,
                        3,'=1+1,-7.2,2025-06-14,no,
                        4,QB-01,,2026-05-31,,
                        """.replace("\n", "\r\n"));
        var json = get(api + "/export?as=json&where=" + q("ph:<0"));
        assertThat(json.header("Weft-Total")).isEqualTo("1");
        assertThat(json.json().toString())
                .isEqualTo(
                        "[{\"row\":3,\"site\":\"=1+1\",\"ph\":\"-7.2\",\"taken_on\":\"2025-06-14\",\"wet\":false,\"code\":null}]");
        assertThat(get(api + "/export?as=pdf").status()).isEqualTo(400);
    }

    /** Read by another reader than Weft's, and brought in again by Weft's. */
    @Test
    void aSpreadsheetOfWhatIsInViewHasEachValueInItsType() throws IOException {
        form(
                "ods",
                "{\"title\":\"Site\"},{\"title\":\"pH\",\"type\":\"decimal\",\"scale\":2},{\"title\":\"Count\",\"type\":\"whole\"},"
                        + "{\"title\":\"Taken on\",\"type\":\"date\"},{\"title\":\"At\",\"type\":\"time\"},{\"title\":\"Seen\",\"type\":\"datetime\"},"
                        + "{\"title\":\"Wet\",\"type\":\"yesno\"},{\"title\":\"Remark\",\"type\":\"longtext\"}");
        for (var values : new String[] {
            "{\"site\":\"007\",\"ph\":\"7.5\",\"count\":12,\"taken_on\":\"2026-08-01\",\"at\":\"9:30\",\"seen\":\"2026-08-01T21:15:10\",\"wet\":true,"
                    + "\"remark\":\"=1+1 & <b>\\n  two  blanks\\n\\nthe end\"}",
            "{\"site\":\"008\",\"ph\":\"1.23\",\"count\":-9007199254740993,\"wet\":false,\"remark\":\"x\"}"
        }) {
            assertThat(post("/api/doors/ods/records", "{\"values\":" + values + "}")
                            .status())
                    .isEqualTo(201);
        }
        var file = file("/api/doors/ods/export?as=ods");
        var sheet = new SpreadSheet(new ByteArrayInputStream(file)).getSheet(0);
        assertThat(sheet.getDataRange().getValues()[0])
                .containsExactly("Row", "Site", "pH", "Count", "Taken on", "At", "Seen", "Wet", "Remark");
        assertThat(sheet.getDataRange().getValues()[1])
                .containsExactly(
                        1.0,
                        "007",
                        7.5,
                        12.0,
                        LocalDate.of(2026, 8, 1),
                        Duration.ofMinutes(570),
                        LocalDateTime.of(2026, 8, 1, 21, 15, 10),
                        true,
                        "=1+1 & <b>\n  two  blanks\n\nthe end");
        assertThat(sheet.getDataRange().getValues()[2])
                .startsWith(2.0, "008", 1.23)
                .endsWith(null, false, "x");

        var brought = upload("again.ods", file).json();
        assertThat(post("/api/imports/" + brought.get("id").asString() + "/table", "{\"name\":\"again\"}")
                        .status())
                .isEqualTo(201);
        var was = get("/api/doors/ods/export?as=json").json();
        var is = get("/api/doors/again/export?as=json").json();
        for (int i = 0; i < 2; i++) {
            for (var column : List.of("site", "ph", "count", "taken_on", "at", "seen", "wet", "remark")) {
                assertThat(is.get(i).get(column))
                        .as(column)
                        .isEqualTo(was.get(i).get(column));
            }
        }
    }

    @Test
    void aFindIsKeptWithItsFormUnderAName() {
        var api = samples("find_kept");
        var find = "{\"where\":[\"ph:> 8.5\"],\"any\":\"\",\"sort\":\"-ph\"}";
        assertThat(send("PUT", api + "/finds/High%20pH", find).status()).isEqualTo(204);
        assertThat(send("PUT", api + "/finds/High%20pH", find).status()).isEqualTo(204);
        assertThat(get(api + "/finds").json().toString())
                .isEqualTo("[{\"name\":\"High pH\",\"where\":[\"ph:> 8.5\"],\"any\":\"\",\"sort\":\"-ph\"}]");
        assertThat(send("PUT", api + "/finds/x", "{\"where\":[\"ph:high\"]}").status())
                .isEqualTo(400);
        assertThat(send("DELETE", api + "/finds/High%20pH", null).status()).isEqualTo(204);
        assertThat(get(api + "/finds").json().size()).isZero();
    }

    @Test
    void historyNamesWhoAndWhatAndEarlierStatesComeBack() {
        var api = samples("find_history");
        var id = get(api + "/records?limit=1")
                .json()
                .get("records")
                .get(0)
                .get("id")
                .asLong();
        var record = api + "/records/" + id;
        post(record + "/restore", "");
        assertThat(send("PUT", record, "{\"values\":{\"site\":\"QB-09\"}}", "If-Match", "\"1\"")
                        .status())
                .isEqualTo(200);
        var changes = get(record + "/history").json();
        assertThat(changes.get(0).get("by").asString()).isEqualTo("Tessa Lorn");
        assertThat(changes.get(0).get("before").get("site").asString()).isEqualTo("QB-03");
        assertThat(changes.get(1).get("action").asString()).isEqualTo("saved");
        assertThat(post(record + "/restore", "{\"version\":1}", "If-Match", "\"1\"")
                        .status())
                .isEqualTo(412);
        var back = post(record + "/restore", "{\"version\":1}", "If-Match", "\"2\"")
                .json();
        assertThat(back.get("values").get("site").asString()).isEqualTo("QB-03");
        assertThat(back.get("values").get("ph").asString()).isEqualTo("8.6");
        assertThat(get(api + "/records/999999/history").status()).isEqualTo(404);
    }

    @Test
    void severalAreRemovedAtOnceListedAndPutBack() {
        var api = samples("find_removed");
        var records = get(api + "/records").json().get("records");
        var ids = records.valueStream().map(each -> each.get("id").asLong()).toList();
        send("PUT", api + "/records/" + ids.get(1), "{\"values\":{\"code\":\"c\"}}", "If-Match", "\"1\"");
        var asked = "{\"records\":[{\"id\":%d,\"version\":1},{\"id\":%d,\"version\":1},{\"id\":%d,\"version\":1}]}"
                .formatted(ids.get(0), ids.get(1), ids.get(2));
        var removal = post(api + "/removals", asked).json();
        assertThat(removal.toString())
                .isEqualTo("{\"removed\":[%d,%d],\"kept\":[%d]}".formatted(ids.get(0), ids.get(2), ids.get(1)));
        var removed = get(api + "/removed?limit=1").json();
        assertThat(removed.get("records").get(0).get("row").asInt()).isEqualTo(3);
        var earlier = get(api + "/removed?limit=9&after=" + removed.get("next").asLong())
                .json();
        assertThat(earlier.get("records").get(0).get("values").get("site").asString())
                .isEqualTo("QB-03");
        assertThat(earlier.get("next").isNull()).isTrue();
        var back = post(api + "/records/" + ids.get(0) + "/restore", "{}");
        assertThat(back.json().get("row").asInt()).isEqualTo(1);
        // FindRequest for again, as after a lost answer, it is done already; what was never removed cannot be put back.
        assertThat(post(api + "/records/" + ids.get(0) + "/restore", "{}")
                        .http()
                        .body())
                .isEqualTo(back.http().body());
        assertThat(post(api + "/records/" + (ids.get(2) + 100) + "/restore", "{}")
                        .status())
                .isEqualTo(404);
        send("DELETE", api + "/records/" + ids.get(1), null, "If-Match", "\"2\"");
        post(api + "/records", "{\"values\":{\"code\":\"c\"}}");
        var taken = post(api + "/records/" + ids.get(1) + "/restore", "{}");
        assertThat(taken.status()).isEqualTo(422);
        assertThat(taken.json().get("findings").get(0).get("field").asString()).isEqualTo("code");
    }

    @Test
    void thoseAtTheSameTableAreTold() {
        var api = samples("find_seats");
        assertThat(send("PUT", api + "/seats/aaaaaaaa", "", "Accept", "*/*")
                        .json()
                        .toString())
                .isEqualTo("{\"others\":[]}");
        assertThat(send("PUT", api + "/seats/bbbbbbbb", "").json().toString())
                .isEqualTo("{\"others\":[\"Tessa Lorn\"]}");
        send("DELETE", api + "/seats/aaaaaaaa", null);
        assertThat(send("PUT", api + "/seats/bbbbbbbb", "").json().toString()).isEqualTo("{\"others\":[]}");
        assertThat(send("PUT", api + "/seats/x", "").status()).isEqualTo(400);
    }
}
