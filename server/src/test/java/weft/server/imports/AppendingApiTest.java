package weft.server.imports;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;
import static weft.server.TestServer.upload;

import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.server.TestServer;

/** A file's rows go into a table that exists: matched by name, rehearsed, brought in, taken back. */
@ExtendWith(TestServer.class)
class AppendingApiTest {

    private static final AtomicInteger TABLES = new AtomicInteger();

    private static String table() {
        return post("/api/tables", """
                        {"name":"%s","title":"Gear","columns":[{"name":"code","title":"Code","type":"text","unique":true},
                          {"name":"bought_on","title":"Bought on","type":"date"},{"name":"price","title":"Price","type":"decimal","scale":2}]}
                        """.formatted("gear_" + TABLES.incrementAndGet()))
                .json()
                .get("name")
                .asString();
    }

    @Test
    void rowsGoIntoTheColumnsOfTheSameNameAndComeOutAgain() {
        var table = table();
        var file = upload("more.csv", "Price,CODE,Bought on,Colour\n1.50,a,3/4/2026,red\n2.00,b,5/4/2026,blue\n")
                .json()
                .get("id")
                .asString();
        var into = "/api/imports/" + file + "/into/" + table;
        var looked = post(into + "/look", "{}").json();
        assertThat(looked.get("added").asInt()).isEqualTo(2);
        assertThat(looked.get("key").toString()).isEqualTo("[\"code\"]");
        assertThat(looked.get("columns")
                        .valueStream()
                        .map(each -> each.get("into").asString("-"))
                        .toList())
                .containsExactly("price", "code", "bought_on", "-");
        assertThat(looked.get("columns").get(2).get("askDayOrder").asBoolean()).isTrue();
        // Which comes first in 3/4 must be said.
        assertThat(post(into, "{}").status()).isEqualTo(400);
        var said = """
                {"columns":[{"from":0,"into":"price"},{"from":1,"into":"code"},{"from":2,"into":"bought_on","dayOrder":"day-first"}],
                 "key":["code"],"doubles":"refuse"}
                """;
        var done = post(into, said);
        assertThat(done.status()).isEqualTo(201);
        assertThat(done.json().get("added").asInt()).isEqualTo(2);
        var rows = get("/api/tables/" + table + "/records").json().get("records");
        assertThat(rows.get(0).get("values").toString())
                .isEqualTo("{\"code\":\"a\",\"bought_on\":\"2026-04-03\",\"price\":\"1.50\"}");
        assertThat(post(into, said).status()).isEqualTo(404);
        var again =
                upload("again.csv", "Code,Price\nb,9\nc,3\n").json().get("id").asString();
        var refused = post("/api/imports/" + again + "/into/" + table, "{\"doubles\":\"refuse\"}");
        assertThat(refused.status()).isEqualTo(422);
        assertThat(refused.json().get("detail").asString()).contains("1 rows are there already, by Code");
        var replaced = post("/api/imports/" + again + "/into/" + table, "{\"doubles\":\"replace\"}")
                .json();
        assertThat(replaced.get("added").asInt() + replaced.get("replaced").asInt())
                .isEqualTo(2);
        var back = "/api/tables/" + table + "/changes/" + replaced.get("change").asLong() + "/take-back";
        assertThat(post(back, "").json().get("records").asInt()).isEqualTo(2);
        assertThat(post(back, "").json().get("records").asInt()).isEqualTo(2);
        assertThat(get("/api/tables/" + table + "/records")
                        .json()
                        .get("records")
                        .size())
                .isEqualTo(2);
    }

    @Test
    void whatIsAskedWronglyIsSaid() {
        var table = table();
        var file = upload("more.csv", "Code,Other\na,b\n").json().get("id").asString();
        var look = "/api/imports/" + file + "/into/" + table + "/look";
        said(look, "{\"key\":[\"price\"]}", "Nothing of the file goes into “price”");
        said(look, "{\"doubles\":\"merge\"}", "“merge” can't be doubles. It can be “skip”, “replace” or “refuse”.");
        said(look, "{\"columns\":[{\"from\":9,\"into\":\"code\"}]}", "no column 10");
        said(look, "{\"columns\":[{\"from\":0,\"into\":\"colour\"}]}", "no column “colour”");
        said(
                look,
                "{\"columns\":[{\"from\":0,\"into\":\"code\"},{\"from\":1,\"into\":\"code\"}]}",
                "Two columns of the file go into Code");
        said(look, "{\"columns\":[]}", "No column of the file goes into one of Gear");
    }

    private static void said(String path, String body, String words) {
        var answer = post(path, body);
        assertThat(answer.status()).isEqualTo(400);
        assertThat(answer.json().get("detail").asString()).contains(words);
    }
}
