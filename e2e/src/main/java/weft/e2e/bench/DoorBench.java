package weft.e2e.bench;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import tools.jackson.databind.json.JsonMapper;
import weft.e2e.LocalWeft;
import weft.e2e.Signed;

/**
 * What a door costs: saving and stepping by one that shows a part of the records and leaves a field out, against the same by
 * Everything, in turns; and how many can sign in.
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
        http.post("/api/forms/bench_door/doors", """
                {"id":"bench-part","title":"A part","who":{"groups":["Builders"]},"may":["add","see","change"],
                 "view":{"where":["river:Quill*"],"own":true},"filled":{"private":"person"},
                 "fields":{"leftOut":["private"],"locked":[]}}""");
        try (var server = new KeepAlive(weft.url())) {
            new DoorBench(server).measure();
        }
        signing(weft);
    }

    private void measure() throws IOException {
        Figures.heading(
                "By a door and by Everything: p50 / p95 in ms over HTTP, %d times each, in turns".formatted(TIMES));
        Figures.line("%-22s %17s %17s %8s", "", "door", "Everything", "p50");
        told("save", door -> {
            int status = server.post(
                    "/api/doors/" + door + "/records", BODY, UUID.randomUUID().toString());
            expect(status, 201);
        });
        var cursors = new String[] {cursor("bench-part"), cursor("bench_door")};
        told("step to the next", door -> {
            int which = door.equals("bench-part") ? 0 : 1;
            expect(server.get("/api/doors/" + door + "/place?to=next&cursor=" + cursors[which]), 200);
        });
        Figures.line("Goal: at most 1.10.");
    }

    private String cursor(String door) throws IOException {
        expect(server.get("/api/doors/" + door + "/place?to=first"), 200);
        return JsonMapper.shared().readTree(server.body()).get("cursor").asString();
    }

    private static void expect(int status, int wanted) throws IOException {
        if (status != wanted) {
            throw new IOException("It was answered with " + status + ".");
        }
    }

    private interface Doing {
        void by(String door) throws IOException;
    }

    private static void told(String what, Doing doing) throws IOException {
        var doors = List.of("bench-part", "bench_door");
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
