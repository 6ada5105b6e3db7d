package weft.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.DriverManager;
import java.time.Duration;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.ConcurrentSkipListSet;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import weft.store.people.Invitations;

/** A Weft whose database is killed under it. */
class OutageTest {

    private static final HttpClient CLIENT =
            HttpClient.newBuilder().connectTimeout(Duration.ofSeconds(5)).build();

    private static HttpResponse<String> send(String method, String url, String body, String... headers)
            throws Exception {
        var request = HttpRequest.newBuilder(URI.create(url))
                .timeout(Duration.ofSeconds(20))
                .method(method, body == null ? BodyPublishers.noBody() : BodyPublishers.ofString(body))
                .header("Content-Type", "application/json");
        browser.forEach(request::setHeader);
        for (int i = 0; i < headers.length; i += 2) {
            request.setHeader(headers[i], headers[i + 1]);
        }
        return CLIENT.send(request.build(), BodyHandlers.ofString());
    }

    /** What the browser of its first administrator sends. */
    private static Map<String, String> browser = Map.of("Cookie", "XSRF-TOKEN=x", "X-XSRF-TOKEN", "x");

    private static void kill(Path folder) throws IOException {
        var pid = Files.readAllLines(folder.resolve("postgres/data/postmaster.pid"))
                .getFirst();
        assertThat(ProcessHandle.of(Long.parseLong(pid.strip())).orElseThrow().destroyForcibly())
                .isTrue();
    }

    /**
     * Killed three times under four savers: it comes back by itself; meanwhile each answer is an outage in a sentence, or
     * done; and what was answered as saved is there once, whatever was sent again under its key.
     */
    @Test
    @Timeout(value = 120, unit = TimeUnit.SECONDS)
    void aKilledDatabaseComesBackAndNothingIsLostOrDoubled() throws Exception {
        var folder = Files.createTempDirectory("weft-outage");
        folder.toFile().setExecutable(true, false);
        try (var weft = WeftServer.start(new WeftServer.Start(0, folder, false, List.of("synchronous_commit=on")))) {
            var api = weft.url() + "/api";
            var signed = Browser.signed(new TestServer.Answer(send(
                    "POST",
                    api + "/invitations/"
                            + weft.part(Invitations.class).inviteFirst().text(),
                    "{\"name\":\"tessa\",\"title\":\"Tessa\",\"password\":\"river-watch\"}")));
            browser = Map.of(signed.get(0), signed.get(1), signed.get(2), signed.get(3));
            send(
                    "POST",
                    api + "/tables",
                    "{\"name\":\"t\",\"title\":\"T\",\"columns\":[{\"title\":\"A\",\"unique\":true}]}");
            send("POST", api + "/forms", "{\"table\":\"t\"}");
            send("POST", api + "/forms/t/publish", "");
            var saved = new ConcurrentSkipListSet<String>();
            var failed = new ConcurrentLinkedQueue<Throwable>();
            var going = new AtomicBoolean(true);
            try (var pool = Executors.newFixedThreadPool(4)) {
                for (int client = 0; client < 4; client++) {
                    int each = client;
                    pool.submit(() -> {
                        try {
                            savers(api, each, going, saved);
                        } catch (Throwable e) {
                            failed.add(e);
                        }
                    });
                }
                for (int round = 0; round < 3; round++) {
                    int before = saved.size();
                    TestServer.await(() -> !failed.isEmpty() || saved.size() > before + 20);
                    kill(folder);
                }
                int before = saved.size();
                TestServer.await(() -> !failed.isEmpty() || saved.size() > before + 20);
                going.set(false);
            }
            assertThat(failed).isEmpty();
            assertThat(status(weft, "")).isEqualTo(200);
            onlyReads(weft, api);
            var export = send("GET", api + "/doors/t/export?as=csv", null).body();
            var stored = export.lines().skip(1).map(line -> line.split(",")[1]).toList();
            assertThat(stored).doesNotHaveDuplicates().containsAll(saved);
        } finally {
            try (var files = Files.walk(folder)) {
                files.sorted(Comparator.reverseOrder())
                        .forEach(file -> file.toFile().delete());
            }
        }
    }

    private static int status(WeftServer.Running weft, String of) throws Exception {
        return send("GET", weft.url() + "/actuator/health" + of, null).statusCode();
    }

    /** As a database that another one takes over from: it is told plainly, and saving goes on by itself when it writes again. */
    private static void onlyReads(WeftServer.Running weft, String api) throws Exception {
        var postgres = weft.postgres().orElseThrow();
        try (var connection = DriverManager.getConnection(postgres.url(), postgres.user(), postgres.password());
                var statement = connection.createStatement()) {
            statement.execute("alter system set default_transaction_read_only = on");
            statement.execute("select pg_reload_conf()");
            TestServer.await(() -> readOnly(weft, api));
            assertThat(status(weft, "/readiness")).isEqualTo(503);
            assertThat(status(weft, "/liveness")).isEqualTo(200);
            statement.execute("set transaction_read_only = off");
            statement.execute("set default_transaction_read_only = off");
            statement.execute("alter system reset default_transaction_read_only");
            statement.execute("select pg_reload_conf()");
        }
        TestServer.await(() -> {
            try {
                return send(
                                        "POST",
                                        api + "/doors/t/records",
                                        "{\"values\":{\"a\":\"after\"}}",
                                        "Idempotency-Key",
                                        "after")
                                .statusCode()
                        == 201;
            } catch (Exception e) {
                throw new IllegalStateException(e);
            }
        });
        assertThat(status(weft, "/readiness")).isEqualTo(200);
    }

    private static boolean readOnly(WeftServer.Running weft, String api) {
        try {
            var answer = send("POST", api + "/doors/t/records", "{\"values\":{}}");
            return answer.statusCode() == 503 && answer.body().contains("The database only reads just now");
        } catch (Exception e) {
            throw new IllegalStateException(e);
        }
    }

    private static void savers(String api, int client, AtomicBoolean going, Set<String> saved) throws Exception {
        for (int n = 0; going.get(); n++) {
            var value = "c" + client + "-" + n;
            // As a Desk does: again under the same key until it is answered.
            for (int status = 0; status != 201 && going.get(); ) {
                HttpResponse<String> answer;
                try {
                    answer = send(
                            "POST",
                            api + "/doors/t/records",
                            "{\"values\":{\"a\":\"" + value + "\"}}",
                            "Idempotency-Key",
                            value);
                } catch (IOException cutOff) {
                    continue;
                }
                status = answer.statusCode();
                assertThat(status).as(answer.body()).isIn(201, 503);
                if (status == 503) {
                    assertThat(answer.headers().firstValue("Content-Type")).contains("application/problem+json");
                    assertThat(answer.headers().firstValue("Retry-After")).isPresent();
                }
                if (status == 201) {
                    saved.add(value);
                }
            }
        }
    }
}
