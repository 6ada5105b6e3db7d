package weft.e2e.bench;

import java.io.IOException;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;
import weft.e2e.LocalWeft;

/**
 * What it costs to hold an entry against a million records, that it may be nearly the same as and of which some values are usual: while
 * it is typed and at the save, against the same form without these rules; and looks over all, against the plainest SQL that finds the same.
 */
final class AlikeBench {

    private static final int RECORDS = 1_000_000;
    private static final int WARM_UP = 200;
    private static final int TIMES = 400;
    private static final int PLAINLY = 5;
    private static final String NAMES = """
            (select i, initcap(substr('mariajohannaelinorkatestephilipromanliberthandasamwilchrisda', 1 + (i * 7) %% 53, 3 + i %% 5)
              || substr(md5(i::text), 1, 3)) || ' ' || initcap(substr('bergmannsedgetolleykeanecastellhollinbrandrethquarrie',
              1 + (i * 13) %% 44, 4 + i %% 4) || substr(md5((i * 3)::text), 1, 3)) as name,
              date '1930-01-01' + (i * 37) %% 30000 as born, (150 + i %% 12 + (i * 17) %% 400 / 10.0)::numeric as height,
              'k' || i %% 12 as kind from generate_series(1, %d) i)""".formatted(RECORDS);

    private final KeepAlive server;
    private final Connection connection;
    private List<String> names = List.of();

    private AlikeBench(KeepAlive server, Connection connection) {
        this.server = server;
        this.connection = connection;
    }

    static void run(LocalWeft weft) throws Exception {
        var http = Http.to(weft.url());
        for (var form : List.of("plain_people", "alike_people")) {
            http.post("/api/tables", """
                    {"name":"%s","title":"People","columns":[{"name":"name","type":"text"},{"name":"born","type":"date"},
                     {"name":"height","type":"decimal"},{"name":"kind","type":"text"}]}""".formatted(form));
            http.post("/api/forms", "{\"table\":\"%s\"}".formatted(form));
        }
        var document = (ObjectNode) http.get("/api/forms/alike_people");
        ((ObjectNode) document.get("rules")).set("checks", JsonMapper.shared().readTree("""
                [{"id":"double","asks":true,"stays":false,"message":"","rule":{"kind":"alike","columns":["name"],"sound":true}},
                 {"id":"tall","asks":true,"stays":false,"message":"","rule":{"kind":"usual","column":"height","by":
                   [{"column":"kind","of":"value"},{"column":"born","of":"month"}],"all":false}}]"""));
        http.put("/api/forms/alike_people", document.toString(), 1);
        http.post("/api/forms/alike_people/publish", "");
        try (var connection = EntryBench.connect(weft)) {
            fill(connection);
            http.post("/api/forms/alike_people/publish", "");
            indexed(connection);
            counted(connection);
            try (var server = new KeepAlive(weft.url())) {
                new AlikeBench(server, connection).measure(http);
            }
        }
    }

    private static void fill(Connection connection) throws SQLException {
        try (var statement = connection.createStatement()) {
            for (var table : List.of("plain_people", "alike_people")) {
                statement.execute(
                        "insert into records.%s (_row, _version, _entered_by, name, born, height, kind) select i, 1, 'bench', name, born, height, kind from %s n"
                                .formatted(table, NAMES));
                statement.execute(
                        "update weft.row_counter set next_row = %d where table_id = (select id from weft.table_def where name = '%s')"
                                .formatted(RECORDS + 1, table));
                statement.execute("analyze records." + table);
            }
        }
    }

    /** The server builds them once it hears of the form, one after another; it is measured once it has built all. */
    private static void indexed(Connection connection) throws SQLException, InterruptedException {
        long began = System.nanoTime();
        double built = 0;
        try (var statement = connection.createStatement()) {
            for (int quiet = 0; quiet < 8; quiet++) {
                try (var there = statement.executeQuery(
                        "select (select count(*) from pg_index i join pg_class c on c.oid = i.indexrelid where i.indisvalid"
                                + " and i.indrelid = 'records.alike_people'::regclass and c.relname like 'near\\_%'),"
                                + " (select count(*) from pg_stat_progress_create_index)")) {
                    there.next();
                    if (there.getInt(1) < 1 || there.getInt(2) > 0) {
                        quiet = 0;
                        built = (System.nanoTime() - began) / 1e9;
                    }
                }
                Thread.sleep(500);
            }
        }
        try (var statement = connection.createStatement()) {
            statement.execute("analyze records.alike_people");
        }
        Figures.heading("Nearly alike, over %,d records".formatted(RECORDS));
        Figures.line("all indexes of both tables were built in %.0f s", built);
    }

    private static void counted(Connection connection) throws SQLException, InterruptedException {
        long began = System.nanoTime();
        try (var statement = connection.createStatement()) {
            while (true) {
                try (var there = statement.executeQuery("select from weft.usual where counted")) {
                    if (there.next()) {
                        break;
                    }
                }
                Thread.sleep(200);
            }
        }
        Figures.line("what is usual was counted in %.0f s after that", (System.nanoTime() - began) / 1e9);
    }

    private interface Doing {
        void at(int time) throws Exception;
    }

