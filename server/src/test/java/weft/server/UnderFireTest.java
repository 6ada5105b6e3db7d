package weft.server;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.await;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;
import static weft.server.TestServer.upload;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.net.URI;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.zip.CRC32;
import java.util.zip.DeflaterOutputStream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import weft.store.Database;

/** Many at once, slow ones, and ones that break off: whoever keys an entry meanwhile notices nothing of it. */
@ExtendWith(TestServer.class)
class UnderFireTest {

    private static final int MANY = 12;
    private static final String ROWS = IntStream.range(0, 40_000)
            .mapToObj(i -> "S" + i + "," + "remark ".repeat(8) + i)
            .collect(Collectors.joining("\n"));
    private static String large;

    @BeforeAll
    static void given() {
        large = loaded("fire_large");
    }

    private static String loaded(String table) {
        var id = upload(table + ".csv", "site,remark\n" + ROWS).json().get("id").asString();
        var loaded = post("/api/imports/" + id + "/table", "{\"name\":\"" + table + "\",\"title\":\"" + table + "\"}");
        assertThat(loaded.status()).as(loaded.http().body()).isEqualTo(201);
        var form = "/api/doors/" + loaded.json().get("form").asString();
        post(form + "/publish", "");
        return form;
    }

    /** A request whose answer nobody reads, with a small buffer so that the server soon waits. */
    private static Socket unread(String path) throws IOException {
        var address = URI.create(TestServer.url());
        var socket = new Socket();
        socket.setReceiveBufferSize(4_096);
        socket.connect(new InetSocketAddress(address.getHost(), address.getPort()));
        socket.getOutputStream()
                .write(("GET " + path + " HTTP/1.1\r\nHost: 127.0.0.1\r\nAccept: */*\r\nCookie: "
                                + TestServer.builder().get(1) + "\r\n\r\n")
                        .getBytes(StandardCharsets.US_ASCII));
        return socket;
    }

    private static void keyersNoticeNothing() {
        for (int i = 0; i < 20; i++) {
            var saved = post(large + "/records", "{\"values\":{\"site\":\"keyed\"}}");
            assertThat(saved.status()).as(saved.http().body()).isEqualTo(201);
        }
    }

    @Test
    @Timeout(value = 90, unit = TimeUnit.SECONDS)
    void slowReadersOfExportsTakeNothingFromKeyers() throws Exception {
        var readers = new ArrayList<Socket>();
        try {
            for (int i = 0; i < MANY; i++) {
                readers.add(unread(large + "/export?as=csv"));
            }
            keyersNoticeNothing();
            assertThat(get(large + "/records?limit=5").status()).isEqualTo(200);
        } finally {
            for (var reader : readers) {
                reader.close();
            }
        }
        // Once they are gone, it is the others' turn again.
        await(() -> get(large + "/export?as=json").status() == 200);
    }

    @Test
    @Timeout(value = 120, unit = TimeUnit.SECONDS)
    void manyFilesAtOnceWaitForTheirTurnAndTakeNothingFromKeyers() throws Exception {
        try (var pool = Executors.newFixedThreadPool(MANY)) {
            Callable<Integer> bring =
                    () -> upload("f.csv", "site,remark\n" + ROWS).status();
            var brought =
                    Collections.nCopies(MANY, bring).stream().map(pool::submit).toList();
            keyersNoticeNothing();
            var came = new ArrayList<Integer>();
            for (var each : brought) {
                came.add(each.get());
            }
            assertThat(came).contains(201).allMatch(status -> status == 201 || status == 503);
        }
    }

    @Test
    void aFileIsLoadedOnceAndUnderANameThatIsFree() throws Exception {
        var id = upload("once.csv", "site,remark\n" + ROWS).json().get("id").asString();
        assertThat(post("/api/imports/" + id + "/table", "{\"name\":\"fire_large\"}")
                        .status())
                .isEqualTo(400);
        try (var pool = Executors.newFixedThreadPool(3)) {
            Callable<TestServer.Answer> load = () -> post("/api/imports/" + id + "/table", "{\"name\":\"fire_once\"}");
            var statuses = new ArrayList<Integer>();
            for (var each : pool.invokeAll(Collections.nCopies(3, load))) {
                statuses.add(each.get().status());
                if (each.get().status() == 201) {
                    assertThat(each.get().json().get("rows").asInt()).isEqualTo(40_000);
                }
            }
            assertThat(statuses).filteredOn(status -> status == 201).hasSize(1);
            assertThat(statuses).allMatch(status -> status == 201 || status >= 400 && status < 500);
        }
        assertThat(get("/api/tables/fire_once/records?limit=1&after=39999")
                        .json()
                        .get("records")
                        .get(0)
                        .get("row")
                        .asInt())
                .isEqualTo(40_000);
    }

