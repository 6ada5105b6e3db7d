package weft.e2e.bench;

import java.io.IOException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import weft.e2e.LocalWeft;

/** What the figures of the work cost: a save that brings some against one that brings none, in turns; and the page of a million entries. */
final class WorkBench {

    private static final int FIELDS = 12;
    private static final int WARM_UP = 500;
    private static final int TIMES = 2_000;
    private static final int ENTRIES = 1_000_000;
    private static final int DAYS = 730;
    private static final int PEOPLE = 20;

    private final LocalWeft weft;

    WorkBench(LocalWeft weft) {
        this.weft = weft;
    }

    void measure() throws Exception {
        var http = Http.to(weft.url());
        http.post(
                "/api/tables",
                "{\"name\":\"bench_work\",\"title\":\"Bench\",\"columns\":["
                        + IntStream.range(0, FIELDS)
                                .mapToObj("{\"name\":\"f%d\",\"type\":\"text\"}"::formatted)
                                .collect(Collectors.joining(","))
                        + "]}");
        http.post("/api/forms", "{\"table\":\"bench_work\"}");
        try (var server = new KeepAlive(weft.url())) {
            saves(server);
        }
        entries();
        try (var server = new KeepAlive(weft.url())) {
            pages(server);
        }
    }

    private static void saves(KeepAlive server) throws IOException {
        Figures.heading("The work: a save of %d fields with its figures and without, %,d times each, in turns"
                .formatted(FIELDS, TIMES));
        var values = "{\"values\":{"
                + IntStream.range(0, FIELDS)
                        .mapToObj("\"f%1$d\":\"value %1$d\""::formatted)
                        .collect(Collectors.joining(","))
                + "}";
        var work = ",\"work\":{\"seconds\":31.4,\"keys\":120,\"least\":101,\"hindered\":false,\"rules\":{},\"fields\":{"
                + IntStream.range(0, FIELDS)
                        .mapToObj(
                                "\"f%d\":{\"seconds\":2.61,\"stops\":0,\"asks\":0,\"despite\":0,\"again\":0,\"back\":0}"
                                        ::formatted)
                        .collect(Collectors.joining(","))
                + "}}";
        var bodies = List.of(values + "}", values + work + "}");
        var times = List.of(new ArrayList<Double>(), new ArrayList<Double>());
        for (int n = 0; n < WARM_UP + TIMES; n++) {
            for (int which = 0; which < 2; which++) {
                long began = System.nanoTime();
                if (server.post(
                                "/api/doors/bench_work/records",
                                bodies.get(which),
                                UUID.randomUUID().toString())
                        != 201) {
                    throw new IOException(server.body());
                }
                if (n >= WARM_UP) {
                    times.get(which).add((System.nanoTime() - began) / 1e6);
                }
            }
        }
        double without = Figures.median(times.get(0));
        double with = Figures.median(times.get(1));
        Figures.line(
                "without %.3f ms, with %.3f ms at the median: %.3f times. Goal: at most 1.05.",
                without, with, with / without);
    }

    /** Entries of two years, as they would have been counted, a fiftieth of them corrected. */
    private void entries() throws Exception {
        Figures.heading(
                "The page of the work over %,d entries of %d people in %d days".formatted(ENTRIES, PEOPLE, DAYS));
        try (var connection = EntryBench.connect(weft);
                var sql = connection.createStatement()) {
            int entries = ENTRIES / DAYS / PEOPLE;
            sql.execute(
                    "insert into weft.work select 'bench_work', current_date - d, 'person-' || p, about, what, class,"
                            + " greatest(1, round(%d * share)) from generate_series(1, %d) d, generate_series(1, %d) p, ("
                                    .formatted(entries, DAYS, PEOPLE)
                            + "select '' as about, 'entry' as what, h as class, 0.1 as share from generate_series(8, 17) h"
                            + " union all select '', 'time', 0, 30000"
                            + " union all select 'f' || f, 'seconds', 30 + c, 0.08 from generate_series(0, 11) f, generate_series(0, 11) c"
                            + " union all select 'f' || f, w, 0, 0.05 from generate_series(0, 11) f, unnest(array['stop', 'ask', 'back']) w"
                            + ") c on conflict do nothing");
            sql.execute("insert into weft.history (table_id, record_id, row_no, version, action, at, by, before, after)"
                    + " select t.id, 1000000 + n, n, 1 + c, case c when 0 then 'saved' else 'changed' end,"
                    + " now() - n * interval '%d days' / %d + c * interval '1 day', 'person-' || n %% %d,"
                            .formatted(DAYS, ENTRIES, PEOPLE)
                    + " case when c > 0 then '{\"f0\": \"a\", \"f1\": \"b\"}'::jsonb end, '{\"f0\": \"a\", \"f1\": \"c\"}'"
                    + " from weft.table_def t, generate_series(" + ENTRIES + ", 1, -1) n, generate_series(0, 1) c"
                    + " where t.name = 'bench_work' and (c = 0 or n % 50 = 0)");
            sql.execute(
                    "insert into weft.work_month select form_id, date_trunc('month', day), person, about, what, class, sum(times)"
                            + " from weft.work where form_id = 'bench_work' group by 1, 2, 3, 4, 5, 6 on conflict do nothing");
            sql.execute("analyze weft.work");
            sql.execute("analyze weft.work_month");
            sql.execute("analyze weft.history");
        }
    }

    private static void pages(KeepAlive server) throws IOException {
        var from = LocalDate.now().minusDays(DAYS);
        for (var asked : List.of("?from=" + from, "?from=" + from + "&person=person-3", "")) {
            var times = new ArrayList<Double>();
            for (int n = 0; n < 7; n++) {
                long began = System.nanoTime();
                if (server.get("/api/doors/bench_work/work" + asked) != 200) {
                    throw new IOException(server.body());
                }
                times.add((System.nanoTime() - began) / 1e6);
            }
            Figures.line(
                    "%-40s %8.0f ms at the median",
                    asked.isEmpty()
                            ? "the last thirty days"
                            : asked.contains("person") ? "two years of one person" : "two years of everybody",
                    Figures.median(times));
        }
        Figures.line("Goal: within a second.");
    }
}
