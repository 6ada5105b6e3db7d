package weft.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.net.http.HttpClient;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.DriverManager;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentSkipListMap;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * What can fail, failing again and again while entries are keyed: {@code ./weft trial faults}. It prints what was lost, doubled
 * or hung. Too long for every run of the tests, which leaves it out by its name; what is quick of it is among those.
 */
class FaultsTrial {

    private static final int ROUNDS = 5;

    private Path folder = LocalWeft.folder();
    private ServerProcess server = new ServerProcess(folder);

    @BeforeEach
    void given() throws Exception {
        begin();
    }

    private void begin() throws Exception {
        server.start();
        server.table("t");
        server.send("POST", "/api/forms", "{\"table\":\"t\"}", "");
        server.send("POST", "/api/forms/t/publish", "", "");
    }

    @AfterEach
    void stop() throws Exception {
        server.stop();
        LocalWeft.remove(folder);
    }

    private interface Blow {
        void fall() throws Exception;
    }

    private void underBlows(String trial, String url, int rounds, Blow blow) throws Exception {
        try (var keyers = new Keyers(server, url)) {
            for (int round = 0; round < rounds; round++) {
                assertThat(keyers.more(100)).isTrue();
                blow.fall();
            }
            assertThat(keyers.more(100)).isTrue();
            keyers.told(trial + ", " + rounds + " times");
        }
    }

    @Test
    void theServerIsKilled() throws Exception {
        underBlows("server killed", server.url(), ROUNDS, () -> {
            server.kill();
            server.start();
        });
    }

    @Test
    void theDatabaseIsKilled() throws Exception {
        underBlows("database killed", server.url(), ROUNDS, server::killDatabase);
    }

    /** Every process of it stands still for a while: nobody waits longer than a connection may say nothing. */
    @Test
    void theDatabaseHangs() throws Exception {
        underBlows("database hangs for 40 s", server.url(), 1, () -> {
            var pid = Files.readAllLines(folder.resolve("postgres/data/postmaster.pid"))
                    .getFirst()
                    .strip();
            run("pkill", "-STOP", "-P", pid);
            run("kill", "-STOP", pid);
            Thread.sleep(40_000);
            run("kill", "-CONT", pid);
            run("pkill", "-CONT", "-P", pid);
        });
    }

    @Test
    void bothAreKilled() throws Exception {
        underBlows("both killed", server.url(), ROUNDS / 2, () -> {
            server.killDatabase();
            server.kill();
            server.start();
        });
    }

    @Test
    void connectionsToTheDatabaseAreCut() throws Exception {
        var port = Files.readAllLines(folder.resolve("postgres/data/postmaster.pid"))
                .get(3)
                .strip();
        var password = Files.readString(folder.resolve("password")).strip();
        try (var connection =
                DriverManager.getConnection("jdbc:postgresql://127.0.0.1:" + port + "/postgres", "weft", password)) {
            underBlows("connections cut", server.url(), ROUNDS * 4, () -> {
                try (var statement = connection.createStatement()) {
                    statement.execute("select pg_terminate_backend(pid) from pg_stat_activity"
                            + " where application_name = 'weft' and pid <> pg_backend_pid()");
                }
            });
        }
    }

    @Test
    void answersAreLost() throws Exception {
        try (var proxy = new CuttingProxy(server.port())) {
            underBlows("answers cut by a proxy", proxy.url(), ROUNDS, () -> {});
        }
    }

