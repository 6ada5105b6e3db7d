package weft.e2e.bench;

import java.sql.Connection;
import java.util.Arrays;
import java.util.LinkedHashMap;
import weft.e2e.LocalWeft;

/** Which of a million stored records break a rule, over HTTP, against the same question by hand in SQL. */
final class LookBench {

    private static final int ROWS = 1_000_000;
    private static final int TIMES = 7;

    private LookBench() {}

    private record Asked(String rule, String sql) {}

    static void run(LocalWeft weft) throws Exception {
        var http = Http.to(weft.url());
        http.post(
                "/api/tables",
                "{\"name\":\"looked\",\"title\":\"Looked\",\"columns\":[{\"title\":\"Code\"},{\"title\":\"Depth\",\"type\":\"whole\"},"
                        + "{\"title\":\"Kind\"},{\"title\":\"From at\",\"type\":\"datetime\"},{\"title\":\"To at\",\"type\":\"datetime\"}]}");
        http.post("/api/forms", "{\"table\":\"looked\"}");
        try (var connection = EntryBench.connect(weft)) {
            fill(connection);
            Figures.heading(
                    "Stored records that break a rule, of %,d, milliseconds (median of %d)".formatted(ROWS, TIMES));
            Figures.line("%-34s %10s %10s %10s", "", "Weft", "by hand", "times");
            for (var asked : asked().entrySet()) {
                double hand = median(() -> count(connection, asked.getValue().sql()));
                double over = median(() -> http.post(
                        "/api/forms/looked/bench/look", asked.getValue().rule()));
                Figures.line("%-34s %10.0f %10.0f %10.2f", asked.getKey(), over, hand, over / hand);
            }
            Figures.line("Goal: at most 2 times. By hand means the count and the first 50 of them.");
        }
    }

    private static LinkedHashMap<String, Asked> asked() {
        var asked = new LinkedHashMap<String, Asked>();
        asked.put(
                "a range",
                check(
                        "{\"kind\":\"range\",\"column\":\"depth\",\"from\":\"10\",\"to\":\"900000\"}",
                        "depth < 10 or depth > 900000"));
        asked.put(
                "a length",
                check(
                        "{\"kind\":\"length\",\"column\":\"code\",\"from\":4,\"to\":7}",
                        "char_length(code) < 4 or char_length(code) > 7"));
        asked.put(
                "a list",
                check(
                        "{\"kind\":\"one-of\",\"column\":\"kind\",\"list\":[\"k1\",\"k2\",\"k3\"]}",
                        "kind not in ('k1', 'k2', 'k3')"));
        asked.put(
                "needed with",
                check(
                        "{\"kind\":\"needs\",\"column\":\"from_at\",\"other\":\"kind\"}",
                        "kind is null and from_at is not null"));
        asked.put(
                "one of several filled",
                check("{\"kind\":\"any-of\",\"columns\":[\"kind\",\"from_at\"]}", "kind is null and from_at is null"));
        asked.put(
                "all filled",
                check("{\"kind\":\"complete\",\"columns\":[\"code\",\"kind\"]}", "code is null or kind is null"));
        asked.put(
                "no two alike",
                new Asked(
                        between("{\"kind\":\"unique\",\"columns\":[\"code\",\"kind\"],\"message\":\"\"}"),
                        both(
                                "(code, kind) in (select code, kind from records.looked group by code, kind having count(*) > 1)")));
        asked.put(
                "no overlap",
                new Asked(
                        between(
                                "{\"kind\":\"overlap\",\"columns\":[\"kind\"],\"from\":\"from_at\",\"to\":\"to_at\",\"message\":\"\"}"),
                        both(
                                "_id in (select _id from (select _id, from_at, to_at, max(to_at) over (partition by kind order by from_at, _id"
                                        + " rows between unbounded preceding and 1 preceding) as before from records.looked"
                                        + " where kind is not null and from_at is not null and to_at is not null) l"
                                        + " where from_at < before or to_at <= from_at)")));
        return asked;
    }

    private static Asked check(String rule, String broken) {
        return new Asked(
                "{\"part\":\"checks\",\"rule\":{\"id\":\"c\",\"asks\":false,\"stays\":false,\"message\":\"\",\"rule\":%s}}"
                        .formatted(rule),
                both(broken));
    }

    private static String between(String rule) {
        return "{\"part\":\"between\",\"rule\":%s}".formatted(rule);
    }

    private static String both(String broken) {
        return "select count(*) from records.looked where %s; select * from records.looked where %s order by _row limit 50"
                .formatted(broken, broken);
    }

    private static void fill(Connection connection) throws Exception {
        try (var statement = connection.createStatement()) {
            statement.execute(
                    "insert into records.looked (_row, _version, _entered_by, code, depth, kind, from_at, to_at)"
                            + " select i, 1, 'bench', 'C' || i, i, case when i % 50 = 0 then null else 'k' || i % 4 end,"
                            + " timestamp '2026-01-01' + i * interval '1 hour', timestamp '2026-01-01' + i * interval '1 hour' + interval '50 minutes'"
                            + " from generate_series(1, " + ROWS + ") i");
            statement.execute("update weft.row_counter set next_row = " + (ROWS + 1)
                    + " where table_id = (select id from weft.table_def where name = 'looked')");
            statement.execute("vacuum analyze records.looked");
        }
    }

    private static void count(Connection connection, String sql) throws Exception {
        for (var each : sql.split(";")) {
            try (var statement = connection.createStatement();
                    var rows = statement.executeQuery(each)) {
                while (rows.next()) {
                    rows.getObject(1);
                }
            }
        }
    }

    private interface Work {
        void run() throws Exception;
    }

    private static double median(Work work) throws Exception {
        var times = new double[TIMES];
        work.run();
        for (int i = 0; i < TIMES; i++) {
            long begin = System.nanoTime();
            work.run();
            times[i] = (System.nanoTime() - begin) / 1e6;
        }
        Arrays.sort(times);
        return times[TIMES / 2];
    }
}
