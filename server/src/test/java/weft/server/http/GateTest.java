package weft.server.http;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;
import static weft.server.TestServer.send;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.net.Socket;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import weft.server.TestServer;

/** Requests as no browser and no client of ours would send them, written by hand where they must be. */
@ExtendWith(TestServer.class)
class GateTest {

    /** The answer to a request of those bytes, up to where the server ends the connection. */
    private static String raw(String head, byte... body) throws IOException {
        var address = URI.create(TestServer.url());
        try (var socket = new Socket(address.getHost(), address.getPort())) {
            socket.setSoTimeout(20_000);
            var out = socket.getOutputStream();
            out.write(head.replace("\n", "\r\n").getBytes(StandardCharsets.ISO_8859_1));
            out.write(body);
            out.flush();
            socket.shutdownOutput();
            return text(socket.getInputStream());
        }
    }

    private static String text(InputStream in) throws IOException {
        var bytes = new ByteArrayOutputStream();
        try {
            in.transferTo(bytes);
        } catch (IOException cutOff) {
            // What came before counts.
        }
        return bytes.toString(StandardCharsets.UTF_8);
    }

    /** The lines that the builder's browser sends. */
    private static String browser() {
        var lines = new StringBuilder();
        for (int i = 0; i < TestServer.builder().size(); i += 2) {
            lines.append(TestServer.builder().get(i))
                    .append(": ")
                    .append(TestServer.builder().get(i + 1))
                    .append('\n');
        }
        return lines.toString();
    }

    private static String asked(String method, String path, String... headers) throws IOException {
        return raw(method + " " + path + " HTTP/1.1\n" + String.join("\n", headers) + "\n" + browser()
                + "Connection: close\n\n");
    }

