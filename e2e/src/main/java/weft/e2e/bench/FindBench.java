package weft.e2e.bench;

import java.io.IOException;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.function.IntFunction;
import tools.jackson.databind.json.JsonMapper;
import weft.e2e.LocalWeft;

/**
 * Looking at, stepping through and finding records of a table of 1,000,000 rows by 12 columns (or {@code WEFT_BENCH_ROWS}) over HTTP, against the same
 * at 1,000 rows, and against SQL written by hand for the same question. Each answer holds the record, its number and how
 * many are in view; so does the SQL, counting up to 10,000 as Weft does.
 */
final class FindBench {

    private static final int FEW = 1_000;
    private static final int MANY = Integer.parseInt(System.getenv().getOrDefault("WEFT_BENCH_ROWS", "1000000"));
    private static final int ROUNDS = 40;
    private static final int WARM_UP = 40;
    private static final int INSERTS = 5_000;
    private static final String FREE =
            "(select count(*) from weft.free_row f where f.table_id = %d and f.row_no < r._row), (select next_row from weft.row_counter where table_id = %d)";
    private static final List<String> SYLLABLES = List.of(
            "bal", "cor", "den", "fim", "gol", "har", "jun", "kel", "lom", "mir", "nor", "pel", "quo", "rin", "sol",
            "tam", "ulv", "ven", "wex", "yar");

    private final LocalWeft weft;
    private final Connection sql;
    private final Random random = new Random(3);

    private FindBench(LocalWeft weft, Connection sql) {
        this.weft = weft;
        this.sql = sql;
    }

    /** A question: its address, and what one would write by hand, for the same argument. */
    private record Question(String name, IntFunction<String> path, IntFunction<List<String>> byHand) {}

    static void run(LocalWeft weft) throws Exception {
        try (var sql = EntryBench.connect(weft)) {
            new FindBench(weft, sql).run();
        }
    }

    private void run() throws Exception {
        table("bench_find_few", FEW);
        long began = System.nanoTime();
        long many = table("bench_find_many", MANY);
        double filled = (System.nanoTime() - began) / 1e9;
        began = System.nanoTime();
        while (!indexed(many)) {
            Thread.sleep(500);
        }
        double indexed = (System.nanoTime() - began) / 1e9;
        Figures.heading("%,d rows by 12 columns: p50 / p95 in ms over HTTP, %d times each".formatted(MANY, ROUNDS));
        Figures.line("made in %.0f s, indexes built beside entries in %.0f s", filled, indexed);
        Figures.line("on the disk: %s of records, %s of indexes", size("pg_table_size"), size("pg_indexes_size"));
        Figures.line(
                "%-34s %15s %15s %15s %8s %8s",
                "", "1,000 rows", "%,d".formatted(MANY), "SQL by hand", "of 1,000", "of SQL");
        for (var question : questions(many)) {
            // A connection of its own, since one left alone for long is closed.
            try (var http = new KeepAlive(weft.url())) {
                measure(http, question);
            }
        }
        Figures.line(
                "Goal: p95 at most 1.5 times that of 1,000 rows or at most 50 ms; p50 at most 2 times SQL by hand.");
        inserts();
    }

    private void measure(KeepAlive http, Question question) throws Exception {
        var atFew =
                measured(i -> ask(http, question.path().apply(i).replace("bench_find_many", "bench_find_few")), FEW);
        var atMany = measured(i -> ask(http, question.path().apply(i)), MANY);
        var byHand = measured(i -> byHand(question.byHand().apply(i)), MANY);
        Figures.line(
                "%-34s %7.1f %7.1f %7.1f %7.1f %7.1f %7.1f %8.2f %8.2f",
                question.name(),
                Figures.percentile(atFew, 50),
                Figures.percentile(atFew, 95),
                Figures.percentile(atMany, 50),
                Figures.percentile(atMany, 95),
                Figures.percentile(byHand, 50),
                Figures.percentile(byHand, 95),
                Figures.percentile(atMany, 95) / Figures.percentile(atFew, 95),
                Figures.percentile(atMany, 50) / Figures.percentile(byHand, 50));
    }

