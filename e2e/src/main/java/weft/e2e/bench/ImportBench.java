package weft.e2e.bench;

import java.io.IOException;
import java.net.http.HttpRequest.BodyPublishers;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import weft.e2e.LocalWeft;

/**
 * A file of 100,000 rows and 12 columns of mixed types brought in over HTTP, against {@code psql \copy} of the same rows
 * into a table of the same columns, constraints and indexes.
 */
final class ImportBench {

    private static final int ROWS = 100_000;
    private static final int ROUNDS = 3;
    private static final String HEADINGS =
            "site,number,taken on,taken at,water,ph,oxygen,turbidity,flow,remark,wet,counted";

    private ImportBench() {}

    static void run(LocalWeft weft) throws Exception {
        var folder = LocalWeft.folder();
        try {
            var file = folder.resolve("rows.csv");
            var numbered = folder.resolve("numbered.csv");
            write(file, numbered);
            var loads = new ArrayList<Double>();
            var wholes = new ArrayList<Double>();
            var copies = new ArrayList<Double>();
            for (int round = 0; round <= ROUNDS; round++) {
                double[] measured = bring(weft, file, "bench_import_" + round);
                double copy = copy(weft, numbered, "bench_import_" + round);
                // The first round warms up.
                if (round > 0) {
                    loads.add(measured[0]);
                    wholes.add(measured[1]);
                    copies.add(copy);
                }
            }
            Figures.heading("A file of %,d rows by 12 columns (median of %d rounds)".formatted(ROWS, ROUNDS));
            double copy = Figures.median(copies);
            Figures.line("psql \\copy, same table                  %6.2f s", copy);
            Figures.line(
                    "load into a table, with its form        %6.2f s   ratio %.2f",
                    Figures.median(loads), copy / Figures.median(loads));
            Figures.line(
                    "upload, guess, look and load together   %6.2f s   ratio %.2f",
                    Figures.median(wholes), copy / Figures.median(wholes));
            Figures.line("Goal: load at least 0.50.");
        } finally {
            LocalWeft.remove(folder);
        }
    }

    private static void write(Path file, Path numbered) throws IOException {
        var random = new Random(1);
        try (var plain = Files.newBufferedWriter(file);
                var withRows = Files.newBufferedWriter(numbered)) {
            plain.write(HEADINGS + "\n");
            for (int row = 1; row <= ROWS; row++) {
                var line = "QB-%02d,S-%06d,%s,%02d:%02d,%.1f,%.1f,%.1f,%.1f,%s,%s,%s,%d\n"
                        .formatted(
                                random.nextInt(24),
                                row,
                                LocalDate.of(2024, 1, 1).plusDays(random.nextInt(900)),
                                random.nextInt(24),
                                random.nextInt(60),
                                random.nextDouble() * 30,
                                random.nextDouble() * 14,
                                random.nextDouble() * 20,
                                random.nextDouble() * 100,
                                List.of("low", "normal", "high").get(random.nextInt(3)),
                                random.nextInt(5) == 0 ? "\"foam, below the weir\"" : "",
                                random.nextBoolean() ? "yes" : "no",
                                random.nextInt(1_000));
                plain.write(line);
                withRows.write(row + ",1,bench," + line);
            }
        }
    }

    private static double[] bring(LocalWeft weft, Path file, String table) throws Exception {
        var http = Http.to(weft.url());
        long began = System.nanoTime();
        var head =
                "--x\r\nContent-Disposition: form-data; name=\"file\"; filename=\"rows.csv\"\r\nContent-Type: text/csv\r\n\r\n";
        var body = BodyPublishers.concat(
                BodyPublishers.ofString(head), BodyPublishers.ofFile(file), BodyPublishers.ofString("\r\n--x--\r\n"));
        var id = http.send("/api/imports", body, "multipart/form-data; boundary=x", "")
                .get("id")
                .asString();
        long brought = System.nanoTime();
        http.post("/api/imports/" + id + "/table", "{\"name\":\"" + table + "\",\"title\":\"" + table + "\"}");
        long loaded = System.nanoTime();
        return new double[] {(loaded - brought) / 1e9, (loaded - began) / 1e9};
    }

    private static double copy(LocalWeft weft, Path numbered, String table) throws Exception {
        var postgres = weft.running().postgres().orElseThrow();
        psql(
                postgres.port(),
                postgres.password(),
                "create table records.copied (like records." + table + " including all)");
        var columns = HEADINGS.replace(' ', '_');
        long began = System.nanoTime();
        psql(
                postgres.port(),
                postgres.password(),
                "\\copy records.copied (_row, _version, _entered_by, " + columns + ") from '" + numbered + "' csv");
        double took = (System.nanoTime() - began) / 1e9;
        psql(postgres.port(), postgres.password(), "drop table records.copied");
        return took;
    }

    private static void psql(int port, String password, String command) throws Exception {
        var process = new ProcessBuilder(
                "psql",
                "-q",
                "-h",
                "127.0.0.1",
                "-p",
                "" + port,
                "-U",
                "weft",
                "-d",
                "postgres",
                "-v",
                "ON_ERROR_STOP=1",
                "-c",
                command);
        process.environment().put("PGPASSWORD", password);
        if (process.inheritIO().start().waitFor() != 0) {
            throw new IOException("psql failed: " + command);
        }
    }
}
