package weft.e2e.bench;

import java.sql.Connection;
import java.util.ArrayList;
import weft.e2e.LocalWeft;

/** What it costs that other programs' rows get a row number, a version and history: Weft's own saves, and those programs. */
final class OthersBench {

    private static final int ROUNDS = 5;
    private static final int ROWS = 20_000;

    private OthersBench() {}

    static void run(LocalWeft weft) throws Exception {
        try (var connection = EntryBench.connect(weft)) {
            Figures.heading(
                    "Weft's own saves per second where others may write too (median of %d rounds)".formatted(ROUNDS));
            Figures.line("%-9s %14s %14s %10s", "clients", "they may", "they may not", "ratio");
            for (int clients : new int[] {16, 1}) {
                var with = new ArrayList<Double>();
                var without = new ArrayList<Double>();
                for (int round = 0; round < ROUNDS; round++) {
                    watched(connection, true);
                    with.add(EntryBench.rate(clients, () -> EntryBench.overHttp(weft)));
                    watched(connection, false);
                    without.add(EntryBench.rate(clients, () -> EntryBench.overHttp(weft)));
                }
                Figures.line(
                        "%-9d %,14.0f %,14.0f %10.2f",
                        clients,
                        Figures.median(with),
                        Figures.median(without),
                        Figures.median(with) / Figures.median(without));
            }
            watched(connection, true);
        }
        try (var connection = EntryBench.connect(weft, "load")) {
            connection
                    .createStatement()
                    .execute("create table bench.unwatched (like records.bench_samples including all)");
            connection.createStatement().execute("alter table bench.unwatched alter _row set default 0");
            connection.createStatement().execute("alter table bench.unwatched drop constraint unwatched__row_key");
            connection
                    .createStatement()
                    .execute(
                            "alter table bench.unwatched alter _version set default 1, alter _entered_by set default ''");
            Figures.heading("What another program's %,d rows take, milliseconds".formatted(ROWS));
            Figures.line("%-34s %14s %14s %10s", "", "records", "plain table", "times");
            print(
                    "in one statement",
                    atOnce(connection, "records.bench_samples"),
                    atOnce(connection, "bench.unwatched"));
            print(
                    "a statement each, one commit",
                    oneByOne(connection, "records.bench_samples"),
                    oneByOne(connection, "bench.unwatched"));
        }
    }

    private static void print(String what, double with, double without) {
        Figures.line("%-34s %14.0f %14.0f %10.1f", what, with, without, with / without);
    }

    private static void watched(Connection connection, boolean so) throws Exception {
        connection
                .createStatement()
                .execute("alter table records.bench_samples " + (so ? "enable" : "disable") + " trigger user");
    }

    private static double atOnce(Connection connection, String table) throws Exception {
        long began = System.nanoTime();
        connection
                .createStatement()
                .execute("insert into " + table
                        + " (site, taken_on, taken_at, ph, remark) select 'QB-03', date '2026-08-01', time '09:30', 7.4, 'clear'"
                        + " from generate_series(1, " + ROWS + ")");
        return (System.nanoTime() - began) / 1e6;
    }

    private static double oneByOne(Connection connection, String table) throws Exception {
        connection.setAutoCommit(false);
        try (var insert = connection.prepareStatement("insert into " + table
                + " (site, taken_on, taken_at, ph, remark) values ('QB-03', '2026-08-01', '09:30', 7.4, 'clear')")) {
            long began = System.nanoTime();
            for (int i = 0; i < ROWS; i++) {
                insert.executeUpdate();
            }
            connection.commit();
            return (System.nanoTime() - began) / 1e6;
        } finally {
            connection.setAutoCommit(true);
        }
    }
}