    /** An export whose connection to the database is cut is cut off itself, so that nobody takes it for the whole. */
    @ParameterizedTest
    @ValueSource(strings = {"csv", "json"})
    @Timeout(value = 60, unit = TimeUnit.SECONDS)
    void anExportThatBreaksOffDoesNotLookWhole(String as) throws Exception {
        try (var reader = unread(large + "/export?as=" + as)) {
            var begun = new byte[2_000];
            assertThat(reader.getInputStream().readNBytes(begun, 0, begun.length))
                    .isEqualTo(begun.length);
            assertThat(new String(begun, StandardCharsets.UTF_8)).startsWith("HTTP/1.1 200");
            int ended = TestServer.part(Database.class)
                    .sql()
                    .fetch(
                            "select pg_terminate_backend(pid) from pg_stat_activity where pid <> pg_backend_pid() and state <> 'idle'"
                                    + " and query like '%fire_large%'")
                    .size();
            assertThat(ended).isPositive();
            var rest = new ByteArrayOutputStream();
            try {
                reader.getInputStream().transferTo(rest);
            } catch (IOException cutOff) {
                // That is what is wanted.
            }
            var end = rest.toString(StandardCharsets.UTF_8);
            assertThat(end).doesNotEndWith("0\r\n\r\n").doesNotContain("problem", "detail");
        }
    }

    /** One who listens and never reads is let go, and everybody else hears all of it meanwhile. */
    @Test
    @Timeout(value = 240, unit = TimeUnit.SECONDS)
    void aListenerThatNeverReadsSilencesNobody() throws Exception {
        var sql = TestServer.part(Database.class).sql();
        long table = sql.fetchSingle("select id from weft.table_def where name = 'fire_large'")
                .get(0, Long.class);
        try (var deaf = unread(large + "/events");
                var hears = unread(large + "/events")) {
            var heard = new StringBuffer();
            Thread.ofVirtual().start(() -> {
                try {
                    var bytes = new byte[8_192];
                    for (int count; (count = hears.getInputStream().read(bytes)) > 0; ) {
                        heard.append(new String(bytes, 0, count, StandardCharsets.UTF_8));
                    }
                } catch (IOException closed) {
                    // The test is over.
                }
            });
            await("the first event", () -> heard.indexOf("ready") >= 0);
            for (int batch = 0; batch < 40; batch++) {
                sql.execute("select pg_notify('weft', '" + table + " saved ' || n || ' ' || n) from generate_series("
                        + (batch * 500 + 1) + ", " + (batch * 500 + 500) + ") n");
                var last = "\"id\":" + (batch * 500 + 500);
                await("event " + last, () -> heard.indexOf(last) >= 0);
            }
            assertThat(deaf.isConnected()).isTrue();
        }
    }

    /** A few bytes that would unpack to half a gigabyte are refused by what their head says. */
    @Test
    void aPictureThatWouldFillTheMemoryIsRefused() throws Exception {
        for (int[] size : List.of(new int[] {7_700, 7_700, 16}, new int[] {30_000, 30_000, 8})) {
            var answer = TestServer.sendBytes(
                    "POST",
                    "/api/pictures",
                    multipart(png(size[0], size[1], size[2])),
                    "Content-Type",
                    "multipart/form-data; boundary=x");
            assertThat(answer.status()).as(answer.http().body()).isEqualTo(400);
            assertThat(answer.json().get("detail").asString()).contains("too many points");
        }
    }

    private static byte[] multipart(byte[] file) {
        var body = new ByteArrayOutputStream();
        body.writeBytes("--x\r\nContent-Disposition: form-data; name=\"file\"; filename=\"p.png\"\r\n\r\n"
                .getBytes(StandardCharsets.US_ASCII));
        body.writeBytes(file);
        body.writeBytes("\r\n--x--\r\n".getBytes(StandardCharsets.US_ASCII));
        return body.toByteArray();
    }

    private static byte[] png(int width, int height, int bits) throws IOException {
        var file = new ByteArrayOutputStream();
        file.writeBytes(new byte[] {(byte) 137, 80, 78, 71, 13, 10, 26, 10});
        part(
                file,
                "IHDR",
                ByteBuffer.allocate(13)
                        .putInt(width)
                        .putInt(height)
                        .put(new byte[] {(byte) bits, 6, 0, 0, 0})
                        .array());
        var packed = new ByteArrayOutputStream();
        try (var pack = new DeflaterOutputStream(packed)) {
            pack.write(new byte[1_000]);
        }
        part(file, "IDAT", packed.toByteArray());
        part(file, "IEND", new byte[0]);
        return file.toByteArray();
    }

    private static void part(ByteArrayOutputStream file, String name, byte[] bytes) {
        var crc = new CRC32();
        crc.update(name.getBytes(StandardCharsets.US_ASCII));
        crc.update(bytes);
        file.writeBytes(ByteBuffer.allocate(4).putInt(bytes.length).array());
        file.writeBytes(name.getBytes(StandardCharsets.US_ASCII));
        file.writeBytes(bytes);
        file.writeBytes(ByteBuffer.allocate(4).putInt((int) crc.getValue()).array());
    }
}
