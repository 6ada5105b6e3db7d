package weft.e2e.bench;

import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.UUID;
import java.util.stream.Collectors;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import weft.e2e.LocalWeft;
import weft.e2e.Signed;

/**
 * What keying twice leaves wrong: papers of ten fields, of which each person reads one in a hundred wrong whenever they key or
 * settle, keyed once, twice blind and settled by a third, and twice at once. Who has both keyings before them and reads what is
 * neither looks again, until it is one of them or the same as before. And what the figures of the work cost: a save with
 * them against one without, and the page of a million entries.
 */
final class TwiceBench {

    private static final int PAPERS = 2_000;
    private static final int FIELDS = 10;
    private static final double WRONG = 0.01;
    private static final String PASSWORD = "four dry river stones";

    private final LocalWeft weft;
    private final Http http;
    private final Random random = new Random(17);

    private TwiceBench(LocalWeft weft) {
        this.weft = weft;
        this.http = Http.to(weft.url());
    }

    static void run(LocalWeft weft) throws Exception {
        var bench = new TwiceBench(weft);
        bench.errors();
        new WorkBench(weft).measure();
    }

    /** Makes somebody known. */
    private void person(String name) {
        try {
            http.post(
                    "/api/people",
                    "{\"name\":\"%s\",\"title\":\"%s\",\"groups\":[],\"password\":\"%s\"}"
                            .formatted(name, name, PASSWORD));
        } catch (IOException | InterruptedException e) {
            throw new IllegalStateException(e);
        }
    }

    /** A connection of theirs. */
    private KeepAlive by(String name) throws IOException {
        return new KeepAlive(weft.url(), Signed.in(weft.url(), name, PASSWORD));
    }

    private void errors() throws Exception {
        Figures.heading("Keyed twice: %,d papers of %d fields, one in %.0f wrong in each keying"
                .formatted(PAPERS, FIELDS, 1 / WRONG));
        Figures.line("%-34s %12s %14s %12s", "", "wrong fields", "of a hundred", "ms a paper");
        List.of("bench-first", "bench-second", "bench-third").forEach(this::person);
        double once = 0;
        for (var way : List.of("blind", "at once")) {
            var table = "bench_" + way.replace(' ', '_');
            var papers = papers();
            table(table, way);
            long began = System.nanoTime();
            var records = new ArrayList<Long>();
            try (var first = by("bench-first")) {
                for (var paper : papers) {
                    var answer = post(first, "/api/doors/" + table + "-again/records", values(keyed(paper), ""));
                    records.add(answer.get("id").asLong());
                }
            }
            if (way.equals("blind")) {
                once = told("once", wrong(table, papers, records), began);
            }
            began = System.nanoTime();
            try (var second = by("bench-second")) {
                for (int n = 0; n < PAPERS; n++) {
                    if (way.equals("blind")) {
                        blind(second, table, papers);
                    } else {
                        atOnce(second, table, papers);
                    }
                }
            }
            try (var third = by("bench-third")) {
                settle(third, table, papers);
            }
            double left = told("twice, " + way, wrong(table, papers, records), began);
            Figures.line("%-34s %12s %13.4f %%", "", "to once:", once == 0 ? 0 : 100 * left / once);
        }
        Figures.line("Goal: under 0.02 of a hundred fields left wrong.");
    }

    private static double told(String what, int wrong, long began) {
        double share = 100.0 * wrong / (PAPERS * FIELDS);
        Figures.line("%-34s %12d %13.3f %% %12.1f", what, wrong, share, (System.nanoTime() - began) / 1e6 / PAPERS);
        return share;
    }

    private void table(String table, String way) throws IOException, InterruptedException {
        var columns = new ArrayList<String>();
        columns.add("{\"name\":\"number\",\"type\":\"text\",\"required\":true}");
        for (int f = 0; f < FIELDS; f++) {
            columns.add("{\"name\":\"%s\",\"type\":\"%s\"}".formatted(column(f), f % 2 == 0 ? "whole" : "text"));
        }
        http.post(
                "/api/tables",
                "{\"name\":\"%s\",\"title\":\"Bench\",\"columns\":[%s]}".formatted(table, String.join(",", columns)));
        http.post("/api/forms", "{\"table\":\"" + table + "\"}");
        http.post("/api/forms/" + table + "/doors", """
                {"id":"%s-again","title":"Again","who":{"people":["bench-first","bench-second","bench-third"]},
                 "may":["add","see","change"],"twice":{"way":"%s","paper":["number"]}}""".formatted(table, way));
    }

    private static String column(int field) {
        return "f" + field;
    }

    private List<Map<String, String>> papers() {
        var papers = new ArrayList<Map<String, String>>();
        for (int n = 0; n < PAPERS; n++) {
            var paper = new LinkedHashMap<String, String>();
            paper.put("number", "P-" + n);
            for (int f = 0; f < FIELDS; f++) {
                paper.put(column(f), Integer.toString(1_000 + random.nextInt(9_000)));
            }
            papers.add(paper);
        }
        return papers;
    }

    /** What somebody keys of a paper. */
    private Map<String, String> keyed(Map<String, String> paper) {
        var keyed = new LinkedHashMap<>(paper);
        keyed.replaceAll((column, value) -> column.equals("number") ? value : keyed(value));
        return keyed;
    }