    @ParameterizedTest
    @CsvSource({
        "127.0.0.1, 200",
        "localhost:8080, 200",
        "LOCALHOST, 200",
        "weft.example.org, 421",
        "127.0.0.1.example.org, 421",
        "localhost.example.org:80, 421"
    })
    void itAnswersOnlyUnderItsOwnNames(String host, int status) throws IOException {
        assertThat(asked("GET", "/api/tables", "Host: " + host)).startsWith("HTTP/1.1 " + status);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "Sec-Fetch-Site: cross-site | 403",
                "Sec-Fetch-Site: same-site | 403",
                "Origin: https://elsewhere.example | 403",
                "Origin: null | 403",
                "Origin: http://127.0.0.1:1 | 403",
                "Origin: http://127.0.0.1 | 415",
                "Sec-Fetch-Site: same-origin | 415",
                "Accept: */* | 415"
            })
    void onlyItsOwnPagesAndWhatIsNoPageMayWrite(String header, int status) throws IOException {
        assertThat(asked(
                        "POST",
                        "/api/tables",
                        "Host: 127.0.0.1",
                        header,
                        "Content-Type: text/plain",
                        "Content-Length: 0"))
                .startsWith("HTTP/1.1 " + status);
        assertThat(asked("GET", "/api/tables", "Host: 127.0.0.1", header)).startsWith("HTTP/1.1 200");
    }

    @Test
    void everyAnswerTellsTheBrowserToLoadAndFrameNothingOfOthers() {
        for (var path : new String[] {"/", "/api/tables", "/api/nothing", "/assets/none.js"}) {
            var answer = get(path);
            assertThat(answer.header("Content-Security-Policy"))
                    .as(path)
                    .contains("default-src 'self'", "frame-ancestors 'none'");
            assertThat(answer.header("X-Content-Type-Options")).isEqualTo("nosniff");
            assertThat(answer.header("X-Frame-Options")).isEqualTo("DENY");
            assertThat(answer.header("Referrer-Policy")).isEqualTo("same-origin");
        }
    }

    /** Whatever the address is, what refuses it says so as everything else is said. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "/api/tables/%00",
                "/api/tables/a%",
                "/api/tables/%zz",
                "/api/tables/%ff",
                "/api/doors/x/records?where=a:%00",
                "/api/doors/x/records?where=%c3",
                "/api/forms/[x]",
                "/api/forms/x\\y",
                "/api/../../etc/passwd",
                "/api/%2e%2e/%2e%2e/x",
                "/api/forms/a%2Fb",
                "//api//tables",
                "/api/doors/x;y=z/records"
            })
    void badAddressesGetProblemDetails(String path) throws IOException {
        var answer = asked("GET", path, "Host: 127.0.0.1");
        assertThat(answer).matches("(?s)HTTP/1.1 4\\d\\d.*");
        assertThat(answer).contains("application/problem+json").doesNotContain("<html", "Exception", "java.", "Tomcat");
    }

    /** The limit holds for the bytes that come, not for what is said of them. */
    @Test
    void chunkedBodiesHaveTheSameLimit() throws IOException {
        var form = TestServer.form("gate_chunked", "{\"title\":\"Site\"}");
        for (var path : new String[] {"/api/doors/" + form + "/records", "/api/doors/" + form + "/assess"}) {
            var body = new ByteArrayOutputStream();
            var chunk = "a".repeat(1 << 20);
            body.writeBytes(chunk("{\"values\":{\"site\":\""));
            for (int i = 0; i < 9; i++) {
                body.writeBytes(chunk(chunk));
            }
            body.writeBytes(chunk("\"}}"));
            body.writeBytes("0\r\n\r\n".getBytes(StandardCharsets.UTF_8));
            var answer = raw(
                    "POST " + path
                            + " HTTP/1.1\nHost: 127.0.0.1\nContent-Type: application/json\nTransfer-Encoding: chunked\n"
                            + browser() + "Connection: close\n\n",
                    body.toByteArray());
            assertThat(answer).as(path).startsWith("HTTP/1.1 413");
        }
        assertThat(get("/api/doors/" + form + "/records").json().get("records").size())
                .isZero();
    }

    private static byte[] chunk(String text) {
        return (Integer.toHexString(text.length()) + "\r\n" + text + "\r\n").getBytes(StandardCharsets.UTF_8);
    }

    @Test
    void aFileThatBreaksOffIsRefused() throws IOException {
        var answer = raw(
                "POST /api/imports HTTP/1.1\nHost: 127.0.0.1\nContent-Type: multipart/form-data; boundary=x\n"
                        + "Content-Length: 5000\n" + browser()
                        + "Connection: close\n\n--x\nContent-Disposition: form-data; name=\"file\"; filename=\"a.csv\"\n\na,b\n1,");
        assertThat(answer).doesNotContain("HTTP/1.1 500");
        var noEnd = send(
                "POST",
                "/api/imports",
                "--x\r\nContent-Disposition: form-data; name=\"file\"; filename=\"a.csv\"\r\n\r\na,b\r\n1,2",
                "Content-Type",
                "multipart/form-data; boundary=x");
        assertThat(noEnd.status()).isEqualTo(400);
    }

    @Test
    void textThatCannotBeStoredIsRefusedWhereverItStands() {
        var nul = "\\u0000";
        for (var body : new String[] {
            "{\"title\":\"a" + nul + "b\",\"columns\":[{\"title\":\"A\"}]}",
            "{\"title\":\"ok\",\"columns\":[{\"title\":\"A" + nul + "\"}]}",
            "{\"title\":\"ok\",\"columns\":[{\"title\":\"A\",\"type\":\"choice\",\"choices\":[\"a\",\"b" + nul
                    + "\"]}]}",
            "{\"title\":\"ok\",\"columns\":[{\"title\":\"\\ud800\"}]}"
        }) {
            var answer = post("/api/tables", body);
            assertThat(answer.status()).as(body).isEqualTo(400);
            assertThat(answer.json().get("detail").asString()).contains("cannot be stored");
        }
        assertThat(TestServer.upload("a\0b.csv", "x\n1\n").status()).isBetween(200, 499);
    }

    /** Numbers in JSON are what their digits say, and no number is too large to be refused. */
    @Test
    void numbersOfRequestsKeepEveryDigit() {
        var form = TestServer.form(
                "gate_numbers",
                "{\"title\":\"Amount\",\"type\":\"decimal\"},{\"title\":\"Count\",\"type\":\"whole\"},{\"title\":\"Site\"}");
        var saved =
                post("/api/doors/" + form + "/records", "{\"values\":{\"amount\":12345678901234567.89,\"count\":7.0}}");
        assertThat(saved.json().at("/values/amount").asString()).isEqualTo("12345678901234567.89");
        assertThat(saved.json().at("/values/count").asInt()).isEqualTo(7);
        for (var field : new String[] {"amount", "count", "site"}) {
            for (var number : new String[] {"1e400", "-1e400", "1e2000000000", "1e-2000000000", "9".repeat(500)}) {
                for (var what : new String[] {"records", "assess"}) {
                    var answer =
                            post("/api/doors/" + form + "/" + what, "{\"values\":{\"" + field + "\":" + number + "}}");
                    assertThat(answer.status()).as(field + " " + number).isIn(what.equals("assess") ? 200 : 422, 400);
                }
            }
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "x",
                "r1E999999999",
                "r999999999999999999999",
                "%22",
                "r%F0%9F%90%9F",
                "d+999999999-01-01",
                "~~~~",
                "eyJhIjoxfQ"
            })
    void cursorsThatAreNoneAreRefused(String cursor) {
        var form = "gate_cursors";
        if (get("/api/forms/" + form).status() == 404) {
            TestServer.form(
                    form, "{\"title\":\"Amount\",\"type\":\"decimal\"},{\"title\":\"Taken on\",\"type\":\"date\"}");
            post("/api/forms/" + form + "/publish", null);
        }
        for (var sort : new String[] {"row", "amount", "-taken_on,amount"}) {
            var answer = get("/api/doors/" + form + "/records?sort=" + sort + "&after=" + cursor);
            assertThat(answer.status()).as(sort + " " + cursor).isIn(200, 400);
        }
    }

    @Test
    void formsMadeAtOnceEachGetAnIdOfTheirOwn() throws Exception {
        var form = TestServer.form("gate_many", "{\"title\":\"Site\"}");
        try (var pool = Executors.newFixedThreadPool(8)) {
            var calls = new ArrayList<Callable<TestServer.Answer>>();
            for (int i = 0; i < 8; i++) {
                calls.add(() -> post("/api/forms", "{\"table\":\"gate_many\"}"));
                calls.add(() -> post("/api/forms/" + form + "/copy", "{}"));
            }
            var ids = new HashSet<String>();
            for (var made : pool.invokeAll(calls)) {
                assertThat(made.get().status()).isEqualTo(201);
                ids.add(made.get().json().get("id").asString());
            }
            assertThat(ids).hasSize(16);
        }
    }

    @Test
    void oddKeysAndDaysBeyondAllTimeAreRefusedOrDone() {
        var form = TestServer.form("odd_keys", "{\"title\":\"A\"}");
        for (var key : List.of("%", "'\"\\;", "x".repeat(5_000), " ")) {
            var answer = post("/api/doors/" + form + "/records", "{\"values\":{\"a\":\"1\"}}", "Idempotency-Key", key);
            assertThat(answer.status()).as(key).isIn(201, 400);
        }
        for (var day : List.of("%2B999999999-12-31", "-999999999-01-01", "9999-12-31", "0000-00-00")) {
            for (var query : List.of("from=" + day, "to=" + day, "from=" + day + "&to=" + day)) {
                assertThat(get("/api/doors/" + form + "/work?" + query).status())
                        .as(query)
                        .isIn(200, 400);
            }
        }
    }
}