    private void measure(Http http) throws Exception {
        names = slipped();
        Figures.line("%-44s %8s %8s %8s", "", "p50", "p95", "p50 to");
        double plain = told("assess, without the rules", at -> assess("plain_people", at), 0);
        told("assess, with them", at -> assess("alike_people", at), plain);
        double saved = told("save, without the rules", at -> save("plain_people", another(at)), 0);
        told("save, with them", at -> save("alike_people", another(at)), saved);
        told("save of what is alike all the same", at -> save("alike_people", body(at)), saved);
        long began = System.nanoTime();
        for (int at = 0; at < PLAINLY; at++) {
            plainly(at);
        }
        double plainly = (System.nanoTime() - began) / 1e9 / PLAINLY;
        Figures.line("the plainest SQL for one name: %.0f ms", 1e3 * plainly);
        look(http, plainly);
        unusual(http);
        Figures.line("Goals: while typing within 50 ms at p95; a save at most 1.15 times one without.");
    }

    /** Over all records, against that for each of them. */
    private static void look(Http http, double plainly) throws Exception {
        long began = System.nanoTime();
        var look = http.post("/api/tables/alike_people/alike", "{\"columns\":[\"name\",\"born\"]}");
        while (look.get("state").asString().equals("running")) {
            Thread.sleep(200);
            look = http.get("/api/tables/alike_people/alike/" + look.get("id").asLong());
        }
        double took = (System.nanoTime() - began) / 1e9;
        Figures.line(
                "a look over all by name and date: %s, %d pairs in %.0f s; that SQL for each record would take %.0f hours",
                look.get("state").asString(), look.get("found").asInt(), took, plainly * RECORDS / 3600);
    }

    /** Over all records, by each column and each pair, against the question whether one is in its group by hand. */
    private void unusual(Http http) throws Exception {
        long began = System.nanoTime();
        var lookable = http.get("/api/tables/alike_people/unusual");
        int looks = 0;
        for (var column : lookable.get("columns")) {
            var path = "/api/tables/alike_people/unusual/" + column.asString();
            http.get(path);
            looks++;
            for (var part : lookable.get("parts")) {
                if (!part.get("column").equals(column)) {
                    http.get(path + "?by=" + part.get("column").asString() + "&of="
                            + part.get("of").asString());
                    looks++;
                }
            }
        }
        double took = (System.nanoTime() - began) / 1e9;
        began = System.nanoTime();
        try (var statement = connection.createStatement()) {
            statement.executeQuery(
                    "with held as (select kind, percentile_disc(0.25) within group (order by height) as q1,"
                            + " percentile_disc(0.75) within group (order by height) as q3 from records.alike_people group by kind)"
                            + " select count(*) from records.alike_people join held using (kind)"
                            + " where height not between q1 - 2.2 * (q3 - q1) and q3 + 2.2 * (q3 - q1)");
        }
        double plainly = (System.nanoTime() - began) / 1e9;
        Figures.line(
                "what is unusual: %d looks over all in %.0f s, %.1f s each; the plainest SQL for one: %.1f s",
                looks, took, took / looks, plainly);
    }

    private static double told(String what, Doing doing, double reference) throws Exception {
        var times = new double[TIMES];
        for (int at = 0; at < WARM_UP + TIMES; at++) {
            long began = System.nanoTime();
            doing.at(at);
            if (at >= WARM_UP) {
                times[at - WARM_UP] = (System.nanoTime() - began) / 1e6;
            }
        }
        double half = Figures.percentile(times, 50);
        Figures.line(
                "%-44s %8.2f %8.2f %8s",
                what, half, Figures.percentile(times, 95), reference == 0 ? "" : "%.2f".formatted(half / reference));
        return half;
    }

    /** Names that are stored, but for two letters that are swapped. */
    private List<String> slipped() throws SQLException {
        var names = new ArrayList<String>();
        try (var statement = connection.createStatement();
                var stored = statement.executeQuery(
                        "select name from records.alike_people where _row %% %d = 0 order by _row"
                                .formatted(RECORDS / (2 * (WARM_UP + TIMES))))) {
            while (stored.next()) {
                var name = stored.getString(1);
                names.add(name.charAt(0) + name.substring(2, 3) + name.charAt(1) + name.substring(3));
            }
        }
        return names;
    }

    private void assess(String form, int at) throws IOException {
        expect(
                server.post(
                        "/api/doors/" + form + "/assess",
                        body(at),
                        UUID.randomUUID().toString()),
                200);
    }

    private void save(String form, String body) throws IOException {
        expect(
                server.post(
                        "/api/doors/" + form + "/records",
                        body,
                        UUID.randomUUID().toString()),
                201);
    }

    /** Of somebody who is like nobody. */
    private static String another(int at) {
        return "{\"values\":{\"name\":\"Quillon%s Zephrine%d\",\"born\":\"1980-05-03\",\"height\":\"171.5\",\"kind\":\"k3\"}}"
                .formatted(UUID.randomUUID().toString().substring(0, 8), at);
    }

    private String body(int at) {
        return "{\"values\":{\"name\":\"%s\",\"born\":\"1980-05-03\",\"height\":\"171.5\",\"kind\":\"k3\"},\"answers\":{\"double\":\"yes\"}}"
                .formatted(names.get(at));
    }

    private void plainly(int at) throws SQLException {
        try (var statement = connection.prepareStatement(
                "select _id from records.alike_people where levenshtein(lower(name), lower(?)) <= 1 limit 5")) {
            statement.setString(1, names.get(at));
            statement.executeQuery().close();
        }
    }

    private static void expect(int status, int wanted) throws IOException {
        if (status != wanted) {
            throw new IOException("It was answered with " + status + ".");
        }
    }
}