    /** A value, now and then with a digit that is another one. */
    private String keyed(String value) {
        if (random.nextDouble() >= WRONG) {
            return value;
        }
        int at = random.nextInt(value.length());
        char other = (char) ('1' + (value.charAt(at) - '1' + 1 + random.nextInt(8)) % 9);
        return value.substring(0, at) + other + value.substring(at + 1);
    }

    private static String values(Map<String, String> typed, String more) {
        return "{\"values\":{"
                + typed.entrySet().stream()
                        .map(each -> "\"%s\":\"%s\"".formatted(each.getKey(), each.getValue()))
                        .collect(Collectors.joining(","))
                + "}" + more + "}";
    }

    private static JsonNode post(KeepAlive server, String path, String body) throws IOException {
        int status = server.post(path, body, UUID.randomUUID().toString());
        if (status / 100 != 2) {
            throw new IOException(path + " answered " + status + " " + server.body());
        }
        return JsonMapper.shared().readTree(server.body());
    }

    private static JsonNode taken(KeepAlive second, String table) throws IOException {
        return post(second, "/api/doors/" + table + "-again/twice/take", "{}").get("paper");
    }

    private static Map<String, String> paper(List<Map<String, String>> papers, JsonNode taken) {
        return papers.get(Integer.parseInt(taken.at("/values/number").asString().substring(2)));
    }

    private void blind(KeepAlive second, String table, List<Map<String, String>> papers) throws IOException {
        var taken = taken(second, table);
        post(
                second,
                "/api/doors/" + table + "-again/twice/" + taken.get("record").asLong(),
                "{\"entry\":" + values(keyed(paper(papers, taken)), "") + "}");
    }

    /** Keys each field that differs again, until it is the same as before, and then chooses by the paper. */
    private void atOnce(KeepAlive second, String table, List<Map<String, String>> papers) throws IOException {
        var taken = taken(second, table);
        var paper = paper(papers, taken);
        var keyed = keyed(paper);
        var choices = new LinkedHashMap<String, String>();
        for (int again = 0; ; again++) {
            var ended = post(
                    second,
                    "/api/doors/" + table + "-again/twice/"
                            + taken.get("record").asLong(),
                    "{\"entry\":" + values(keyed, "") + ",\"choices\":"
                            + JsonMapper.shared().writeValueAsString(choices) + "}");
            if (!ended.get("standing").asString().equals("waiting")) {
                return;
            }
            if (again > 50) {
                throw new IOException("A paper is never done: " + ended);
            }
            ended.get("open").properties().forEach(each -> {
                var column = each.getKey();
                if (each.getValue().get("said").asString().equals("choose")) {
                    var both = each.getValue().get("both");
                    boolean first = settled(paper.getOrDefault(column, ""), both)
                            .equals(both.get("firstWords").asString());
                    choices.put(column, first ? "first" : "second");
                } else {
                    choices.remove(column);
                    keyed.put(column, keyed(paper.getOrDefault(column, "")));
                }
            });
        }
    }

    /** What somebody who looks at the paper, and at both keyings of it, takes for right. */
    private String settled(String value, JsonNode both) {
        var shown = List.of(
                both.get("firstWords").asString(), both.get("secondWords").asString());
        var before = "";
        var read = keyed(value);
        while (!shown.contains(read) && !read.equals(before)) {
            before = read;
            read = keyed(value);
        }
        return read;
    }

    private void settle(KeepAlive third, String table, List<Map<String, String>> papers) throws IOException {
        while (true) {
            third.get("/api/doors/" + table + "-again/twice/settling");
            var next = JsonMapper.shared().readTree(third.body()).get("paper");
            if (next.isNull()) {
                return;
            }
            var paper = paper(papers, next.get("paper"));
            var choices = new ArrayList<String>();
            for (var field : next.get("fields")) {
                var right = settled(paper.getOrDefault(field.get("column").asString(), ""), field.get("both"));
                var which = right.equals(field.at("/both/firstWords").asString())
                        ? "{\"which\":\"first\"}"
                        : right.equals(field.at("/both/secondWords").asString())
                                ? "{\"which\":\"second\"}"
                                : "{\"which\":\"other\",\"typed\":\"" + right + "\"}";
                choices.add("\"" + field.get("column").asString() + "\":" + which);
            }
            int status = third.post(
                    "/api/doors/" + table + "-again/twice/"
                            + next.at("/paper/record").asLong() + "/settle",
                    "{\"choices\":{" + String.join(",", choices) + "}}",
                    "x\r\nIf-Match: \"" + next.at("/record/version").asInt() + "\"");
            if (status != 200) {
                throw new IOException("settling answered " + status + " " + third.body());
            }
        }
    }

    private int wrong(String table, List<Map<String, String>> papers, List<Long> records) throws Exception {
        int wrong = 0;
        for (int n = 0; n < PAPERS; n++) {
            var stored = http.get("/api/doors/" + table + "/records/" + records.get(n))
                    .get("values");
            for (int f = 0; f < FIELDS; f++) {
                wrong += stored.get(column(f)).asString().equals(papers.get(n).get(column(f))) ? 0 : 1;
            }
        }
        return wrong;
    }
}