    @Test
    void readersAreSlow() throws Exception {
        var csv = new StringBuilder("a\n");
        for (int i = 0; i < 50_000; i++) {
            csv.append("value ").append("x".repeat(60)).append(i).append('\n');
        }
        var body = "--x\r\nContent-Disposition: form-data; name=\"file\"; filename=\"large.csv\"\r\n\r\n" + csv
                + "\r\n--x--\r\n";
        var file = Signed.request(server.url(), "/api/imports", ServerProcess.session())
                .POST(BodyPublishers.ofString(body))
                .header("Content-Type", "multipart/form-data; boundary=x")
                .build();
        var brought = HttpClient.newHttpClient().send(file, BodyHandlers.ofString());
        var id = JsonMapper.shared().readTree(brought.body()).get("id").asString();
        server.send("POST", "/api/imports/" + id + "/table", "{\"name\":\"large\"}", "");
        var readers = new ArrayList<Socket>();
        underBlows("slow readers of exports and events", server.url(), ROUNDS * 2, () -> {
            readers.add(unread("/api/doors/large/export?as=csv"));
            readers.add(unread("/api/doors/t/events"));
        });
        for (var reader : readers) {
            reader.close();
        }
    }

    /** More than there are cores ask for what takes long to work out, for as long as they may, and ask again at once. */
    @Test
    void requestsAreSlow() throws Exception {
        var list = IntStream.range(0, 440).mapToObj(n -> "7").collect(Collectors.joining(",", "[", "]"));
        var formula = "count(for a in %s return count(for b in %s return string(a * b)))".formatted(list, list);
        var ids = IntStream.rangeClosed(1, 100).mapToObj(String::valueOf).collect(Collectors.joining(","));
        var body = "{\"ids\":[%s],\"set\":{\"a\":{\"formula\":\"%s\"}},\"rehearse\":true}".formatted(ids, formula);
        var statuses = new ConcurrentSkipListMap<Integer, Integer>();
        long healthy = 0;
        try (var keyers = new Keyers(server, server.url());
                var slow = Executors.newVirtualThreadPerTaskExecutor()) {
            assertThat(keyers.more(1_000)).isTrue();
            var before = keyers.usual();
            var until = Instant.now().plusSeconds(60);
            for (int client = 0; client < 4 * Runtime.getRuntime().availableProcessors(); client++) {
                slow.submit(() -> {
                    while (Instant.now().isBefore(until)) {
                        statuses.merge(
                                server.send("POST", "/api/doors/t/changes", body, "")
                                        .statusCode(),
                                1,
                                Integer::sum);
                    }
                    return null;
                });
            }
            while (Instant.now().isBefore(until)) {
                long began = System.nanoTime();
                assertThat(server.send("GET", "/actuator/health/liveness", null, "")
                                .statusCode())
                        .isEqualTo(200);
                healthy = Math.max(healthy, TimeUnit.NANOSECONDS.toMillis(System.nanoTime() - began));
                Thread.sleep(50);
            }
            long usual = keyers.usual();
            System.out.printf(
                    "%-34s %s  liveness within %,d ms  saves within %,d ms at p95 (%,d ms before)%n",
                    "slow requests for 60 s", statuses, healthy, usual, before);
            keyers.told("slow requests");
            assertThat(healthy).isLessThan(1_000);
            assertThat(usual).isLessThan(500);
        }
        assertThat(statuses).containsKey(503);
    }

    private Socket unread(String path) throws IOException {
        var socket = new Socket();
        socket.setReceiveBufferSize(4_096);
        socket.connect(new InetSocketAddress("127.0.0.1", server.port()));
        socket.getOutputStream()
                .write(("GET " + path + " HTTP/1.1\r\nHost: 127.0.0.1\r\nCookie: SESSION=" + ServerProcess.session()
                                + "\r\n\r\n")
                        .getBytes(StandardCharsets.US_ASCII));
        return socket;
    }

    /** On a file system of 400 MB that is filled to its last block and emptied again. */
    @Test
    void theDiskIsFull() throws Exception {
        server.stop();
        var stopped = server;
        var small = folder.resolve("small");
        Files.createDirectories(small);
        assumeTrue(run("mount", "-t", "tmpfs", "-o", "size=400m,mode=755", "tmpfs", small.toString()));
        try {
            server = new ServerProcess(small);
            begin();
            underBlows("disk full", server.url(), 3, () -> {
                var filler = small.resolve("filler");
                run("sh", "-c", "cat /dev/zero > " + filler + " 2>/dev/null");
                Thread.sleep(8_000);
                Files.delete(filler);
            });
            server.stop();
        } finally {
            run("umount", "-l", small.toString());
            server = stopped;
        }
    }

