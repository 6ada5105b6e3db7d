package weft.server.watch;

import static org.assertj.core.api.Assertions.assertThat;
import static weft.server.TestServer.form;
import static weft.server.TestServer.get;
import static weft.server.TestServer.post;
import static weft.server.TestServer.send;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import weft.server.TestServer;

/** What operators watch, in the text format that Prometheus reads. */
@ExtendWith(TestServer.class)
class MeasuresTest {

    /** The figure of that name and those labels, or 0 where there is none yet. */
    private static double figure(String name) {
        return get("/actuator/prometheus")
                .http()
                .body()
                .lines()
                .filter(line -> line.startsWith(name + " "))
                .mapToDouble(line -> Double.parseDouble(line.substring(name.length() + 1)))
                .findFirst()
                .orElse(0);
    }

    @Test
    void savesAreCountedAndTimedByHowTheyWereAnswered() {
        form("measured", "{\"title\":\"Site\",\"required\":true}");
        double done = figure("weft_saves_seconds_count{answer=\"done\"}");
        double stopped = figure("weft_saves_seconds_count{answer=\"stopped\"}");
        post("/api/doors/measured/records", "{\"values\":{\"site\":\"a\"}}");
        post("/api/doors/measured/records", "{\"values\":{\"site\":\"b\"}}");
        post("/api/doors/measured/records", "{\"values\":{}}");
        get("/api/doors/measured/records");
        assertThat(figure("weft_saves_seconds_count{answer=\"done\"}") - done).isEqualTo(2);
        assertThat(figure("weft_saves_seconds_count{answer=\"stopped\"}") - stopped)
                .isEqualTo(1);
        assertThat(figure("weft_saves_seconds_sum{answer=\"done\"}")).isPositive();
    }

    @Test
    void theStateOfServerAndDatabaseIsTold() {
        double failed = figure("weft_signins_failed");
        send("POST", "/api/session", "{\"name\":\"nobody-at-all\",\"password\":\"wrong-password\"}");
        assertThat(figure("weft_signins_failed") - failed).isEqualTo(1);
        assertThat(get("/actuator/prometheus").http().body())
                .contains(
                        "weft_connections_used ",
                        "weft_connections_wanted 0.0",
                        "weft_listeners ",
                        "weft_messages_waiting ",
                        "weft_messages_given_up ",
                        "weft_indexes_missing ");
    }

    @Test
    void itIsForThisMachineOnly() {
        assertThat(send("GET", "/actuator/prometheus", null, "X-Forwarded-For", "192.0.2.7")
                        .status())
                .isIn(401, 403);
        assertThat(get("/actuator/metrics").status()).isEqualTo(404);
        assertThat(get("/actuator/health/liveness").status()).isEqualTo(200);
        assertThat(get("/actuator/health/readiness").status()).isEqualTo(200);
    }
}