    /** Makes a table and its form, and fills it with rows of mixed types; says its identity. */
    private long table(String name, int rows) throws Exception {
        var columns = """
                {"title":"Site"},{"title":"Name"},{"title":"Number","unique":true},{"title":"Taken on","type":"date"},
                {"title":"At","type":"time"},{"title":"Water","type":"decimal","scale":1},
                {"title":"pH","type":"decimal","scale":1},{"title":"Oxygen","type":"decimal","scale":1},
                {"title":"Count","type":"whole"},{"title":"Flow","type":"choice","choices":["low","normal","high"]},
                {"title":"Wet","type":"yesno"},{"title":"Remark","type":"longtext"}""";
        Http.to(weft.url())
                .post(
                        "/api/tables",
                        "{\"name\":\"%s\",\"title\":\"%s\",\"columns\":[%s]}".formatted(name, name, columns));
        var syllables = "array['" + String.join("','", SYLLABLES) + "']";
        var pick = "(" + syllables + ")[1 + floor(random() * " + SYLLABLES.size() + ")]";
        try (var statement = sql.createStatement()) {
            statement.execute("select setseed(0.5)");
            statement.execute("insert into records." + name
                    + " (_row, _version, _entered_by, site, name, number, taken_on, at, water, ph, oxygen, count, flow, wet, remark)"
                    + " select n, 1, 'bench', 'QB-' || lpad(floor(random() * 400)::text, 3, '0'), initcap(" + pick
                    + " || " + pick
                    + ") || ' ' || " + pick + " || " + pick
                    + ", 'S-' || n, date '2015-01-01' + floor(random() * 4000)::int,"
                    + " time '08:00' + floor(random() * 600) * interval '1 minute', (random() * 30)::numeric(4,1),"
                    + " case when random() < 0.9 then (random() * 14)::numeric(4,1) end, (random() * 20)::numeric(4,1), floor(random() * 1000),"
                    + " (array['low','normal','high'])[1 + floor(random() * 3)], random() < 0.5,"
                    + " case when random() < 0.2 then 'foam below the ' || " + pick + " || ' weir' end"
                    + " from generate_series(1, " + rows + ") n");
            statement.execute("update weft.row_counter set next_row = " + (rows + 1)
                    + " where table_id = (select id from weft.table_def where name = '" + name + "')");
            statement.execute("vacuum analyze records." + name);
        }
        Http.to(weft.url()).post("/api/forms", "{\"table\":\"" + name + "\"}");
        return Long.parseLong(one("select id from weft.table_def where name = '" + name + "'"));
    }

    /** Whether every index is there that the form needs: one a column, and one more for each of four text columns. */
    private boolean indexed(long table) throws SQLException {
        return one("select count(*) from pg_class c join pg_index i on i.indexrelid = c.oid where indisvalid and (relname like 'values\\_"
                                + table + "\\_%' or relname like 'parts\\_" + table + "\\_%')")
                        .equals("16")
                && one("select last_analyze > now() - interval '1 minute' and not exists (select from pg_locks where locktype = 'advisory')"
                                + " from pg_stat_user_tables where relname = 'bench_find_many'")
                        .equals("t");
    }

    private List<Question> questions(long table) throws Exception {
        var api = "/api/doors/bench_find_many";
        var t = "records.bench_find_many";
        var placed = "select r.*, " + FREE.formatted(table, table) + " from " + t + " r";
        return List.of(
                new Question(
                        "open a form",
                        i -> api + "/published",
                        i -> List.of("select document from weft.form_version where form_id = 'bench_find_many'")),
                new Question("first", i -> api + "/place?to=first", i -> List.of(placed + " order by _row limit 1")),
                new Question("last", i -> api + "/place?to=last", i -> List.of(placed + " order by _row desc limit 1")),
                new Question(
                        "jump to a row number",
                        i -> api + "/place?to=row:" + i,
                        i -> List.of(placed + " where _row >= " + i + " order by _row limit 1")),
                new Question(
                        "next",
                        i -> api + "/place?to=next&cursor=" + cursor(i),
                        i -> List.of(placed + " where _row > " + i + " order by _row limit 1")),
                new Question(
                        "previous",
                        i -> api + "/place?to=previous&cursor=" + cursor(i),
                        i -> List.of(placed + " where _row < " + i + " order by _row desc limit 1")),
                new Question(
                        "sorted by date, a page of 50",
                        i -> api + "/records?sort=taken_on&limit=50",
                        i -> List.of(
                                "select * from " + t + " order by taken_on, _row limit 50",
                                "select next_row from weft.row_counter where table_id = " + table)),
                new Question(
                        "sorted by pH down, the 5,000th",
                        i -> api + "/place?to=5000&sort=-ph",
                        i -> List.of("select *, 5000 from " + t
                                + " where ph is not null order by ph desc, _row desc limit 1 offset 4999")),
                found(
                        "find a text exactly",
                        "name",
                        i -> "\"" + name(i) + "\"",
                        i -> "weft.fold(left(name, 200)) collate \"C\" = lower('" + name(i) + "') and name = '"
                                + name(i) + "'"),
                found(
                        "find by its beginning",
                        "name",
                        i -> name(i).substring(0, 6) + "*",
                        i -> "weft.fold(left(name, 200)) collate \"C\" like '"
                                + name(i).substring(0, 6).toLowerCase(Locale.ROOT) + "%'"),
                found(
                        "find by a part, 3 letters, many",
                        "name",
                        i -> syllable(i),
                        i -> "weft.fold(name) like '%" + syllable(i) + "%'"),
                found(
                        "find by a part, 6 letters, fewer",
                        "name",
                        i -> syllable(i) + syllable(i / 7),
                        i -> "weft.fold(name) like '%" + syllable(i) + syllable(i / 7) + "%'"),
                found(
                        "find by a part, 10 letters, few",
                        "name",
                        i -> name(i).substring(1, 11),
                        i -> "weft.fold(name) like '%"
                                + name(i).substring(1, 11).toLowerCase(Locale.ROOT) + "%'"),
                found(
                        "find by a part that is nowhere",
                        "name",
                        i -> "zzz" + i,
                        i -> "weft.fold(name) like '%zzz" + i + "%'"),
                found(
                        "find by a range of dates",
                        "taken_on",
                        i -> "2016-0" + (1 + i % 9),
                        i -> "taken_on >= date '2016-0" + (1 + i % 9) + "-01' and taken_on < date '2016-0" + (1 + i % 9)
                                + "-01' + interval '1 month'"),
                found(
                        "find by a range of numbers",
                        "count",
                        i -> "> " + (900 + i % 99),
                        i -> "count > " + (900 + i % 99)));
    }