    private static boolean run(String... command) throws IOException, InterruptedException {
        return new ProcessBuilder(command).inheritIO().start().waitFor() == 0;
    }

    private static final List<String> WORDS = List.of(
            "null",
            "true",
            "-1",
            "0",
            "1e400",
            "99999999999999999999",
            "\"\"",
            "\"x\"",
            "\"\\u0000\"",
            "\"%00\"",
            "[]",
            "{}",
            "[null]",
            "{\"a\":{\"b\":[1]}}",
            "\"2026-13-45\"",
            "\"((((a{1000}){1000}){1000}\"",
            "\"=1+1\"",
            "\"\\ud800\"",
            "\"decimal(1,100000000)\"",
            "\"choice\"",
            "\"t\"",
            "\"a\"",
            "\"saved\"",
            "\"add-row\"",
            "[[[[[[]]]]]]");

    /** Ten thousand requests made at random after the description of the API: none fails, none hangs. */
    @Test
    void requestsAreAnything() throws Exception {
        var random = new Random(11);
        var paths = server.json("/v3/api-docs").get("paths");
        var operations = new ArrayList<String[]>();
        paths.propertyStream()
                .forEach(path -> path.getValue()
                        .propertyNames()
                        .forEach(method ->
                                operations.add(new String[] {method.toUpperCase(Locale.ROOT), path.getKey()})));
        var schemas = names(server.json("/v3/api-docs").at("/components/schemas"));
        var statuses = new TreeMap<Integer, Integer>();
        long longest = 0;
        for (int n = 0; n < 10_000; n++) {
            var operation = operations.get(random.nextInt(operations.size()));
            // Whoever signs out, or ends their own session otherwise, is refused whatever comes after.
            if (operation[1].endsWith("/events") || operation[1].matches("/api/(session|people|groups).*")) {
                continue;
            }
            var path = operation[1];
            while (path.contains("{")) {
                var part = random.nextInt(3) == 0
                        ? "%22"
                        : random.nextBoolean() ? "t" : Integer.toString(random.nextInt(-1, 3));
                path = path.replaceFirst("\\{[^}]*}", part);
            }
            var query = random.nextInt(3) == 0
                    ? "?where=a:%22&after=" + random.nextInt() + "&limit=" + random.nextInt()
                    : "";
            var body = operation[0].equals("GET") ? null : anything(random, schemas, 0);
            long began = System.nanoTime();
            var answer =
                    server.send(operation[0], path + query, body, random.nextBoolean() ? "k" + random.nextInt(5) : "");
            longest = Math.max(longest, System.nanoTime() - began);
            statuses.merge(answer.statusCode(), 1, Integer::sum);
            assertThat(answer.statusCode())
                    .as("%s %s %s: %s", operation[0], path + query, body, answer.body())
                    .isLessThan(500);
        }
        System.out.printf("%-34s %s  longest %.1f s%n", "anything, 10,000 requests", statuses, longest / 1e9);
    }

    private static List<String> names(JsonNode schemas) {
        var names = new ArrayList<String>();
        schemas.forEach(schema -> schema.path("properties").propertyNames().forEach(names::add));
        return names.stream().distinct().toList();
    }

    private static String anything(Random random, List<String> names, int depth) {
        if (depth > 3 || random.nextInt(3) == 0) {
            return WORDS.get(random.nextInt(WORDS.size()));
        }
        var members = new ArrayList<String>();
        for (int i = random.nextInt(6); i >= 0; i--) {
            var value = anything(random, names, depth + 1);
            members.add("\"" + names.get(random.nextInt(names.size())) + "\":" + value);
        }
        return depth > 0 && random.nextInt(4) == 0
                ? "[" + anything(random, names, depth + 1) + "]"
                : "{" + String.join(",", members) + "}";
    }
}
