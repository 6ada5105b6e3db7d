package weft.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.util.HashSet;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicLong;
import tools.jackson.databind.json.JsonMapper;

/**
 * Keyers who save one entry after another, each sent again under its key until it is answered, as a Desk does; and what
 * became of them.
 */
final class Keyers implements AutoCloseable {

    private static final int CLIENTS = 8;

    private final ServerProcess server;
    private final String url;
    private final ExecutorService clients = Executors.newFixedThreadPool(CLIENTS);
    private final Map<String, Integer> answered = new ConcurrentHashMap<>();
    private final AtomicInteger failed = new AtomicInteger();
    private final AtomicInteger outages = new AtomicInteger();
    private final AtomicInteger unanswered = new AtomicInteger();
    private final AtomicLong longest = new AtomicLong();
    private volatile boolean going = true;

    /** Keyers of the form t of that server, who reach it at that address. */
    Keyers(ServerProcess server, String url) {
        this.server = server;
        this.url = url;
        for (int client = 0; client < CLIENTS; client++) {
            int each = client;
            clients.submit(() -> key(each));
        }
    }

    private void key(int client) {
        for (int n = 0; going; n++) {
            var key = Integer.toHexString(hashCode()) + "-" + client + "-" + n;
            while (going && !answered.containsKey(key)) {
                send(key);
            }
        }
    }

    private void send(String key) {
        long began = System.nanoTime();
        try {
            var answer = ServerProcess.send(
                    url, "POST", "/api/doors/t/records", "{\"values\":{\"a\":\"" + key + "\"}}", key);
            switch (answer.statusCode()) {
                case 201 ->
                    answered.put(
                            key,
                            JsonMapper.shared()
                                    .readTree(answer.body())
                                    .get("row")
                                    .asInt());
                case 503 -> outages.incrementAndGet();
                default -> failed.incrementAndGet();
            }
        } catch (IOException noAnswer) {
            unanswered.incrementAndGet();
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
        }
        longest.accumulateAndGet(TimeUnit.NANOSECONDS.toMillis(System.nanoTime() - began), Math::max);
    }

    /** Waits until so many more entries are answered; false when that takes longer than a minute. */
    boolean more(int entries) throws InterruptedException {
        int wanted = answered.size() + entries;
        for (int tries = 0; tries < 6_000 && answered.size() < wanted; tries++) {
            Thread.sleep(10);
        }
        return answered.size() >= wanted;
    }

    /** Lets them end, prints what became of their entries, and holds it to what may be. */
    void told(String trial) throws Exception {
        close();
        var lost = new HashSet<>(answered.keySet());
        int doubled = 0;
        int elsewhere = 0;
        var seen = new HashSet<String>();
        for (var each : server.stored("t")) {
            var value = each.substring(0, each.indexOf(' '));
            int row = Integer.parseInt(each.substring(each.indexOf(' ') + 1));
            lost.remove(value);
            doubled += seen.add(value) ? 0 : 1;
            elsewhere += answered.getOrDefault(value, row) == row ? 0 : 1;
        }
        System.out.printf(
                "%-34s %,7d saved  %d lost  %d doubled  %d in another row  %d failed  %,d outages  %,d unanswered  longest %.1f s%n",
                trial,
                answered.size(),
                lost.size(),
                doubled,
                elsewhere,
                failed.get(),
                outages.get(),
                unanswered.get(),
                longest.get() / 1e3);
        assertThat(lost).isEmpty();
        assertThat(doubled + elsewhere + failed.get()).isZero();
    }

    @Override
    public void close() {
        going = false;
        clients.shutdown();
        try {
            assertThat(clients.awaitTermination(90, TimeUnit.SECONDS)).isTrue();
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
        }
    }
}