    private static Question found(
            String name, String column, IntFunction<String> asked, IntFunction<String> condition) {
        return new Question(
                name,
                i -> "/api/doors/bench_find_many/place?to=first&where="
                        + URLEncoder.encode(column + ":" + asked.apply(i), StandardCharsets.UTF_8),
                i -> List.of(
                        "select count(*) from (select from records.bench_find_many where " + condition.apply(i)
                                + " limit 10001) counted",
                        "select * from records.bench_find_many where " + condition.apply(i)
                                + " order by _row limit 1"));
    }

    private static String syllable(int i) {
        return SYLLABLES.get(i % SYLLABLES.size());
    }

    private static String name(int i) {
        var first = syllable(i) + syllable(i / 3);
        return Character.toUpperCase(first.charAt(0)) + first.substring(1) + " " + syllable(i / 11) + syllable(i / 5);
    }

    private static String cursor(int row) {
        return Base64.getUrlEncoder()
                .withoutPadding()
                .encodeToString(("[" + row + ",0]").getBytes(StandardCharsets.UTF_8));
    }

    private interface Work {
        void on(int argument) throws Exception;
    }

    private double[] measured(Work work, int rows) throws Exception {
        var took = new ArrayList<Double>();
        for (int round = 0; round < WARM_UP + ROUNDS; round++) {
            int argument = 1 + random.nextInt(rows - 1);
            long began = System.nanoTime();
            work.on(argument);
            if (round >= WARM_UP) {
                took.add((System.nanoTime() - began) / 1e6);
            }
        }
        return took.stream().mapToDouble(Double::doubleValue).toArray();
    }

    private static void ask(KeepAlive http, String path) throws IOException {
        if (http.get(path) != 200) {
            throw new IOException(path + " answered " + http.body());
        }
        if (!JsonMapper.shared().readTree(http.body()).isObject()) {
            throw new IOException(path + " answered no object");
        }
    }

    private void byHand(List<String> queries) throws SQLException {
        for (var query : queries) {
            try (var statement = sql.createStatement();
                    var rows = statement.executeQuery(query)) {
                while (rows.next()) {
                    for (int column = 1; column <= rows.getMetaData().getColumnCount(); column++) {
                        rows.getObject(column);
                    }
                }
            }
        }
    }

    private String size(String of) throws SQLException {
        return one("select pg_size_pretty(" + of + "('records.bench_find_many'))");
    }

    private String one(String query) throws SQLException {
        try (var statement = sql.createStatement();
                var rows = statement.executeQuery(query)) {
            return rows.next() && rows.getString(1) != null ? rows.getString(1) : "";
        }
    }

    /** What the indexes cost an insert: the same rows into the same table with and without them. */
    private void inserts() throws SQLException {
        try (var statement = sql.createStatement()) {
            statement.execute("create table records.bench_plain (like records.bench_find_many including all)");
            for (var index :
                    one("select string_agg(indexrelid::regclass::text, ',') from pg_index where indrelid = 'records.bench_plain'::regclass"
                                    + " and not indisunique")
                            .split(",")) {
                statement.execute("drop index " + index);
            }
            statement.execute("insert into records.bench_plain select * from records.bench_find_many");
        }
        double without = insert("bench_plain");
        double with = insert("bench_find_many");
        Figures.heading("What the indexes cost an insert");
        Figures.line(
                "insert of a row, %,d one by one: without them %.3f ms, with all 16 %.3f ms", INSERTS, without, with);
    }

    private double insert(String table) throws SQLException {
        var text = "insert into records." + table
                + " (_id, _row, _version, _entered_by, site, name, number, taken_on, at, water, ph, oxygen, count, flow, wet, remark)"
                + " select _row + 20000000, _row + 10000000, 1, 'bench', site, name, number || 'x', taken_on, at, water, ph, oxygen, count, flow, wet, remark"
                + " from records.bench_find_few where _row = ?";
        sql.setAutoCommit(false);
        try (var insert =
                sql.prepareStatement(text.replace("0000000,", "0000000 + ?,").replace("'x'", "'x' || ?"))) {
            long began = System.nanoTime();
            for (int i = 0; i < INSERTS; i++) {
                insert.setInt(1, i * 2_000);
                insert.setInt(2, i * 2_000);
                insert.setInt(3, i);
                insert.setInt(4, 1 + i % FEW);
                insert.executeUpdate();
            }
            sql.commit();
            return (System.nanoTime() - began) / 1e6 / INSERTS;
        } finally {
            sql.setAutoCommit(true);
        }
    }
}
