package weft.e2e.bench;

import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.UUID;
import tools.jackson.databind.json.JsonMapper;
import weft.e2e.LocalWeft;
import weft.e2e.Signed;

/**
 * What a door costs: the same done by a door that leaves a field out and by Everything, in turns: saving, stepping through all
 * records, and stepping through some of them, which the one door shows only and which are asked for by the other. And how many
 * can sign in.
 */
final class DoorBench {

    private static final int WARM_UP = 300;
    private static final int TIMES = 600;
    private static final int SECONDS = 5;
    private static final String BODY = "{\"values\":{\"site\":\"QB-03\",\"river\":\"Quill Beck\",\"ph\":\"7.4\"}}";

    private final KeepAlive server;

    private DoorBench(KeepAlive server) {
        this.server = server;
    }

    static void run(LocalWeft weft) throws Exception {
        var http = Http.to(weft.url());
        http.post("/api/tables", """
                {"name":"bench_door","title":"Bench","columns":[{"name":"site","type":"text"},{"name":"river","type":"text"},
                 {"name":"ph","type":"decimal","scale":1,"min":0,"max":14},{"name":"private","type":"text"}]}""");
        http.post("/api/forms", "{\"table\":\"bench_door\"}");
        for (var where : List.of("", "\"river:Quill*\"")) {
            http.post("/api/forms/bench_door/doors", """
                    {"id":"bench-%s","title":"A part","who":{"groups":["Builders"]},"may":["add","see","change"],
                     "view":{"where":[%s],"own":false},"filled":{"private":"person"},
                     "fields":{"leftOut":["private"],"locked":[]}}""".formatted(where.isEmpty() ? "all" : "some", where));
        }
        try (var server = new KeepAlive(weft.url())) {
            new DoorBench(server).measure();
        }
        signing(weft);
    }

    private void measure() throws IOException {
        Figures.heading(
                "By a door and by Everything: p50 / p95 in ms over HTTP, %d times each, in turns".formatted(TIMES));
        Figures.line("%-22s %17s %17s %8s", "", "door", "Everything", "p50");
        told("save", List.of("bench-some", "bench_door"), door -> {
            int status = server.post(
                    "/api/doors/" + door + "/records", BODY, UUID.randomUUID().toString());
            expect(status, 201);
        });
        stepped("step through all", "bench-all?", "bench_door?");
        stepped("step through some", "bench-some?", "bench_door?where=river:Quill*&");
        Figures.line("Goal: at most 1.10.");
    }

    private void stepped(String what, String byDoor, String byEverything) throws IOException {
        var cursors = new HashMap<String, String>();
        for (var asked : List.of(byDoor, byEverything)) {
            expect(server.get("/api/doors/" + asked.replace("?", "/place?") + "to=first"), 200);
            cursors.put(
                    asked,
                    JsonMapper.shared().readTree(server.body()).get("cursor").asString());
        }
        told(
                what,
                List.of(byDoor, byEverything),
                asked -> expect(
                        server.get(
                                "/api/doors/" + asked.replace("?", "/place?") + "to=next&cursor=" + cursors.get(asked)),
                        200));
    }

    private static void expect(int status, int wanted) throws IOException {
        if (status != wanted) {
            throw new IOException("It was answered with " + status + ".");
        }
    }

    private interface Doing {
        void by(String door) throws IOException;
    }

    private static void told(String what, List<String> doors, Doing doing) throws IOException {
        var times = List.of(new ArrayList<Double>(), new ArrayList<Double>());
        for (int n = 0; n < WARM_UP + TIMES; n++) {
            for (int which = 0; which < doors.size(); which++) {
                long began = System.nanoTime();
                doing.by(doors.get(which));
                if (n >= WARM_UP) {
                    times.get(which).add((System.nanoTime() - began) / 1e6);
                }
            }
        }
        double[][] all = times.stream()
                .map(each -> each.stream().mapToDouble(Double::doubleValue).toArray())
                .toArray(double[][]::new);
        Figures.line(
                "%-22s %8.2f %8.2f %8.2f %8.2f %8.2f",
                what,
                Figures.percentile(all[0], 50),
                Figures.percentile(all[0], 95),
                Figures.percentile(all[1], 50),
                Figures.percentile(all[1], 95),
                Figures.percentile(all[0], 50) / Figures.percentile(all[1], 50));
    }

    /** One after the other: each costs what guessing a password must cost. */
    private static void signing(LocalWeft weft) throws Exception {
        long began = System.nanoTime();
        int signed = 0;
        while (System.nanoTime() - began < SECONDS * 1_000_000_000L) {
            Signed.in(weft.url(), "saffi", "river-watch");
            signed++;
        }
        Figures.line("%.1f sign in a second, one after the other", signed / ((System.nanoTime() - began) / 1e9));
    }
}
