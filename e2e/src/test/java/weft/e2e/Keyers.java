package weft.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.Map;
import java.util.Queue;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ConcurrentLinkedQueue;
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
    private static final Duration PAUSE = Duration.ofMillis(50);

    private final ServerProcess server;
    private final String url;
    private final ExecutorService clients;
    private final Map<String, Integer> answered = new ConcurrentHashMap<>();
    private final AtomicInteger failed = new AtomicInteger();
    private final AtomicInteger outages = new AtomicInteger();
    private final AtomicInteger unanswered = new AtomicInteger();
    private final AtomicLong longest = new AtomicLong();
    private final Queue<Long> saves = new ConcurrentLinkedQueue<>();
    private final AtomicLong lastSaved = new AtomicLong(System.nanoTime());
    private final AtomicLong stood = new AtomicLong();
    private volatile boolean going = true;

    /** Keyers of the form t of that server, who reach it at that address. */
    Keyers(ServerProcess server, String url) {
        this(server, url, CLIENTS);
    }

    /** So many of them. */
    Keyers(ServerProcess server, String url, int many) {
        this.server = server;
        this.url = url;
        this.clients = Executors.newFixedThreadPool(many);
        for (int client = 0; client < many; client++) {
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
                case 201 -> {
                    answered.put(
                            key,
                            JsonMapper.shared()
                                    .readTree(answer.body())
                                    .get("row")
                                    .asInt());
                    long now = System.nanoTime();
                    saves.add(TimeUnit.NANOSECONDS.toMillis(now - began));
                    stood.accumulateAndGet(now - lastSaved.getAndSet(now), Math::max);
                }
                // The last two are the balancer's.
                case 503, 502, 504 -> {
                    outages.incrementAndGet();
                    Thread.sleep(PAUSE);
                }
                default -> {
                    failed.incrementAndGet();
                    System.out.println(answer.statusCode() + " " + answer.body());
                    pause();
                }
            }
        } catch (IOException noAnswer) {
            unanswered.incrementAndGet();
            pause();
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
        }
        longest.accumulateAndGet(TimeUnit.NANOSECONDS.toMillis(System.nanoTime() - began), Math::max);
    }

    private static void pause() {
        try {
            Thread.sleep(PAUSE);
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
        }
    }

    /** For how many milliseconds nobody's entry was saved, at the longest, since that was asked last. */
    long standstill() {
        long now = System.nanoTime();
        long longestOf = Math.max(stood.getAndSet(0), now - lastSaved.get());
        return TimeUnit.NANOSECONDS.toMillis(longestOf);
    }

    /** How many milliseconds 19 of 20 saves took at most, since that was asked last. */
    long usual() {
        var taken = new ArrayList<Long>();
        for (var each = saves.poll(); each != null; each = saves.poll()) {
            taken.add(each);
        }
        taken.sort(null);
        return taken.isEmpty() ? 0 : taken.get(taken.size() * 19 / 20);
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
