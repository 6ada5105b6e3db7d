package weft.server.http;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.await;
import static weft.server.TestServer.form;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;
import static weft.server.TestServer.request;

import java.net.http.HttpClient;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.server.TestServer;

/** Who has much worked out at once keeps nobody else from being served. */
@ExtendWith(TestServer.class)
class ComputingTest {

    private static final int CORES = Runtime.getRuntime().availableProcessors();

    /** Takes a second for each record, which is as long as a formula may. */
    private static String slow() {
        var list = IntStream.range(0, 440).mapToObj(n -> "7").collect(Collectors.joining(",", "[", "]"));
        return "count(for a in %s return count(for b in %s return string(a * b)))".formatted(list, list);
    }

    private static CompletableFuture<HttpResponse<String>> asked(HttpClient client, String door, int records) {
        var ids = IntStream.rangeClosed(1, records).mapToObj(String::valueOf).collect(Collectors.joining(","));
        return client.sendAsync(
                request("/api/doors/" + door + "/changes")
                        .header("Content-Type", "application/json")
                        .POST(BodyPublishers.ofString(
                                "{\"ids\":[%s],\"set\":{\"n\":{\"formula\":\"%s\"}},\"rehearse\":true}"
                                        .formatted(ids, slow())))
                        .build(),
                BodyHandlers.ofString());
    }

    @Test
    void manySlowRequestsKeepNobodyFromBeingServedAndEndWhenTheirClientsLeave() throws Exception {
        var door = form("computing", "{\"title\":\"N\",\"type\":\"whole\"}");
        for (int n = 0; n < 30; n++) {
            post("/api/doors/" + door + "/records", "{\"values\":{\"n\":" + n + "}}");
        }
        var client = HttpClient.newHttpClient();
        var slow = IntStream.rangeClosed(0, CORES)
                .mapToObj(_ -> asked(client, door, 30))
                .toList();
        var first =
                CompletableFuture.anyOf(slow.toArray(CompletableFuture[]::new)).get(1, TimeUnit.MINUTES);
        assertThat(((HttpResponse<?>) first).statusCode()).isEqualTo(503);
        assertThat(((HttpResponse<?>) first).headers().firstValue("Retry-After"))
                .isPresent();
        assertThat(get("/actuator/health/liveness").status()).isEqualTo(200);
        assertThat(post("/api/doors/" + door + "/records", "{\"values\":{\"n\":99}}")
                        .status())
                .isEqualTo(201);
        client.shutdownNow();
        // Long before the formulas of any of them would have been worked out.
        await("a turn", () -> asked(HttpClient.newHttpClient(), door, 1).join().statusCode() == 200);
        assertThat(get("/api/doors/" + door + "/records?where=n:99").json().get("records"))
                .hasSize(1);
    }
}
