package weft.e2e.bench;

import java.io.IOException;
import java.net.http.HttpClient;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse.BodyHandlers;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;
import weft.e2e.LocalWeft;
import weft.e2e.Signed;

/**
 * What rules cost: assess and save through a form with 50 fields, 20 formulas, 10 checks and 5 fills from a table of a
 * million rows, against the same row through a form without rules; and one fill, against the same look by hand in SQL.
 */
final class RulesBench {

    private static final int FIELDS = 50;
    private static final int FORMULAS = 20;
    private static final int CHECKS = 10;
    private static final int FILLS = 5;
    private static final int SOURCE = 1_000_000;
    private static final int TIMES = 400;
    private static final int WARM_UP = 300;

    private final String url;
    private final HttpClient client =
            HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).build();

    private RulesBench(String url) {
        this.url = url;
    }

    static void run(LocalWeft weft) throws Exception {
        new RulesBench(weft.url()).measure(weft);
    }

    private void measure(LocalWeft weft) throws Exception {
        try (var connection = EntryBench.connect(weft)) {
            prepare(connection);
            Figures.heading("Rules: %d fields, %d formulas, %d checks, %d fills from %,d rows, milliseconds"
                    .formatted(FIELDS, FORMULAS, CHECKS, FILLS, SOURCE));
            Figures.line("%-42s %8s %8s %12s", "", "p50", "p95", "p50 to plain");
            for (var what : List.of("assess", "records")) {
                double plain = line(what + ", plain", times(i -> send("plain", what, row(i, true))), 0);
                line(what + ", with rules", times(i -> send("ruled", what, row(i, false))), plain);
            }
            Figures.line("%-42s %8s %8s %12s", "", "p50", "p95", "p50 to SQL");
            double hand = line("look by hand in SQL", times(i -> look(connection, i)), 0);
            line(
                    "one fill, assessed over HTTP",
                    times(i -> send("filled", "assess", "{\"values\":{\"k1\":\"" + code(i) + "\"}}")),
                    hand);
            Figures.line("Goal: a fill within 20 ms.");
        }
    }

    private void prepare(Connection connection) throws Exception {
        call(
                "POST",
                "/api/tables",
                "{\"name\":\"source\",\"title\":\"Source\",\"columns\":[{\"title\":\"code\",\"unique\":true},"
                        + IntStream.rangeClosed(1, FILLS)
                                .mapToObj("{\"title\":\"v%d\",\"type\":\"whole\"}"::formatted)
                                .collect(Collectors.joining(","))
                        + "]}");
        try (var statement = connection.createStatement()) {
            statement.execute("insert into records.source (_row, _version, _entered_by, code, v1, v2, v3, v4, v5)"
                    + " select i, 1, 'bench', 'C-' || i, i, i + 1, i + 2, i + 3, i + 4 from generate_series(1, "
                    + SOURCE + ") i");
            statement.execute("update weft.row_counter set next_row = " + (SOURCE + 1)
                    + " where table_id = (select id from weft.table_def where name = 'source')");
            statement.execute("analyze records.source");
        }
        var columns = new ArrayList<String>();
        for (int i = 1; i <= FIELDS - FILLS; i++) {
            columns.add("{\"title\":\"c%d\",\"type\":\"whole\"}".formatted(i));
        }
        for (int i = 1; i <= FILLS; i++) {
            columns.add("{\"title\":\"k%d\"}".formatted(i));
        }
        for (var name : List.of("plain", "ruled", "filled")) {
            call(
                    "POST",
                    "/api/tables",
                    "{\"name\":\"%s\",\"title\":\"%s\",\"columns\":[%s]}"
                            .formatted(name, name, String.join(",", columns)));
            call("POST", "/api/forms", "{\"table\":\"%s\"}".formatted(name));
        }
        rules("ruled", FORMULAS, CHECKS, FILLS);
        rules("filled", 0, 0, 1);
    }

    /** Formulas into c11 to c30, fills into c41 to c45, checks on c1 to c10. */
    private void rules(String form, int formulas, int checks, int fills) throws Exception {
        var document = (ObjectNode) call("GET", "/api/forms/" + form, "");
        var rules = (ObjectNode) document.get("rules");
        for (int i = 1; i <= formulas; i++) {
            rules.withArray("formulas")
                    .add(JsonMapper.shared()
                            .readTree("{\"target\":\"c%d\",\"what\":\"calculated\",\"formula\":\"c%d * 2 + c%d\"}"
                                    .formatted(10 + i, 1 + i % 10, i == 1 ? 1 : 9 + i)));
        }
        for (int i = 1; i <= checks; i++) {
            rules.withArray("checks")
                    .add(JsonMapper.shared()
                            .readTree(
                                    "{\"id\":\"h%d\",\"asks\":false,\"stays\":false,\"message\":\"\",\"rule\":{\"kind\":\"holds\",\"column\":\"c%d\",\"formula\":\"c%d >= 0 and c%d < 1000000\"}}"
                                            .formatted(i, i, i, i)));
        }
        for (int i = 1; i <= fills; i++) {
            rules.withArray("fills")
                    .add(JsonMapper.shared()
                            .readTree(
                                    "{\"id\":\"f%d\",\"table\":\"source\",\"keys\":[{\"column\":\"k%d\",\"source\":\"code\"}],\"brings\":[{\"column\":\"c%d\",\"source\":\"v%d\"}],\"none\":\"stop\",\"several\":\"stop\",\"writesBack\":false}"
                                            .formatted(i, i, 40 + i, i)));
        }
        call("PUT", "/api/forms/" + form, document.toString());
        call("POST", "/api/forms/" + form + "/publish", "");
    }

    private static String code(int i) {
        return "C-" + (1 + Math.floorMod(i * 7919L, SOURCE));
    }

    /** The same row for both: what rules find is typed where there are none. */
    private static String row(int at, boolean whole) {
        var values = JsonMapper.shared().createObjectNode();
        for (int i = 1; i <= FIELDS - FILLS; i++) {
            boolean found = (i > 10 && i <= 30) || i > 40;
            if (whole || !found) {
                values.put("c" + i, Integer.toString(100 + i));
            }
        }
        for (int i = 1; i <= FILLS; i++) {
            values.put("k" + i, code(at + i));
        }
        return "{\"values\":" + values + "}";
    }

    private interface Doing {
        void at(int i) throws Exception;
    }

    private static double[] times(Doing doing) throws Exception {
        var times = new double[TIMES];
        for (int i = -WARM_UP; i < TIMES; i++) {
            long began = System.nanoTime();
            doing.at(i);
            if (i >= 0) {
                times[i] = (System.nanoTime() - began) / 1e6;
            }
        }
        return times;
    }

    private static double line(String what, double[] times, double reference) {
        double p50 = Figures.percentile(times, 50);
        Figures.line(
                "%-42s %8.2f %8.2f %12s",
                what, p50, Figures.percentile(times, 95), reference == 0 ? "" : "%.2f".formatted(p50 / reference));
        return p50;
    }

    private static void look(Connection connection, int i) throws SQLException {
        try (var statement = connection.prepareStatement("select * from records.source where code = ?")) {
            statement.setString(1, code(i));
            try (var rows = statement.executeQuery()) {
                rows.next();
            }
        }
    }

    private void send(String form, String what, String body) throws Exception {
        call("POST", "/api/doors/" + form + "/" + what, body);
    }

    private JsonNode call(String method, String path, String body) throws IOException, InterruptedException {
        var request = Signed.request(url, path)
                .method(method, BodyPublishers.ofString(body))
                .header("Content-Type", "application/json");
        if (method.equals("PUT")) {
            request.header("If-Match", "\"1\"");
        }
        var answer = client.send(request.build(), BodyHandlers.ofString());
        if (answer.statusCode() >= 300) {
            throw new IOException(path + " answered " + answer.statusCode() + " " + answer.body());
        }
        return JsonMapper.shared().readTree(answer.body());
    }
}
